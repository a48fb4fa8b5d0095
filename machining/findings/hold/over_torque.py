"""hold.over-torque: more at a screw than its maker allows."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.holdings.clamped import clamps_of
from machining.facts.holdings.vise import held_in
from machining.plan.clamped import Clamped
from machining.plan.edit import Change, Edit
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.gear import Gear

from ..finding import Finding


@dataclass(frozen=True, slots=True)
class Screw:
    """``torque`` and what it takes (N·m), and the edit that tightens it to that."""

    name: str
    torque: float
    most: float
    edit: Edit
    about: str = ""


def over_torque(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    for screw in _screws(station):
        if screw.torque <= screw.most:
            continue
        most = Shown(screw.most, "torque")
        yield Finding(
            "hold.over-torque",
            "stop",
            station.setup.id,
            "",
            "{torque} at the screw; {what} takes {most}, and is reckoned with no more.",
            {"torque": Shown(screw.torque, "torque"), "what": Shown(screw.name), "most": most},
            "",
            (Proposal("Tighten to {most}", (screw.edit,), {"most": most}),),
            station=station.id,
            about=screw.about,
        )


def _screws(station: StationFacts) -> Iterator[Screw]:
    """Of the vise, or of each clamp and the vise under them."""
    in_vise, on = held_in(station), station.on
    if in_vise is not None:
        holding, vise = in_vise
        edit = Change(on=on, fields={"holding.torque_nm": vise.max_torque_nm})
        yield Screw(vise.name, holding.torque_nm, vise.max_torque_nm, edit)
    held, gear = station.planned.holding, station.item
    if not isinstance(held, Clamped) or not isinstance(gear, Gear):
        return
    for k, clamp, item, _ in clamps_of(station):
        most = item.max_torque_nm
        clamps = [each.model_dump(mode="json") for each in held.clamps]
        clamps[k - 1]["torque_nm"] = most
        edit = Change(on=on, fields={"holding.clamps": clamps})
        yield Screw(f"clamp {k}, {item.name},", clamp.torque_nm, most, edit, clamp.id)
    if held.vise is not None and gear.vise is not None:
        most = gear.vise.max_torque_nm
        edit = Change(on=on, fields={"holding.vise.torque_nm": most})
        yield Screw(gear.vise.name, held.vise.torque_nm, most, edit, "vise")
