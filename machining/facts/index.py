"""Turning another side of the held part to the tool, with a machine's rotary axes."""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, degrees

from machining.placing import rotary
from machining.quantities.computed import Given
from machining.world.machine import RotaryAxis, SpindleNose

from .context import Ready

THERE_AND_BACK = 2.0


@dataclass(frozen=True, slots=True)
class Turned:
    """Axes, each with where it goes (degrees) to bring a side to the tool."""

    to: tuple[tuple[RotaryAxis, float], ...]

    @property
    def in_reach(self) -> bool:
        return all(axis.low_deg <= to <= axis.high_deg for axis, to in self.to)

    @property
    def slowest(self) -> tuple[RotaryAxis, float]:
        """The axis that is on its way longest, and how far it goes."""
        axis, to = max(self.to, key=lambda each: abs(each[1]) / each[0].speed_deg_s)
        return axis, abs(to)


def angle(op: Ready) -> float:
    """How far (degrees) its side lies from that which is up at the station."""
    from_up = op.lie.pose.rotation[2] @ op.station.lie.pose.rotation[2]
    return degrees(acos(max(-1.0, min(1.0, float(from_up)))))


def ways(op: Ready) -> list[Turned]:
    """How the machine's axes could bring its side to the tool, in or out of their reach."""
    place = op.rig.place
    axes = {each.about: each for each in place.rotaries}
    side = op.station.lie.pose.rotation @ op.lie.pose.rotation[2]
    if "x" in axes and "z" in axes:
        return [
            Turned(((axes["z"], turn), (axes["x"], tilt)))
            for turn, tilt in rotary.turned_then_tilted(side)
        ]
    alone = [each for each in place.rotaries if each.about != "z" or isinstance(place, SpindleNose)]
    found = [(axis, rotary.to_side(side, axis.about)) for axis in alone]
    return [Turned(((axis, to),)) for axis, to in found if to is not None]


def way(op: Ready) -> Turned | None:
    """The quickest that the machine reaches, None where it reaches none."""
    able = [each for each in ways(op) if each.in_reach]
    return min(able, key=lambda each: each.slowest[1] / each.slowest[0].speed_deg_s, default=None)


def of_operation(op: Ready) -> None:
    """The figure index_time: to its side and back."""
    found = way(op)
    if found is None:
        return
    axis, to = found.slowest
    op.work_out(
        rotary.index_time,
        "index_time",
        turned=Given(THERE_AND_BACK * to, f"its aim with {axis.name}, and back"),
        speed=op.of_machine(axis.speed_deg_s),
        positions=Given(THERE_AND_BACK, "its aim, and back"),
        clamp=op.of_machine(max(each.clamp_s for each, _ in found.to)),
    )


def waits(op: Ready) -> float:
    """What an operation waits for its side (s)."""
    return (op.value("index_time") or 0.0) if op.aimed is not None else 0.0
