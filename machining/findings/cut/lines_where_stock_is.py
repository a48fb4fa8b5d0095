"""cut.in-air, cut.more-than-planned: engraved lines over nothing, or under stock that stands."""

from __future__ import annotations

from collections.abc import Iterator

from shapely import MultiLineString

from machining.facts.context import PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import Engrave
from machining.plan.places import Drawn, Lines, Text
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, keep, of_operation

SOME = 0.02  # of their length
OVER_MM = 0.05


def lines_where_stock_is(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if not isinstance(op.operation, Engrave) or not op.work.lines:
        return
    in_air, under = op.before.memo.get(("where lines lie", op.key), lambda: _shares(op))
    yield from _in_air(op, in_air)
    yield from _under_stock(op, under)


def _shares(op: Ready) -> tuple[float, float]:
    """Of the length of its lines: what lies over nothing, and what under stock that stands."""
    lines = MultiLineString([[spot[:2] for spot in line] for line in op.work.lines])
    stands = op.before.section((op.work.top + op.work.floor) / 2.0)
    over = op.before.section(op.work.top + OVER_MM)
    return (
        lines.difference(stands).length / lines.length,
        lines.intersection(over).length / lines.length,
    )


def _in_air(op: Ready, share: float) -> Iterator[Finding]:
    if share <= SOME:
        return
    yield of_operation(
        op,
        "cut.in-air",
        "look",
        "{share} of its lines lie over nothing: the metal there is open already, or was never"
        " there.",
        {"share": Shown(share, "percent")},
        "",
        (keep(op, "cut.in-air", "the lines run out on purpose"),),
    )


def _under_stock(op: Ready, share: float) -> Iterator[Finding]:
    if share <= SOME:
        return
    high = float(op.before.bounds()[1][2])
    fixes: tuple[Proposal, ...] = ()
    if isinstance(op.operation.on, Lines | Drawn | Text):
        change = Change(on=op.on, fields={"on.top_mm": round(high, 3)})
        fixes = (Proposal("Begin at Z {high}", (change,), {"high": length(high)}),)
    yield of_operation(
        op,
        "cut.more-than-planned",
        "stop",
        "Stock stands up to {over} over where its lines begin: it goes that much deeper than"
        " {deep}.",
        {"over": length(high - op.work.top), "deep": length(op.work.top - op.work.floor)},
        "",
        fixes,
    )
