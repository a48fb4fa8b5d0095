"""size.face-not-yet-cut: a size measured from a face that is not there yet."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.quantities.said import length

from ..finding import Finding, of_operation
from ..tools import move_after


def face_not_yet_cut(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if not kind_of(op.operation).on_axis:
        return
    standing = op.seen.standing_mm
    if not isinstance(standing, float):
        return
    clears = [
        other
        for other in op.setup.operations
        if other.number > op.number and other.operation.kind in ("face", "rough_pocket")
    ]
    yield of_operation(
        op,
        "size.face-not-yet-cut",
        "look",
        "{standing} still stands over the hole: the tool starts in material that is cut away later,"
        " and depths are not yet true.",
        {"standing": length(standing)},
        "",
        (move_after(op, clears[-1]),) if clears else (),
    )
