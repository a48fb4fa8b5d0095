"""travel.swing: what a table turns round, against the machine and against the tool over it."""

from __future__ import annotations

from collections.abc import Iterator
from math import floor

from machining.facts.context import PlanFacts, Ready, SetupFacts
from machining.facts.reach import cutting_length_needed
from machining.facts.swing import Swing, swings, turns_with
from machining.facts.travel import gauge
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.machine import Table

from ..finding import Finding, of_operation
from ..tools import tool_name


def goes_round(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """All that stands on a table, about each axis that turns it."""
    machine = setup.machine
    for table in machine.places if machine is not None else ():
        if not isinstance(table, Table):
            continue
        for each in swings(setup, table):
            yield from _round(setup, each)


def _round(setup: SetupFacts, swing: Swing) -> Iterator[Finding]:
    assert setup.machine is not None
    values = {
        "body": Shown(swing.body),
        "axis": Shown(swing.axis.name),
        "across": length(2.0 * swing.radius_mm),
        "machine": Shown(setup.machine.name),
        "most": length(swing.axis.swing_mm),
    }
    if not swing.axis.swing_mm:
        text = (
            "The {body} goes round on Ø {across} when {axis} turns; nobody has said how much goes"
            " round on {machine}."
        )
        yield Finding("travel.swing", "look", setup.id, "", text, values)
    elif 2.0 * swing.radius_mm > swing.axis.swing_mm:
        text = "The {body} goes round on Ø {across} when {axis} turns; {machine} has Ø {most}."
        yield Finding("travel.swing", "stop", setup.id, "", text, values)


def under_the_tool(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """With its tool drawn back as far as the machine goes."""
    table = op.rig.place
    if not isinstance(table, Table) or not turns_with(op):
        return
    room = facts.library.settings.retract_mm
    for swing in swings(op.setup, table):
        if swing.axis.about == "z":
            continue
        tip = table.nose_to_table_max_mm - gauge(op).value - swing.axis.above_mm
        short = swing.radius_mm + room - tip
        if short <= 1e-6:
            continue
        yield of_operation(
            op,
            "travel.swing",
            "stop",
            "When {axis} turns, the {body} goes round {radius} from it; drawn back, the tip of"
            " {tool} stands {tip} from it, and {room} are to stay free: {short} are missing.",
            {
                "axis": Shown(swing.axis.name),
                "body": Shown(swing.body),
                "radius": length(swing.radius_mm),
                "tool": tool_name(op),
                "tip": length(tip),
                "room": length(room),
                "short": length(short),
            },
            "",
            tuple(shorter(op, short)),
        )
        return


def shorter(op: Ready, by: float) -> Iterator[Proposal]:
    """A stick-out so much less, where it still reaches."""
    out = float(floor(op.loaded.stick_out_mm - by + 1e-6))
    if out >= max(op.value("stick_out_needed") or 0.0, cutting_length_needed(op), 1.0):
        yield Proposal(
            "Set stick-out to {shorter}",
            (Change(on=f"tool:{op.loaded.id}", fields={"stick_out_mm": out}),),
            {"shorter": length(out)},
        )
