"""What braced a thin wall, and whether it could have stayed until that is cut."""

from __future__ import annotations

from machining.geometry.frames import Vector
from machining.geometry.solids import Solid, bounds, joined, posed
from machining.memo import digest
from machining.world.stock.base import Corners

from .context import PlanFacts, Ready
from .observed import Thin
from .state import State
from .thin import box_of, cut_on, is_slender

MUCH_LESS, NO_WORSE = 0.5, 1.2  # of how far the walls bend, in the other order


def brace_of(op: Ready, facts: PlanFacts) -> tuple[Ready, Thin] | None:
    """The earlier operation of its station that took away what carried a slender wall it cuts on,
    where that could be cut after it as well and no wall bends more then; with that wall.
    """
    least = facts.library.settings.wall_bends_mm
    slender = [e for e in op.seen.thin if is_slender(e, facts) and (e.bends_mm or 0.0) > least]
    if not slender:
        return None
    worst = slender[0]
    beside = _beside(op, worst, facts)
    return next(((each, worst) for each in beside if _braced(op, each, worst, facts)), None)


def _before(op: Ready) -> list[Ready]:
    mine = op.station.operations
    here = next(k for k, each in enumerate(mine) if each.id == op.id)
    return [
        each
        for each in mine[:here]
        if isinstance(each, Ready) and not each.turns and each.before is not each.after
    ]


def _beside(op: Ready, worst: Thin, facts: PlanFacts) -> list[Ready]:
    """Those before it whose metal may have met the wall, the last first: what did not has not
    carried it.
    """
    low, high = box_of(worst, op.after, facts)

    def meets(first: Vector, last: Vector) -> bool:
        return bool((first <= high).all() and (low <= last).all())

    return [each for each in reversed(_before(op)) if meets(*_taken_box(each))]


def _taken_box(op: Ready) -> Corners:
    """The corners of what it takes away, of the part (mm)."""
    before, after = op.before, op.after

    def found() -> Corners:
        taken = after.taken() if after.taken is not None else before.solid - after.solid
        return bounds(taken if before.lie is None else posed(taken, before.lie.pose.inverse()))

    return before.memo.get(("taken box", before.key, after.key), found)


def _braced(op: Ready, other: Ready, worst: Thin, facts: PlanFacts) -> bool:
    """Is it stiffer while the other's metal stands, and is the other no worse off after it?"""
    memo, lie, bends = op.after.memo, op.station.lie, worst.bends_mm or 0.0
    key = ("braced", facts.key, op.key, other.key, op.after.key, other.after.key)

    def found() -> bool:
        left = _with(op.after.seen_in(lie), other)
        here = cut_on(op, _with(op.before.seen_in(lie), other), left, facts)
        if _most(here) > MUCH_LESS * bends:
            return False
        last = _most(cut_on(other, left, op.after.seen_in(lie), facts))
        most = max(NO_WORSE * _most(other.seen.thin), MUCH_LESS * bends)
        return last <= max(most, facts.library.settings.wall_bends_mm)

    return memo.get(key, found)


def _with(state: State, other: Ready) -> State:
    """A state with what an operation took away still there."""
    assert state.lie is not None
    before, after = (each.seen_in(state.lie) for each in (other.before, other.after))
    key = digest("still", state.key, before.key, after.key)
    back = (state, before, after)
    return State(lambda: _put_back(*back), key, state.memo, state.lie)


def _put_back(state: State, before: State, after: State) -> Solid:
    return joined([state.solid, before.solid - after.solid])


def _most(thin: tuple[Thin, ...]) -> float:
    return max((each.bends_mm or 0.0 for each in thin), default=0.0)
