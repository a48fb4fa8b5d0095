"""hold.first-run: what was built for a part and has not held one yet as it is planned now."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import requirement
from machining.facts.context import PlanFacts, StationFacts
from machining.plan.document import Ran
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

CARE = " The first part at reduced feed, a hand at the stop; check what holds it again after that."
SAYS = {
    "never": "Nobody says that this holding has held a part: {asked} is asked for, not {usual}."
    + CARE,
    "otherwise": "This holding has run, but not as it is planned now: {asked} is asked for, not"
    " {usual}." + CARE,
    "ran": "This holding has run when it stood {before} at its weakest; now that is {now}: {asked}"
    " is asked for, not {usual}." + CARE,
}


def first_run(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    settings, least = facts.library.settings, requirement.least(station)
    if least is None or not requirement.is_first(station, least):
        return
    ran, how = station.planned.ran, requirement.state(station)
    values = {
        "asked": Shown(max(settings.first_run_factor, settings.holding_factor), "factor"),
        "usual": Shown(settings.holding_factor, "factor"),
        "now": Shown(least, "factor"),
        "before": Shown(ran.factor if ran is not None else 0.0, "factor"),
    }
    yield Finding(
        "hold.first-run",
        "note",
        station.setup.id,
        "",
        SAYS[how],
        values,
        "",
        tuple(_has_run(station, least) if least >= settings.holding_factor else ()),
        station=station.id,
    )


def _has_run(station: StationFacts, least: float) -> Iterator[Proposal]:
    """Not of what would slip: that has not held a part."""
    fresh = Ran(holding=requirement.told(station), factor=round(least, 3))
    change = Change(on=station.on, fields={"ran": fresh.model_dump(mode="json")})
    yield Proposal("It has held parts as it is planned here", (change,))
