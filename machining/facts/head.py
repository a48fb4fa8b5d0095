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

Tilt = tuple[RotaryAxis, float]  # the axis of a head, and how far it is tilted, degrees


def tilt_of(op: OperationFacts) -> Tilt | None:
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


def of_operation(op: Ready, table: Table, tilt: Tilt, gauge: Given) -> None:
    """Figures travel_x, travel_y, travel_up and travel_down of a tilted head."""
    axis, deg = tilt
    tips = np.concatenate([_tips(op, k, tilt) for k in range(op.station.planned.positions)])
    pivot, over = op.of_machine(axis.pivot_mm), _over_tip(op, tilt)
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


def slides(op: Ready, position: int, points: Vector) -> Vector:
    """Where the spindle's axis is in X and Y (..., 2) while the tip is at points (..., 3) of its
    path: over the tip, or where a tilted head would be upright; from the middle of the table, mm.
    """
    tilt = tilt_of(op)
    if tilt is None:
        return (points + index.origins(op)[position])[..., :2]
    return (_on_table(op, position, points, tilt) + _over_tip(op, tilt))[..., :2]


def ends(op: Ready, position: int) -> Vector:
    """The lowest and the highest X and Y (2, 2) of those on its whole path, mm."""
    if tilt_of(op) is None:
        return slides(op, position, np.array(op.path.bounds()))
    every = slides(op, position, np.vstack([leg.points for leg in op.path.legs]))
    return np.array([every.min(axis=0), every.max(axis=0)])


def work_turn(op: OperationFacts, seen: Vector) -> Vector:
    """How its work is turned from its station, where the tool sees it turned so."""
    place, aim = op.station.place, op.operation.aim
    way = index.way_to(op.station, aim) if op.aimed is not None and aim is not None else None
    return seen if place is None or way is None or way.of_head is None else way.of_work_rotation


def _tips(op: Ready, position: int, tilt: Tilt) -> Vector:
    """Where its tip goes (n, 3), from the middle of the table's top, mm."""
    return _on_table(op, position, np.vstack([leg.points for leg in op.path.legs]), tilt)


def _on_table(op: Ready, position: int, points: Vector, tilt: Tilt) -> Vector:
    axis, deg = tilt
    seen = points + index.origins(op)[position]
    back = rotary.turn_about(axis.about, deg).T
    return rotary.carried_round(seen, back, index.centre(op.rig.place))


def _over_tip(op: Ready, tilt: Tilt) -> Vector:
    """From a tip to where the spindle's end were, the head put upright, but for its height."""
    axis, deg = tilt
    over: Vector = (op.gauge_mm + axis.pivot_mm) * rotary.turn_about(axis.about, deg)[2]
    return over
