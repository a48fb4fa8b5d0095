"""What a tool change takes: from chip to chip as a machine states it, or of its parts."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from machining.geometry.frames import Vector
from machining.motion import cycle
from machining.motion.spin import Spin
from machining.motion.timing import Drive, rapid_time
from machining.quantities.computed import Given
from machining.world.carrier import Carrier
from machining.world.machine import Table

from .context import OperationFacts, Ready, SetupFacts
from .travel import gauge


class Parts(NamedTuple):
    """Seconds: the spindle stops and turns to where it is held, the tool goes up, the tools are
    swapped once the pocket is there, codes, the spindle starts, the tool comes down.
    """

    stop: float = 0.0
    orient: float = 0.0
    retract: float = 0.0
    waits: float = 0.0
    swap: float = 0.0
    codes: float = 0.0
    spin_up: float = 0.0
    approach: float = 0.0


@dataclass(frozen=True, slots=True)
class Change:
    """``parts`` is None where the machine states the time from chip to chip alone."""

    seconds: float
    parts: Parts | None = None


def changed_by(setup: SetupFacts) -> Iterator[tuple[object, ...]]:
    """What changes depend on beside the operations' own figures, where they are made of parts."""
    for op in setup.operations:
        if op.rig is not None and op.rig.carrier.tool_to_tool_s is not None:
            pocket = op.loaded.pocket if op.loaded is not None else 0
            low = float(op.lie.stock_low[2])
            yield op.id, op.operation.coolant, pocket, op.station.seat_mm, low


def change_of(
    op: OperationFacts, last: OperationFacts | None, apart: Vector, since_s: float
) -> Change:
    """To an operation's tool from that of the ``last`` on its carrier, whose frame it stands
    ``apart`` from (3,), mm. ``since_s`` is how long the magazine had since the change before.
    """
    assert op.rig is not None
    carrier = op.rig.carrier
    if carrier.tool_to_tool_s is None:
        return Change(carrier.chip_to_chip_s)
    parts = Parts(swap=carrier.tool_to_tool_s, codes=_codes(op, last))
    if op.rig.spindle.turns == "tool":
        parts = parts._replace(
            stop=_from_rest(last), orient=carrier.orient_s, spin_up=_from_rest(op)
        )
    if isinstance(op, Ready):
        there = last if isinstance(last, Ready) else None
        parts = parts._replace(
            waits=max(_travel(op, there, carrier) - since_s, 0.0),
            **dict(zip(("retract", "approach"), _ways(op, there, apart), strict=True)),
        )
    return Change(cycle.change_time(**parts._asdict()), parts)


def _from_rest(op: OperationFacts | None) -> float:
    rpm = op.value("rpm") if op is not None else None
    if op is None or rpm is None or op.rig is None:
        return 0.0
    return Spin.of(op.rig.whole_spindle).between(0.0, rpm)


def _codes(op: OperationFacts, last: OperationFacts | None) -> float:
    """Coolant off and on again."""
    assert op.rig is not None
    wet = [each for each in (last, op) if each is not None and each.operation.coolant != "none"]
    return op.rig.machine.m_code_s * len(wet)


def _travel(op: Ready, last: Ready | None, carrier: Carrier) -> float:
    """From the pocket of one tool to that of another, the shorter way round."""
    if last is None:
        return 0.0
    between = abs(op.loaded.pocket - last.loaded.pocket)
    return carrier.pocket_s * min(between, abs(carrier.pockets - between))


def _ways(op: Ready, last: Ready | None, apart: Vector) -> tuple[float, float]:
    """Up to where tools are changed over a table, and across and down from there."""
    table, carrier, drive = op.rig.place, op.rig.carrier, Drive.of(op.rig)
    if not isinstance(table, Table) or carrier.kind != "magazine" or op.path.start is None:
        return 0.0, 0.0
    nose = carrier.change_nose_mm or table.nose_to_table_max_mm
    down = np.array(op.path.start, dtype=float)
    over = down.copy()
    over[2] = _tip(op, nose)
    if last is None or last.path.end is None:
        return 0.0, rapid_time(over, down, drive)
    end = np.array(last.path.end, dtype=float)
    up = end.copy()
    up[2] = max(_tip(last, nose), float(end[2]))
    over[:2] = (end - apart)[:2]
    return rapid_time(end, up, drive), rapid_time(over, down, drive)


def _tip(op: Ready, nose: float) -> float:
    """Where a tool's tip is in its operation's frame as the nose stands so high over the table."""
    return nose - gauge(op).value - op.station.seat_mm + float(op.lie.stock_low[2])


def figure(setup: SetupFacts, operation: str, parts: Parts) -> None:
    """Figure change_ of an operation, whose machine's parts of it are known."""
    assert setup.machine is not None
    origin = f"machine:{setup.machine.name}"
    moved = "path, tools and machine"
    origins = {"waits": moved, "retract": moved, "approach": moved, "stop": "its spindle"}
    setup.work_out(
        cycle.change_time,
        f"change_{operation}",
        **{name: Given(s, origins.get(name, origin)) for name, s in parts._asdict().items()},
    )
