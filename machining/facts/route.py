"""Walks a plan from blank to finished part: how it lies, what each cut takes, and all figures of
each operation.
"""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

import numpy as np
from shapely import Polygon

from machining.geometry.frames import DIRECTIONS, Direction, axis
from machining.geometry.regions import Region, filled
from machining.geometry.solids import Solid, bounds, half_section, outline, posed
from machining.memo import Memo, digest
from machining.placing.zero import Lie, lie_of
from machining.plan.document import LoadedTool, Plan, Setup
from machining.plan.numbering import operation_numbers
from machining.plan.operation import ROTATES_IN_PLACE, TURNED, Face, Operation, RoughOutside
from machining.plan.turned import TurnFace
from machining.quantities.errors import MachiningError
from machining.world.geometry import PartGeometry, of_block
from machining.world.library import Library

from . import cut, hold, paths, reach, size, tilted, travel, turning, worked
from .context import QUESTIONS, OperationFacts, PlanFacts, SetupFacts, given_up, guarded
from .kinds import HANDLERS, Ground
from .kinds.turned import speed_and_feed as turned_speed
from .place import Work, work_of
from .stock import blank_bounds, blank_solid, removed
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
# a lathe turns the stock about its middle
ON_AXIS = {"of": "stock", "x": "middle", "y": "middle", "hole": ""}
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


def geometry_of(plan: Plan, library: Library, memo: Memo) -> PartGeometry:
    """The part's solid: read from a file, or its block. Raises Missing for a file that
    isn't there.
    """
    if plan.part.geometry:
        return library.get("geometries", plan.part.geometry)  # type: ignore[return-value]
    return memo.get(("block", plan.part.size_mm, plan.part.typed), lambda: of_block(plan.part))


def walk(plan: Plan, library: Library, memo: Memo) -> PlanFacts:
    """All facts of a plan. Raises Missing or OutOfRange where there is no part or no
    blank at all.
    """
    geometry = geometry_of(plan, library, memo)
    facts = PlanFacts(plan, library, geometry, library.materials.get(plan.material))
    requirements = [each.model_dump_json() for each in plan.part.requirements]
    facts.key = digest(
        library.key, geometry.key, plan.material, plan.stock.saw_tolerance_mm, requirements
    )
    key = digest("blank", geometry.key, plan.stock.model_dump_json())
    stock = memo.get(("stock", key), lambda: blank_solid(geometry, plan.stock))
    blank = blank_bounds(geometry, plan.stock)
    numbers = operation_numbers(plan)
    for place, setup in enumerate(plan.setups, 1):
        seen = _setup(setup, place, facts, key, stock, blank, memo)
        facts.setups.append(seen)
        for operation in setup.operations:
            _operation(operation, numbers[operation.id], seen, facts, memo)
        if seen.operations:
            key = seen.stock_end_key
            stock = memo.get(("stock", key), partial(_back, seen))
    return facts


def _back(seen: SetupFacts) -> Solid:
    """The stock a setup leaves, in part coordinates."""
    after = seen.operations[-1].stock_after
    assert after is not None
    return posed(after, seen.lie.pose.inverse())


def _setup(
    setup: Setup,
    number: int,
    facts: PlanFacts,
    key: str,
    stock: Solid,
    blank: tuple[np.ndarray, np.ndarray],
    memo: Memo,
) -> SetupFacts:
    stock_bounds = bounds(stock)
    unknown: dict[str, str] = {}
    machine = facts.library.machines.get(setup.machine)
    turns = machine is not None and machine.kind == "lathe"
    on_axis = setup.zero.model_copy(update=ON_AXIS) if turns else setup.zero
    try:
        lie = lie_of(setup.model_copy(update={"zero": on_axis}), facts.geometry, stock_bounds)
    except MachiningError as problem:
        unknown["travel"] = str(problem)
        lie = lie_of(
            setup.model_copy(update={"zero": type(setup.zero)()}), facts.geometry, stock_bounds
        )
    geometry = facts.geometry
    part_outline = memo.get(
        ("part-outline", geometry.key, lie.key),
        lambda: filled(outline(posed(geometry.solid, lie.pose))),
    )
    start_key = digest(key, lie.key)
    start = memo.get(("stock", start_key), lambda: posed(stock, lie.pose))
    vise = facts.library.vises.get(setup.in_vise.vise) if setup.in_vise else None
    chuck = facts.library.chucks.get(setup.in_chuck.chuck) if setup.in_chuck else None
    seen = SetupFacts(
        setup,
        number,
        machine,
        vise,
        chuck,
        lie,
        part_outline,
        start_key,
        start,
        _blank_sides(stock_bounds, blank, lie),
        unknown=unknown,
    )
    seen.stock_end_key = start_key
    if setup.holding is None:
        unknown["hold"] = "Nothing says yet how the part is held."
    elif vise is None and chuck is None:
        wanted = (
            setup.in_vise.vise if setup.in_vise else setup.in_chuck.chuck if setup.in_chuck else ""
        )
        unknown["hold"] = f"The library has no {setup.holding.kind} {wanted!r}."
    elif machine is not None and turns == (vise is not None):
        unknown["hold"] = (
            f"{machine.name} turns the part: a chuck holds it."
            if turns
            else f"{machine.name} does not turn the part: a chuck on its table is not worked out."
        )
    else:
        guarded(seen, "hold", lambda: hold.of_setup(seen, facts, memo))
    if seen.machine is None:
        unknown["cut"] = unknown["travel"] = f"The library has no machine {setup.machine!r}."
    said: Any = {
        "operations": True,
        "note": True,
        "kept": True,
        "holding": {"reason"},
        "zero": {"reason"},
    }
    seen.key = digest(
        setup.model_dump_json(exclude=said),
        lie.key,
        stock_bounds[0].tolist(),
        stock_bounds[1].tolist(),
        sorted(unknown.items()),
    )
    return seen


