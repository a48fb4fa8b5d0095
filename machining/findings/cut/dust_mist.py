"""cut.dust-mist: told once, at the first setup that cuts."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, SetupFacts
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

HAZARDS = {
    "dust": (
        "Its dust harms lungs and slideways: extraction on, doors shut, masks as the shop rules.",
        "Dust: extraction on, doors shut.",
    ),
    "fire": (
        (
            "Its chips and dust can burn: the shop's fire rules first, chips out, extinguisher for"
            " metal fires at hand."
        ),
        "Chips burn: metal-fire extinguisher at hand, chips out.",
    ),
    "fumes": ("It gives off fumes when hot: extraction on, sharp edges.", "Fumes: extraction on."),
}


def dust_mist(seen: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    if (
        facts.material is None
        or not seen.operations
        or any(other.operations for other in facts.setups if other.number < seen.number)
    ):
        return
    for hazard in facts.material.hazards:
        sentence, note = HAZARDS[hazard]
        if note in seen.planned.note:
            continue
        edit = Change(
            on=f"setup:{seen.planned.id}", fields={"note": f"{seen.planned.note} {note}".strip()}
        )
        yield Finding(
            "cut.dust-mist",
            "note",
            seen.planned.id,
            "",
            "{material}: " + sentence,
            {"material": Shown(facts.material.name)},
            "",
            (Proposal("Put it on the sheet", (edit,)),),
        )
