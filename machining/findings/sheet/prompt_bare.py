"""sheet.prompt-bare: a stop that doesn't say what to do at it."""

from __future__ import annotations

import re
from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.part import Requirement

from ..finding import Finding, keep, of_operation
from ..sizes import places_of

ID = "sheet.prompt-bare"
FEWEST_WORDS = 3
MEASURES = re.compile(r"measur|check|gauge|probe|size", re.IGNORECASE)


def prompt_bare(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    message = op.operation.stop_after
    if not message:
        return
    bare = len(message.split()) < FEWEST_WORDS
    sizeless = bool(MEASURES.search(message)) and not re.search(r"\d", message)
    if not bare and not sizeless:
        return
    asked = [each for each in facts.plan.part.requirements if each.feature in places_of(op)]
    yield of_operation(
        op,
        ID,
        "look",
        "The stop says “{message}”: not what has to be measured, nor what it should be."
        if sizeless
        else "The stop says “{message}”: not what has to be done there.",
        {"message": Shown(message)},
        "",
        (
            *(_says(op, each) for each in asked if each.nominal_mm is not None),
            keep(op, ID, "whoever runs it knows what is meant"),
        ),
    )


def _says(op: OperationFacts, asked: Requirement) -> Proposal:
    return Proposal(
        "Say: {words}",
        (Change(on=op.on, fields={"stop_after": in_full(asked)}),),
        {"words": Shown(in_full(asked))},
    )


def in_full(asked: Requirement) -> str:
    """What has to be measured, what it should be and with what, on one line (mm)."""
    band = f" {asked.upper_mm:+g}/{asked.lower_mm:+g}" if asked.band_mm else ""
    with_it = f", {asked.measured_with}" if asked.measured_with else ""
    return f"Measure: {asked.what} {asked.nominal_mm:g}{band} mm{with_it}"
