"""sheet.time-ideal: a time that leaves out what hands do."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import put_in
from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.once import once

from ..finding import Finding


def time_ideal(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Said once, of the first setup that is loaded by hand and counts nothing for it."""
    if facts.plan.quantity > 1 and once(facts, "by hand", lambda: _by_hand(facts)) is setup:
        yield Finding(
            "sheet.time-ideal",
            "look",
            setup.id,
            "",
            "The shop counts no time for loading and unloading: the time of a part is that of the"
            " machine alone.",
            {},
        )


def _by_hand(facts: PlanFacts) -> SetupFacts | None:
    return next(
        (
            each
            for each in facts.setups
            if each.operations and not _fed(each) and put_in.of_setup(each, facts) <= 0.0
        ),
        None,
    )


def _fed(setup: SetupFacts) -> bool:
    """Does a bar feeder bring the next part?"""
    return any(getattr(station.place, "bar_feed_s", 0.0) > 0 for station in setup.stations)
