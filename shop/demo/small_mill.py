"""TW-118 once more, its second side on Dunlin while Heron is taken: the vise stands with its screw
to the column, which it meets; turned about it does not.
"""

from __future__ import annotations

from machining.plan.document import Plan, Setup
from machining.plan.operation import Operation
from machining.world.geometry import PartGeometry

from . import clamp_block
from .carried import carried

MACHINE = "dunlin"
LIGHTER: dict[str, dict[str, float]] = {  # for a spindle of 1.5 kW
    "b10": {"step_down_mm": 0.35, "step_over_mm": 12.0},
    "b20": {"step_over_mm": 0.2},
    "b30": {"step_over_mm": 1.2},
}
NOTE = "Vise as it stood for the last job. Soft jaws cut to the finished width."


def draft(geometry: PartGeometry, key: str) -> Plan:
    """The first side as ever, the second on the small mill."""
    usual = clamp_block.draft(geometry, key)
    first, second = usual.setups
    used = {op.tool for op in second.operations}
    taken = [each for each in clamp_block.TOOLS if f"t{each[0]}" in used]
    own = tuple(
        each.model_copy(update={"id": f"d{each.number}", "pocket": place})
        for place, each in enumerate(carried(MACHINE, taken), 1)
    )
    there = _on_dunlin(second)
    longer = tuple(
        each.model_copy(update={"stick_out_mm": 22.0}) if each.number == 6 else each
        for each in usual.tools
    )
    changed = {"quantity": 12, "setups": (first, there), "tools": (*longer, *own)}
    return usual.model_copy(update=changed)


def _on_dunlin(second: Setup) -> Setup:
    station = second.stations[0]
    held = station.holding.model_copy(update={"fixed": "-y"}) if station.holding else None
    zero = station.zero.model_copy(update={"y": station.zero.y.model_copy(update={"off_mm": 32.0})})
    return second.model_copy(
        update={
            "machine": MACHINE,
            "stations": (station.model_copy(update={"holding": held, "zero": zero}),),
            "operations": tuple(map(_lighter, second.operations)),
            "note": NOTE,
        }
    )


def _lighter(op: Operation) -> Operation:
    fields = {"tool": f"d{op.tool.removeprefix('t')}", **LIGHTER.get(op.id, {})}
    return op.model_copy(update=fields)
