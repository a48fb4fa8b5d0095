"""hold.not-seated: clamps that lift or turn the part off what it lies on and against."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.held import left_over, untouched
from machining.facts.observed import Held
from machining.holding.located import moves
from machining.plan.clamped import Clamped
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from .firmer import deeper


def not_seated(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Told where it begins: at the first operation of a station that leaves it so."""
    found = op.seen.held.unseated if op.seen.held is not None else None
    if found is None or untouched(op):
        return
    own = [each for each in op.station.operations if isinstance(each, Ready)]
    before = own[: next(k for k, each in enumerate(own) if each.id == op.id)]
    if any(_unseated(each) and each.stand.on == op.stand.on for each in before):
        return
    does = moves(found.seat.left)
    yield of_operation(
        op,
        "hold.not-seated",
        "stop",
        "Clamped, {what} " + does.text + " off what it lies on and against: {left} of its clamps"
        " find no support without friction.",
        {
            "what": Shown(found.of or "the part"),
            "left": left_over(found.contacts, found.seat),
            **does.values,
        },
        "",
        (*_screwed_into_it(op, found), *deeper(op)),
    )


def _unseated(op: Ready) -> bool:
    return op.seen.held is not None and op.seen.held.unseated is not None


def _screwed_into_it(op: Ready, found: Held) -> Iterator[Proposal]:
    """Clamps whose reaction lifts what they stand beside, screwed into what the part lies on."""
    held = op.station.planned.holding
    if not found.of or not isinstance(held, Clamped):
        return
    clamps = [each.model_copy(update={"fixed_in": "base"}) for each in held.clamps]
    said = [each.model_dump(mode="json") for each in clamps]
    yield Proposal(
        "Screw its clamps into {base}",
        (Change(on=op.station.on, fields={"holding.clamps": said}),),
        {"base": Shown(found.of)},
    )
