"""size.no-reason: a finishing pass that nothing on the drawing asks for."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts
from machining.facts.kinds import kind_of
from machining.facts.left import Piece
from machining.plan.places import OnFeatures
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from ..sizes import places_of


def no_reason(facts: PlanFacts, left: list[Piece]) -> Iterator[Finding]:
    """Where the drawing's requirements are known at all. One that asks of the whole part asks of
    every place.
    """
    asked = facts.plan.part.requirements
    if not asked or any(not each.feature and each.finish_um for each in asked):
        return
    wanted = {each.feature for each in asked}
    for op in facts.ready():
        if (
            kind_of(op.operation).finishes
            and isinstance(op.operation.on, OnFeatures)
            and not wanted & places_of(op)
        ):
            yield of_operation(
                op,
                "size.no-reason",
                "note",
                "Nothing on the drawing asks for this finishing pass; it takes {time} a part.",
                {"time": Shown(op.time.total_s, "time")},
            )
