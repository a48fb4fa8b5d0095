"""Where an operation works, and the stock it leaves."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from machining.geometry.frames import DIRECTIONS
from machining.geometry.regions import Region
from machining.geometry.solids import Solid
from machining.memo import Memo, digest
from machining.plan.document import Plan
from machining.quantities.errors import MachiningError

from . import turning
from .context import OperationFacts, PlanFacts
from .kinds import Ground, kind_of
from .kinds.turned import gone as turned_away
from .place import Work
from .state import State
from .stations import part_outline

NOTHING_MM2 = 1e-6  # of a half section: rounding, not metal
# fields of an operation that change neither where it works nor where it goes
NOT_IN_PATH = {
    "id",
    "station",
    "aim",
    "tool",
    "rpm",
    "feed_mm_min",
    "cutting_speed_m_min",
    "feed_per_tooth_mm",
    "feed_per_rev_mm",
    "coolant",
    "reason",
    "stop_after",
    "stop_s",
    "clamps_after",
    "proven_in",
    "pinned",
    "kept",
    "like",
}


def stock_after(op: OperationFacts, facts: PlanFacts, memo: Memo) -> None:
    """Where the operation works, and the stock after it."""
    ground, key = placed(op, facts, memo)
    if kind_of(op.operation).removed is turned_away:
        if op.work is not None and not op.work.turned.is_empty:
            op.after = State(lambda: _left(op.before, _gone(op, ground)), key, memo, op.lie)
    else:
        _take_away(op, ground, key, facts, memo)
    if op.turns and op.after is not op.before:
        section = memo.get(("swept", key), lambda: turning.section_after(op, op.after))
        nothing = _by_section(op) and op.before.half_section().area - section.area <= NOTHING_MM2
        op.after = op.before if nothing else replace(op.after, swept=section)


def _by_section(op: OperationFacts) -> bool:
    """Does what turns under it lose no more than its half section shows?"""
    return kind_of(op.operation).turned or turning.on_axis(op)


def placed(op: OperationFacts, facts: PlanFacts, memo: Memo) -> tuple[Ground, str]:
    """Fill where the operation works; what it stands on there, and the key of what it takes."""
    tool, kind = op.kit.tool if op.kit else None, kind_of(op.operation)
    same = kind.no_stock - kind.shapes(op.operation)
    fields = op.operation.model_dump(exclude=NOT_IN_PATH | same | kind.in_air)
    key = digest(op.before.key, facts.geometry.key, fields, tool)
    op.turns = kind.turned or (op.rig.turns_work if op.rig is not None else op.station.turns)
    ground = Ground(
        op.lie,
        facts.geometry,
        _part_outline(op, facts, memo),
        facts.library.settings,
        tool,
        op.before,
        op.turns,
    )
    found = memo.get(
        ("work", key, op.operation.model_dump_json(include={*kind.in_air})),
        lambda: _work(op, ground),
    )
    op.work, op.work_problem = found
    return ground, key


def tilts(plan: Plan) -> bool:
    """Does anything of it look at the part another way than along its axes?"""
    return any(each.orientation.raised_deg > 0.0 for each in plan.stations) or any(
        op.aim not in (None, *DIRECTIONS) for setup in plan.setups for op in setup.operations
    )


def _take_away(op: OperationFacts, ground: Ground, key: str, facts: PlanFacts, memo: Memo) -> None:
    """The stock after it; what can't be taken away takes its place from it."""
    gone = memo.get(("gone", key), lambda: _gone_or_why(op, ground))
    if isinstance(gone, MachiningError):
        op.work, op.work_problem = None, gone
    elif gone is not None:
        taken = partial(_common, op.before, gone)
        after = State(lambda: _left(op.before, gone), key, memo, op.lie, taken=taken)
        op.after = after if op.turns else after.by_content(tilts(facts.plan))


def metal_taken(op: OperationFacts) -> Solid:
    """What of the stock an operation takes, where that lies for it."""

    def between() -> Solid:
        taken = op.after.taken
        gone = taken() if taken is not None else op.before.solid - op.after.solid
        gone.num_tri()  # worked out now, else again and again
        return gone

    return op.before.memo.get(("taken", op.before.key, op.after.key), between)


def _part_outline(op: OperationFacts, facts: PlanFacts, memo: Memo) -> Region:
    if op.aimed is None:
        return op.station.part_outline
    return part_outline(facts.geometry, op.lie, memo)


def _work(op: OperationFacts, ground: Ground) -> tuple[Work | None, MachiningError | None]:
    try:
        return kind_of(op.operation).work(op.operation, ground), None
    except MachiningError as problem:
        return None, problem


def _gone(op: OperationFacts, ground: Ground) -> Solid | None:
    """What an operation takes away, None where it leaves no mark."""
    if op.work is None:
        return None
    return kind_of(op.operation).removed(op.operation, op.work, ground)


def _gone_or_why(op: OperationFacts, ground: Ground) -> Solid | MachiningError | None:
    try:
        return _gone(op, ground)
    except MachiningError as problem:
        return problem


def _left(before: State, gone: Solid | None) -> Solid:
    return before.solid if gone is None else before.solid - gone


def _common(before: State, gone: Solid) -> Solid:
    return before.solid ^ gone
