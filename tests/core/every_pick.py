"""Every kind of operation at every place it may work, to try with every tool of the library."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, get_args

from machining.facts.kinds import kind_of
from machining.plan.base import OperationBase
from machining.plan.document import LoadedTool, Plan
from machining.plan.operation import Operation
from machining.plan.turned import Groove, Plane, Profile, RingGroove, Stretch

from . import build, lathe

KINDS: tuple[type[OperationBase], ...] = get_args(get_args(Operation)[0])
PLACES: dict[str, tuple[dict[str, Any], ...]] = {
    "top": ({"kind": "top"},),
    "outside": ({"kind": "outside", "depth_mm": 12.0},),
    "features": (
        {"kind": "features", "ids": ("recess",)},
        {"kind": "features", "ids": ("hole0", "hole1")},
        {"kind": "features", "ids": ("below",)},
        {"kind": "features", "ids": ("gone",)},
        {"kind": "features", "ids": ("hole0", "recess")},
    ),
    "rectangle": (
        {
            "kind": "rectangle",
            "x_mm": 0.0,
            "y_mm": 0.0,
            "length_mm": 30.0,
            "width_mm": 20.0,
            "corner_radius_mm": 6.5,
            "depth_mm": 6.0,
        },
    ),
    "points": (
        {
            "kind": "points",
            "at_mm": ((0.0, 0.0), (10.0, 5.0)),
            "diameter_mm": 6.8,
            "depth_mm": 12.0,
        },
        {"kind": "points", "at_mm": ((0.0, 0.0),), "diameter_mm": 30.0, "depth_mm": 12.0},
    ),
    "hole_circle": (
        {
            "kind": "hole_circle",
            "circle_mm": 24.0,
            "count": 5,
            "first_deg": 18.0,
            "diameter_mm": 6.8,
            "depth_mm": 12.0,
        },
    ),
    "hole_grid": (
        {
            "kind": "hole_grid",
            "columns": 3,
            "rows": 2,
            "column_pitch_mm": 14.0,
            "row_pitch_mm": 20.0,
            "diameter_mm": 6.8,
            "depth_mm": 12.0,
            "through": True,
        },
    ),
    "lines": ({"kind": "lines", "at_mm": (((-20.0, 0.0), (20.0, 0.0), (20.0, 10.0)),)},),
    "drawn": (
        {
            "kind": "drawn",
            "file": "outline.dxf",
            "lines": (
                ((0.0, 0.0), (20.0, 0.0), (20.0, 10.0), (0.0, 0.0)),
                ((1.0, 1.0), (4.0, 6.0)),
            ),
            "x_mm": -10.0,
            "scale": 0.5,
            "angle_deg": 30.0,
        },
    ),
    "area": (
        {
            "kind": "area",
            "lines": (((-14.0, -9.0), (14.0, -9.0), (14.0, 9.0), (-14.0, 9.0), (-14.0, -9.0)),),
            "depth_mm": 6.0,
        },
    ),
    "text": ({"kind": "text", "text": "HERON 1"},),
    "plane": (Plane(z_mm=-40.0).model_dump(),),
    "profile": (
        lathe.CONTOUR.model_dump(),
        Profile(at_mm=((0.0, 14.0), (-20.0, 14.0)), side="inside").model_dump(),
    ),
    "groove": (Groove(z_mm=-22.0, width_mm=10.0, diameter_mm=24.0).model_dump(),),
    "ring": (RingGroove(outer_diameter_mm=28.0, width_mm=4.0, depth_mm=3.0).model_dump(),),
    "stretch": (Stretch(length_mm=22.0).model_dump(),),
}
SIZES: dict[str, Any] = {
    "step_down_mm": 3.0,
    "step_over_mm": 2.0,
    "depth_mm": 6.0,
    "mouth_diameter_mm": 9.0,
    "diameter_mm": 12.0,
    "major_mm": 8.0,
    "pitch_mm": 1.25,
    "width_mm": 2.0,
    "radius_mm": 1.0,
    "size_mm": 1.0,
    "angle_deg": 30.0,
}


def operations() -> Iterator[OperationBase]:
    """One of each kind for each of its places, with the sizes it can't be without."""
    for kind in KINDS:
        fields = kind.model_fields
        sizes = {
            name: value
            for name, value in SIZES.items()
            if name in fields and fields[name].is_required()
        }
        for place in sorted(kind.PLACES):
            for on in PLACES[place]:
                yield kind(**{"id": "it", "on": on, **sizes})


def plans(assembly: str) -> Iterator[Plan]:
    """Each of those operations alone, with one tool; turned ones on the lathe as well as on the
    mill.
    """
    known = build.LIBRARY.assemblies[assembly]
    for operation in operations():
        for bench, machine in (
            ((lathe, "plover"),)
            if kind_of(operation).turned
            else (
                ((build, "heron"), (lathe, "plover"))
                if operation.kind == "drill"
                else ((build, "heron"),)
            )
        ):
            loaded = LoadedTool(
                id="t",
                machine=machine,
                number=1,
                assembly=assembly,
                stick_out_mm=known.stick_out_mm,
                pocket=1,
                h=1,
                d=1,
            )
            yield bench.plan(operation.model_copy(update={"tool": "t"}), tools=(loaded,))
