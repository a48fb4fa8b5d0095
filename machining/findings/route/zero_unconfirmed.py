"""route.zero-unconfirmed: a zero that is to be where it is known to be, on a machine of whose table
nobody has said where it is.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.zero import LETTERS, place_said, the, ways_to_pick
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.plan.zero import AXES, PICKED
from machining.quantities.said import Shown, within
from machining.world.machine import Table

from ..finding import Finding


def zero_unconfirmed(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Nobody picks it up, and nobody can type it either."""
    table = station.place
    if not isinstance(table, Table) or table.middle is not None or station.machine is None:
        return
    zero = station.planned.zero
    for k, taken in enumerate(zero.taken):
        if ways_to_pick(k, taken)[0] != "known":
            continue
        said = place_said(k, taken, False, facts.geometry)
        place = within(said, "on_")
        yield Finding(
            "route.zero-unconfirmed",
            "stop",
            station.setup.id,
            "",
            f"Its zero’s {LETTERS[k]} is to be known from {the(place.text)} and not picked up, and"
            " nobody has said where the table of {machine} is: nothing says what to type.",
            {"machine": Shown(station.machine.name), **place.values},
            "",
            tuple(
                Proposal(
                    "Pick it up: {way}",
                    (Change(on=station.on, fields={f"zero.{AXES[k]}.by": by}),),
                    {"way": Shown(dict(PICKED)[by])},
                )
                for by in ways_to_pick(k, taken)[1:]
                if by != "known"
            ),
            station=station.id,
            about=AXES[k],
        )
