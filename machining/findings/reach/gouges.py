"""reach.gouges: a cut that goes into the finished part."""

from __future__ import annotations

from collections.abc import Iterator
from math import floor

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import Drill, FinishWalls, RoughOutside, RoughPocket
from machining.plan.places import Outside, Points, Rectangle
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation
from ..tools import other_tools


def gouges(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    gouge = op.found.gouge if op.found is not None else None
    if gouge is None:
        return
    x, y, z = gouge.at
    yield of_operation(
        op,
        "reach.gouges",
        "stop",
        "It cuts {deep} into the finished part and takes {volume} of it, with its tip at X {x}, Y"
        " {y}, Z {z}.",
        {
            "deep": Shown(gouge.deep, "size"),
            "volume": Shown(gouge.volume, "volume"),
            "x": length(x),
            "y": length(y),
            "z": length(z),
        },
        "",
        tuple(_fixes(op, facts, gouge.deep)),
    )


def _fixes(op: Ready, facts: PlanFacts, deep: float) -> Iterator[Proposal]:
    kind, on = op.operation, op.operation.on
    if isinstance(on, Outside | Rectangle | Points):
        less = floor(100.0 * (on.depth_mm - deep)) / 100.0
        if less > 0:
            change = Change(on=op.on, fields={"on.depth_mm": less})
            yield Proposal("Only {depth} deep", (change,), {"depth": Shown(less, "length")})
    said = getattr(kind, "depth_mm", None)
    if said is not None:
        less = floor(100.0 * (said - deep)) / 100.0
        if less > 0:
            change = Change(on=op.on, fields={"depth_mm": less})
            yield Proposal("Only {depth} deep", (change,), {"depth": Shown(less, "length")})
    if isinstance(kind, Drill):
        drawn = op.work.hole_diameter and _drawn(op, facts)
        if drawn:
            yield from other_tools(op, facts, lambda t: t.diameter_mm <= drawn + 1e-6, None)
    if isinstance(kind, RoughOutside | RoughPocket | FinishWalls):
        smaller = op.tool.diameter_mm
        yield from other_tools(op, facts, lambda t: t.diameter_mm < smaller, None)


def _drawn(op: Ready, facts: PlanFacts) -> float | None:
    """The diameter (mm) its holes are drawn with."""
    found = [facts.geometry.feature(id) for id in getattr(op.operation.on, "ids", ())]
    drawn = [each.diameter_mm for each in found if each is not None and each.kind == "hole"]
    return min(drawn, default=None)
