"""The values of a machine that its moves depend on, as one list of numbers."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace

from machining.world.capability import Rig
from machining.world.carrier import Axes, AxisTimes, TimedRun
from machining.world.machine import Machine

from ..timing import Drive

LEAST = 1e-4  # what is fitted by its logarithm is never nothing


@dataclass(frozen=True, slots=True)
class Values:
    """Rapids (mm/min), accelerations (mm/s²) and seconds to them, how far a corner is cut (mm),
    seconds of a block, of the spindle's start to its highest speed and of a change from chip to
    chip.
    """

    rapid_x: float
    rapid_y: float
    rapid_z: float
    acceleration_x: float
    acceleration_y: float
    acceleration_z: float
    jerk_s: float
    corner_mm: float
    block_s: float
    start_s: float
    change_s: float

    @staticmethod
    def of(rig: Rig) -> Values:
        """As its record has them."""
        machine, carrier, drive = rig.machine, rig.carrier, Drive.of(rig)
        return Values(
            *drive.rapid,
            *drive.acceleration,
            max(*drive.jerk_time_s, LEAST),
            machine.corner_tolerance_mm,
            max(machine.block_time_s, LEAST),
            rig.spindle.start_s,
            carrier.chip_to_chip_s,
        )

    def drive(self, like: Drive) -> Drive:
        """What paths meet with these values on a machine that is else like that."""
        return replace(
            like,
            rapid=(self.rapid_x, self.rapid_y, self.rapid_z),
            acceleration=(self.acceleration_x, self.acceleration_y, self.acceleration_z),
            jerk_time_s=(self.jerk_s, self.jerk_s, self.jerk_s),
            corner_tolerance_mm=self.corner_mm,
            block_time_s=self.block_s,
        )

    def on(
        self, rig: Rig, names: frozenset[str], source: str, timed: tuple[TimedRun, ...] = ()
    ) -> Machine:
        """The machine with those of the values that are named, to what can be read off a watch, and
        the runs they were fitted to.
        """
        at = Values.of(rig)
        now = Values(**{n: _plain(v) if n in names else getattr(at, n) for n, v in self.items()})
        carrier, machine = rig.carrier, rig.machine
        y = carrier.rapid.y > 0.0
        moved = carrier.model_copy(
            update={
                "rapid": Axes(x=now.rapid_x, y=now.rapid_y if y else 0.0, z=now.rapid_z),
                "acceleration": Axes(
                    x=now.acceleration_x,
                    y=now.acceleration_y if y else 0.0,
                    z=now.acceleration_z,
                ),
                "chip_to_chip_s": now.change_s,
                "jerk_s": AxisTimes(x=now.jerk_s, y=now.jerk_s if y else 0.0, z=now.jerk_s)
                if "jerk_s" in names
                else carrier.jerk_s,
            }
        )
        started = rig.spindle.model_copy(update={"start_s": now.start_s})
        return machine.model_copy(
            update={
                "corner_tolerance_mm": now.corner_mm,
                "block_time_s": now.block_s if "block_s" in names else machine.block_time_s,
                "carriers": tuple(moved if e.id == carrier.id else e for e in machine.carriers),
                "spindles": tuple(
                    started if e.id == rig.spindle.id else e for e in machine.spindles
                ),
                "source": source,
                "timed": timed or machine.timed,
            }
        )

    def items(self) -> list[tuple[str, float]]:
        return list(asdict(self).items())


NAMES = tuple(Values.__dataclass_fields__)


def _plain(value: float) -> float:
    """Three figures of it: no watch tells more."""
    return float(f"{value:.3g}")
