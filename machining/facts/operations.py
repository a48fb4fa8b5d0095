"""All figures of one operation, and why a question has no answer."""

from __future__ import annotations

from dataclasses import replace

from shapely import Polygon

from machining.geometry.regions import Region
from machining.geometry.solids import Solid, bounds, half_section, outline
from machining.memo import Memo, digest
from machining.plan.operation import ROTATES_IN_PLACE, TURNED, Face, Operation, RoughOutside
from machining.plan.turned import TurnFace
from machining.quantities.errors import MachiningError
from machining.world.tool import Tool

from . import cut, hold, paths, reach, size, tilted, travel, turning, worked
from .context import (
    QUESTIONS,
    Kit,
    OperationFacts,
    PlanFacts,
    Ready,
    Seen,
    SetupFacts,
    given_up,
    guarded,
    ready,
)
from .kinds import HANDLERS, Ground
from .kinds.turned import speed_and_feed as turned_speed
from .place import Work, work_of
from .stock import removed
from .suits import can_do, unsuited

NOT_IN_PATH = {
    "id",
    "tool",
    "rpm",
    "feed_mm_min",
    "cutting_speed_m_min",
    "feed_per_tooth_mm",
    "feed_per_rev_mm",
    "coolant",
    "reason",
    "stop_after",
    "proven_in",
    "pinned",
    "kept",
}
TRACE_ONLY = {
    "step_down_mm",
    "peck_mm",
    "passes",
    "ramp_deg",
    "chain",
    "enter",
    "hole_at_mm",
    "lead",
}
NOT_IN_TRACE = NOT_IN_PATH | TRACE_ONLY
NOT_IN_STOCK = NOT_IN_TRACE | {"step_over_mm", "width_mm"}


def operation_facts(
    operation: Operation, number: int, setup: SetupFacts, facts: PlanFacts, memo: Memo
) -> None:
    """Append the operation's facts to the setup; they are kept by the value of all that goes into
    them.
    """
    previous = setup.operations[-1] if setup.operations else None
    before = previous.stock_after if previous else setup.stock_start
    key_before = previous.key_after if previous else setup.stock_key
    loaded = next(
        (
            t
            for t in facts.plan.tools
            if t.id == operation.tool and t.machine == setup.planned.machine
        ),
        None,
    )
    meets_sawn = _meets_sawn(operation, setup)
    key = digest(
        facts.key,
        setup.key,
        key_before,
        operation.model_dump_json(),
        loaded.model_dump_json() if loaded else "",
        meets_sawn,
    )

    def fresh() -> OperationFacts:
        bare = OperationFacts(
            operation=operation,
            setup=setup,
            stock_before=before,
            stock_after=before,
            key_before=key_before,
            key_after=key_before,
            loaded=loaded,
            seen=Seen(meets_sawn=meets_sawn),
        )
        return _fresh(bare, facts, memo)

    known = memo.get(("facts", key), fresh)
    op = replace(known, number=number, setup=setup, unknown=dict(known.unknown))
    setup.operations.append(op)
    setup.stock_end_key = digest(op.key_after, "part")
    _tool_change(op, previous)


def _fresh(op: OperationFacts, facts: PlanFacts, memo: Memo) -> OperationFacts:
    library = facts.library
    assembly = library.assemblies.get(op.loaded.assembly) if op.loaded else None
    tool = library.tools.get(assembly.tool) if assembly else None
    holder = library.holders.get(assembly.holder) if assembly else None
    if assembly is not None and tool is not None and holder is not None:
        op.kit = Kit(assembly, tool, holder)
        if facts.material is not None:
            op.data = facts.material.data_for(cut.PROCESS[op.operation.kind], tool.material)
    try:
        _stock(op, facts, memo)
        known = ready(op)
        if known is None:
            _not_ready(op, facts)
            return op
    except Exception:
        given_up(op, "its stock")
        op.stock_after, op.key_after = op.stock_before, op.key_before
        return op
    try:
        _answer(known, facts, memo)
    except Exception:
        given_up(known, "facts")
    return known


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
            (
                str(op.work_problem)
                if op.work_problem
                else f"The library has no machine {op.setup.planned.machine!r}."
            ),
        )


