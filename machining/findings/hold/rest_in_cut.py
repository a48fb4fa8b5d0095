"""hold.rest-in-cut, hold.no-centre: a cut where a steady stands, and a tailstock without a hole to
go into.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready, StationFacts
from machining.facts.holdings import rests
from machining.facts.kinds import kind_of
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import length

from ..finding import Finding, of_operation


def rest_in_cut(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Of a tool that turns along the outside, as wide as it is; the other side of the part is not
    looked at.
    """
    if not kind_of(op.operation).turned or rests.at_its_end(op.operation):
        return
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
