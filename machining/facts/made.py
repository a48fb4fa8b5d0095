"""Places of the part that a distance can run between, and where each of them is made."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from machining.geometry.frames import Direction, opposite
from machining.quantities.said import Said, Shown
from machining.world.feature import Boss, Feature, Flat, Hole, Pocket, is_face
from machining.world.geometry import ring_round, taken_by
from machining.world.part import Requirement
from machining.world.stock.base import SIDE_WORDS

from .context import OperationFacts, PlanFacts, StationFacts
from .covered import OUTSIDE, face_words, share_there, words_for
from .kinds import kind_of
from .once import once
from .state import State

THERE = 0.5  # of a face, and it is there
AS_DRAWN = 0.02  # of a size, by which it may differ from the solid's and be meant for it
SAME_MM = 0.02  # two planes that close are one
ROUND_IT_MM, CLEAR = 1.0, 0.5  # round a boss, and what may stand there
FILLED = 0.02  # of the square round a hole: what is left there, and it is turned
AXES = "xyz"


class NotKnown(Exception):
    """Why nothing adds up; ``about`` names what is missing, ``station`` where."""

    def __init__(self, said: Said, about: str = "", station: str = "") -> None:
        super().__init__(said.text)
        self.said, self.about, self.station = said, about, station


@dataclass(frozen=True, slots=True, eq=False)
class Made:
    """A flat face, a wall or the axis of a hole, and who makes it: ``station`` None for a side of
    the blank, ``op`` None where that is not known. ``side`` is which way it looks, empty for an
    axis.
    """

    key: str
    said: Said
    side: Direction | None
    station: StationFacts | None
    op: OperationFacts | None = None

    @property
    def raw(self) -> bool:
        return self.station is None


Ends = tuple[Made, Made]


def ends_of(asked: Requirement, facts: PlanFacts) -> list[tuple[Ends, int, float]]:
    """Between which places a distance of the drawing runs, along which axes of the part (0 to 2)
    and with which share of it each; empty where it is no distance between two places, or they are
    not as far apart in the solid. Raises NotKnown where nobody makes one of them.
    """
    part = facts.geometry
    feature = part.feature(asked.feature) if asked.feature not in ("", OUTSIDE) else None
    datum = part.feature(asked.datum) if asked.datum else _other_end(asked, feature, facts)
    if feature is None:
        feature = _first_side(asked, facts)
    if feature is None or datum is None or feature is datum:
        return []
    found, axes = [], [*_axes(feature, datum)]
    if not _as(asked.nominal_mm or 0.0, _apart(feature, datum, [k for k, _ in axes])):
        return []  # it is a diameter or a length of its own
    for k, share in axes:
        ends = [_made(each, k, facts) for each in (feature, datum)]
        if ends[0] is not None and ends[1] is not None:
            found.append(((ends[0], ends[1]), k, share))
    return found


def _apart(feature: Feature, datum: Feature, axes: list[int]) -> float:
    """How far apart they are in the solid along some axes (mm)."""
    return sum((_at(feature, k) - _at(datum, k)) ** 2 for k in axes) ** 0.5


def _at(feature: Feature, k: int) -> float:
    if is_face(feature):
        looks, height = feature.plane
        return height if looks[0] == "+" else 0.0 - height
    return feature.point[k] if isinstance(feature, Hole | Boss) else 0.0


def _axes(feature: Feature, datum: Feature) -> Iterator[tuple[int, float]]:
    if is_face(datum) or is_face(feature):
        looks = (datum if is_face(datum) else feature).plane[0]  # type: ignore[union-attr]
        yield AXES.index(looks[1]), 1.0
    elif not (isinstance(datum, Hole | Boss) and isinstance(feature, Hole | Boss)):
        return
    elif datum.axis[1] == feature.axis[1]:
        apart = [feature.point[k] - datum.point[k] for k in range(3)]
        apart[AXES.index(datum.axis[1])] = 0.0
        distance = sum(each**2 for each in apart) ** 0.5
        for k in range(3):
            if abs(apart[k]) > SAME_MM:
                yield k, abs(apart[k]) / distance
        if distance <= SAME_MM:  # one over the other
            yield next(k for k in range(3) if AXES[k] != datum.axis[1]), 1.0


def _other_end(asked: Requirement, feature: Feature | None, facts: PlanFacts) -> Feature | None:
    """Where the drawing names nothing it is measured from: the opposite side of the part for what
    is as large as that, the face a pocket of that depth opens from.
    """
    nominal = asked.nominal_mm or 0.0
    if isinstance(feature, Pocket) and not feature.through and _as(nominal, feature.depth_mm):
        looks, floor = feature.plane
        return _side(looks, facts, floor + feature.depth_mm)
    first = feature if isinstance(feature, Flat) else _first_side(asked, facts)
    if isinstance(first, Flat) and _as(nominal, facts.geometry.size[AXES.index(first.faces[1])]):
        return _side(opposite(first.faces), facts)
    return None


def _first_side(asked: Requirement, facts: PlanFacts) -> Flat | None:
    """The side of the part an overall size is of, where only one of its axes is as long."""
    if asked.feature not in ("", OUTSIDE):
        return None
    long = [k for k in range(3) if _as(asked.nominal_mm or 0.0, facts.geometry.size[k])]
    side: Direction = f"+{AXES[long[0]]}" if len(long) == 1 else "+x"  # type: ignore[assignment]
    return _side(side, facts) if len(long) == 1 else None


def _as(nominal: float, size: float) -> bool:
    return abs(nominal - size) <= AS_DRAWN * size


def _side(side: Direction, facts: PlanFacts, at: float | None = None) -> Flat | None:
    """The outermost face on a side; only one at a height, where that is asked."""
    return next(
        (
            each
            for each in facts.geometry.features
            if isinstance(each, Flat)
            and each.outermost
            and each.faces == side
            and (at is None or abs(each.height_mm - at) < SAME_MM)
        ),
        None,
    )


def _made(feature: Feature, k: int, facts: PlanFacts) -> Made | None:
    """A feature as an end of a distance along an axis."""
    if is_face(feature) and AXES.index(feature.plane[0][1]) == k:
        return face_made(feature, facts)
    if isinstance(feature, Hole | Boss) and AXES.index(feature.axis[1]) != k:
        return hole_made(feature, facts) if isinstance(feature, Hole) else boss_made(feature, facts)
    return None


def face_made(face: Flat | Pocket, facts: PlanFacts) -> Made:
    """A flat face or a floor, with the operation after which it is there. Raises NotKnown where it
    never is.
    """
    said, side = face_words(face), face.plane[0]
    ops = [op for each in facts.stations for op in each.operations if op.after is not op.before]

    def there(state: State) -> bool:
        return share_there(face, state, facts.geometry) >= THERE

    if there(facts.blank.state):
        return Made(face.id, said, side, None)
    if not ops or not there(ops[-1].after):
        raise NotKnown(Said(f"nothing cuts {said.text}", said.values), "nobody")
    low, high = 0, len(ops) - 1  # once a face is there it stays: the first after which it is
    while low < high:
        middle = (low + high) // 2
        low, high = (low, middle) if there(ops[middle].after) else (middle + 1, high)
    return Made(face.id, said, side, ops[low].station, ops[low])


def hole_made(hole: Hole, facts: PlanFacts) -> Made:
    """The axis of a hole: where it is first opened, or bored. Raises NotKnown where it never is."""
    named = words_for(hole)
    said = Said(f"axis of the {named.text}", named.values)
    makers = [
        op
        for op in facts.operations()
        if hole.id in getattr(op.operation.on, "ids", ())
        and kind_of(op.operation).needs_hole in ("", "bored")
        and op.after is not op.before
    ]
    if not makers:
        op = _turned_by(hole, facts)
        if op is None:
            raise NotKnown(Said(f"nothing cuts {said.text}", said.values), "nobody")
        return Made(hole.id, said, None, op.station, op)
    bored = [op for op in makers if kind_of(op.operation).needs_hole]
    op = (bored or makers[:1])[-1]
    return Made(hole.id, said, None, op.station, op)


def stands_clear(boss: Boss, state: State, facts: PlanFacts) -> bool:
    """Is nothing round it that would keep an indicator away?"""
    ring, known = ring_round(boss, ROUND_IT_MM), state.in_part()
    key = ("ring", known.key, boss.id, facts.geometry.key)
    left: float = state.memo.get(key, lambda: float((ring ^ known.solid).volume()))
    return left <= CLEAR * float(ring.volume())


def boss_made(boss: Boss, facts: PlanFacts) -> Made:
    """The axis of a boss: by what is cut round it, or as the blank has it. Raises NotKnown where it
    never stands clear.
    """
    named = words_for(boss)
    said = Said(f"axis of the {named.text}", named.values)
    if stands_clear(boss, facts.blank.state, facts):
        return Made(boss.id, said, None, None)
    for op in facts.operations():
        if op.after is not op.before and stands_clear(boss, op.after, facts):
            return Made(boss.id, said, None, op.station, op)
    raise NotKnown(Said(f"nothing cuts {said.text}", said.values), "nobody")


def _turned_by(hole: Hole, facts: PlanFacts) -> OperationFacts | None:
    """The turning operation after which its wall stands clear of stock, None where none does it."""
    takes, volume = taken_by(hole), hole.diameter_mm**2 * hole.length_mm
    for op in facts.operations():
        if op.turns and op.after is not op.before and hole.axis[1] == _along(op.station):
            left = op.after.memo.get(
                ("filled", op.after.key, hole.id, facts.geometry.key),
                lambda op=op: float((takes ^ op.after.in_part().solid).volume()),  # type: ignore[misc]
            )
            if left < FILLED * volume:
                return op
    return None


def _along(station: StationFacts) -> str:
    """The axis of the part that lies along a station's spindle."""
    up = station.lie.up
    return "" if up is None else up[1]


def surface_of(station: StationFacts, side: Direction, at: float, facts: PlanFacts) -> Made:
    """What looks to a side of the part at a coordinate along it (mm), of the stock as it comes to a
    station: a face of the finished part, a side of the blank, or what an earlier station left.
    """
    key = ("surface", station.id, side, at)
    return once(facts, key, lambda: _surface(station, side, at, facts), station)


def _surface(station: StationFacts, side: Direction, at: float, facts: PlanFacts) -> Made:
    flat = _side(side, facts, at)
    if flat is not None and share_there(flat, station.arrives, facts.geometry) >= THERE:
        return face_made(flat, facts)
    k, high = AXES.index(side[1]), side[0] == "+"
    words = {"side": Shown(SIDE_WORDS[side])}
    blank = float((facts.blank.high if high else facts.blank.low)[k]) * (1.0 if high else -1.0)
    if abs(blank - at) < SAME_MM:
        return Made(f"blank{side}", Said("blank’s {side}", words), side, None)
    before = facts.station(station.planned.takes)
    return Made(f"{before.id}{side}", Said("roughed {side}", words), side, before)
