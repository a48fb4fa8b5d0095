"""Turning another side of the held part to the tool, with a machine's rotary axes."""

from __future__ import annotations

from math import acos, degrees

from machining.placing import rotary
from machining.quantities.computed import Given

from .context import Ready

THERE_AND_BACK = 2.0


def angle(op: Ready) -> float:
    """How far (degrees) its side lies from that which is up at the station."""
    from_up = op.lie.pose.rotation[2] @ op.station.lie.pose.rotation[2]
    return degrees(acos(max(-1.0, min(1.0, float(from_up)))))


def can_turn(op: Ready) -> bool:
    """Does the machine tilt so far, one way or the other?"""
    table, tilt = op.machine.rotary, angle(op)
    return table is not None and any(
        table.tilt_low_deg <= way <= table.tilt_high_deg for way in (tilt, -tilt)
    )


def of_operation(op: Ready) -> None:
    """The figure index_time: to its side and back."""
    table = op.machine.rotary
    if table is None or not can_turn(op):
        return
    op.work_out(
        rotary.index_time,
        "index_time",
        turned=Given(THERE_AND_BACK * angle(op), "its aim, and back"),
        speed=op.of_machine(table.tilt_speed_deg_s),
        positions=Given(THERE_AND_BACK, "its aim, and back"),
        clamp=op.of_machine(table.clamp_s),
    )


def waits(op: Ready) -> float:
    """What an operation waits for its side (s)."""
    return (op.value("index_time") or 0.0) if op.aimed is not None else 0.0
