"""hold.overhang: a turned part that nothing carries for many times its diameter."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.cutting.data import constant
from machining.facts.context import PlanFacts, Ready, StationFacts
from machining.facts.holdings import kind_of
from machining.facts.kinds import kind_of as kind_of_operation
from machining.facts.shaft import Free, free_of
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.ways.carried import tailstock

from ..finding import Finding


def overhang(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Once a station, where it is worst: out of what grips it, or between two rests."""
    held, item = station.planned.holding, station.item
    if held is None or item is None:
        return
    turned = [
        op
        for op in station.operations
        if isinstance(op, Ready) and kind_of_operation(op.operation).turned
    ]
    over = [(op, free) for op in turned for free in free_of(op) if _share(free) > 1.0]
    if not over:
        return
    op, free = max(over, key=lambda each: _share(each[1]))
    text = (
        "Between two rests it is {out} long, {times} its mean diameter of {across} by then; it"
        " bends and sings from {most}."
        if free.between
        else "It stands out {out}, {times} its mean diameter of {across} by then; without a"
        " tailstock it bends and sings from {most}."
    )
    yield Finding(
        "hold.overhang",
        "look",
        station.setup.id,
        "",
        text,
        {
            "out": length(free.long),
            "times": Shown(free.long / free.across, "factor"),
            "across": length(free.across),
            "most": Shown(_most(free), "factor"),
        },
        "",
        (*_deeper(station, free), *tailstock(op)),
        station=station.id,
    )


def _most(free: Free) -> float:
    return constant("turning", "between" if free.between else "overhang")


def _share(free: Free) -> float:
    """Of what is let stand."""
    return free.long / (_most(free) * free.across) if free.across > 0.0 else 0.0


def _deeper(station: StationFacts, free: Free) -> Iterator[Proposal]:
    held, item = station.planned.holding, station.item
    if held is None or item is None or free.between:
        return
    kind = kind_of(held)
    wanted = ceil(2.0 * (kind.gripped_mm(held) + free.long - _most(free) * free.across)) / 2.0
    if wanted <= kind.longest_mm(item):
        deeper = Change(on=station.on, fields={f"holding.{kind.depth}": wanted})
        yield Proposal("Grip {grip} deep", (deeper,), {"grip": length(wanted)})
