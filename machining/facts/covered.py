"""What of the part is cut by which operation: how far each of its places is, and what of the
drawing is made and measured there.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from machining.geometry.frames import Vector
from machining.geometry.nearest import distances
from machining.geometry.standing import spots_on, standing_over
from machining.memo import Memo
from machining.placing.zero import Lie
from machining.quantities.said import Said, Shown, fill, length
from machining.world.extent import NEAR_MM, holds
from machining.world.feature import Boss, Edge, Feature, Flat, Hole, Pocket, Slanted
from machining.world.geometry import PartGeometry
from machining.world.part import Requirement
from machining.world.stock.base import SIDE_WORDS

from .context import OperationFacts, PlanFacts
from .state import State

THIN_MM = 0.06  # less, and nothing stands there: what chords of meshes are off
SQUARE = 0.999  # as good as square to an axis
LESS_MM, NEARLY_MM = 0.02, 3.0  # a cut that leaves more than that over a place was not of it
SIDE, OUTSIDE = "its {side}", "outside"
ROUND_IT = [SIDE_WORDS[side] for side in ("+x", "-x", "+y", "-y")]
Stage = Literal["not yet", "roughed", "finished", "checked"]
Spots = NDArray[np.bool_]


@dataclass
class Place:
    """A place of the part: a feature (its id), or faces that look one way; ``faces`` are numbers of
    its solid's faces. ``stands`` is the most that stands over it in the end (mm), ``area`` how
    large it is (mm²). ``rough`` and ``finish`` are the operations that cut it, by id; ``blank``
    where it is as the blank comes; ``asked`` are the drawing's requirements, by id.
    """

    where: Said
    feature: str
    faces: list[int]
    stage: Stage = "not yet"
    stands: float = 0.0
    blank: bool = False
    area: float = 0.0
    rough: list[str] = field(default_factory=list)
    finish: list[str] = field(default_factory=list)
    asked: list[str] = field(default_factory=list)


def covered(facts: PlanFacts, memo: Memo) -> list[Place]:
    """Every place of the part and how far it is, in the order of its faces."""
    part = facts.geometry
    spots, outwards, faces = _spots(part, memo)
    if not len(spots):
        return []
    worked = {id for op in facts.operations() for id in getattr(op.operation.on, "ids", ())}
    named = {
        int(face): _name_of(int(face), spots[faces == face], outwards[faces == face], part, worked)
        for face in np.unique(faces)
    }
    places = dict[str, Place]()
    within = defaultdict[str, list[int]](list)
    for face, (where, feature) in named.items():
        key = feature or fill(where.text, where.values)
        places.setdefault(key, Place(where, feature, [])).faces.append(face)
        within[key].append(face)
    found, areas = _followed(facts, memo, spots, outwards), part.mesh.areas()
    for key, place in places.items():
        place.area = float(areas[np.isin(part.mesh.faces, within[key])].sum())
        _cut(place, found, np.isin(faces, within[key]))
        _asked(place, facts)
    return list(places.values())


@dataclass(frozen=True, slots=True)
class Followed:
    """What stands over each spot (mm): of the blank, before and after each operation; and how
    thick it is there at last.
    """

    blank: Vector
    cuts: list[tuple[OperationFacts, Vector, Vector]]
    thick: Vector


def share_there(face: Flat | Pocket | Slanted, state: State, part: PartGeometry) -> float:
    """How much of a flat face or a floor of the part is there, with nothing over it; of a state's
    stock.
    """
    key = ("share there", face.id, state.key, part.key)
    return state.memo.get(key, lambda: _share_there(face, state, part))


def _share_there(face: Flat | Pocket | Slanted, state: State, part: PartGeometry) -> float:
    spots, outwards, _ = _spots(part, state.memo)
    own = (outwards @ face.looks > SQUARE) & (abs(spots @ face.looks - face.out_mm) < NEAR_MM)
    if not own.any():
        return 0.0
    over = _over(state, part, spots, outwards)[own]
    return float((over <= THIN_MM).mean())


def _spots(part: PartGeometry, memo: Memo) -> tuple[Vector, Vector, NDArray[np.int32]]:
    return memo.get(("spots", part.key), lambda: spots_on(part.mesh))


def _over(state: State, part: PartGeometry, spots: Vector, outwards: Vector) -> Vector:
    """What stands over each spot, mm."""
    key = ("standing", state.key, part.key)
    found: Vector = state.memo.get(key, lambda: _standing(state, spots, outwards))
    return found


def _followed(facts: PlanFacts, memo: Memo, spots: Vector, outwards: Vector) -> Followed:
    def over(state: State) -> Vector:
        return _over(state, facts.geometry, spots, outwards)

    blank, cuts = over(facts.blank.state), []
    state = facts.blank.state
    for op in (op for station in facts.stations for op in station.operations):
        if op.after is not op.before:
            cuts.append((op, over(op.before), over(op.after)))
            state = op.after
    return Followed(blank, cuts, _thick(state, spots, over(state)))


def _thick(state: State, spots: Vector, over: Vector) -> Vector:
    """How thick it is where something stands: beside a wall's skin a floor is not under all of
    it.
    """
    stands, thick = over > THIN_MM, over.copy()
    if stands.any():
        there = spots[stands] if state.lie is None else state.lie.pose.apply(spots[stands])
        thick[stands] = np.minimum(over[stands], distances(there, state.mesh()))
    return thick


def _standing(state: State, spots: Vector, outwards: Vector) -> Vector:
    lie: Lie | None = state.lie
    if lie is None:
        return standing_over(spots, outwards, state.mesh())
    turned = outwards @ lie.pose.rotation.T
    return standing_over(lie.pose.apply(spots), turned, state.mesh())


def _cut(place: Place, found: Followed, own: Spots) -> None:
    """Which operations rough and which finish it, and how far it is."""
    place.stands = round(float(found.thick[own].max(initial=0.0)), 3)
    place.blank = bool((found.blank[own] <= THIN_MM).all())
    for op, before, after in found.cuts:
        less = own & (after < before - LESS_MM) & (after < NEARLY_MM)
        if not less.any():
            continue
        done = less & (after <= THIN_MM) & (before > THIN_MM)
        if 2 * done.sum() > less.sum():
            place.finish.append(op.id)
        else:
            place.rough.append(op.id)
    if place.stands <= THIN_MM:
        place.stage = "finished"
    elif place.rough or place.finish:
        place.stage = "roughed"


def _asked(place: Place, facts: PlanFacts) -> None:
    """What the drawing asks of it, and operations that leave no mark there: threads."""
    sides = place.where.text == SIDE and place.where.values["side"].value in ROUND_IT
    names = {place.feature, OUTSIDE if sides else place.feature} - {""}
    wanted = [each for each in facts.plan.part.requirements if each.feature in names]
    place.asked = [each.id for each in wanted]
    for op in facts.operations():
        ids = getattr(op.operation.on, "ids", ())
        known = op.id in place.rough or op.id in place.finish
        if place.feature and place.feature in ids and not known and op.after is op.before:
            place.finish.append(op.id)
    if place.stage == "finished" and wanted and all(measured(each) for each in wanted):
        place.stage = "checked"


def measured(asked: Requirement) -> bool:
    """Is it said how it is measured, where there is something to measure?"""
    return bool(asked.measured_with)


# -- what a face is of


def _name_of(
    face: int, spots: Vector, outwards: Vector, part: PartGeometry, first: set[str]
) -> tuple[Said, str]:
    """What a face is called, and the feature it is of: of several one that is worked on."""
    holding = [each for each in part.features if _is_of(each, face, spots)]
    holding.sort(key=lambda each: (each.id not in first, bool(getattr(each, "way_into", ""))))
    feature = next(iter(holding), None)
    if feature is not None:
        return words_for(feature), feature.id
    mean = outwards.mean(axis=0)
    axis = int(np.abs(mean).argmax())
    side = f"{'+' if mean[axis] > 0 else '-'}{'xyz'[axis]}"
    if abs(mean[axis]) < SQUARE:
        return Said("rounds and slopes", {}), ""
    low, high = part.bounds
    end = float(high[axis] if mean[axis] > 0 else low[axis])
    at = float(spots[:, axis].mean())
    word = {"side": Shown(SIDE_WORDS[side])}  # type: ignore[index]
    if abs(at - end) < NEAR_MM:
        flats = (each for each in part.features if isinstance(each, Flat) and each.faces == side)
        return Said(SIDE, word), next((each.id for each in flats if each.outermost), "")
    return Said("{deep} in from its {side}", {"deep": length(round(abs(at - end), 3)), **word}), ""


def _is_of(feature: Feature, face: int, spots: Vector) -> bool:
    if isinstance(feature, Hole | Pocket):
        return bool(holds(feature, spots).all())
    return isinstance(feature, Edge | Slanted) and face in feature.surfaces


def face_words(face: Flat | Pocket) -> Said:
    """A flat face, or a pocket's floor."""
    words = words_for(face)
    return Said(f"floor of the {words.text}", words.values) if isinstance(face, Pocket) else words


def words_for(feature: Feature) -> Said:
    """A feature in words."""
    if isinstance(feature, Hole):
        word = "counterbore" if feature.around else "hole"
        return Said(f"{word} of {{d}}", {"d": Shown(feature.diameter_mm, "size")})
    if isinstance(feature, Pocket):
        if feature.through:
            return Said("window {deep} deep", {"deep": length(feature.depth_mm)})
        word = "pocket {deep} deep" if feature.closed else "open pocket {deep} deep"
        return Said(word, {"deep": length(feature.depth_mm)})
    if isinstance(feature, Edge):
        return Said(f"{feature.shape} of {{size}}", {"size": length(feature.size_mm)})
    if isinstance(feature, Boss):
        return Said("boss of {d}", {"d": Shown(feature.diameter_mm, "size")})
    if isinstance(feature, Slanted):
        lean = {"lean": Shown(feature.lean_deg, "angle"), "side": Shown(SIDE_WORDS[feature.opens])}
        return Said(f"slanted {feature.shape}, {{lean}} from its {{side}}", lean)
    return Said(SIDE, {"side": Shown(SIDE_WORDS[feature.faces])})
