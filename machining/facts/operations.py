"""All figures of one operation, and why a question has no answer."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from machining.geometry.frames import Direction, axis
from machining.memo import Memo, digest
from machining.motion.path import Path
from machining.placing.zero import Lie
from machining.plan.document import BLANK, LoadedTool
from machining.plan.operation import Operation
from machining.quantities.errors import MachiningError
from machining.world.capability import Rig, carrier_of, rig
from machining.world.tool import STANDS_STILL

from . import (
    around,
    cut,
    found,
    found_turned,
    gouged,
    hold,
    index,
    metal,
    paths,
    reach,
    size,
    thin,
    tilted,
    travel,
    turned_size,
    turning,
)
from .context import (
    QUESTIONS,
    OperationFacts,
    PlanFacts,
    Ready,
    StationFacts,
    given_up,
    guarded,
    ready,
)
from .elsewhere import standing_at
from .kinds import kind_of
from .observed import Kit, Seen
from .own_data import own_data
from .pace import Pace
from .retract import over_work
from .suits import can_do, unsuited
from .taken import NOT_IN_PATH, placed, stock_after

SEEN = 1e-6  # of a unit vector: what looks up at all
MEETS: dict[str, tuple[Direction, ...]] = {"top": ("+z",), "sides": ("+x", "-x", "+y", "-y")}
NOT_TURNED = "Not worked out for a side that does not come to the tool."


def operation_facts(
    operation: Operation,
    number: int,
    station: StationFacts,
    facts: PlanFacts,
    memo: Memo,
    pace: Pace | None = None,
) -> None:
    """Append the operation's facts to its station; they are kept by the value of all that goes into
    them. Without a pace they are worked out now.
    """
    hold.put_on(station, operation.id, memo)
    lie = _aimed(operation, station)
    before = station.leaves.seen_in(lie or station.lie)
    on = station.setup.planned.machine
    carried = (t for t in facts.plan.tools if t.id == operation.tool and t.machine == on)
    loaded = next(carried, None)
    met = _meets_skin(operation, station, lie or station.lie, facts)
    key = digest(
        facts.key,
        station.anywhere_key,
        before.key,
        operation.model_dump_json(),
        loaded.model_dump_json() if loaded else "",
        met,
        station.stand.during[operation.id].key if station.stand.during else "",
    )
    bare = OperationFacts(
        operation=operation,
        station=station,
        before=before,
        after=before,
        key=key,
        aimed=lie,
        loaded=loaded,
        seen=Seen(blank_side=met[0], blank_over_mm=met[1]),
    )
    if pace is not None and pace.waits(station.planned, memo.peek(("facts", key)) is not None):
        station.operations.append(replace(pace.meanwhile(bare), number=number))
        return
    made = memo.get(("facts", key), lambda: _fresh(bare, facts, memo))
    known = standing_at(made, station) or _fresh_there(bare, station, facts, memo)
    station.operations.append(
        replace(known, number=number, station=station, unknown=dict(known.unknown))
    )


def _fresh_there(
    bare: OperationFacts, station: StationFacts, facts: PlanFacts, memo: Memo
) -> OperationFacts:
    bare.key = digest(bare.key, station.key)
    return memo.get(("facts", bare.key), lambda: _fresh(bare, facts, memo))


def _aimed(operation: Operation, station: StationFacts) -> Lie | None:
    """How the part lies for it, None where it comes from the station's up."""
    aim = operation.aim
    if aim is None or index.towards(station, aim) is None or index.looks_up(station, aim):
        return None
    return index.turned_lie(station, aim)


def drafted(
    operation: Operation, loaded: LoadedTool, station: StationFacts, facts: PlanFacts
) -> Ready | None:
    """Speed, feed and loads as they are meant, of an operation that could come next in a station;
    None where it could not. What its path would meet is not looked at.
    """
    before = station.leaves.seen_in(station.lie)
    side, over = _meets_skin(operation, station, station.lie, facts)
    op = OperationFacts(
        operation=operation,
        station=station,
        before=before,
        after=before,
        loaded=loaded,
        seen=Seen(blank_side=side, blank_over_mm=over),
    )
    _give_tool(op, facts)
    placed(op, facts, before.memo)
    known = ready(op)
    if known is None or not can_do(operation.kind, known.tool):
        return None
    speed = kind_of(operation).speed or cut.speed_and_feed
    guarded(known, "cut", lambda: speed(known, facts))
    guarded(known, "cut", lambda: cut.force(known, facts))
    guarded(known, "hold", lambda: hold.of_operation(known, facts))
    return known


def _give_tool(op: OperationFacts, facts: PlanFacts) -> None:
    """Its tool as assembled, the data of it, and what of the machine does it."""
    library = facts.library
    assembly = library.assemblies.get(op.loaded.assembly) if op.loaded else None
    tool = library.tools.get(assembly.tool) if assembly else None
    holder = library.holders.get(assembly.holder) if assembly else None
    if assembly is not None and tool is not None and holder is not None:
        op.kit = Kit(assembly, tool, holder)
        if facts.material is not None:
            op.data = own_data(op.operation, tool, facts.material)
    op.rig = _rig(op)


