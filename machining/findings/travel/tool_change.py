"""travel.tool-change: a tool that is changed over what stands on the table."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.swing import highest
from machining.facts.travel import gauge
from machining.quantities.said import Shown, length
from machining.world.machine import Table

from ..finding import Finding, of_operation
from ..tools import tool_name
from .swing import shorter


def tool_change(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """The first operation of each tool; its tool goes in and out over what is highest there."""
    table, carrier = op.rig.place, op.rig.carrier
    if not isinstance(table, Table) or carrier.kind != "magazine" or not _is_first(op):
        return
    top = highest(op.setup, table)
    if top is None:
        return
    nose = carrier.change_nose_mm or table.nose_to_table_max_mm
    tip = nose - gauge(op).value - carrier.draws_out_mm
    short = top.radius_mm - tip
    if short <= 1e-6:
        return
    yield of_operation(
        op,
        "travel.tool-change",
        "stop",
        "At a change the tip of {tool} comes down to {tip} over the table, and the {body} stands up"
        " to {top}: {short} too low.",
        {
            "tool": tool_name(op),
            "tip": length(tip),
            "body": Shown(top.body),
            "top": length(top.radius_mm),
            "short": length(short),
        },
        "",
        tuple(shorter(op, short)),
    )


def _is_first(op: Ready) -> bool:
    """Is it the first of its setup with this tool?"""
    uses = (each for each in op.setup.operations if each.operation.tool == op.operation.tool)
    return next(uses).id == op.id
