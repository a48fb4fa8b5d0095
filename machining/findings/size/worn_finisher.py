"""size.worn-finisher: the tool that roughs also finishes a close tolerance."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.plan.edit import Change, LoadTool
from machining.plan.loading import loaded as load
from machining.plan.operation import FinishWalls
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnFinish
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..sizes import drawn_of


def worn_finisher(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    each_way = drawn_of(op, facts)
    if (
        not isinstance(op.operation, FinishWalls | TurnFinish)
        or each_way is None
        or 2.0 * each_way > facts.library.settings.close_band_mm
    ):
        return
    roughs = [
        other
        for other in facts.operations()
        if kind_of(other.operation).roughs_walls
        and other.loaded is not None
        and other.loaded.id == op.loaded.id
    ]
    if not roughs:
        return
    new = load(
        facts.plan,
        op.loaded.machine,
        facts.library.assemblies[op.loaded.assembly],
        op.loaded.stick_out_mm,
        facts.library.standing(op.loaded.machine),
    )
    edits = (LoadTool(tool=new), Change(on=f"operation:{op.operation.id}", fields={"tool": new.id}))
    yield of_operation(
        op,
        "size.worn-finisher",
        "look",
        "T{number} also roughs (operation {rough}) and finishes a band of {band} with what is left"
        " of its edge.",
        {
            "number": Shown(str(op.loaded.number)),
            "rough": Shown(str(roughs[0].number)),
            "band": Shown(2.0 * each_way, "size"),
        },
        "",
        (Proposal("Load its twin as T{number}", edits, {"number": Shown(str(new.number))}),),
    )
