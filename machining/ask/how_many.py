"""How many parts at a time: what a part takes with more of them in the machine, and what stands in
the way of more.
"""

from __future__ import annotations

from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_said
from machining.facts.times import cycles
from machining.findings.finding import Finding
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.trade import Load
from machining.quantities.errors import Missing
from machining.quantities.said import Said
from machining.ways import trade
from machining.world.library import Library

TRIED = (1, 2, 3, 4, 5, 6, 8, 10, 12, 16, 20, 24)
FULL = 2  # numbers in a row that do not go: more of them do not either


def how_many(plan: Plan, library: Library, memo: Memo, setup: str) -> list[dict[str, Any]]:
    """A setup with so many parts at each of its stations, each worked out as a plan of its own.
    Raises Missing.
    """
    if setup not in {each.id for each in plan.setups}:
        raise Missing("Setup", setup)
    known = {each.key for each in evaluate(plan, library, memo).findings}
    found, in_a_row, of = list[dict[str, Any]](), 0, 3600.0 * plan.quantity
    for parts in (each for each in TRIED if each == 1 or each <= plan.quantity):
        edits = [Load(station=each.id, parts=parts) for each in plan.setup(setup).stations]
        try:
            loaded = apply(plan, trade.structural(plan, library, memo, edits))
        except EditRefused:
            break
        told = evaluate(loaded, library, memo)
        stops = {
            each.id: each
            for each in reversed(told.findings)
            if each.severity == "stop" and each.key not in known
        }
        in_a_row = in_a_row + 1 if stops else 0
        found.append(_told(parts, loaded, setup, told, [*stops.values()]))
        found[-1]["cost"] = round(_an_hour(loaded, library, told) * told.batch_s / of, 4)
        if in_a_row == FULL:
            break
    for one, more in zip(found, found[1:], strict=False):
        each = (more["cycle_s"] - one["cycle_s"]) / (more["parts"] - one["parts"])
        more["one_less_s"] = round(max(0.0, each), 3)
    return found


def _told(
    parts: int, plan: Plan, setup: str, told: Evaluation, stops: list[Finding]
) -> dict[str, Any]:
    """``one_part_s`` is its share of cycles and loading, ``batch_part_s`` of the whole batch with
    building and proving; ``last`` are the parts of the last cycle, ``one_less_s`` what a position
    that is left out saves of one. ``cost`` is what the machines ask for a part of the batch, 0
    where nobody has said. ``stops`` is what would stop the plan that does not now.
    """
    result = next(each for each in told.setups if each.id == setup)
    full, rest = divmod(plan.quantity, max(result.parts, 1))
    return {
        "parts": parts,
        "cycle_s": round(result.cycle_s, 3),
        "one_part_s": round(told.one_part_s, 3),
        "batch_part_s": round(told.batch_s / plan.quantity, 3),
        "cycles": cycles(plan.setup(setup), plan.quantity),
        "last": rest or min(full, 1) * result.parts,
        "one_less_s": 0.0,
        "cost": 0.0,
        "stops": [plain_said(Said(each.message, each.values)) for each in stops],
        "edits": [
            Load(station=each.id, parts=parts).model_dump(mode="json")
            for each in plan.setup(setup).stations
        ],
    }


def _an_hour(plan: Plan, library: Library, told: Evaluation) -> float:
    """What the machines of its setups ask an hour, each by its share of the running; 0 where one
    of them has no price.
    """
    runs, asked = 0.0, 0.0
    for result in told.setups:
        machine = library.machines.get(plan.setup(result.id).machine)
        if machine is None or not machine.hourly_cost:
            return 0.0
        runs += (run := result.cycle_s * cycles(plan.setup(result.id), plan.quantity))
        asked += run * machine.hourly_cost
    return asked / runs if runs else 0.0
