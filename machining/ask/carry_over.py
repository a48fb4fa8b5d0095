"""A plan on another machine: tools and recipe carried over by rule, and what that machine can't do
mended where a fix keeps its word.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import partial
from itertools import islice
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.route import walk
from machining.findings.finding import Finding
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.base import OperationBase
from machining.plan.document import Plan, Setup
from machining.plan.edit import Change, Edit, LoadTool, UnloadTool
from machining.plan.loading import loaded
from machining.plan.trade import UseMachine
from machining.quantities.errors import Missing
from machining.quantities.said import Said
from machining.ways import trade
from machining.ways.takes_it import takes_it
from machining.world.library import Library
from machining.world.machine import Machine

from .trying import keeps_its_word

# what another machine's spindle and drives can't do, and a lighter cut can
OF_RECIPE = ("cut.", "travel.speed-over", "travel.feed")
MOST = 40  # stops that are mended
MOST_HELD = 3  # that are tried
STEP_RPM = 10.0


def carry_over(plan: Plan, library: Library, memo: Memo, machine: str) -> dict[str, Any]:
    """The edits that bring every setup to a machine, each cut with the tool it has now; a speed it
    does not turn is taken down with its feed, so that the chip stays; stops that come of its power
    are left by the first fix that stops nothing else. ``left`` are stops that are new and stay.
    Raises Missing.
    """
    edits, _, seen = carried(plan, library, memo, machine, [each.id for each in plan.setups])
    known = {f.key for f in evaluate(plan, library, memo).open if f.severity == "stop"}
    stays = [f for f in seen.open if f.severity == "stop" and f.key not in known]
    return {
        "edits": [each.model_dump(mode="json") for each in edits],
        "left": [plain_said(Said(f.message, f.values)) for f in stays],
    }


def carried(
    plan: Plan,
    library: Library,
    memo: Memo,
    machine: str,
    setups: Sequence[str],
    in_vain: bool = True,
) -> tuple[list[Edit], Plan, Evaluation]:
    """Some of its setups on a machine: the edits, the plan then and its answer. Recipes are mended
    ``in_vain`` too, where something else stops it there. Raises Missing.
    """
    to = library.machines.get(machine)
    if to is None:
        raise Missing("Machine", machine)
    edits, now = list[Edit](), plan
    for setup in plan.setups:
        if setup.id in setups and setup.machine != machine:
            meant = trade.structural(
                now, library, memo, [UseMachine(setup=setup.id, machine=machine)]
            )
            now = apply(now, meant)
            edits += meant
            for step in _tools(plan, setup, to, now, library):
                now = apply(now, step)
                edits += step
    used = {each.machine for each in now.setups}
    idle = [UnloadTool(tool=each.id) for each in now.tools if each.machine not in used]
    now, edits = apply(now, idle), [*edits, *idle]
    before = evaluate(plan, library, memo)
    known = {f.key for f in before.open if f.severity == "stop"}
    seen = evaluate(now, library, memo)
    new = [f for f in seen.open if f.severity == "stop" and f.key not in known]
    for _ in range(MOST if in_vain or all(_of_recipe(f) for f in new) else 0):
        fix = next(_mended(now, library, memo, seen, known), None)
        if fix is None:
            break
        now = apply(now, fix)
        seen = evaluate(now, library, memo)
        edits += fix
    return edits, now, seen


def on_machine(
    plan: Plan,
    library: Library,
    memo: Memo,
    machine: str,
    setups: Sequence[str],
    in_vain: bool = True,
) -> Plan:
    """Carried over, and held in the first of what takes it there where its own holding does not go
    on that machine. Raises Missing.
    """
    plan = carried(plan, library, memo, machine, setups, in_vain)[1]
    for station in [each.id for each in plan.stations if each.holding is None]:
        facts = walk(plan, library, memo)
        for offer in islice(takes_it(facts.station(station), facts), MOST_HELD):
            after = apply(plan, offer.edits)
            if not walk(after, library, memo).station(station).unknown.get("hold"):
                plan = after
                break
    return plan


def _tools(
    plan: Plan, setup: Setup, to: Machine, now: Plan, library: Library
) -> Iterator[list[Edit]]:
    """Each operation with the tool it had: one that is loaded alike there, else loaded anew."""
    there = {(t.assembly, t.stick_out_mm): t for t in now.tools if t.machine == to.key}
    for op in setup.operations:
        if not op.tool:
            continue
        was = plan.tool(op.tool)
        assembly = library.assemblies.get(was.assembly)
        if assembly is None:
            continue
        edits, same = list[Edit](), (was.assembly, was.stick_out_mm)
        if same not in there:
            there[same] = loaded(now, to.key, assembly, was.stick_out_mm, to.standing)
            edits.append(LoadTool(tool=there[same]))
            now = apply(now, edits)
        fields = {"tool": there[same].id, **_slower(op, to), **_another_range(op, to)}
        edits.append(Change(on=f"operation:{op.id}", fields=fields))
        yield edits


def _another_range(op: OperationBase, to: Machine) -> dict[str, str]:
    """A range that no spindle there has is left to the machine."""
    names = {"", *(each.name for spindle in to.spindles for each in spindle.ranges)}
    return {} if op.spindle_range in names else {"spindle_range": ""}


def _slower(op: OperationBase, to: Machine) -> dict[str, float]:
    """A speed that was typed and no spindle there turns, with the feed that keeps the chip."""
    most = max(each.max_rpm for each in to.spindles)
    if op.rpm is None or op.rpm <= most:
        return {}
    rpm = most // STEP_RPM * STEP_RPM
    if op.feed_mm_min is None:
        return {"rpm": rpm}
    return {"rpm": rpm, "feed_mm_min": float(f"{op.feed_mm_min * rpm / op.rpm:.3g}")}


def _mended(
    now: Plan, library: Library, memo: Memo, seen: Evaluation, known: set[str]
) -> Iterator[list[Edit]]:
    """Of each new stop of a recipe the first fix that changes it alone and keeps its word."""
    answer = partial(evaluate, library=library, memo=memo)
    for finding in seen.open:
        if finding.severity != "stop" or finding.key in known or not _of_recipe(finding):
            continue
        for fix in finding.fixes:
            mine = f"operation:{finding.operation}"
            if not all(isinstance(e, Change) and e.on == mine for e in fix.edits):
                continue
            if keeps_its_word(fix, finding, now, seen, answer) is not None:
                yield list(fix.edits)
                break


def _of_recipe(finding: Finding) -> bool:
    return bool(finding.operation) and finding.id.startswith(OF_RECIPE)
