"""Which side has to come up next: what is not cut yet, and from where it can be."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.facts.context import PlanFacts
from machining.facts.covered import Place, covered
from machining.geometry.frames import DIRECTIONS, Direction, axis, opposite
from machining.geometry.mesh import normals_of
from machining.memo import Memo
from machining.world.feature import Hole, Pocket, ways_in
from machining.world.geometry import PartGeometry

ALONG = 0.7  # cosine: a face that looks this much along a side is cut from there
WALL = 0.02  # cosine: one that looks no more along it stands along it
BESIDE = 0.25  # of a place: a wall is cut from this side as well as from others
ASKED = 0.5  # more, for each requirement of the drawing


def unfinished(facts: PlanFacts, memo: Memo) -> list[Place]:
    """Places of the part over which something stands after the last setup."""
    return [each for each in covered(facts, memo) if each.stage in ("not yet", "roughed")]


def how_far(facts: PlanFacts, memo: Memo) -> tuple[int, int]:
    """How many places of the part nothing cuts yet, and how many stand over."""
    left = unfinished(facts, memo)
    return sum(each.stage == "not yet" for each in left), len(left)


def sides_first(facts: PlanFacts, memo: Memo) -> list[Direction]:
    """Sides that something unfinished opens or looks to, those with most of it first; of equal ones
    the side that lies lowest, and the one across from what was up last.
    """
    weights = dict.fromkeys(DIRECTIONS, 0.0)
    for place in unfinished(facts, memo):
        for side, weight in _from(place, facts.geometry):
            weights[side] += weight + ASKED * len(place.asked)
    size = facts.geometry.size
    last = facts.stations[-1].planned.orientation.up if facts.stations else "-z"

    def rank(side: Direction) -> tuple[float, ...]:
        high = float(size[int(np.abs(axis(side)).argmax())])
        return (-weights[side], high, side != opposite(last))

    return sorted((side for side in DIRECTIONS if weights[side] > 0), key=rank)


def _from(place: Place, part: PartGeometry) -> Iterator[tuple[Direction, float]]:
    """The sides a place is cut from, and how well."""
    feature = part.feature(place.feature) if place.feature else None
    if isinstance(feature, Hole | Pocket):
        yield from ((side, 1.0) for side in ways_in(feature))
        return
    yield from _looks(place, part)


def _looks(place: Place, part: PartGeometry) -> Iterator[tuple[Direction, float]]:
    """The sides most of a place looks to, else those it stands along."""
    own = np.isin(part.mesh.faces, place.faces)
    areas, outwards = part.mesh.areas()[own], normals_of(part.mesh)[own]
    for side in DIRECTIONS:
        towards = outwards @ axis(side)
        if areas[towards >= ALONG].sum() > areas.sum() / 2.0:
            yield side, 1.0
        elif areas[np.abs(towards) < WALL].sum() > areas.sum() / 2.0:
            yield side, BESIDE