def _of_surroundings(op: OperationFacts, facts: PlanFacts) -> None:
    """What no material leaves open, and what is open of its setup."""
    if facts.material is None:
        op.unknown.update(dict.fromkeys(("hold", "cut", "size"), "No material is chosen."))
    for question, why in op.setup.unknown.items():
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
    turned, leaning = operation.kind in TURNED, tilted.is_tilted(op)
    guarded(op, "cut", lambda: turned_speed(op, facts) if turned else cut.speed_and_feed(op, facts))
    _path(op, facts, memo)
    guarded(op, "cut", lambda: cut.load(op, facts))
    if leaning:
        guarded(op, "reach", lambda: tilted.work_out(op, facts, memo))
    else:
        on_lathe = op.section_after is not None
        guarded(
            op,
            "reach",
            lambda: turning.reach(op, facts) if on_lathe else reach.of_operation(op, facts, memo),
        )
        guarded(op, "travel", lambda: travel.of_operation(op))
    guarded(op, "hold", lambda: hold.of_operation(op, facts))
    guarded(op, "size", lambda: turning.size(op, facts) if turned else size.of_operation(op, facts))
    guarded(op, "cut", lambda: worked.of_operation(op, facts))
    _observe(op, facts, memo)
    if op.path_key and op.needs("feed", "rpm"):
        if turned:
            turning.timed(op)
        elif leaning:
            tilted.timed(op)
        else:
            paths.timed(op, facts)


def _beyond(op: Ready) -> str | None:
    """Why an operation can't be worked out on its setup's machine, None where it can."""
    machine = op.machine
    if op.operation.kind in TURNED:
        return (
            None
            if machine.kind == "lathe"
            else f"{machine.name} turns the tool, not the part: a lathe does this."
        )
    if tilted.is_tilted(op) and machine.rotary is None and machine.kind == "mill-5":
        return f"The record of {machine.name} says nothing of its rotary axes."
    if machine.kind == "lathe" and not turning.on_axis(op):
        return (
            f"On {machine.name} only turning and holes on the spindle's axis are worked out, not"
            " driven tools."
        )
    return None


