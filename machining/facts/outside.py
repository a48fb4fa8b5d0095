"""What was done to a part away from the machines before it comes into a station."""

from __future__ import annotations

from machining.plan.document import BLANK
from machining.plan.outside import OutsideStep
from machining.quantities.said import Said, Shown

from .context import PlanFacts, StationFacts
from .covered import words_for

WORDS = {
    "ground": "ground",
    "plated": "plated",
    "coated": "coated",
    "hardened": "hardened",
    "glued": "glued",
    "other": "worked on elsewhere",
}


def done_before(station: StationFacts, facts: PlanFacts) -> tuple[OutsideStep, ...]:
    """In the order of the plan, to the blank or after a station the part came through."""
    plan, through = facts.plan, {BLANK}
    takes = station.planned.takes
    while takes != BLANK:
        through.add(takes)
        takes = plan.station(takes).takes
    return tuple(each for each in plan.outside if each.after in through)


def just_before(station: StationFacts, facts: PlanFacts) -> tuple[OutsideStep, ...]:
    """Since the station it comes from."""
    return tuple(each for each in facts.plan.outside if each.after == station.planned.takes)


def just_after(station: StationFacts, facts: PlanFacts) -> tuple[OutsideStep, ...]:
    return tuple(each for each in facts.plan.outside if each.after == station.planned.id)


def where(step: OutsideStep, facts: PlanFacts) -> Said:
    """The places it is about, in words; all over where it names none."""
    found = [facts.geometry.feature(id) for id in step.features]
    said = [words_for(each) for each in found if each is not None]
    if not said:
        return Said("all over" if not step.features else "places that are gone")
    text, values = [], dict[str, Shown]()
    for k, each in enumerate(said):
        name = {key: f"{key}{k}" for key in each.values}
        text.append(each.text.format(**{key: f"{{{new}}}" for key, new in name.items()}))
        values |= {name[key]: value for key, value in each.values.items()}
    return Said(", ".join(text), values)
