"""hold.over-torque: more at a vise's screw than its maker allows."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings.vise import held_in
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding


def over_torque(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    held = held_in(station)
    if held is None or held[0].torque_nm <= held[1].max_torque_nm:
        return
    holding, vise = held
    most = Shown(vise.max_torque_nm, "torque")
    yield Finding(
        "hold.over-torque",
        "stop",
        station.setup.id,
        "",
        "{torque} at the screw; {vise} takes {most}, and is reckoned with no more.",
        {"torque": Shown(holding.torque_nm, "torque"), "vise": Shown(vise.name), "most": most},
        "",
        (
            Proposal(
                "Tighten to {most}",
                (Change(on=station.on, fields={"holding.torque_nm": vise.max_torque_nm}),),
                {"most": most},
            ),
        ),
        station=station.id,
    )
