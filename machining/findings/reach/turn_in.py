"""reach.turn-in: a finish that goes straight down at its wall and turns along it, where the drawing
asks something of that wall.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.size import drawn_as
from machining.plan.edit import Change
from machining.plan.operation import FinishWalls
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.feature import Pocket
from machining.world.part import Requirement

from ..finding import Finding, keep, of_operation

ID = "reach.turn-in"
WORDS = {"arc": "on an arc", "angle": "at 45°"}


def turn_in(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    if not isinstance(kind, FinishWalls) or not _starts_on_its_wall(op):
        return
    asked = next((each for each in facts.plan.part.requirements if _of_wall(each, op, facts)), None)
    if asked is None:
        return
    ways = [way for way in WORDS if way != kind.lead] if kind.lead == "straight" else []
    fixes = [
        Proposal(
            "Come in {how}",
            (Change(on=op.on, fields={"lead": way}),),
            {"how": Shown(WORDS[way])},
        )
        for way in ways
    ]
    yield of_operation(
        op,
        ID,
        "look",
        "It goes straight down at its wall and turns along it: it leaves a mark there, and {what}"
        " is asked of that wall.",
        {"what": Shown(asked.what)},
        "",
        (*fixes, keep(op, ID, "the mark is where the drawing allows it")),
    )


def _of_wall(asked: Requirement, op: Ready, facts: PlanFacts) -> bool:
    """Is it a size or a roughness of what it cuts? How deep a pocket is its floor says."""
    of = facts.geometry.feature(asked.feature) if asked.feature else None
    if isinstance(of, Pocket) and asked.finish_um is None and asked.is_near(of.depth_mm):
        return False
    tight = asked.finish_um is not None or asked.band_mm > 0.0
    return bool(asked.feature) and tight and asked.feature in drawn_as(op.operation.on, facts)


def _starts_on_its_wall(op: Ready) -> bool:
    """Does its tool go down where it ends a round of its wall? One that has a way in is clear."""
    legs = op.path.legs
    for down, then in zip(legs, legs[1:], strict=False):
        if down.kind == "plunge" and then.kind == "cut" and len(then.points) > 2:
            ring = then.points
            if abs(ring[0] - ring[-1]).max() < 1e-6:
                return True
    return False
