"""hold.rest-in-cut, hold.no-centre: a cut where a steady stands, and a tailstock without a hole to
go into.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready, StationFacts
from machining.facts.holdings import rests
from machining.facts.kinds import kind_of
from machining.plan.edit import Change, Keep
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation

CLEARS = "the centre has a long point: tried beside the part"


def rest_in_cut(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Of a tool that turns along the outside, as wide as it is; the other side of the part is not
    looked at.
    """
    if not kind_of(op.operation).turned or rests.at_its_end(op.operation):
        return
    yield from _beside_centre(op, facts)
    for body in op.stand.of("steady"):
        margin = facts.library.settings.jaw_margin_mm + op.tool.shank_diameter_mm / 2.0
        cut = [
            float(z)
            for leg in op.path.legs
            if leg.kind != "rapid"
            for _, _, z in leg.points
            if body.bottom - margin < float(z) < body.top + margin
        ]
        if cut:
            yield of_operation(
                op,
                "hold.rest-in-cut",
                "stop",
                "It cuts from Z {low} to {high}, where the steady stands from {bottom} to {top}.",
                {
                    "low": length(min(cut)),
                    "high": length(max(cut)),
                    "bottom": length(body.bottom),
                    "top": length(body.top),
                },
                "",
                (),
            )


def _beside_centre(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """What is thinner than the centre behind it, as near to the end as its tool is thick: the point
    of a centre is slimmer than its body, by how much nobody says.
    """
    for body in op.stand.of("centre"):
        margin = facts.library.settings.jaw_margin_mm
        wide = float(body.region.bounds[2])
        near = [
            float(r)
            for leg in op.path.legs
            if leg.kind != "rapid"
            for r, _, z in leg.points
            if float(z) > body.bottom - op.tool.shank_diameter_mm / 2.0 - margin
            and float(r) < wide + margin
        ]
        if near:
            yield of_operation(
                op,
                "hold.rest-in-cut",
                "look",
                "At the free end it turns Ø{across}, and the centre is Ø{wide} behind its point:"
                " whether the tool clears it is not worked out.",
                {"across": length(2.0 * min(near)), "wide": length(2.0 * wide)},
                "",
                (Proposal("Keep it: {words}", (_clears(op),), {"words": Shown(CLEARS)}),),
            )


def _clears(op: Ready) -> Keep:
    return Keep(on=op.on, finding="hold.rest-in-cut", words=CLEARS)


def no_centre(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    held = station.planned.rested
    if held is None or held.tailstock_n is None or not station.stand.bodies:
        return
    may = [op for op in station.operations if not rests.at_its_end(op.operation)]
    if any(op.stand.of("centre") for op in may):
        return
    text = (
        "The tailstock is never in: nothing is turned along the outside here."
        if not may
        else "The tailstock is never in: the free end has no hole on its axis that its centre"
        " closes when something is turned along the outside."
    )
    out = Change(on=station.on, fields={"holding.tailstock_n": None})
    yield Finding(
        "hold.no-centre",
        "stop",
        station.setup.id,
        "",
        text,
        {},
        "",
        (Proposal("Leave the tailstock out", (out,)),),
        station=station.id,
    )
