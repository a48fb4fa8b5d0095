"""hold.jaw-in-cut: an edge that comes closer to a jaw than the shop allows."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings import kind_of
from machining.plan.edit import Change
from machining.plan.places import Outside
from machining.plan.proposal import Proposal
from machining.quantities.said import length

from ..finding import Finding, of_operation

CLAMPS = ("clamp", "heel", "dowel")  # rules of their own


def jaw_in_cut(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    found, holding = op.seen.in_holding, op.station.planned.holding
    if found is None or holding is None or found.role in CLAMPS:
        return
    deep = found.deep_mm
    fixes = []
    on = op.operation.on
    if isinstance(on, Outside) and on.depth_mm > deep:
        shallower = int((on.depth_mm - deep) * 10) / 10
        fixes.append(
            Proposal(
                "Cut {depth} deep",
                (Change(on=f"operation:{op.operation.id}", fields={"on.depth_mm": shallower}),),
                {"depth": length(shallower)},
            )
        )
    kind, aimed = kind_of(holding), op.aimed is not None
    called = "what holds the part" if aimed else f"the {kind.called}"
    has = kind.gripped_mm(holding)
    lower = int((has - deep) * 10) / 10
    lower = kind.shallower(op.station.item, lower)
    if lower >= facts.library.settings.grip_least_mm:
        fixes.append(
            Proposal(
                "Grip {grip} deep",
                (Change(on=op.station.on, fields={f"holding.{kind.depth}": lower}),),
                {"grip": length(lower)},
            )
        )
    yield of_operation(
        op,
        "hold.jaw-in-cut",
        "stop",
        f"The cutter comes {{deep}} too low for {called}; it must stay {{margin}} above "
        + ("them." if kind.called == "jaws" and not aimed else "it."),
        {"deep": length(deep), "margin": length(facts.library.settings.jaw_margin_mm)},
        "",
        tuple(fixes),
    )
