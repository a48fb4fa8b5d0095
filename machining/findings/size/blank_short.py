"""size.blank-short: the part does not come out of its blank."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.blank import blank_of
from machining.facts.context import PlanFacts, StationFacts
from machining.plan.edit import SetStock
from machining.plan.proposal import Proposal
from machining.quantities.errors import MachiningError
from machining.quantities.said import Shown, length
from machining.ways.blank import stock_of
from machining.world.stock import FORMS
from machining.world.stock.base import SIDE_WORDS

from ..finding import Finding


def blank_short(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Said of the first station, where the blank is loaded."""
    lacking = facts.blank.lacking
    if lacking is None or station.number > 1:
        return
    yield Finding(
        "size.blank-short",
        "stop",
        station.setup.id,
        "",
        "The part stands {by} out of the blank, most on its {side}: metal is missing there.",
        {"by": length(lacking.by_mm), "side": Shown(SIDE_WORDS[lacking.side])},
        "",
        tuple(_large_enough(facts)),
    )


def _large_enough(facts: PlanFacts) -> Iterator[Proposal]:
    """The smallest of its form that the part comes out of, and a sawn block."""
    library, memo = facts.library, facts.blank.state.memo
    for form in dict.fromkeys((facts.plan.stock.form, "block")):
        try:
            stock = stock_of(form, facts.plan, facts.geometry, library)
            plan = facts.plan.model_copy(update={"stock": stock})
            short = blank_of(plan, facts.geometry, library, memo).lacking
        except MachiningError:
            continue
        if short is None:
            words = stock.words(facts.geometry.size, library.geometries)
            yield Proposal(
                f"Cut it from {FORMS[form].NAME} {words.text}",
                (SetStock(stock=stock),),
                words.values,
            )
