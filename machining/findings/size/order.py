"""size.order: rough after finish, tap, ream or bore before the hole is drilled, an edge broken
before its wall is cut.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.facts.roughed import same_place
from machining.plan.operation import Chamfer, FinishWalls, RoundEdge
from machining.plan.places import Outside, Top
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..sizes import places_of
from ..tools import move_after


def order(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    kind, places = kind_of(op.operation), places_of(op)
    every = facts.operations()
    mine = every.index(op)
    later = every[mine + 1 :]
    if kind.finishes and places:
        rough = [
            other
            for other in later
            if kind_of(other.operation).roughs_walls and places_of(other) & places
        ]
        if rough:
            yield of_operation(
                op,
                "size.order",
                "stop",
                "It finishes what operation {later} roughs afterwards.",
                {"later": Shown(str(rough[-1].number))},
                "",
                (move_after(op, rough[-1]),),
            )
            return
    if kind.needs_hole and places:
        before = {
            name for other in every[:mine] if makes_hole_for(other, op) for name in places_of(other)
        }
        missing = places - before
        if missing:
            after = [
                other for other in later if makes_hole_for(other, op) and places_of(other) & missing
            ]
            yield of_operation(
                op,
                "size.order",
                "stop",
                "{count} of {all} holes are {done} before they are drilled.",
                {
                    "count": Shown(float(len(missing)), "count"),
                    "all": Shown(float(len(places)), "count"),
                    "done": Shown(kind.needs_hole),
                },
                "",
                (move_after(op, after[-1]),) if after else (),
            )


def edge_before_wall(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Its size stays right, but the wall's cut raises a burr on the edge that was clean."""
    if not isinstance(op.operation, Chamfer | RoundEdge):
        return
    after = (each for each in op.setup.operations if each.number > op.number)
    walls = [each for each in after if cuts_wall_under(op, each)]
    if walls:
        yield of_operation(
            op,
            "size.order",
            "look",
            "Operation {later} cuts the wall under this edge afterwards, and a burr is on it"
            " again.",
            {"later": Shown(str(walls[-1].number))},
            "",
            (move_after(op, walls[-1]),),
        )


def cuts_wall_under(op: OperationFacts, other: OperationFacts) -> bool:
    """Does another one cut the wall under the edge that an operation breaks?"""
    kind, on = kind_of(other.operation), other.operation.on
    if other.station.id != op.station.id or not (
        kind.roughs_walls or isinstance(other.operation, FinishWalls)
    ):
        return False
    if isinstance(op.operation.on, Top):
        return isinstance(on, Outside)
    return same_place(on, op.operation.on)


def makes_hole_for(other: OperationFacts, op: OperationFacts) -> bool:
    """Does another one make a hole for it? One of the same kind does not open what it widens."""
    return kind_of(other.operation).makes_hole and other.operation.kind != op.operation.kind
