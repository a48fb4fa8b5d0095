"""Where an operation works: its region, heights and hole positions in the setup frame."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from shapely import Polygon

from machining.cutting.drilling import point_height
from machining.geometry.frames import Direction, named
from machining.geometry.regions import (
    Region,
    grown,
    opened,
    polygons_of,
    rectangle,
    region_from_loops,
)
from machining.memo import digest
from machining.motion.paths.holes import Target
from machining.placing.zero import Lie
from machining.plan.operation import (
    ROTATES_IN_PLACE,
    Chamfer,
    FinishFloor,
    OnFeatures,
    Operation,
    Outside,
    Points,
    Rectangle,
    RoughPocket,
)
from machining.quantities.errors import OutOfRange
from machining.world.feature import Feature, Hole, Pocket
from machining.world.geometry import PartGeometry
from machining.world.tool import Tool

WORKS_HOLES = ROTATES_IN_PLACE | {"chamfer"}
Line = tuple[tuple[float, float, float], ...]


class NotFromHere(OutOfRange):
    """A feature whose tool can't come from this setup's spindle. ``opens`` says from
    where it can.
    """

    def __init__(self, feature: str, opens: tuple[Direction, ...]) -> None:
        super().__init__("feature", feature, "open towards the spindle in this setup")
        self.feature, self.opens = feature, opens


@dataclass(frozen=True)
class Work:
    """``region`` is cut away between floor and top; ``kept`` (if any) is the outline that stays
    inside it.

    ``lines`` are followed by the tool's middle, each corner with its height of the tip. ``holes``
    hold mouth and tip heights. ``corner_radius`` is the smallest inner corner, None where there is
    none. ``turned`` is what a turning tool takes, as (radius, z); ``left_behind`` what stays behind
    shoulders it can't get behind, mm.
    """

    region: Region = Polygon()
    kept: Region = Polygon()
    top: float = 0.0
    floor: float = 0.0
    wall_height: float = 0.0
    holes: tuple[Target, ...] = ()
    hole_diameter: float = 0.0
    hole_depth: float = 0.0
    point_height: float = 0.0
    corner_radius: float | None = None
    passes_bottom: bool = False
    lines: tuple[Line, ...] = ()
    turned: Region = Polygon()
    left_behind: float = 0.0

    @cached_property
    def key(self) -> str:
        """Equal for equal works, whatever led to them."""
        return digest(
            self.region.wkb,
            self.kept.wkb,
            self.turned.wkb,
            self.top,
            self.floor,
            self.wall_height,
            self.holes,
            self.hole_diameter,
            self.hole_depth,
            self.lines,
        )


def work_of(
    operation: Operation,
    lie: Lie,
    geometry: PartGeometry,
    stock_top: float,
    part_outline: Region,
    stock_outline: Region,
    tool: Tool | None,
) -> Work:
    """Where the operation works. Raises NotFromHere, Missing or OutOfRange with a sentence."""
    on = operation.on
    radius = tool.diameter_mm / 2.0 if tool else 0.0
    part_top = float(lie.part_high[2])
    if operation.kind == "chamfer" and not isinstance(on, OnFeatures | Points):
        return Work(
            region=part_outline,
            top=part_top,
            floor=part_top - operation.size_mm - operation.below_mm,
            wall_height=operation.size_mm,
        )
    if operation.kind == "face":
        floor = part_top + operation.leave_mm
        top = stock_top + operation.over_mm
        return Work(region=stock_outline, top=top, floor=floor, wall_height=top - floor)
    if isinstance(on, Outside):
        leave = getattr(operation, "leave_mm", 0.0)
        kept = grown(grown(part_outline, leave + radius), -radius)
        floor = part_top - on.depth_mm
        over = getattr(operation, "over_mm", 0.0)
        wide = grown(stock_outline, over) if over else stock_outline
        return Work(
            region=wide.difference(kept),
            kept=kept,
            top=stock_top,
            floor=floor,
            wall_height=on.depth_mm,
        )
    if isinstance(on, Rectangle):
        area = rectangle(on.x_mm, on.y_mm, on.length_mm, on.width_mm, on.corner_radius_mm)
        return _pocket_work(
            operation, area, on.top_mm, on.top_mm - on.depth_mm, on.corner_radius_mm or None, radius
        )
    if isinstance(on, Points):
        return _hole_work(
            operation,
            [(x, y, on.top_mm, on.top_mm - on.depth_mm) for x, y in on.at_mm],
            on.diameter_mm,
            on.through,
            tool,
        )
    assert isinstance(on, OnFeatures)
    return _on_features(operation, on, lie, geometry, tool, radius)


def hole_ends(
    on: OnFeatures | Points, lie: Lie, geometry: PartGeometry
) -> tuple[list[Target], float, bool]:
    """Place, mouth and bottom height of each hole, their diameter (mm), and whether they go
    through.

    Raises NotFromHere, or OutOfRange for what is no hole or not all of one diameter.
    """
    if isinstance(on, Points):
        return (
            [(x, y, on.top_mm, on.top_mm - on.depth_mm) for x, y in on.at_mm],
            on.diameter_mm,
            on.through,
        )
    found, up = _found(on, lie, geometry)
    holes = [feature for feature in found if isinstance(feature, Hole)]
    if len(holes) < len(found):
        raise OutOfRange("features", ", ".join(on.ids), "holes of one diameter")
    return _ends_of(holes, lie, up)


def _ends_of(holes: list[Hole], lie: Lie, up: Direction) -> tuple[list[Target], float, bool]:
    diameters = {round(h.diameter_mm, 3) for h in holes}
    if len(diameters) > 1:
        raise OutOfRange(
            "features",
            " and ".join(f"Ø{d:g}" for d in sorted(diameters)),
            "holes of one diameter in one operation",
        )
    return [_seen(hole, lie, up) for hole in holes], holes[0].diameter_mm, holes[0].through


def _found(on: OnFeatures, lie: Lie, geometry: PartGeometry) -> tuple[list[Feature], Direction]:
    found = [geometry.feature(id) for id in on.ids]
    gone = [id for id, feature in zip(on.ids, found, strict=True) if feature is None]
    if gone:
        raise OutOfRange("feature", gone[0], "a feature of the part; the part has changed")
    up = named(lie.pose.rotation[2])
    assert up is not None
    return [feature for feature in found if feature is not None], up


def _on_features(
    operation: Operation,
    on: OnFeatures,
    lie: Lie,
    geometry: PartGeometry,
    tool: Tool | None,
    radius: float,
) -> Work:
    found, up = _found(on, lie, geometry)
    if operation.kind in WORKS_HOLES and all(isinstance(feature, Hole) for feature in found):
        return _hole_work(
            operation,
            *_ends_of([feature for feature in found if isinstance(feature, Hole)], lie, up),
            tool,
        )
    if operation.kind not in ROTATES_IN_PLACE and len(found) == 1 and isinstance(found[0], Pocket):
        pocket = found[0]
        if pocket.opens != up:
            raise NotFromHere(pocket.id, (pocket.opens,))
        loops = [lie.pose.apply(np.array(loop)) for loop in pocket.loops]
        floor = float(loops[0][0][2])
        area = region_from_loops([_ccw(loop[:, :2], outer=i == 0) for i, loop in enumerate(loops)])
        return _pocket_work(
            operation, area, floor + pocket.depth_mm, floor, pocket.corner_radius_mm or None, radius
        )
    wanted = (
        "holes of one diameter"
        if operation.kind in ROTATES_IN_PLACE
        else (
            "one pocket, or holes of one diameter"
            if operation.kind in WORKS_HOLES
            else "one pocket"
        )
    )
    raise OutOfRange("features", ", ".join(on.ids), wanted)


def _ccw(loop: np.ndarray, outer: bool) -> np.ndarray:
    x, y = loop[:, 0], loop[:, 1]
    positive = float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) > 0
    return loop if positive == outer else loop[::-1]


def _seen(hole: Hole, lie: Lie, up: Direction) -> Target:
    if up not in hole.opens:
        raise NotFromHere(hole.id, hole.opens)
    ends = lie.pose.apply(
        np.array(
            [
                hole.point,
                np.array(hole.point) + hole.length_mm * np.eye(3)["xyz".index(hole.axis[1])],
            ]
        )
    )
    x, y = ends[0][:2].tolist()
    return x, y, float(ends[:, 2].max()), float(ends[:, 2].min())


def _pocket_work(
    operation: Operation,
    area: Region,
    top: float,
    floor: float,
    corner: float | None,
    radius: float,
) -> Work:
    if isinstance(operation, Chamfer):
        return Work(
            region=area,
            top=top,
            floor=top - operation.size_mm - operation.below_mm,
            wall_height=operation.size_mm,
        )
    leave = operation.leave_mm if isinstance(operation, RoughPocket) else 0.0
    above = operation.leave_floor_mm if isinstance(operation, RoughPocket) else 0.0
    reachable = opened(grown(area, -leave) if leave else area, radius) if radius else area
    work = Work(
        region=reachable,
        top=top,
        floor=floor + above,
        wall_height=top - floor,
        corner_radius=corner,
    )
    if isinstance(operation, FinishFloor):
        return replace(work, top=floor + operation.depth_mm, wall_height=operation.depth_mm)
    if not polygons_of(reachable):
        raise OutOfRange("tool diameter", 2 * radius, "small enough to enter the pocket")
    return work


def _hole_work(
    operation: Operation, ends: list[Target], diameter: float, through: bool, tool: Tool | None
) -> Work:
    """Mouth and bottom of each hole become mouth and lowest tip position."""
    depth = max(mouth - bottom for _, _, mouth, bottom in ends)
    if operation.kind == "chamfer":
        flat = tuple(
            (x, y, mouth, mouth - operation.size_mm - operation.below_mm) for x, y, mouth, _ in ends
        )
        return Work(holes=flat, hole_diameter=diameter, hole_depth=operation.size_mm)
    wanted = getattr(operation, "depth_mm", None)
    full = through and wanted is None
    point = (
        point_height(tool.diameter_mm, tool.point_angle_deg)
        if tool and tool.point_angle_deg and operation.kind == "drill"
        else 0.0
    )
    past = getattr(operation, "past_mm", 0.0) if full else 0.0
    below = point + past if operation.kind == "drill" else past
    targets = tuple(
        (x, y, mouth, (bottom if wanted is None else mouth - wanted) - below)
        for x, y, mouth, bottom in ends
    )
    size = tool.diameter_mm if tool and operation.kind in ("drill", "ream") else diameter
    return Work(
        holes=targets,
        hole_diameter=size,
        hole_depth=wanted or depth,
        point_height=point,
        passes_bottom=full,
    )
