"""hold.parallels: a grip that asks for parallels the vise does not have."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import parallels
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings.vise import held_in, parallels_under
from machining.plan.edit import Change, Keep
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding


def no_such_parallels(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    height, held = parallels_under(station), held_in(station)
    if height is None or held is None or parallels.owned(held[1], height):
        return
    vise = held[1]
    grip, on = vise.jaw_height_mm - height, station.on
    there = parallels.grips(vise)
    near = [*[g for g in there if g < grip][-1:], *[g for g in there if g > grip][:1]]
    fixes = [
        Proposal(
            (
                "Grip {grip}, on parallels {height} high"
                if vise.jaw_height_mm - each > parallels.SAME_MM
                else "Grip {grip}, on the bed"
            ),
            (Change(on=on, fields={"holding.grip_depth_mm": each}),),
            {"grip": length(each), "height": length(vise.jaw_height_mm - each)},
        )
        for each in near
        if each >= facts.library.settings.grip_least_mm
    ]
    make = Keep(on=on, finding="hold.parallels", words="parallels of that height are made for it")
    fixes.append(Proposal("Keep it: {words}", (make,), {"words": Shown(make.words)}))
    nearest = {
        name: length(each)
        for name, each in zip(("lower", "higher"), parallels.nearest(vise, height), strict=True)
        if each is not None
    }
    has = {
        0: "the vise has none",
        1: "the nearest the vise has are {" + next(iter(nearest), "") + "} high",
        2: "the nearest the vise has are {lower} and {higher} high",
    }[len(nearest)]
    yield Finding(
        "hold.parallels",
        "look",
        station.setup.id,
        "",
        "It would stand on parallels {height} high; " + has + ".",
        {"height": length(height), **nearest},
        "",
        tuple(fixes),
    )
