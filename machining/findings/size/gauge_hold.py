"""size.gauge-hold: a close size that nobody measures before the part comes off."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.facts.size import drawn_as
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation
from ..sheet.prompt_bare import MEASURES
from ..sizes import drawn_of
from .uncovered import instrument_for

ID = "size.gauge-hold"


def gauge_hold(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Of passes whose size an offset decides; a reamer or a tap makes its own."""
    kind, each_way = kind_of(op.operation), drawn_of(op, facts)
    if not kind.finishes or kind.needs_hole or each_way is None:
        return
    if 2.0 * each_way > facts.library.settings.close_band_mm:
        return
    if MEASURES.search(op.operation.stop_after):
        return  # what the stop says has to be enough: sheet.prompt-bare
    if getattr(op.operation, "chain", 1) > 1:
        return  # it is measured and corrected on the way
    asked = next(
        (
            each
            for each in facts.plan.part.requirements
            if each.feature in drawn_as(op.operation.on, facts) and each.band_mm == 2.0 * each_way
        ),
        None,
    )
    words = "measured on the first part, then corrected by its offset"
    fixes = [keep(op, ID, words)]
    if asked is not None and asked.nominal_mm is not None:
        with_it = asked.measured_with or instrument_for(asked, facts)
        message = (
            f"Measure {asked.what} {asked.nominal_mm:g} {asked.upper_mm:+g}/{asked.lower_mm:+g} mm"
            f" with the {with_it}, correct, cut again"
        )
        stop = Change(on=op.on, fields={"stop_after": message[:200]})
        fixes.insert(0, Proposal("Stop: {message}", (stop,), {"message": Shown(message)}))
    yield of_operation(
        op,
        ID,
        "look",
        "{tolerance} each way, and nobody measures before the part comes off.",
        {"tolerance": Shown(each_way, "size")},
        "",
        tuple(fixes),
    )
