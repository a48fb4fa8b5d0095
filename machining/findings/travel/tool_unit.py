"""travel.tool-unit: a driven tool that is to stand along the spindle and across it."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.plan.edit import Change, LoadTool
from machining.plan.loading import loaded
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.tool import STANDS_STILL

from ..finding import Finding, of_operation
from ..tools import tool_name


def tool_unit(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Said of what is across: the unit that drives a tool has one direction."""
    if op.aimed is None or not op.station.turns:
        return
    same = [each for each in facts.operations() if each.loaded == op.loaded and _is_driven(each)]
    along = next((each for each in same if each.aimed is None), None)
    if along is None:
        return
    again = loaded(facts.plan, op.loaded.machine, op.kit.assembly, op.loaded.stick_out_mm)
    again = again.model_copy(update={"carrier": op.loaded.carrier})
    across = [each for each in same if each.aimed is not None]
    values = {
        "tool": tool_name(op),
        "number": Shown(str(along.number)),
        "setup": Shown(str(along.setup.number)),
    }
    fix = Proposal(
        "Load it once more, across the spindle, as {again}",
        (
            LoadTool(tool=again),
            *(Change(on=each.on, fields={"tool": again.id}) for each in across),
        ),
        {"again": Shown(f"T{again.number}")},
    )
    yield of_operation(
        op,
        "travel.tool-unit",
        "stop",
        "{tool} stands across the spindle here and along it for operation {number} of setup"
        " {setup}: what drives a tool in a turret has one direction.",
        values,
        "",
        (fix,),
    )


def _is_driven(op: OperationFacts) -> bool:
    return op.station.turns and op.kit is not None and op.kit.tool.kind not in STANDS_STILL
