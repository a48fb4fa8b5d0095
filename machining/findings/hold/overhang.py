"""hold.overhang: turned stock that stands out of its holding by many times its diameter."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.cutting.data import constant
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings import kind_of
from machining.facts.kinds import kind_of as kind_of_operation
from machining.plan.edit import Change, Keep
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding


def overhang(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Tailstock and steady are not worked out: a planner who has one keeps it with words."""
    top, held, item = station.stand.top, station.planned.holding, station.item
    turned = any(kind_of_operation(op.operation).turned for op in station.operations)
    if top is None or held is None or item is None or not turned:
        return
    across = float(station.lie.stock_high[0] - station.lie.stock_low[0])
    out, most = float(station.lie.stock_high[2]) - top, constant("turning", "overhang")
    if out <= most * across:
        return
    kind, on = kind_of(held), station.on
    wanted = ceil(2.0 * (kind.gripped_mm(held) + out - most * across)) / 2.0
    keep = Keep(on=on, finding="hold.overhang", words="turned between chuck and tailstock")
    fixes = [Proposal("Keep it: {words}", (keep,), {"words": Shown(keep.words)})]
    if wanted <= kind.longest_mm(item):
        deeper = Change(on=on, fields={f"holding.{kind.depth}": wanted})
        fixes.insert(0, Proposal("Grip {grip} deep", (deeper,), {"grip": length(wanted)}))
    yield Finding(
        "hold.overhang",
        "look",
        station.setup.id,
        "",
        "It stands out {out}, {times} its diameter of {across}; without a tailstock it bends and"
        " sings from {most}.",
        {
            "out": length(out),
            "times": Shown(out / across, "factor"),
            "across": length(across),
            "most": Shown(most, "factor"),
        },
        "",
        tuple(fixes),
    )
