"""size.drawing-uncovered: what the drawing asks for and no operation makes, or nobody measures."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from itertools import islice

from machining.facts.context import OperationFacts, PlanFacts, StationFacts
from machining.facts.hole_size import closer_than_drilled
from machining.facts.kinds import kind_of
from machining.facts.left import Piece
from machining.facts.size import drawn_as
from machining.plan.edit import SetPart
from machining.plan.operation import Drill, Operation, Spot
from machining.plan.proposal import Later, Proposal
from machining.plan.turned import TurnThread
from machining.quantities.said import Shown
from machining.ways.offers.there import offers_there
from machining.world.feature import Hole, Pocket
from machining.world.part import Requirement

from ..finding import Finding
from .threads_asked import thread_not_made

ID = "size.drawing-uncovered"
THREADED, TO_SIZE = frozenset({"tap", "mill_thread"}), frozenset({"ream", "bore", "mill_hole"})
MOST_FIXES = 4
# from which band on an instrument will do: about four times what it is uncertain by
INSTRUMENTS = ((0.12, "caliper"), (0.02, "micrometer"))
GAUGE_TO_MM = 40.0  # diameter up to which a hole is gauged with a plug


def uncovered(facts: PlanFacts, left: list[Piece]) -> Iterator[Finding]:
    """Of each requirement that an operation works on; what still stands is told elsewhere."""
    undone = {piece.name for piece in left}
    for asked in facts.plan.part.requirements:
        makers = [op for op in facts.operations() if works_on(op, asked, facts)]
        if not makers or asked.feature in undone:
            continue
        made = _not_made(asked, makers, facts)
        if made is not None:
            yield made
        elif not asked.measured_with and (asked.band_mm or asked.thread or asked.finish_um):
            yield _not_measured(asked, facts)


def works_on(op: OperationFacts, asked: Requirement, facts: PlanFacts) -> bool:
    """Does it cut what a requirement is of?"""
    if asked.thread and isinstance(op.operation, TurnThread):
        return True  # it says where along the axis, not in what
    return not asked.feature or asked.feature in drawn_as(op.operation.on, facts)


def _not_made(asked: Requirement, makers: list[OperationFacts], facts: PlanFacts) -> Finding | None:
    if asked.thread:
        return thread_not_made(
            asked, makers, facts, Later(partial(_made_by, asked, facts, THREADED))
        )
    hole = facts.geometry.feature(asked.feature) if asked.feature else None
    if (
        isinstance(hole, Hole)
        and closer_than_drilled(asked, hole.diameter_mm)
        and all(isinstance(op.operation, Drill | Spot) or _only_edges(op) for op in makers)
    ):
        return Finding(
            ID,
            "look",
            "",
            "",
            "{what} has a band of {band}, and only a drill makes it: it cuts wider than it is.",
            {"what": Shown(asked.what), "band": Shown(asked.band_mm, "size")},
            "",
            Later(partial(_made_by, asked, facts, TO_SIZE)),
            about=asked.id,
        )
    return None


def _made_by(asked: Requirement, facts: PlanFacts, kinds: frozenset[str]) -> Iterator[Proposal]:
    """What the shop's tools can do of these kinds, at the first station that reaches it."""

    def suits(operation: Operation, station: StationFacts) -> bool:
        return operation.kind in kinds and asked.feature in getattr(operation.on, "ids", ())

    yield from islice(offers_there(facts, suits), MOST_FIXES)


def _only_edges(op: OperationFacts) -> bool:
    kind = kind_of(op.operation)
    return not (kind.makes_hole or kind.finishes or kind.needs_hole)


def _not_measured(asked: Requirement, facts: PlanFacts) -> Finding:
    said = instrument_for(asked, facts)
    part = facts.plan.part
    requirements = tuple(
        each.model_copy(update={"measured_with": said}) if each is asked else each
        for each in part.requirements
    )
    return Finding(
        ID,
        "look",
        "",
        "",
        "Nothing says what {what} is measured with.",
        {"what": Shown(asked.what)},
        "",
        (
            Proposal(
                "With a {instrument}",
                (SetPart(part=part.model_copy(update={"requirements": requirements})),),
                {"instrument": Shown(said)},
            ),
        ),
        about=asked.id,
    )


def instrument_for(asked: Requirement, facts: PlanFacts) -> str:
    """What usually measures it, by what it is and how narrow its band is."""
    of = facts.geometry.feature(asked.feature) if asked.feature else None
    if asked.thread:
        return "thread gauge"
    if not asked.band_mm:
        return "roughness tester"
    if isinstance(of, Hole) and asked.is_near(of.diameter_mm):
        return "plug gauge" if of.diameter_mm <= GAUGE_TO_MM else "bore gauge"
    usual = next((name for band, name in INSTRUMENTS if asked.band_mm >= band), "comparator")
    deep = isinstance(of, Pocket) and asked.is_near(of.depth_mm)
    return f"depth {usual}" if deep else usual
