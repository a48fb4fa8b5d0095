"""Slanted faces and holes that look to the tool, where the part is held at an angle or turned."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import index
from machining.plan.operation import FinishFloor, RoughPocket
from machining.plan.places import OnFeatures
from machining.world.feature import Hole, Slanted
from machining.world.tool import Tool

from .bench import Bench, Offer, square
from .holes import Alike, drilled, to_size

SHARE_OF_DIAMETER, STEP_DOWN = 0.6, 0.25  # of an end mill: passes beside each other, and down
LEAVE_MM = 0.3


def slanted(bench: Bench, done: set[tuple[str, str]]) -> Iterator[Offer]:
    """Faces first, then what stands in them."""
    seen = [
        each
        for each in bench.features
        if isinstance(each, Slanted) and index.looks_up(bench.seen, each.id)
    ]
    for face in (each for each in seen if each.shape == "face"):
        yield from _face(bench, face, {kind for kind, id in done if id == face.id})
    for hole in (each for each in seen if each.shape == "hole" and each.comes):
        yield from _hole(bench, hole, {kind for kind, id in done if id == hole.id})


def _face(bench: Bench, face: Slanted, here: set[str]) -> Iterator[Offer]:
    on, group = OnFeatures(ids=(face.id,)), f"Face slanted by {face.lean_deg:.4g}°"
    if "rough_pocket" not in here:
        yield bench.offer(
            group,
            "Rough",
            square,
            lambda t: t.diameter_mm,
            lambda id, tool, t: RoughPocket(
                id=id,
                tool=tool,
                on=on,
                step_down_mm=_share(t, STEP_DOWN),
                step_over_mm=_share(t, SHARE_OF_DIAMETER),
                leave_floor_mm=LEAVE_MM,
            ),
        )
    if "finish_floor" not in here:
        yield bench.offer(
            group,
            "Finish floor",
            square,
            lambda t: t.diameter_mm,
            lambda id, tool, t: FinishFloor(
                id=id, tool=tool, on=on, step_over_mm=_share(t, SHARE_OF_DIAMETER)
            ),
        )


def _share(tool: Tool | None, share: float) -> float:
    return round(share * (tool.diameter_mm if tool else 10.0), 2)


def _hole(bench: Bench, hole: Slanted, here: set[str]) -> Iterator[Offer]:
    diameter, length = round(hole.diameter_mm, 3), round(hole.length_mm, 3)
    deep = "through" if hole.through else f"{length:g} deep"
    group = f"Hole Ø{diameter:g} {deep}, slanted by {hole.lean_deg:.4g}°"
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
