"""reach.not-in-this-setup: a feature that does not open towards the spindle."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import index
from machining.facts.context import OperationFacts, PlanFacts, StationFacts
from machining.facts.place import NotFromHere
from machining.plan.edit import Change, MoveOperation
from machining.plan.numbering import setup_numbers
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.ways.raising import raised
from machining.world.feature import Slanted
from machining.world.stock.base import SIDE_WORDS

from ..finding import Finding, of_operation


def _at(op: OperationFacts, station: StationFacts) -> Change:
    return Change(on=op.on, fields={"station": station.id})


def not_in_this_setup(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    problem = op.work_problem
    if not isinstance(problem, NotFromHere):
        return
    numbers, fixes = setup_numbers(facts.plan), []
    for station in facts.stations:
        other, up = station.setup, station.lie.up
        if other is op.setup and station is not op.station and up in problem.opens:
            fixes.append(Proposal("Cut it at its other station", (_at(op, station),)))
        if other is not op.setup and up in problem.opens:
            move = MoveOperation(
                operation=op.operation.id,
                setup=other.planned.id,
                index=len(other.planned.operations),
            )
            several = len(other.planned.stations) > 1
            edit = (move, _at(op, station)) if several else (move,)
            fixes.append(
                Proposal(
                    "Move it to setup {setup}",
                    edit,
                    {"setup": Shown(str(numbers[other.planned.id]))},
                )
            )
    if op.aimed is None and op.rig is not None and op.rig.turns_to_sides:
        for side in problem.opens:
            turned = Change(on=op.on, fields={"aim": side})
            words = {"side": Shown(SIDE_WORDS[side])}
            fixes.append(Proposal("Turn the part's {side} to the tool", (turned,), words))
    if problem.lean is not None:
        yield _slanted(op, problem.lean)
        return
    sides = {"+x": "right", "-x": "left", "+y": "back", "-y": "front", "+z": "top", "-z": "bottom"}
    from_where = " or ".join(f"the part's {sides[d]}" for d in problem.opens) or "no side"
    yield of_operation(
        op,
        "reach.not-in-this-setup",
        "stop",
        "What it cuts can't be seen from here; a tool can come from {where}.",
        {"where": Shown(from_where)},
        "",
        tuple(fixes),
    )


def _slanted(op: OperationFacts, feature: Slanted) -> Finding:
    """What is slanted: turned to it by the machine, or raised in its holding."""
    turned = Change(on=op.on, fields={"aim": feature.id})
    words = index.aim_words(op.station, feature.id)
    fixes = list(raised(feature, op.station)) if op.operation.aim is None else []
    if op.operation.aim is None and index.way_to(op.station, feature.id) is not None:
        name = {"what": Shown(words)}
        fixes.insert(0, Proposal("Turn the {what} to the tool", (turned,), name))
    return of_operation(
        op,
        "reach.not-in-this-setup",
        "stop",
        "It cuts the {what}, which does not look to the tool.",
        {"what": Shown(words)},
        "",
        tuple(fixes),
    )
