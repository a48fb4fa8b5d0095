"""travel.column: what stands on the table, carried into the column or a door."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts.beside_spindle import Carried, carried_into
from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation
from .turned_holding import a_quarter, half_round

CALLED = {"part": "The part", "bed": "The vise"}


def column(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    room = facts.library.settings.side_margin_mm
    found = carried_into(op, op.before.memo, room)
    if found is None:
        return
    what, several = found.what, len(op.setup.stations) > 1
    where = " of position {other}" if what.station.planned.positions > 1 or several else ""
    where += " of station {station}" if several else ""
    at = " at position {here}" if op.station.planned.positions > 1 else ""
    yield of_operation(
        op,
        "travel.column",
        "stop",
        f"{CALLED.get(what.body, 'The ' + what.body)}{where} is carried into the {{obstacle}} while"
        f" it cuts{at}: {{over}} more than there is room, {{room}} of it kept free.",
        {
            "other": Shown(str(what.position + 1)),
            "station": Shown(str(op.setup.stations.index(what.station) + 1)),
            "here": Shown(str(found.position + 1)),
            "obstacle": Shown(found.obstacle.name),
            "over": length(found.over_mm),
            "room": length(room),
        },
        "",
        (*_away(op, found), *half_round(op), *a_quarter(op)),
    )


def _away(op: Ready, found: Carried) -> Iterator[Proposal]:
    """What is in its way carried so much from the obstacle; where it cuts itself only a turn
    helps, since the tool goes with it.
    """
    station, at = found.what.station, found.what.station.planned.at
    if at is None or station is op.station:
        return
    by = -float(ceil(found.over_mm)) if found.obstacle.towards[1] == "+" else ceil(found.over_mm)
    moved = at.moved(by, 0.0) if found.obstacle.towards[0] == "x" else at.moved(0.0, by)
    fields = {"at": moved.model_dump(mode="json")}
    yield Proposal(
        "Carry station {station} away from it",
        (Change(on=station.on, fields=fields),),
        {"station": Shown(str(op.setup.stations.index(station) + 1))},
    )