def _fresh(op: OperationFacts, facts: PlanFacts, memo: Memo) -> OperationFacts:
    _give_tool(op, facts)
    try:
        stock_after(op, facts, memo)
        known = ready(op)
        if known is None:
            _not_ready(op, facts)
            return op
    except Exception:
        given_up(op, "its stock")
        op.after = op.before
        return op
    try:
        _answer(known, facts, memo)
    except Exception:
        given_up(known, "facts")
    return known


def _rig(op: OperationFacts) -> Rig | None:
    """What of its machine does it."""
    machine = op.setup.machine
    if machine is None or op.station.place is None:
        return None
    still = op.kit.tool.kind in STANDS_STILL if op.kit is not None else None
    carrier = op.loaded.carrier if op.loaded is not None else ""
    found = rig(machine, op.station.planned.place, carrier, still)
    return found.in_range(op.operation.spindle_range) if found is not None else None


def _not_ready(op: OperationFacts, facts: PlanFacts) -> None:
    """Why an operation without a tool, a machine or a place has no answers."""
    if op.kit is None:
        why = (
            "No tool is chosen."
            if not op.operation.tool
            else (
                "Its tool is not loaded on this setup's machine."
                if op.loaded is None
                else f"The library has no assembly {op.loaded.assembly!r}."
            )
        )
        op.unknown.update(dict.fromkeys(QUESTIONS, why))
        return
    _of_surroundings(op, facts)
    for question in QUESTIONS:
        op.unknown.setdefault(
            question,
            (str(op.work_problem) if op.work_problem else _no_rig(op)),
        )


def _no_rig(op: OperationFacts) -> str:
    """Why nothing of its machine does it."""
    machine, carrier = op.setup.machine, op.loaded.carrier if op.loaded is not None else ""
    if machine is None:
        return f"The library has no machine {op.setup.planned.machine!r}."
    if carrier_of(machine, carrier) is None:
        return f"{machine.name} has no carrier {carrier!r}."
    return f"The {carrier or machine.carriers[0].id} of {machine.name} drives no tools."


def _of_surroundings(op: OperationFacts, facts: PlanFacts) -> None:
    """What no material leaves open, and what is open of its setup."""
    if facts.material is None:
        op.unknown.update(dict.fromkeys(("hold", "cut", "size"), "No material is chosen."))
    for question, why in op.station.unknown.items():
        op.unknown.setdefault(question, why)


