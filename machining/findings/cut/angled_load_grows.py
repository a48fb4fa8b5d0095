"""cut.angled-load-grows: a slanted edge in equal steps takes more with each of them."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import Undercut
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation


def angled_load_grows(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    if not isinstance(kind, Undercut) or kind.equal != "step" or kind.passes == 1:
        return
    yield of_operation(
        op,
        "cut.angled-load-grows",
        "look",
        "In {passes} equal steps the last takes {times} what the first does, with {flank} of edge"
        " in the cut.",
        {
            "passes": Shown(float(kind.passes), "count"),
            "times": Shown(2.0 * kind.passes - 1.0, "factor"),
            "flank": Shown(op.value("flank_in_cut") or 0.0, "length"),
        },
        "engaged_height",
        (
            Proposal(
                "Take the same load in each",
                (Change(on=f"operation:{kind.id}", fields={"equal": "load"}),),
                {},
            ),
        ),
    )
