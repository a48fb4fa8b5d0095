"""Slanted faces and holes that look to the tool, where the part is held at an angle or turned."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import index
from machining.facts.at_hand import Fits
from machining.facts.place import pocket_area
from machining.plan.operation import FinishFloor, RoughPocket
from machining.plan.places import OnFeatures
from machining.world.feature import Hole, Slanted
from machining.world.tool import Tool

from .bench import Bench, Offer, square
from .holes import Alike, drilled, to_size

SHARE_OF_DIAMETER, STEP_DOWN = 0.6, 0.25  # of an end mill: passes beside each other, and down
LEAVE_MM = 0.3
BETWEEN = 0.9  # of the narrow side of a face


def slanted(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
    """Faces first, then what stands in them."""
    seen = [
        each
        for each in bench.features
        if isinstance(each, Slanted) and index.looks_up(bench.seen, each.id)
    ]
    for face in (each for each in seen if each.shape == "face"):
        group = f"Face slanted by {face.lean_deg:.4g}°"
        yield from over_face(bench, group, face.id, {kind for kind, id in done if id == face.id})
    for hole in (each for each in seen if each.shape == "hole" and each.comes):
        deep = "through" if hole.through else f"{round(hole.length_mm, 3):g} deep"
        leans = f"slanted by {hole.lean_deg:.4g}°"
        group = f"Hole Ø{round(hole.diameter_mm, 3):g} {deep}, {leans}"
        yield from in_hole(bench, group, hole, {kind for kind, id in done if id == hole.id})


def over_face(bench: Bench, group: str, face: str, here: set[str]) -> Iterator[Offer]:
    """Rough and finish of what lies level to the tool, by its id: with a tool that goes along it
    between what may stand beside it.
    """
    on = OnFeatures(ids=(face,))
    west, south, east, north = pocket_area(on, bench.seen.lie, bench.facts.geometry).region.bounds
    narrow = BETWEEN * min(east - west, north - south)
    fits: Fits = lambda t: square(t) and t.diameter_mm <= narrow  # noqa: E731
    if "rough_pocket" not in here:
        yield bench.offer(
            group,
            "Rough",
            fits,
            lambda t: t.diameter_mm,
            lambda id, tool, t: RoughPocket(
                id=id,
                tool=tool,
                on=on,
                step_down_mm=_share(t, STEP_DOWN),
                step_over_mm=_share(t, SHARE_OF_DIAMETER),
                leave_mm=0.0,  # nothing finishes what may stand beside it
                leave_floor_mm=LEAVE_MM,
            ),
        )
    if "finish_floor" not in here:
        yield bench.offer(
            group,
            "Finish floor",
            fits,
            lambda t: t.diameter_mm,
            lambda id, tool, t: FinishFloor(
                id=id, tool=tool, on=on, step_over_mm=_share(t, SHARE_OF_DIAMETER)
            ),
        )


def _share(tool: Tool | None, share: float) -> float:
    return round(share * (tool.diameter_mm if tool else 10.0), 2)


def in_hole(bench: Bench, group: str, hole: Hole | Slanted, here: set[str]) -> Iterator[Offer]:
    """Drilled, and what makes it its size."""
    diameter, length = round(hole.diameter_mm, 3), round(hole.length_mm, 3)
    alone = Hole(
        id=hole.id,
        point=hole.point,
        axis="+z",
        diameter_mm=hole.diameter_mm,
        length_mm=hole.length_mm,
        through=hole.through,
    )
    known = Alike(group, OnFeatures(ids=(hole.id,)), diameter, length, hole.through, alone)
    if "drill" not in here:
        yield drilled(bench, known)
    for kind, offer in to_size(bench, known):
        if kind not in here:
            yield offer
