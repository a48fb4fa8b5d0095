"""travel.tilt: a machine that does not tilt, or not so far; a locked position that is to follow a
bend.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.tilted import lean_of
from machining.plan.edit import Change
from machining.plan.operation import Slope
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.capability import tilting, usual_rig

from ..elsewhere import on_machine
from ..finding import Finding, of_operation


def tilt(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, machine, tool = op.operation, op.machine, op.tool
    if not isinstance(kind, Slope) or kind.axes == "upright" or tool is None:
        return
    on = f"operation:{kind.id}"
    upright = Proposal(
        "Cut it upright, with a ball or a tool of its angle",
        (Change(on=on, fields={"axes": "upright"}),),
        {},
    )
    tables = tilting(op.rig)
    if tables is None:
        yield of_operation(
            op,
            "travel.tilt",
            "stop",
            "{machine} does not tilt its work"
            + (" about X and turn it about Z." if op.rig.place.turning else "."),
            {"machine": Shown(machine.name)},
            "",
            (upright, *_elsewhere(op, facts)),
        )
        return
    lean, tilts = lean_of(op), tables.tilt
    if not any(tilts.low_deg <= way <= tilts.high_deg for way in (lean, -lean)):
        yield of_operation(
            op,
            "travel.tilt",
            "stop",
            "It asks for a tilt of {tilt}; {machine} tilts from {low} to {high}.",
            {
                "tilt": Shown(abs(lean), "angle"),
                "machine": Shown(machine.name),
                "low": Shown(tilts.low_deg, "angle"),
                "high": Shown(tilts.high_deg, "angle"),
            },
            "lean",
            (upright,),
        )
    elif kind.axes == "locked" and op.seen.rounds:
        live = Proposal("Let the axes follow", (Change(on=on, fields={"axes": "live"}),))
        yield of_operation(
            op,
            "travel.tilt",
            "stop",
            "A locked position cuts straight edges; this one goes round a bend.",
            {},
            "lean",
            (live, upright),
        )


def _elsewhere(op: Ready, facts: PlanFacts) -> tuple[Proposal, ...]:
    """The setup on a machine that tilts."""
    for machine in facts.library.machines.values():
        if tilting(usual_rig(machine)) is not None:
            return (on_machine(op.setup, machine),)
    return ()