def _observe(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    """What stock and jaws make of the cut."""
    kind, turned = op.operation.kind, op.section_before is not None
    cut_mm3 = (
        0.0
        if op.stock_before is op.stock_after
        else memo.get(("removed", op.key_before, op.key_after), lambda: turning.removed(op))
    )
    broken = standing = interrupted = None
    if kind in TURNED and (facts.plan.stock.form != "round" or op.setup.number > 1):
        key = ("broken", op.key_before, op.key_after)
        broken = memo.get(key, lambda: turning.broken(op))
    if kind in ROTATES_IN_PLACE:
        standing = turning.standing_over(op) if turned else size.standing_over_hole(op, memo)
    if kind in size.GOES_DOWN and not turned:
        interrupted = size.open_wall(op, memo)
    margin = facts.library.settings.jaw_margin_mm
    jaw_key = ("jaw", op.path_key, op.setup.jaws_key, margin, op.tool.diameter_mm)
    op.seen = replace(
        op.seen,
        cut_mm3=cut_mm3,
        broken_mm=broken,
        standing_mm=standing,
        interrupted_mm=interrupted,
        jaw_deep_mm=memo.get(jaw_key, lambda: hold.jaw_in_cut(op, facts, memo)),
    )


def _stock(op: OperationFacts, facts: PlanFacts, memo: Memo) -> None:
    """Where the operation works, and the stock after it."""
    before, tool = op.stock_before, op.kit.tool if op.kit else None
    unseen = NOT_IN_PATH if op.operation.kind in HANDLERS else NOT_IN_STOCK
    key = digest(op.key_before, facts.geometry.key, op.operation.model_dump(exclude=unseen), tool)
    machine = op.setup.machine
    if op.operation.kind in TURNED or (machine is not None and machine.kind == "lathe"):
        op.section_before = memo.get(("half-section", op.key_before), lambda: half_section(before))
    op.work, op.work_problem, op.stock_after = memo.get(
        ("cut", key), lambda: _cut(op, facts, tool, memo)
    )
    op.key_after = key
    if op.section_before is not None:
        section = op.section_before
        op.section_after = memo.get(
            ("half-section", key), lambda: turning.section_after(op, section)
        )


def _cut(
    op: OperationFacts, facts: PlanFacts, tool: Tool | None, memo: Memo
) -> tuple[Work | None, MachiningError | None, Solid]:
    before = op.stock_before
    if handler := HANDLERS.get(op.operation.kind):
        ground = Ground(
            op.setup.lie,
            facts.geometry,
            op.setup.part_outline,
            facts.library.settings,
            tool,
            op.section_before or Polygon(),
        )
        try:
            place = handler.work(op.operation, ground)
            gone = handler.removed(op.operation, place, ground)
        except MachiningError as problem:
            return None, problem, before
        return place, None, before if gone is None else before - gone
    # a hole needs no outline nor top, and the solid need not be worked out for it
    asked = op.operation.on.kind in ("top", "outside")
    silhouette: Region = (
        memo.get(("outline", op.key_before), lambda: outline(before)) if asked else Polygon()
    )
    try:
        work = work_of(
            op.operation,
            op.setup.lie,
            facts.geometry,
            float(bounds(before)[1][2]) if asked else 0.0,
            op.setup.part_outline,
            silhouette,
            tool,
        )
    except MachiningError as problem:
        return None, problem, before
    away = removed(op.operation, work, silhouette)
    return work, None, before if away is None else before - away


def _path(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    settings, top = facts.library.settings, float(op.setup.lie.stock_high[2])
    handler = HANDLERS.get(op.operation.kind)
    op.trace_key = digest(
        op.work.key,
        op.tool,
        op.operation.model_dump(
            exclude=NOT_IN_PATH if handler else NOT_IN_TRACE | _width_unseen(op.operation)
        ),
    )
    across = float(op.setup.lie.stock_high[0]) if op.operation.kind in TURNED else 0.0
    key = digest(
        op.trace_key,
        op.operation.model_dump(include=TRACE_ONLY),
        top,
        across,
        op.value("run_in"),
        settings.first_clearance_mm,
        settings.retract_mm,
    )
    draw = handler.path if handler else paths.draw
    try:
        op.path = memo.get(
            ("path", key),
            lambda: (
                tilted.path_of(op, draw(op, facts)) if tilted.is_tilted(op) else draw(op, facts)
            ),
        )
        op.path_key = key
    except MachiningError as problem:
        op.unknown["reach"] = str(problem)


def _width_unseen(operation: Operation) -> set[str]:
    """A last cut's width is no part of its path, unless it is taken in several."""
    return {"width_mm"} if getattr(operation, "chain", 1) == 1 else set()


def _meets_sawn(operation: Operation, setup: SetupFacts) -> bool:
    """Is this the first cut to meet a side of the blank that can be larger than ordered?"""
    if any(other.operation.kind == operation.kind for other in setup.operations):
        return False
    if isinstance(operation, Face | TurnFace):
        return "+z" in setup.blank_sides
    return isinstance(operation, RoughOutside) and bool(
        {"+x", "-x", "+y", "-y"} & setup.blank_sides
    )


def _tool_change(op: OperationFacts, previous: OperationFacts | None) -> None:
    machine, last = op.setup.machine, previous.loaded if previous else None
    same = last is not None and op.loaded is not None and last.id == op.loaded.id
    if machine is not None and op.loaded is not None and not same:
        op.change_s = machine.chip_to_chip_s
    else:
        op.change_s = 0.0
