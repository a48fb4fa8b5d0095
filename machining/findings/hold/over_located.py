"""hold.over-located: dowels that fight each other: a part never touches all of them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from machining.facts import hold
from machining.facts.context import PlanFacts, StationFacts
from machining.holding.contacts import Contact
from machining.plan.clamped import Clamped
from machining.plan.edit import Change, Keep
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

SAME = 1e-6
PINS = ("dowel ", "locator ")
ROOMY = "its locators have room for the largest part"


def over_located(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    held, contacts = station.planned.holding, hold.as_it_comes(station, facts)
    if not isinstance(held, Clamped) or contacts is None:
        return
    pins = {each.body: each for each in contacts.every if each.body.startswith(PINS)}
    if _stopped(pins.values(), contacts.length_mm) >= len(pins):
        return
    length, all_of_them = contacts.length_mm, _stopped(pins.values(), contacts.length_mm)
    without = [
        name
        for name in pins
        if _stopped((e for o, e in pins.items() if o != name), length) == all_of_them
    ]
    yield Finding(
        "hold.over-located",
        "look",
        station.setup.id,
        "",
        "{dowels} fight each other: a part as large as it may be does not go between them or"
        " touches only some.",
        {"dowels": Shown(", ".join(without).capitalize())},
        "",
        tuple(_taken_out(station, held, name) for name in without),
        station=station.id,
    )


def _stopped(pins: Iterable[Contact], length_mm: float) -> int:
    """How many motions in the plane they stop."""
    rows = [(each.normal[0], each.normal[1], _turn(each) / length_mm) for each in pins]
    return int(np.linalg.matrix_rank(np.array(rows), tol=SAME)) if rows else 0


def _turn(pin: Contact) -> float:
    return pin.at[0] * pin.normal[1] - pin.at[1] * pin.normal[0]


def _taken_out(station: StationFacts, held: Clamped, name: str) -> Proposal:
    if not name.startswith("dowel "):
        keep = Keep(on=station.on, finding="hold.over-located", words=ROOMY)
        return Proposal("Keep it: {words}", (keep,), {"words": Shown(ROOMY)})
    number = int(name.rpartition(" ")[2])
    dowels = [each.model_dump(mode="json") for k, each in enumerate(held.dowels, 1) if k != number]
    return Proposal(
        "Without {dowel}",
        (Change(on=station.on, fields={"holding.dowels": dowels}),),
        {"dowel": Shown(name)},
    )
