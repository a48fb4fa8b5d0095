"""Do the moves fit the machine, with the part where its station stands on the table: in the middle,
where nobody has said.
"""

from __future__ import annotations

import numpy as np

from machining.geometry.frames import Vector
from machining.placing import envelope
from machining.quantities.computed import Given
from machining.world.machine import Table

from . import head, index, turning
from .context import Ready


def of_operation(op: Ready) -> None:
    """Figures travel_x, travel_y, travel_up and travel_down: what is to spare, mm; negative is too
    much. With the axes of its table at their index.
    """
    table = op.rig.place
    if not isinstance(table, Table):
        turning.travel(op, table)
        return
    if not op.path.legs:
        return
    if (tilt := head.tilt_of(op)) is not None:
        head.of_operation(op, table, tilt, gauge(op))
        return
    low, high = op.path.bounds()
    stands = index.origins(op)
    for i, letter in enumerate("xy"):
        farthest = float(np.abs(np.array([low[i], high[i]]) + stands[:, i : i + 1]).max())
        op.work_out(
            envelope.spare_sideways,
            f"travel_{letter}",
            travel=op.of_machine(getattr(op.rig.carrier.travel, letter)),
            farthest=Given(farthest, "path"),
        )
    least, most = _counted_from(op, stands)
    upwards(op, table, Given(float(high[2]) - least, "path"))
    op.work_out(
        envelope.spare_below,
        "travel_down",
        nose_lowest=op.of_machine(table.nose_to_table_min_mm),
        seat=seat(op),
        tip_lowest=Given(float(low[2]) - most, "path"),
        tool_length=gauge(op),
    )


def upwards(op: Ready, table: Table, tip: Given) -> None:
    """The figure travel_up, with its tip so high over where the part stands."""
    op.work_out(
        envelope.spare_above,
        "travel_up",
        nose_highest=op.of_machine(table.nose_to_table_max_mm),
        seat=seat(op),
        tip_highest=tip,
        tool_length=gauge(op),
    )


def seat(op: Ready) -> Given:
    """How high over the table's top the heights of its path count from: where the part stands;
    turned to another side, the table's top itself.
    """
    if op.aimed is not None:
        return Given(0.0, "the table's top")
    return Given(op.station.seat_mm + float(op.station.base[2]), "vise and grip")


def _counted_from(op: Ready, stands: Vector) -> tuple[float, float]:
    """What they count from in its frame, at the positions that ask most upwards and downwards: in
    a row that is turned to another side they stand at several heights.
    """
    if op.aimed is None:
        return (float(op.lie.stock_low[2]),) * 2
    return -float(stands[:, 2].max()), -float(stands[:, 2].min())


def gauge(op: Ready) -> Given:
    """From its tip to the gauge line."""
    return Given(op.gauge_mm, f"tool:T{op.loaded.number}")
