"""What a machine's axes must do for a tool in a head that tilts, the work where it stood."""

from __future__ import annotations

import numpy as np

from machining.geometry.frames import Vector
from machining.placing import envelope, rotary
from machining.quantities.computed import Given
from machining.world.machine import Table
from machining.world.rotary_axis import RotaryAxis

from . import index
from .context import OperationFacts, Ready, StationFacts


def tilt_of(op: OperationFacts) -> tuple[RotaryAxis, float] | None:
    """The axis of its machine's head and how far (degrees) it tilts for an operation; None where
    the tool stands upright.
    """
    if op.aimed is None or op.station.place is None:
        return None
    found = index.way(op.station.place, index.side_of(op))
    return None if found is None else found.of_head


def reached(station: StationFacts, aim: index.Aim | None) -> tuple[bool, str]:
    """Is the head tilted for a side, and which axes that turned for it have no clamp."""
    way = index.way_to(station, aim) if aim is not None else None
    if way is None:
        return False, ""
    loose = [each.name for each, to in way.to if abs(to) > index.SAME_DEG and not each.clamp_s]
    return way.of_head is not None, ", ".join(loose)


def of_operation(op: Ready, table: Table, tilt: tuple[RotaryAxis, float], gauge: Given) -> None:
    """Figures travel_x, travel_y, travel_up and travel_down of a tilted head."""
    axis, deg = tilt
    tips, pivot = _tips(op, axis, deg), op.of_machine(axis.pivot_mm)
    over = (gauge.value + pivot.value) * rotary.turn_about(axis.about, deg)[2]
    for i, letter in enumerate("xy"):
        op.work_out(
            envelope.spare_sideways,
            f"travel_{letter}",
            travel=op.of_machine(getattr(op.rig.carrier.travel, letter)),
            farthest=Given(float(np.abs(tips[:, i] + over[i]).max()), "path, pivot of the head"),
        )
    tilted = {
        "tool_length": gauge,
        "pivot": pivot,
        "tilt": Given(deg, f"its aim with {axis.name}"),
    }
    op.work_out(
        envelope.spare_above_tilted,
        "travel_up",
        nose_highest=op.of_machine(table.nose_to_table_max_mm),
        tip_highest=Given(float(tips[:, 2].max()), "path"),
        **tilted,
    )
    op.work_out(
        envelope.spare_below_tilted,
        "travel_down",
        nose_lowest=op.of_machine(table.nose_to_table_min_mm),
        tip_lowest=Given(float(tips[:, 2].min()), "path"),
        **tilted,
    )


def _tips(op: Ready, axis: RotaryAxis, deg: float) -> Vector:
    """Where its tip goes at all positions (n, 3), from the middle of the table's top, mm."""
    seen = np.vstack([leg.points for leg in op.path.legs])
    stands = index.origins(op)
    every = (seen[None, :, :] + stands[:, None, :]).reshape(-1, 3)
    back = rotary.turn_about(axis.about, deg).T
    return rotary.carried_round(every, back, index.centre(op.rig.place))
