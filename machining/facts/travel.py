"""Do the moves fit the machine, with the part where its station stands on the table: in the middle,
where nobody has said.
"""

from __future__ import annotations

from machining.placing import envelope
from machining.quantities.computed import Given
from machining.world.machine import Table

from . import turning
from .context import Ready


def of_operation(op: Ready) -> None:
    """Figures travel_x, travel_y, travel_up and travel_down: what is to spare, mm; negative is too
    much.
    """
    table = op.rig.place
    if not isinstance(table, Table):
        turning.travel(op, table)
        return
    if not op.path.legs:
        return
    low, high = op.path.bounds()
    lie = op.lie
    for i, letter in enumerate("xy"):
        middle = float(lie.stock_low[i] + lie.stock_high[i]) / 2.0
        # the middle of the stock stands at each of the station's spots, or in the table's middle
        stands = [spot[i] for spot in op.station.planned.spots]
        farthest = max(
            abs(float(low[i]) - middle + min(stands)), abs(float(high[i]) - middle + max(stands))
        )
        op.work_out(
            envelope.spare_sideways,
            f"travel_{letter}",
            travel=op.of_machine(getattr(op.rig.carrier.travel, letter)),
            farthest=Given(farthest, "path"),
        )
    bottom = float(lie.stock_low[2])
    upwards(op, table, Given(float(high[2]) - bottom, "path"))
    op.work_out(
        envelope.spare_below,
        "travel_down",
        nose_lowest=op.of_machine(table.nose_to_table_min_mm),
        seat=_seat(op),
        tip_lowest=Given(float(low[2]) - bottom, "path"),
        tool_length=_gauge(op),
    )


def upwards(op: Ready, table: Table, tip: Given) -> None:
    """The figure travel_up, with its tip so high over where the part stands."""
    op.work_out(
        envelope.spare_above,
        "travel_up",
        nose_highest=op.of_machine(table.nose_to_table_max_mm),
        seat=_seat(op),
        tip_highest=tip,
        tool_length=_gauge(op),
    )


def _seat(op: Ready) -> Given:
    return Given(op.station.seat_mm, "vise and grip")


def _gauge(op: Ready) -> Given:
    return Given(op.loaded.stick_out_mm + op.holder.length_mm, f"tool:T{op.loaded.number}")
