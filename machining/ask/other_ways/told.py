"""Each way that a whole plan might go instead, as a plan of its own, with its numbers."""

from __future__ import annotations

from typing import Any

from machining.evaluation import Evaluation, plain_said
from machining.facts import ledger
from machining.facts.batch import shares
from machining.facts.flows import steps_of
from machining.memo import Memo
from machining.motion.attended import attended
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import (
    AddSetup,
    Change,
    Edit,
    LoadTool,
    RemoveSetup,
    UnloadTool,
)
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said, Shown
from machining.world.library import Library

from ..costs import costs_of
from ..routes.route import Bench
from ..telling import Tell
from .machines import on_machines
from .sides import in_several, indexed
from .way import Way, why_not

NOT_MADE = Said("Nothing that the shop has holds it so.")


def other_ways(
    plan: Plan,
    library: Library,
    memo: Memo,
    tell: Tell = lambda share, doing, so_far: None,
) -> dict[str, Any]:
    """Of each way what one part, the batch, and the batch on several machines at once take (s), and
    what is known of its cost; ``why`` says of one that does not go what stops it first. ``now`` is
    the same of the plan. ``tell`` hears how far it is (share, words) and what was found so far.
    """
    bench = Bench(library, memo)
    before = bench.evaluate(plan, to_its_end=True)
    if before.problem or not any(setup.operations for setup in plan.setups):
        return {"now": None, "rows": []}
    told: dict[str, Any] = {"now": _figures(plan, before, bench), "rows": []}
    ways = [*on_machines(plan, before, bench), *indexed(plan, bench), *in_several(plan, bench)]
    for k, way in enumerate(ways):
        tell(k / len(ways), way.said, {**told, "rows": list(told["rows"])})
        told["rows"].append(_row(way, plan, before, bench))
    return told


def _row(way: Way, plan: Plan, before: Evaluation, bench: Bench) -> dict[str, Any]:
    row: dict[str, Any] = {
        "said": plain_said(way.said),
        "figures": None,
        "why": None,
        "looks": [],
        "edits": [],
    }
    try:
        after = way.made() if way.why is None else None
        edits = between(plan, after) if after is not None else []
        after = apply(plan, edits) if after is not None else None
    except MachiningError as problem:
        return {**row, "why": plain_said(Said("{why}", {"why": Shown(str(problem))}))}
    if after is None:
        return {**row, "why": plain_said(way.why or NOT_MADE)}
    then = bench.evaluate(after, to_its_end=True)
    why = why_not(then, before)
    known = {each.key for each in before.open}
    looks = [each for each in then.open if each.severity == "look" and each.key not in known]
    return {
        **row,
        "figures": _figures(after, then, bench) if not then.problem else None,
        "why": plain_said(why) if why is not None else None,
        "looks": [plain_said(Said(each.message, each.values)) for each in looks],
        "edits": [each.model_dump(mode="json") for each in edits] if why is None else [],
    }


def _figures(plan: Plan, told: Evaluation, bench: Bench) -> dict[str, Any]:
    facts = bench.walk(plan)
    taken = shares(facts, ledger.of_plan(facts))
    costs, steps = costs_of(facts), steps_of(facts, taken)
    machines = {each.machine for each in steps}
    people = bench.library.settings.people
    runs = attended(steps, plan.quantity, people) if len(machines) > 1 else []
    return {
        "machines": sorted(_name(key, bench.library) for key in machines),
        "setups": sum(bool(each.operations) for each in plan.setups),
        "one_part_s": told.one_part_s,
        "batch_s": told.batch_s,
        "at_once_s": max((each.ends_s for each in runs), default=None),
        "known": costs.known,
        "whole": costs.whole,
    }


def _name(key: str, library: Library) -> str:
    machine = library.machines.get(key)
    return machine.name if machine is not None else key


def between(plan: Plan, after: Plan) -> list[Edit]:
    """The edits that bring a plan to another one of the same part and blank. Setups from the first
    that is otherwise on are planned anew; what is done elsewhere stays as it is there.
    """
    pairs = zip(plan.setups, after.setups, strict=False)
    same = next(
        (k for k, (a, b) in enumerate(pairs) if a != b), min(len(plan.setups), len(after.setups))
    )
    known, then = set(plan.tools), set(after.tools)
    edits: list[Edit] = [RemoveSetup(setup=each.id) for each in reversed(plan.setups[same:])]
    edits += [UnloadTool(tool=each.id) for each in plan.tools if each not in then]
    edits += [LoadTool(tool=each) for each in after.tools if each not in known]
    edits += [AddSetup(setup=each) for each in after.setups[same:]]
    if after.outside:
        steps = [each.model_dump(mode="json") for each in after.outside]
        edits.append(Change(on="plan", fields={"outside": steps}))
    return edits
