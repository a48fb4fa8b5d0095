"""route.tilted-plane: a side that the head tilts to, and a control that doesn't turn X, Y and Z of
the program with it.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import head, index
from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.machine import Table

from ..elsewhere import on_machine
from ..finding import Finding, of_operation


def tilted_plane(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    tilt, aim = head.tilt_of(op), op.operation.aim
    if tilt is None or aim is None or op.machine.tilted_plane:
        return
    axis, deg = tilt
    yield of_operation(
        op,
        "route.tilted-plane",
        "stop",
        "The part’s {side} is cut with the head at {index}: X, Y and Z of its program lie askew"
        " then, and the control of {machine} does not turn them with its head.",
        {
            "side": Shown(index.aim_words(op.station, aim)),
            "index": Shown(index.words({axis.name: deg})),
            "machine": Shown(op.machine.name),
        },
        "",
        (
            Proposal("Cut it from the side that is up", (Change(on=op.on, fields={"aim": None}),)),
            *_where_the_table_turns(op, facts),
        ),
    )


def _where_the_table_turns(op: Ready, facts: PlanFacts) -> Iterator[Proposal]:
    """The first machine whose table brings the side to an upright tool, or whose control turns its
    plane.
    """
    for machine in facts.library.machines.values():
        table = machine.places[0]
        found = index.way(table, index.side_of(op)) if isinstance(table, Table) else None
        if found is not None and (found.of_head is None or machine.tilted_plane):
            yield on_machine(op.setup, machine)
            return
