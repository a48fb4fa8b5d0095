"""hold.soft-jaw-gap: soft jaws that come to their end before they grip, or don't open for it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import chuck as chuck_in
from machining.facts.holdings import vise as vise_in
from machining.facts.holdings.chuck_bodies import bored
from machining.facts.holdings.soft_jaws import usual_left, usual_spacer
from machining.plan.edit import Change
from machining.plan.holding import InChuck
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.workholding import Chuck

from ..finding import Finding, Severity

ID = "hold.soft-jaw-gap"


@dataclass(frozen=True, slots=True)
class Gap:
    """What is wrong, how badly, the figure that tells, and the fields that would mend it."""

    text: str
    values: dict[str, Shown]
    fields: dict[str, float | None]
    severity: Severity = "stop"
    figure: str = ""


def soft_jaw_gap(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Of a chuck's bored jaws, and of the steps of a vise's."""
    found = _of_chuck(station, facts) or _of_vise(station)
    if found is None:
        return
    fixes: tuple[Proposal, ...] = ()
    if found.fields:
        changed = {f"holding.{name}": value for name, value in found.fields.items()}
        fixes = (_proposal(station, changed),)
    figure = station.figures[found.figure].id if found.figure else ""
    yield Finding(
        ID,
        found.severity,
        station.setup.id,
        "",
        found.text,
        found.values,
        figure,
        fixes,
        station=station.id,
    )


def _proposal(station: StationFacts, fields: dict[str, float | None]) -> Proposal:
    """Says the fields it sets."""
    said, values = [], {}
    for name, words in (
        ("bored_mm", "bore them to Ø{bored_mm}"),
        ("spacer_mm", "close them on Ø{spacer_mm} meanwhile"),
        ("left_mm", "with {left_mm} of their travel left"),
    ):
        value = fields.get(f"holding.{name}")
        if value is not None:
            said.append(words)
            values[name] = length(value)
    text = ", ".join(said)
    return Proposal(text[:1].upper() + text[1:], (Change(on=station.on, fields=fields),), values)


def _of_chuck(station: StationFacts, facts: PlanFacts) -> Gap | None:
    held = chuck_in.held_in(station)
    if held is None or not bored(*held):
        return None
    holding, chuck = held
    return (
        _no_spacer(holding, chuck)
        or _in_the_bore(holding)
        or _not_said(holding, chuck)
        or _at_its_end(station, holding, chuck, facts)
        or _not_open(station, chuck, facts)
    )


def _no_spacer(holding: InChuck, chuck: Chuck) -> Gap | None:
    spacer = usual_spacer(holding.bored_mm or 0.0, holding)
    if holding.spacer_mm is not None:
        return None
    return Gap(
        "The soft jaws are bored to Ø{bored} closed on nothing, at the end of their travel: they"
        " come there again before they grip the part, and without force they are bored askew.",
        {"bored": Shown(holding.bored_mm or 0.0, "size")},
        {"spacer_mm": spacer, "left_mm": usual_left(chuck)} if spacer is not None else {},
    )


def _in_the_bore(holding: InChuck) -> Gap | None:
    inside = holding.grips == "inside"
    bored_mm, spacer = holding.bored_mm or 0.0, holding.spacer_mm or 0.0
    if (spacer > bored_mm) if inside else (spacer < bored_mm):
        return None
    return Gap(
        "What the jaws are closed on while they are bored, Ø{spacer}, lies where they are bored to"
        " Ø{bored}: no step is left, and the tool runs into it.",
        {"spacer": length(spacer), "bored": Shown(bored_mm, "size")},
        {"spacer_mm": usual_spacer(bored_mm, holding)},
    )


def _not_said(holding: InChuck, chuck: Chuck) -> Gap | None:
    if chuck.jaw_travel_mm is None or holding.left_mm is not None:
        return None
    return Gap(
        "Nothing says how much of their {travel} of travel the jaws have left on the spacer:"
        " whether they close on the part is not checked.",
        {"travel": length(chuck.jaw_travel_mm)},
        {"left_mm": usual_left(chuck)},
        "look",
    )


def _at_its_end(
    station: StationFacts, holding: InChuck, chuck: Chuck, facts: PlanFacts
) -> Gap | None:
    least, close = facts.library.settings.travel_least_mm, station.figures.get("jaws_close")
    if close is None or close.value >= least:
        return None
    values = {
        "bored": Shown(holding.bored_mm or 0.0, "size"),
        "grips": Shown(station.stand.grips_at, "size"),
        "short": length(max(-close.value, 0.0)),
        "left": length(max(close.value, 0.0)),
        "least": length(least),
    }
    fits = round(station.stand.grips_at, 2)
    fields = {
        "bored_mm": fits,
        "spacer_mm": usual_spacer(fits, holding),
        "left_mm": usual_left(chuck),
    }
    if close.value < 0.0:
        return Gap(
            "Jaws bored to Ø{bored} come to the end of their travel {short} before they touch"
            " Ø{grips}: nothing is gripped.",
            values,
            fields,
            figure="jaws_close",
        )
    return Gap(
        "Closed on the part the jaws have {left} of their travel left, less than {least}: a part a"
        " little smaller is not gripped.",
        values,
        fields,
        "look",
        "jaws_close",
    )


def _not_open(station: StationFacts, chuck: Chuck, facts: PlanFacts) -> Gap | None:
    least, opens = facts.library.settings.opens_least_mm, station.figures.get("jaws_open")
    if opens is None or opens.value >= least:
        return None
    return Gap(
        "Opened, the jaws stand {opens} beside the part, less than {least}: it does not go in.",
        {"opens": length(max(opens.value, 0.0)), "least": length(least)},
        {"left_mm": usual_left(chuck)},
        figure="jaws_open",
    )


def _of_vise(station: StationFacts) -> Gap | None:
    """The steps cut into a vise's soft jaws meet under a part that is narrower than both."""
    held = vise_in.held_in(station)
    if held is None or held[1].jaws != "soft" or not held[1].step_mm:
        return None
    if station.stand.gripped is None or station.stand.wedge is not None:
        return None
    low, high = station.stand.gripped
    across = "xy".index(held[0].fixed[1])
    wide = float(high[across] - low[across])
    if wide > 2.0 * held[1].step_mm:
        return None
    return Gap(
        "The steps of the soft jaws, {step} each, meet under a part {wide} wide: the jaws close on"
        " each other before they grip it.",
        {"step": length(held[1].step_mm), "wide": length(wide)},
        {},
    )
