"""cut.up-cut: a face cut both ways where the drawing asks for a finish."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import Face
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.feature import Flat

from ..finding import Finding, keep, of_operation


def up_cut(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    if (
        not isinstance(kind, Face)
        or kind.ways == "one"
        or kind.leave_mm > 0
        or (op.value("passes") or 1.0) < 2
    ):
        return
    up = op.station.planned.orientation.up
    asked = [
        r
        for r in facts.plan.part.requirements
        if r.finish_um is not None
        and isinstance(face := facts.geometry.feature(r.feature), Flat)
        and face.faces == up
    ]
    if not asked:
        return
    on = f"operation:{kind.id}"
    yield of_operation(
        op,
        "cut.up-cut",
        "look",
        "Cut both ways, every second pass goes against the feed and shows; {what} asks {finish}.",
        {"what": Shown(asked[0].what), "finish": Shown(asked[0].finish_um or 0.0, "roughness")},
        "passes",
        (
            Proposal("Cut it one way", (Change(on=on, fields={"ways": "one"}),)),
            keep(op, "cut.up-cut", "both ways: the finish was measured and holds"),
        ),
    )
