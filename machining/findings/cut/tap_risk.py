"""cut.tap-risk: a blind hole, deep or in what tears."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change, Keep
from machining.plan.places import OnFeatures
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.feature import Hole

from ..finding import Finding, of_operation

DEEP_TAP = 2.0
LOOK_DOWN = "Look down every thread: no chip, no broken tooth."


def tap_risk(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if op.operation.kind != "tap" or facts.material is None:
        return
    places = op.operation.on.ids if isinstance(op.operation.on, OnFeatures) else ()
    blind = any(
        isinstance(hole, Hole) and not hole.through
        for hole in (facts.geometry.feature(id) for id in places)
    )
    times, tears = (
        op.work.hole_depth / op.tool.diameter_mm,
        facts.material.iso_group in ("M", "S", "H"),
    )
    if not (blind and (times > DEEP_TAP or tears)) and not (tears and times > DEEP_TAP):
        return
    on = f"operation:{op.operation.id}"
    yield of_operation(
        op,
        "cut.tap-risk",
        "look",
        "{where} thread, {times} deep in {material}: a broken tap costs the part.",
        {
            "where": Shown("A blind" if blind else "A through"),
            "times": Shown(times, "factor"),
            "material": Shown(facts.material.name),
        },
        "cutting_torque",
        (
            Proposal(
                "Stop after it to look at the threads",
                (
                    Change(on=on, fields={"stop_after": LOOK_DOWN}),
                    Keep(on=on, finding="cut.tap-risk", words=LOOK_DOWN),
                ),
                {},
            ),
        ),
    )
