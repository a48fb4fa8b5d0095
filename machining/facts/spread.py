"""A load whose positions stand free of each other: wider pitches, or a station carried away."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.memo import Memo
from machining.plan.at import At, Faces, Grid, One, Row

from .context import PlanFacts, StationFacts
from .pitch import LETTERS, from_to, pitch


def wider(station: StationFacts, facts: PlanFacts, memo: Memo) -> At | None:
    """Its row or grid with whole mm of pitch that are enough; None where they are already, or it
    stands in neither.
    """
    at = station.planned.at
    if isinstance(at, Row):
        found = {"pitch_mm": _at_least(station, facts, memo, LETTERS.index(at.along))}
    elif isinstance(at, Grid | Faces):
        names = ("column_pitch_mm", "row_pitch_mm")
        found = {name: _at_least(station, facts, memo, k) for k, name in enumerate(names)}
    else:
        return None
    least = {name: max(mm, getattr(at, name)) for name, mm in found.items()}
    spread: At = at.model_copy(update=least)
    return spread if spread != at else None


def _at_least(station: StationFacts, facts: PlanFacts, memo: Memo, axis: int) -> float:
    found = pitch(station, facts, memo, axis)
    return float(ceil(found.mm - 1e-6)) if found is not None else 0.0


def carried_away(
    station: StationFacts, other: StationFacts, facts: PlanFacts, memo: Memo
) -> At | None:
    """Where all positions of a station stand free of those of another one, the shorter way of X and
    Y; None where they do already.
    """
    ways = [(_way(station, other, facts, memo, axis), axis) for axis in (0, 1)]
    way, axis = min(ways, key=lambda each: abs(each[0]))
    if way == 0.0:
        return None
    at = station.planned.at or One()
    return at.moved(way, 0.0) if axis == 0 else at.moved(0.0, way)


def _way(
    station: StationFacts, other: StationFacts, facts: PlanFacts, memo: Memo, axis: int
) -> float:
    """How far (mm) along an axis it is to be carried, away from the other; 0 where it need not."""
    mine, theirs = station.planned.spots, other.planned.spots
    away = sum(s[axis] for s in mine) / len(mine) >= sum(s[axis] for s in theirs) / len(theirs)
    most = max(_short(station, other, facts, memo, axis, away), default=0.0)
    return (1.0 if away else -1.0) * ceil(max(most, 0.0) - 1e-6)


def _short(
    station: StationFacts,
    other: StationFacts,
    facts: PlanFacts,
    memo: Memo,
    axis: int,
    away: bool,
) -> Iterator[float]:
    """What of the way between two positions is missing, of each pair of them."""
    known = dict[float, float | None]()
    for a in station.planned.spots:
        for b in other.planned.spots:
            along, across = a[axis] - b[axis], a[1 - axis] - b[1 - axis]
            first, last = (other, station) if away else (station, other)
            aside = round(across if away else -across, 4)
            if aside not in known:
                needed = from_to(first, last, facts, memo, axis, aside)
                known[aside] = None if needed is None else needed.mm
            mm = known[aside]
            if mm is not None:
                yield mm - (along if away else -along)
