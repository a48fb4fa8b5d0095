"""Edges of the part that come off the machine as they were cut: which are sharp, and whose."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from machining.geometry.frames import Vector
from machining.geometry.mesh import convex_edges
from machining.geometry.standing import standing_over
from machining.plan.places import OnFeatures, Top
from machining.world.extent import holds
from machining.world.feature import Feature, Flat, Hole, Pocket
from machining.world.geometry import PartGeometry

from .context import OperationFacts, PlanFacts, StationFacts
from .left import last_station
from .state import State
from .tabs import hands_on

SHARP_DEG = 50.0  # faces that meet more sharply leave a sharp edge: a chamfer's own do not
IN_MM = 0.04  # of the corner, where it is looked for metal
UNCUT_MM = 0.15  # with more over the corner it is not there yet
EVERY_MM, MOST_SPOTS = 4.0, 6000
ON_MM = 0.02  # of a face
ACROSS = 0.5  # the cosine up to which an edge lies across a spindle
ASIDE_MM = np.array([0.0031, 0.0047, 0.0023])  # a ray through an edge itself meets no triangle
Treatment = Literal["hand", "machine", "leave", "ask"]


@dataclass(frozen=True, slots=True)
class Spots:
    """Places on sharp edges of the part (n, 3), in part coordinates, the way out of each corner
    (n, 3), the way of the edge (n, 3), and how much of it each stands for (n,), mm.
    """

    at: Vector
    outwards: Vector
    along: Vector
    length: Vector


def treatment(facts: PlanFacts) -> Treatment:
    """What becomes of edges that no operation breaks."""
    return facts.plan.part.edges or facts.library.settings.edges


def spots_of(facts: PlanFacts) -> Spots:
    """Of every sharp edge of the finished part."""
    part = facts.geometry
    found: Spots = facts.blank.state.memo.get(("sharp edges", part.key), lambda: _spots(part))
    return found


def _spots(part: PartGeometry) -> Spots:
    ends, outwards = convex_edges(part.mesh.welded(), SHARP_DEG)
    if not len(ends):
        none = np.zeros((0, 3))
        return Spots(none, none, none, np.zeros(0))
    ways = ends[:, 1] - ends[:, 0]
    lengths = np.linalg.norm(ways, axis=1)
    every = max(EVERY_MM, float(lengths.sum()) / MOST_SPOTS)
    counts = np.array([max(ceil(length / every), 1) for length in lengths])
    which = np.repeat(np.arange(len(ends)), counts)
    first = np.cumsum(counts) - counts
    share = (np.arange(len(which)) - first[which] + 0.5) / counts[which]
    at = ends[which, 0] + ways[which] * share[:, None]
    along = ways[which] / np.maximum(lengths[which], 1e-9)[:, None]
    return Spots(at, outwards[which], along, (lengths / counts)[which])


def stands_sharp(spots: Spots, state: State) -> NDArray[np.bool_]:
    """Of each spot (n,), whether its corner is there and nothing over it."""
    key = ("sharp", state.key, len(spots.at), float(spots.length.sum()))
    found: NDArray[np.bool_] = state.memo.get(key, lambda: _stands_sharp(spots, state))
    return found


def _stands_sharp(spots: Spots, state: State) -> NDArray[np.bool_]:
    at, outwards, lie = spots.at, spots.outwards, state.lie
    if lie is not None:
        at, outwards = lie.pose.apply(at), outwards @ lie.pose.rotation.T
    over = standing_over(at - IN_MM * outwards + ASIDE_MM, outwards, state.mesh())
    sharp: NDArray[np.bool_] = (over > IN_MM / 4.0) & (over < UNCUT_MM)
    return sharp


def left_sharp_mm(facts: PlanFacts, by_machine: bool = False) -> float:
    """How much edge (mm) is sharp after the last station, but for what must stay so; ``by_machine``
    only what a station's spindle sees from above.
    """
    spots = spots_of(facts)
    sharp = _left_sharp(spots, facts)
    if by_machine:
        sharp = sharp & _seen_from_above(spots, facts)
    return float(spots.length[sharp].sum())


def _left_sharp(spots: Spots, facts: PlanFacts) -> NDArray[np.bool_]:
    """Which spots (n,) are sharp where the part's way ends, and need not stay so."""
    last = last_station(facts)
    if last is None or not facts.operations():
        return np.zeros(len(spots.at), dtype=bool)
    sharp = stands_sharp(spots, hands_on(last, facts.geometry))
    for id in facts.plan.part.sharp:
        sharp = sharp & ~on_feature(facts.geometry.feature(id), spots)
    return sharp


def _seen_from_above(spots: Spots, facts: PlanFacts) -> NDArray[np.bool_]:
    """Edges that lie across a spindle, on the side it comes from."""
    seen = np.zeros(len(spots.at), dtype=bool)
    for station in facts.stations:
        seen |= _seen_from(station.lie.pose.rotation[2], spots)
    return seen


def _seen_from(up: Vector, spots: Spots) -> NDArray[np.bool_]:
    found: NDArray[np.bool_] = (np.abs(spots.along @ up) < ACROSS) & (spots.outwards @ up > ACROSS)
    return found


def sharp_places(station: StationFacts, facts: PlanFacts) -> Iterator[Top | OnFeatures]:
    """Where a chamfer mill finds sharp edges at a station in the end: round the top, round pockets,
    at the mouths of holes of one diameter.
    """
    spots, up = spots_of(facts), station.lie.pose.rotation[2]
    sharp = _left_sharp(spots, facts) & _seen_from(up, spots)
    side, features = station.lie.up, facts.geometry.features
    mouths = dict[float, list[str]]()
    rims = list[str]()
    for feature in features:
        if side is None or not isinstance(feature, Hole | Pocket):
            continue
        of_it = sharp & on_feature(feature, spots)
        opens = feature.opens_to(side) if isinstance(feature, Pocket) else side in feature.opens
        if not opens or not of_it.any():
            continue
        sharp = sharp & ~of_it
        if isinstance(feature, Pocket):
            rims.append(feature.id)
        else:
            mouths.setdefault(round(feature.diameter_mm, 3), []).append(feature.id)
    high = station.lie.pose.apply(spots.at)[:, 2] if len(spots.at) else np.zeros(0)
    if (sharp & (high > float(station.lie.part_high[2]) - ON_MM)).any():
        yield Top()
    yield from (OnFeatures(ids=(id,)) for id in rims)
    yield from (OnFeatures(ids=tuple(ids)) for ids in mouths.values())


def broken_mm(op: OperationFacts, facts: PlanFacts) -> dict[str, float]:
    """How much (mm) an operation breaks of edges that must stay, by their feature."""
    spots = spots_of(facts)
    gone = stands_sharp(spots, op.before) & ~stands_sharp(spots, op.after)
    found = {
        id: float(spots.length[gone & on_feature(facts.geometry.feature(id), spots)].sum())
        for id in facts.plan.part.sharp
    }
    return {id: length for id, length in found.items() if length > 0}


def on_feature(feature: Feature | None, spots: Spots) -> NDArray[np.bool_]:
    """Which spots (n,) lie on the edges of a hole, a pocket or a face."""
    if isinstance(feature, Hole | Pocket):
        return holds(feature, spots.at)
    if isinstance(feature, Flat):
        along = "xyz".index(feature.faces[1])
        at = feature.height_mm if feature.faces[0] == "+" else -feature.height_mm
        found: NDArray[np.bool_] = np.abs(spots.at[:, along] - at) < ON_MM
        return found
    return np.zeros(len(spots.at), dtype=bool)
