"""hold.leaks: a cut that comes out through the face a vacuum pulls on."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings import pulled
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import length

from ..finding import Finding, of_operation

LEAVES_MM = 0.3


def leaks(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """The first that does: then nothing pulls any more."""
    held = pulled.held_in(op.station)
    if held is None or held[1].by != "vacuum" or op.after is op.before or op.aimed is not None:
        return
    before, after = (
        pulled.pulls(op.station, held[1], each.seen_in(op.station.lie))
        for each in (op.before, op.after)
    )
    if before <= 0.0 or after > 0.0:
        return
    yield of_operation(
        op,
        "hold.leaks",
        "stop",
        "It comes out through the face the vacuum pulls on: air comes in, and nothing holds the"
        " part.",
        {},
        "",
        tuple(_fixes(op)),
    )


def _fixes(op: Ready) -> Iterator[Proposal]:
    """A skin that stays, to be broken through by hand."""
    kind = op.operation
    if getattr(kind, "past_mm", None) is None or "depth_mm" not in type(kind).model_fields:
        return
    holes = op.work.holes
    if not holes:
        return
    deep = round(min(mouth - bottom for _, _, mouth, bottom in holes) - LEAVES_MM, 2)
    low = float(op.station.lie.stock_low[2])
    skin = round(min(mouth - low for _, _, mouth, _ in holes) - LEAVES_MM, 2)
    deep = min(deep, skin)
    if deep > 0.0:
        change = Change(on=op.on, fields={"depth_mm": deep, "past_mm": 0.0})
        yield Proposal(
            "Leave {left} at the bottom, {deep} deep",
            (change,),
            {"left": length(LEAVES_MM), "deep": length(deep)},
        )
