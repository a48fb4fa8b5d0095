"""hold.loose-piece: a piece that is cut free and that nothing clamps."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.loose import loose
from machining.plan.edit import Change
from machining.plan.operation import CutOut
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation

TABS = 4
LEFT_MM = 0.5  # under a cut, so that what it frees is snapped off and not thrown
DEPTHS = ("depth_mm", "on.depth_mm")


def loose_piece(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    found = loose(op, facts.geometry)
    if not found:
        return
    of_part = any(each.part for each in found)
    largest = max(found, key=lambda each: each.size[0] * each.size[1] * each.size[2])
    values = {f"size{k}": length(each) for k, each in enumerate(largest.size)}
    values["count"] = Shown(float(len(found)), "count")
    what = (
        "A piece of {size0} × {size1} × {size2} comes loose as it is cut free: nothing clamps it."
    )
    if len(found) > 1:
        what = (
            "{count} pieces come loose as they are cut, the largest {size0} × {size1} ×"
            " {size2}: nothing clamps them."
        )
    if of_part:
        what = "The part itself is cut free of what is clamped: nothing holds it then."
    fixes = (*_tabs(op), *_less_deep(op))
    yield of_operation(op, "hold.loose-piece", "stop", what, values, "", fixes)


def _tabs(op: Ready) -> Iterator[Proposal]:
    """Bridges to its frame, where it is cut out without."""
    if isinstance(op.operation, CutOut) and not op.operation.tabs and op.tool.centre_cutting:
        change = Change(on=op.on, fields={"tabs": TABS})
        yield Proposal("Leave {count} tabs", (change,), {"count": Shown(float(TABS), "count")})


def _less_deep(op: Ready) -> Iterator[Proposal]:
    """Half a millimetre left under it, where its depth is typed."""
    under = float(op.lie.stock_low[2]) + LEFT_MM
    less = under - float(op.work.floor)
    for path in DEPTHS:
        at = op.operation
        for name in path.split("."):
            at = getattr(at, name, None)  # type: ignore[assignment]
        if isinstance(at, float) and at > less > 0.0:
            depth = round(at - less, 3)
            change = Change(on=op.on, fields={path: depth})
            yield Proposal(
                "Leave {left} under it: cut {depth} deep and snap it off after",
                (change,),
                {"left": length(LEFT_MM), "depth": length(depth)},
            )
            return