def _answer(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    """All figures of an operation whose stock is known."""
    operation = op.operation
    _of_surroundings(op, facts)
    if (beyond := _beyond(op)) is not None:
        op.unknown.update(dict.fromkeys(QUESTIONS, beyond))
        return
    if not can_do(operation.kind, op.tool) or unsuited(op, op.tool) is not None:
        op.unknown.update(dict.fromkeys(QUESTIONS, "Not worked out while its tool can't do it."))
        return  # a finding says what is wrong with the tool
    kind, leaning = kind_of(operation), tilted.is_tilted(op)
    speed = kind.speed or cut.speed_and_feed
    guarded(op, "cut", lambda: speed(op, facts))
    _path(op, facts, memo)
    guarded(op, "cut", lambda: found.look(op, facts, memo))
    guarded(op, "cut", lambda: found_turned.look(op, memo))
    guarded(op, "cut", lambda: cut.force(op, facts))
    guarded(op, "reach", lambda: gouged.compare(op, facts, memo))
    if op.aimed is not None:
        guarded(op, "travel", lambda: index.of_operation(op))
    if op.aimed is not None and (why := _not_turned(op)):
        op.unknown.update(dict.fromkeys(("hold", "reach", "travel"), why))
    elif leaning:
        guarded(op, "reach", lambda: tilted.work_out(op, facts, memo))
    else:
        guarded(
            op,
            "reach",
            lambda: turning.reach(op, facts) if op.turns else reach.of_operation(op, facts, memo),
        )
        guarded(op, "travel", lambda: travel.of_operation(op))
    if "hold" not in op.unknown:
        guarded(op, "hold", lambda: hold.of_operation(op, facts))
    guarded(op, "size", lambda: kind.size(op, facts))
    guarded(op, "hold", lambda: thin.look(op, facts))
    guarded(op, "size", lambda: turned_size.look(op, facts))
    guarded(op, "cut", lambda: kind.worked(op, facts))
    _observe(op, facts, memo)
    if op.path_key and op.needs("feed", "rpm"):
        if kind.turned:
            turning.timed(op)
        elif leaning:
            tilted.timed(op, facts)
        else:
            paths.timed(op, facts)
        paths.settled(op, facts)


def _not_turned(op: Ready) -> str:
    """Why nothing is known of a side that is to be turned to the tool; empty where it is."""
    return "" if "index_time" in op.figures else NOT_TURNED


def _beyond(op: Ready) -> str | None:
    """Why an operation can't be worked out on its setup's machine, None where it can."""
    machine = op.machine
    if kind_of(op.operation).turned:
        return (
            None
            if op.rig.turns_work
            else f"{machine.name} turns the tool, not the part: a lathe does this."
        )
    if op.operation.aim is not None and index.towards(op.station, op.operation.aim) is None:
        return "What was turned to the tool is no longer on the part; it has changed."
    if op.aimed is not None and tilted.is_tilted(op):
        return "A slope that is tilted on another side is not worked out yet."
    if op.rig.turns_work and (op.aimed is not None or not turning.on_axis(op)):
        return (
            f"On {machine.name} only turning and holes on the spindle's axis are worked out, not"
            " driven tools."
        )
    return None


def _observe(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    """What stock and jaws make of the cut."""
    kind = kind_of(op.operation)
    cut_mm3 = (
        0.0
        if op.before is op.after
        else memo.get(("removed", op.before.key, op.after.key), lambda: turning.removed(op))
    )
    broken = standing = interrupted = None
    if kind.turned and (_was_cut(op) or not _arrives_round(op.station, facts)):
        key = ("broken", op.before.key, op.after.key)
        broken = memo.get(key, lambda: turning.broken(op))
    if kind.on_axis:
        standing = turning.standing_over(op) if op.turns else size.standing_over_hole(op, memo)
    if kind.goes_down and not op.turns:
        interrupted = size.open_wall(op, memo)
    margin = facts.library.settings.jaw_margin_mm
    jaw_key = ("jaw", op.path_key, around.holds_key(op), margin, op.tool.diameter_mm)
    op.seen = replace(
        op.seen,
        cut_mm3=cut_mm3,
        broken_mm=broken,
        standing_mm=standing,
        interrupted_mm=interrupted,
        in_holding=memo.get(jaw_key, lambda: hold.in_holding(op, facts, memo)),
    )


def _path(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    top = op.highest
    kind, no_trace = kind_of(op.operation), kind_of(op.operation).no_trace(op.operation)
    op.trace_key = digest(
        op.work.key, op.tool, op.operation.model_dump(exclude=NOT_IN_PATH | no_trace)
    )
    op.metal = memo.get(
        ("metal", op.before.key, op.work.key, op.operation.model_dump_json(), op.tool),
        lambda: kind.metal(op),
    )
    key = digest(
        op.trace_key,
        metal.key_of(op.metal),
        (metal.lifts_to(op, facts), op.before.outline().wkb) if op.metal else (),
        op.operation.model_dump(include={*no_trace}),
        top,
        float(op.lie.stock_high[0]) if kind.turned else 0.0,
        op.value("run_in"),
        over_work(op.setup, facts),
    )

    def drawn() -> Path:
        path = kind.path(op, facts)
        return tilted.path_of(op, path) if tilted.is_tilted(op) else path

    try:
        op.path = memo.get(("path", key), drawn)
        op.path_key = key
    except MachiningError as problem:
        op.unknown["reach"] = str(problem)


def _meets_skin(
    operation: Operation, station: StationFacts, lie: Lie, facts: PlanFacts
) -> tuple[Direction | None, float]:
    """The side of the part on which this is the first cut to meet the blank's own skin, and how
    much more than ordered (mm) may stand there; that where it may be most.
    """
    if any(other.operation.kind == operation.kind for other in station.operations):
        return None, 0.0
    left = {way: side for side in station.blank_sides.values() if (way := lie.looks(side))}
    left |= _leaning(station, lie, facts) if lie.up is None else {}
    met = [left[side] for side in MEETS.get(kind_of(operation).meets, ()) if side in left]
    stock = facts.plan.stock
    worst = max(met, key=stock.tolerance_at, default=None)
    return worst, 0.0 if worst is None else stock.tolerance_at(worst)


def _leaning(station: StationFacts, lie: Lie, facts: PlanFacts) -> dict[Direction, Direction]:
    """What lies over the work of a part at an angle: the blank's side that can stand over most."""
    sides = facts.blank.sides_left(station.arrives.in_part().bounds())
    over = [side for side in sides if float((lie.pose.rotation @ axis(side))[2]) > SEEN]
    worst = max(over, key=facts.plan.stock.tolerance_at, default=None)
    return {} if worst is None else {"+z": worst}


def _was_cut(op: Ready) -> bool:
    """Does something other than the blank come into its station?"""
    return op.station.planned.takes != BLANK


def _arrives_round(station: StationFacts, facts: PlanFacts) -> bool:
    """Does the blank turn about the spindle without a gap?"""
    spindle = station.lie.pose.rotation.T @ np.array([0.0, 0.0, 1.0])
    return facts.plan.stock.is_round_about("xyz"[int(np.abs(spindle).argmax())])  # type: ignore[arg-type]
