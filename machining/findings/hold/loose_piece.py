"""hold.loose-piece: a piece that is cut free and that nothing clamps, or hangs by a skin."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from machining.facts.context import PlanFacts, Ready
from machining.facts.flaps import flap_of
from machining.facts.loose import loose
from machining.plan.edit import Change
from machining.plan.operation import CutOut
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation

ID = "hold.loose-piece"
TABS, PAST_MM = 4, 0.2
LEFT_MM = 0.5  # under a cut, so that what it frees is snapped off and not thrown
DEPTHS = ("depth_mm", "on.depth_mm")


def loose_piece(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    found = loose(op, facts.geometry)
    if not found:
        yield from _by_a_skin(op, facts)
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
    yield of_operation(op, ID, "stop", what, values, "", fixes)


def _by_a_skin(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """A note: what stays is snapped off at the bench, and the next setup takes it so."""
    flap = flap_of(op.station, facts.geometry)
    if flap is None or flap.by != op.id:
        return
    what = "A flap" if not flap.pieces else "What hangs by a skin"
    values = {
        "thin": length(round(flap.thin, 2)),
        "x": length(round(flap.at[0], 1)),
        "y": length(round(flap.at[1], 1)),
    }
    note = of_operation(
        op,
        ID,
        "note",
        f"{what} {{thin}} thick stays at the bottom, round X {{x}}, Y {{y}}: it is snapped off at"
        " the bench, and what comes after reckons without it.",
        values,
    )
    yield replace(note, about="skin", fixes=tuple(_through(op)))


def _tabs(op: Ready) -> Iterator[Proposal]:
    """Bridges to its frame, where it is cut out without."""
    if isinstance(op.operation, CutOut) and not op.operation.tabs and op.tool.centre_cutting:
        change = Change(on=op.on, fields={"tabs": TABS})
        yield Proposal("Leave {count} tabs", (change,), {"count": Shown(float(TABS), "count")})


def _less_deep(op: Ready) -> Iterator[Proposal]:
    """Half a millimetre left under it, where its depth is typed."""
    yield from _down_to(
        op, LEFT_MM, "Leave {left} under it: cut {depth} deep and snap it off after"
    )


def _through(op: Ready) -> Iterator[Proposal]:
    yield from _down_to(op, -PAST_MM, "Cut it through, {depth} deep")


def _down_to(op: Ready, over: float, label: str) -> Iterator[Proposal]:
    """So much over the bottom of the stock, where its depth is typed."""
    less = float(op.lie.stock_low[2]) + over - float(op.work.floor)
    for path in DEPTHS:
        at = op.operation
        for name in path.split("."):
            at = getattr(at, name, None)  # type: ignore[assignment]
        if isinstance(at, float) and at > less:
            depth = round(at - less, 3)
            values = {"left": length(LEFT_MM), "depth": length(depth)}
            yield Proposal(label, (Change(on=op.on, fields={path: depth}),), values)
            return
