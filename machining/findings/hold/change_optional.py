"""hold.change-optional: a change of clamps left to words, or one that can't be done as planned."""

from __future__ import annotations

import re
from collections.abc import Iterator

from machining.facts.clamp_change import Changed, change_after
from machining.facts.context import OperationFacts, PlanFacts
from machining.plan.clamped import Clamped
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation

ID = "hold.change-optional"
MOVES_CLAMPS = re.compile(r"\b(re-?clamps?|clamps?|straps?|toe clamps?)\b", re.IGNORECASE)
KEPT = "clamps are only looked at there"


def change_optional(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    planned, change = op.operation.clamps_after, change_after(op)
    if planned is None:
        yield from _in_words(op)
        return
    if not isinstance(op.station.planned.holding, Clamped):
        told = "Clamps change after it, and nothing here is held by clamps."
        yield of_operation(op, ID, "stop", told, {}, "", (_without(op),))
    elif change is not None and (change.unknown or not change.many):
        yield _cannot_be_done(op, change)


def _in_words(op: OperationFacts) -> Iterator[Finding]:
    message = op.operation.stop_after
    if not MOVES_CLAMPS.search(message):
        return
    yield of_operation(
        op,
        ID,
        "look",
        "The stop says “{message}”: what holds the part after that is not worked out, since no"
        " change of clamps is planned.",
        {"message": Shown(message)},
        "",
        (keep(op, ID, KEPT),),
    )


def _cannot_be_done(op: OperationFacts, change: Changed) -> Finding:
    what = ", ".join(change.unknown)
    text = (
        "The change of clamps after it names {what}, which is not there."
        if change.unknown
        else "The change of clamps after it changes nothing: they are on, or off, already."
    )
    return of_operation(op, ID, "stop", text, {"what": Shown(what)}, "", (_without(op),))


def _without(op: OperationFacts) -> Proposal:
    return Proposal(
        "Leave the clamps as they are", (Change(on=op.on, fields={"clamps_after": None}),)
    )