def _blank_sides(
    now: tuple[np.ndarray, np.ndarray], blank: tuple[np.ndarray, np.ndarray], lie: Lie
) -> frozenset[str]:
    """Machine directions in which the stock still shows the blank's own surface."""
    sides = set()
    for direction in DIRECTIONS:
        i, high = "xyz".index(direction[1]), direction[0] == "+"
        if abs(float(now[high][i] - blank[high][i])) < 1e-3:
            sides.add(direction)
    turned = {name: lie.pose.rotation @ axis(name) for name in sides}
    return frozenset(_named(vector) for vector in turned.values())


def _named(vector: np.ndarray) -> Direction:
    i = int(np.argmax(np.abs(vector)))
    return f"{'+' if vector[i] > 0 else '-'}{'xyz'[i]}"  # type: ignore[return-value]


def _operation(
    operation: Operation, number: int, setup: SetupFacts, facts: PlanFacts, memo: Memo
) -> None:
    """Append the operation's facts to the setup; they are kept by the value of all that goes into
    them.
    """
    previous = setup.operations[-1] if setup.operations else None
    before: Solid = (
        previous.stock_after if previous and previous.stock_after is not None else setup.stock_start
    )
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
    known = memo.get(
        ("facts", key),
        lambda: _fresh(operation, loaded, setup, facts, key_before, before, meets_sawn, memo),
    )
    op = replace(
        known, number=number, setup=setup, notes=dict(known.notes), unknown=dict(known.unknown)
    )
    setup.operations.append(op)
    setup.stock_end_key = digest(op.key_after, "part")
    _tool_change(op, previous)


def _fresh(
    operation: Operation,
    loaded: LoadedTool | None,
    setup: SetupFacts,
    facts: PlanFacts,
    key_before: str,
    before: Solid,
    meets_sawn: bool,
    memo: Memo,
) -> OperationFacts:
    library = facts.library
    assembly = library.assemblies.get(loaded.assembly) if loaded else None
    tool = library.tools.get(assembly.tool) if assembly else None
    holder = library.holders.get(assembly.holder) if assembly else None
    data = (
        facts.material.data_for(cut.PROCESS[operation.kind], tool.material)
        if facts.material and tool
        else None
    )
    op = OperationFacts(
        operation,
        0,
        setup,
        loaded,
        assembly,
        tool,
        holder,
        data,
        stock_before=before,
        key_before=key_before,
    )
    try:
        _stock(op, facts, memo)
        _answer(op, facts, meets_sawn, memo)
    except Exception:
        given_up(op, "facts")
        op.stock_after, op.key_after = op.stock_after or before, op.key_after or key_before
    return op


