"""cut.at-rapid: a rapid move that runs into metal."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import RoughPocket
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation

SOME_MM3 = 1.0  # less is what columns and films of regions are off


def at_rapid(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if op.found is not None:
        taken, at = op.found.at_rapid
        if taken > SOME_MM3 and at is not None:
            yield _met(
                op,
                taken,
                "X {x}, Y {y}, Z {z}",
                dict(zip("xyz", map(length, at.tolist()), strict=True)),
            )
    elif op.found_turned is not None and op.found_turned.rapid_at is not None:
        taken, (radius, z) = op.found_turned.at_rapid, op.found_turned.rapid_at
        if taken > SOME_MM3:
            place = {"d": Shown(2.0 * radius, "size"), "z": length(z)}
            yield _met(op, taken, "Ø {d}, Z {z}", place)


def _met(op: Ready, taken: float, where: str, place: dict[str, Shown]) -> Finding:
    return of_operation(
        op,
        "cut.at-rapid",
        "stop",
        f"A rapid move runs into metal at {where}: {{taken}} of it stand in its way.",
        {"taken": Shown(taken, "volume"), **place},
        "",
        tuple(_fixes(op)),
    )


def _fixes(op: OperationFacts) -> Iterator[Proposal]:
    """Down at feed where it would fall into a hole that is too narrow for it."""
    kind = op.operation
    if isinstance(kind, RoughPocket) and kind.enter == "hole":
        for words, way in (("Down on a helix", "helix"), ("Down a ramp", "ramp")):
            yield Proposal(words, (Change(on=op.on, fields={"enter": way}),))
