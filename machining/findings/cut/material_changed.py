"""cut.material-changed: speed and feed typed for another material than the plan's."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.base import FEED_TYPED, SPEED_TYPED
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.ways.anew import proven_elsewhere, set_anew

from ..finding import Finding, of_operation

MOST_SHOWN = 8


def _all_anew(op: Ready, facts: PlanFacts) -> Iterator[Proposal]:
    """All operations that change, in one go; said with the first that was proven elsewhere."""
    first = next((each for each in facts.ready() if proven_elsewhere(each, facts)), None)
    found = set_anew(facts) if first is not None and first.id == op.id else []
    if len(found) < 2:
        return
    shown = [
        f"{each.op.number} in setup {each.op.setup.number}: {', '.join(each.words)}"
        for each in found[:MOST_SHOWN]
    ]
    more = f" and {len(found) - MOST_SHOWN} more" if len(found) > MOST_SHOWN else ""
    values = {name: value for each in found[:MOST_SHOWN] for name, value in each.values.items()}
    yield Proposal(
        f"Set all anew for {{now}}: {'; '.join(shown)}{more}",
        tuple(each.edit() for each in found),
        values,
    )


def material_changed(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    typed = [name for name in (*SPEED_TYPED, *FEED_TYPED) if getattr(kind, name, None) is not None]
    if (
        not kind.proven_in
        or kind.proven_in == facts.plan.material
        or facts.material is None
        or not typed
    ):
        return
    before, on = facts.library.materials.get(kind.proven_in), f"operation:{kind.id}"
    yield of_operation(
        op,
        "cut.material-changed",
        "look",
        "Its speed and feed were set for {before}; the part is of {now}. Look at feeds, pecks and"
        " sizes again.",
        {
            "before": Shown(before.name if before else kind.proven_in),
            "now": Shown(facts.material.name),
        },
        "cutting_speed",
        (
            *_all_anew(op, facts),
            Proposal("Follow the material's data", (Change(on=on, fields=dict.fromkeys(typed)),)),
            Proposal(
                "Keep them here too",
                (Change(on=on, fields={"proven_in": facts.plan.material}),),
                {},
            ),
        ),
    )
