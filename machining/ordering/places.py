"""What is done to one place in an order of its own: rough and finish, hole and thread, wall and
edge; and what nothing comes after.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import permutations

from machining.facts.context import OperationFacts, PlanFacts, StationFacts
from machining.facts.kinds import kind_of
from machining.findings.size.order import cuts_wall_under, makes_hole_for
from machining.findings.size.thread_before_turning import turns_under
from machining.findings.sizes import places_of
from machining.plan.operation import Chamfer, RoundEdge, Spot
from machining.plan.pockets import CutOut
from machining.plan.turned import PartOff, TurnThread

from .reason import Reason, because


def places(station: StationFacts, facts: PlanFacts) -> Iterator[Reason]:
    for first, then in permutations(station.operations, 2):
        if isinstance(then.operation, PartOff):
            text = "It parts off: nothing is cut on the part after it."
            yield because(first, then, "holding", text)
            continue
        text = _said(first, then)
        if text:
            yield because(first, then, "place", text)


def _said(first: OperationFacts, then: OperationFacts) -> str:
    a, b = kind_of(first.operation), kind_of(then.operation)
    shared = places_of(first) & places_of(then)
    if shared and b.finishes and a.roughs_walls:
        return "It finishes what operation {first} roughs."
    if shared and b.needs_hole and makes_hole_for(first, then):
        return "Operation {first} makes the hole for it."
    if shared and isinstance(first.operation, Spot) and b.makes_hole:
        return "Operation {first} spots where it goes in."
    if isinstance(then.operation, Chamfer | RoundEdge) and cuts_wall_under(then, first):
        return "Operation {first} cuts the wall under its edge, and would leave a burr on it."
    if shared and b.in_mouth and a.makes_hole and not isinstance(then.operation, Spot):
        return "Operation {first} makes the hole whose mouth it breaks, and would leave a burr."
    if isinstance(then.operation, TurnThread) and turns_under(first, then.operation):
        return "Operation {first} turns what it threads."
    return ""


def cut_out_last(station: StationFacts, facts: PlanFacts) -> Iterator[Reason]:
    """What cuts the part out of its plate leaves it on its tabs."""
    for first, then in permutations(station.operations, 2):
        if isinstance(then.operation, CutOut) and not isinstance(first.operation, CutOut):
            text = "It cuts the part free: operation {first} is cut while the plate still holds it."
            yield because(first, then, "holding", text)
