"""hold.none-chosen: a setup that nothing holds yet."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.holdings import KINDS
from machining.plan.edit import RemoveSetup
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

NO_VISE = ", and no vise of the library opens far enough"
NO_CHUCK = ", and no chuck of the library closes on it"


def none_chosen(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    if setup.planned.holding is not None or not setup.operations:
        return
    turns = setup.machine is not None and setup.machine.kind == "lathe"
    none, numbered = NO_CHUCK if turns else NO_VISE, {"setup": Shown(str(setup.number))}
    fixes = [
        each for kind in KINDS.values() if kind.turns == turns for each in kind.offers(setup, facts)
    ]
    words = "Nothing says how the part is held in setup {setup}"
    if not fixes:
        gone = RemoveSetup(setup=setup.planned.id)
        fixes = [Proposal("Take setup {setup} out", (gone,), numbered)]
        words += none
    yield Finding(
        "hold.none-chosen",
        "look",
        setup.planned.id,
        "",
        words + ".",
        numbered,
        "",
        tuple(fixes[:3]),
    )