def _answer(op: OperationFacts, facts: PlanFacts, meets_sawn: bool, memo: Memo) -> None:
    """All figures of one operation whose stock is known, and why a question has no answer."""
    operation, setup, loaded, tool, holder = op.operation, op.setup, op.loaded, op.tool, op.holder
    if tool is None or holder is None:
        why = (
            "No tool is chosen."
            if not operation.tool
            else (
                "Its tool is not loaded on this setup's machine."
                if loaded is None
                else f"The library has no assembly {loaded.assembly!r}."
            )
        )
        op.unknown.update(dict.fromkeys(QUESTIONS, why))
        return
    if facts.material is None:
        op.unknown.update(dict.fromkeys(("hold", "cut", "size"), "No material is chosen."))
    for question, why in setup.unknown.items():
        op.unknown.setdefault(question, why)
    if setup.machine is None or op.work is None:
        for question in QUESTIONS:
            op.unknown.setdefault(
                question,
                (
                    str(op.work_problem)
                    if op.work_problem
                    else f"The library has no machine {setup.planned.machine!r}."
                ),
            )
        return
    op.notes["meets_sawn"] = float(meets_sawn)
    if (beyond := _beyond(op)) is not None:
        op.unknown.update(dict.fromkeys(QUESTIONS, beyond))
        return
    if not can_do(operation.kind, tool) or unsuited(op, tool) is not None:
        op.unknown.update(dict.fromkeys(QUESTIONS, "Not worked out while its tool can't do it."))
        return  # a finding says what is wrong with the tool
    turned = operation.kind in TURNED
    guarded(op, "cut", lambda: turned_speed(op, facts) if turned else cut.speed_and_feed(op, facts))
    _path(op, facts, memo)
    guarded(op, "cut", lambda: cut.load(op, facts))
    if tilted.is_tilted(op):
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
    _notes(op, facts, memo)
    if op.path is not None and op.needs("feed", "rpm"):
        if turned:
            turning.timed(op)
        elif tilted.is_tilted(op):
            tilted.timed(op)
        else:
            paths.timed(op, facts)


def _beyond(op: OperationFacts) -> str | None:
    """Why an operation can't be worked out on its setup's machine, None where it can."""
    machine = op.setup.machine
    assert machine is not None
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


def _notes(op: OperationFacts, facts: PlanFacts, memo: Memo) -> None:
    before, after = op.stock_before, op.stock_after
    if before is not None and after is not None:
        op.notes["cut_mm3"] = (
            0.0
            if before is after
            else memo.get(
                ("removed", op.key_before, op.key_after), lambda: turning.removed(op, before, after)
            )
        )
    if op.operation.kind in TURNED and (facts.plan.stock.form != "round" or op.setup.number > 1):
        op.notes["broken_mm"] = memo.get(
            ("broken", op.key_before, op.key_after), lambda: turning.broken(op)
        )
    if (
        op.operation.kind in ROTATES_IN_PLACE
        and (
            standing := (
                turning.standing_over(op)
                if op.section_before is not None
                else size.standing_over_hole(op, memo)
            )
        )
        is not None
    ):
        op.notes["standing_mm"] = standing
    if (
        op.operation.kind in size.GOES_DOWN
        and op.section_before is None
        and (open_at := size.open_wall(op, memo)) is not None
    ):
        op.notes["interrupted_mm"] = open_at
    key = (
        "jaw",
        op.path_key,
        op.setup.jaws_key,
        facts.library.settings.jaw_margin_mm,
        op.tool.diameter_mm if op.tool else 0.0,
    )
    if (deep := memo.get(key, lambda: hold.jaw_in_cut(op, facts, memo))) is not None:
        op.notes["jaw_deep_mm"] = deep


def _stock(op: OperationFacts, facts: PlanFacts, memo: Memo) -> None:
    """Where the operation works, and the stock after it."""
    before = op.stock_before
    assert before is not None
    unseen = NOT_IN_PATH if op.operation.kind in HANDLERS else NOT_IN_STOCK
    key = digest(
        op.key_before, facts.geometry.key, op.operation.model_dump(exclude=unseen), op.tool
    )
    if op.operation.kind in TURNED or (
        op.setup.machine is not None and op.setup.machine.kind == "lathe"
    ):
        op.section_before = memo.get(("half-section", op.key_before), lambda: half_section(before))
    op.work, op.work_problem, op.stock_after = memo.get(
        ("cut", key), lambda: _cut(op, facts, before, memo)
    )
    op.key_after = key
    if op.section_before is not None:
        op.section_after = memo.get(("half-section", key), lambda: turning.section_after(op))


def _cut(
    op: OperationFacts, facts: PlanFacts, before: Solid, memo: Memo
) -> tuple[Work | None, MachiningError | None, Solid]:
    if handler := HANDLERS.get(op.operation.kind):
        ground = Ground(
            op.setup.lie,
            facts.geometry,
            op.setup.part_outline,
            facts.library.settings,
            op.tool,
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
            op.tool,
        )
    except MachiningError as problem:
        return None, problem, before
    away = removed(op.operation, work, silhouette)
    return work, None, before if away is None else before - away


def _path(op: OperationFacts, facts: PlanFacts, memo: Memo) -> None:
    assert op.work is not None
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
    op.path_key = digest(
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
            ("path", op.path_key),
            lambda: (
                tilted.path_of(op, draw(op, facts)) if tilted.is_tilted(op) else draw(op, facts)
            ),
        )
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
    op.change_s = (
        machine.chip_to_chip_s
        if machine is not None
        and op.loaded is not None
        and (last is None or last.id != op.loaded.id)
        else 0.0
    )
