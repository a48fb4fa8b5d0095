"""cut.life, cut.only-one: what is on hand of a tool does not last the batch, or is not as many as
are loaded, or stays in a magazine. Told at the first operation with the tool.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from math import pi

from machining.cutting.data import constant
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.facts.lacking import Lacking, asked_of, inserts_lacking, lacking_of
from machining.facts.once import once
from machining.facts.standing import elsewhere
from machining.plan.edit import Change, Edit
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.machine import Machine
from machining.world.standing import StandingTool

from ..finding import Finding, keep, of_operation
from ..tools import instead

WORN = "{tool} lasts {life} in cut: {quantity} parts wear out {needed}, and {hand} are on hand."
ALIKE = "{tool} are one tool, {name}: {needed} are asked for, and {hand} is on hand."
IN_TURN = "{name} is loaded {places} times and {hand} is on hand: its machines take turns."
KEPT = "{name}: {hand} on hand, {needed} asked for here, and {places}, from where it has to come."
INSERTS = "{name}: {quantity} parts wear out {needed} inserts, and {hand} are on hand."
NONE = "None of {name} is on hand; {needed} is asked for."


def life(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    tool = op.tool
    if tool.on_hand is None or tool.is_made_first:
        return  # nobody says, or it is told as made to order
    using = _using(op, facts)
    if not using or using[0].id != op.id:
        return  # told once, where the tool is used first
    found = lacking_of(using, facts.plan.quantity)
    id = "cut.only-one" if tool.on_hand == 1 else "cut.life"
    inserts = inserts_lacking(using, facts.plan.quantity)
    if found is None and inserts is not None:
        words = keep(op, id, f"more inserts ordered: {inserts.more}")
        yield of_operation(
            op, id, "look", INSERTS, _of_inserts(inserts, facts), "edge_life", (words,)
        )
    elif found is None:
        yield from _in_turn(op, id, using)
        yield from _kept_elsewhere(op, id, using, facts)
    if found is None:
        return
    fixes = [*_slower(op, using, found), *_another(op, using, facts)]
    fixes.append(keep(op, id, f"{found.more} more ordered"))
    sentence, values = _said(using, found, facts)
    yield of_operation(op, id, "look", sentence, values, "edge_life", tuple(fixes))


def _using(op: Ready, facts: PlanFacts) -> list[Ready]:
    """All with its tool that are timed, in their order."""
    timed = once(facts, "timed by tool", lambda: _by_tool(facts))
    return timed.get(op.tool.key, [])


def _by_tool(facts: PlanFacts) -> dict[str, list[Ready]]:
    found = defaultdict[str, list[Ready]](list)
    for each in facts.ready():
        if each.time.total_s > 0:
            found[each.tool.key].append(each)
    return found


def _in_turn(op: Ready, id: str, using: list[Ready]) -> Iterator[Finding]:
    """Where there are as many as one machine asks for, and not as many as all of them."""
    places = {(each.loaded.machine, each.loaded.id) for each in using}
    if len({machine for machine, _ in places}) > 1 and len(places) > (op.tool.on_hand or 0):
        values = {
            "name": Shown(op.tool.name),
            "places": Shown(float(len(places)), "count"),
            "hand": Shown(float(op.tool.on_hand or 0), "count"),
        }
        yield Finding(id, "note", op.setup.id, op.id, IN_TURN, values)


def _of_inserts(found: Lacking, facts: PlanFacts) -> dict[str, Shown]:
    return {
        "name": Shown(found.tool.name),
        "needed": Shown(float(found.needed), "count"),
        "quantity": Shown(float(facts.plan.quantity), "count"),
        "hand": Shown(float(found.on_hand), "count"),
    }


def _kept_elsewhere(op: Ready, id: str, using: list[Ready], facts: PlanFacts) -> Iterator[Finding]:
    """Where there are enough, and some of those stay in a magazine for something else."""
    asked, kept = asked_of(using, facts.plan.quantity), elsewhere(op.tool.key, facts)
    if asked is None or asked.needed + len(kept) <= asked.on_hand:
        return
    values = {
        "name": Shown(op.tool.name),
        "needed": Shown(float(asked.needed), "count"),
        "hand": Shown(float(asked.on_hand), "count"),
        "places": Shown(" and ".join(_place(*each) for each in kept)),
    }
    yield Finding(id, "note", op.setup.id, op.id, KEPT, values, about="kept")


def _place(machine: Machine, kept: StandingTool) -> str:
    whose = f" for {kept.of}" if kept.of else ""
    return f"pocket {kept.pocket} of {machine.name} keeps one{whose}"


def _said(using: list[Ready], found: Lacking, facts: PlanFacts) -> tuple[str, dict[str, Shown]]:
    minutes = next((life for each in using if (life := each.value("edge_life"))), None)
    numbers = sorted({each.loaded.number for each in using})
    values = {
        "tool": Shown(", ".join(f"T{each}" for each in numbers)),
        "name": Shown(found.tool.name),
        "needed": Shown(float(found.needed), "count"),
        "quantity": Shown(float(facts.plan.quantity), "count"),
        "hand": Shown(float(found.on_hand), "count"),
    }
    if found.on_hand == 0:
        return NONE, values
    if minutes is None or found.worn <= found.on_hand:
        return ALIKE, values
    return WORN, values | {"life": Shown(minutes, "minutes")}


def _another(op: Ready, using: list[Ready], facts: PlanFacts) -> list[Proposal]:
    """Another one that suits, of which there is one, where it is used once."""
    return [] if len(using) > 1 else instead(op, facts, lambda other: other.on_hand != 0)


def _slower(op: Ready, using: list[Ready], found: Lacking) -> list[Proposal]:
    """For a tool used once the speed at which its edges last, none under the material's band. A
    slower cut takes longer too.
    """
    rpm, speed, tool = op.value("rpm"), op.value("cutting_speed"), op.tool
    if len(using) > 1 or rpm is None or speed is None or op.data is None:
        return []
    if not 0 < found.on_hand < found.worn:
        return []
    exponent = constant("taylor", tool.material)
    share = (found.worn / found.on_hand) ** -(exponent / (1.0 - exponent))
    on = f"operation:{op.operation.id}"
    if kind_of(op.operation).turned and op.operation.rpm is None:
        slower = float(int(speed * share))
        edit: Edit = Change(on=on, fields={"cutting_speed_m_min": slower})
        return (
            [
                Proposal(
                    "Turn at {speed}: the edges last",
                    (edit,),
                    {"speed": Shown(slower, "cutting_speed")},
                )
            ]
            if slower >= op.data.speed_low
            else []
        )
    turns = float(int(rpm * share / 10) * 10)
    if turns < 1000.0 * op.data.speed_low / (pi * tool.diameter_mm):
        return []
    return [
        Proposal(
            "Turn at {rpm}: the edge lasts",
            (Change(on=on, fields={"rpm": turns}),),
            {"rpm": Shown(turns, "spindle_speed")},
        )
    ]
