"""hold.not-seated: clamps that lift or turn the part off what it lies on and against."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.held import untouched
from machining.holding.located import moves
from machining.quantities.said import Shown

from ..finding import Finding, of_operation
from .firmer import deeper


def not_seated(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Told where it begins: at the first operation of a station that leaves it so."""
    found = op.seen.held
    if found is None or found.seat.seated or untouched(op):
        return
    own = [each for each in op.station.operations if isinstance(each, Ready)]
    before = own[: next(k for k, each in enumerate(own) if each.id == op.id)]
    if any(each.seen.held is not None and not each.seen.held.seat.seated for each in before):
        return
    does = moves(found.seat.left)
    yield of_operation(
        op,
        "hold.not-seated",
        "stop",
        "Clamped, the part " + does.text + " off what it lies on and against: {left} of the clamp"
        " force find no support without friction.",
        {"left": Shown(found.seat.residual_n, "force")},
        "",
        tuple(deeper(op)),
    )
