"""hold.soft-jaw-fit: soft jaws of which nobody says what they are bored to, or bored to another
size.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import chuck as chuck_in
from machining.facts.holdings.soft_jaws import as_bored, fit
from machining.plan.edit import Change
from machining.plan.holding import InChuck
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.workholding import Chuck

from ..finding import Finding

ID = "hold.soft-jaw-fit"
ENOUGH = 0.5  # of the jaws' width that bears


def soft_jaw_fit(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    held = chuck_in.held_in(station)
    if held is None or held[1].jaw_kind != "soft" or not station.stand.grips_at:
        return
    holding, chuck = held
    how = fit(station, holding, chuck)
    values = {"grips": Shown(station.stand.grips_at, "size")}
    if holding.bored_mm is None:
        text = (
            "Nothing says what the soft jaws are bored to: they are taken to touch Ø{grips} along a"
            " line each, as hard ones do."
        )
    elif how is None or how.share >= ENOUGH:
        return
    else:
        values |= {
            "bored": Shown(holding.bored_mm, "size"),
            "share": Shown(how.share, "percent"),
        }
        where = (
            "at their two edges alone"
            if how.at_edges
            else "with {share} of their width, in the middle"
        )
        text = f"Bored to Ø{{bored}}, the soft jaws touch Ø{{grips}} {where}."
    yield Finding(
        ID,
        "look",
        station.setup.id,
        "",
        text,
        values,
        "",
        tuple(_fixes(station, holding, chuck)),
        station=station.id,
    )


def _fixes(station: StationFacts, holding: InChuck, chuck: Chuck) -> Iterator[Proposal]:
    made = as_bored(holding, chuck, station)
    if made.bored_mm is None:
        return
    names = ("bored_mm", "spacer_mm", "left_mm", "grip_mm")
    fields = {
        f"holding.{name}": getattr(made, name)
        for name in names
        if getattr(made, name) != getattr(holding, name)
    }
    if not fields:
        return
    values = {"bored": Shown(made.bored_mm, "size"), "grip": length(made.grip_mm)}
    text = "Bore them to Ø{bored}, {grip} deep"
    if made.spacer_mm is not None:
        text += ", closed on a spacer of Ø{spacer}"
        values["spacer"] = length(made.spacer_mm)
    yield Proposal(text, (Change(on=station.on, fields=fields),), values)
