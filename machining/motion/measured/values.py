"""The values of a machine that its moves depend on, as one list of numbers."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace

from machining.world.capability import Rig
from machining.world.carrier import Axes, AxisTimes, TimedRun
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.rotary_axis import RotaryAxis

from ..timing import Drive

LEAST = 1e-4  # what is fitted by its logarithm is never nothing
LEAST_DEG = 20.0  # a watch tells nothing of less
USUAL_CODE_S = 0.3  # where nobody has said what a code takes


@dataclass(frozen=True, slots=True)
class Values:
    """Rapids (mm/min), accelerations (mm/s²) and seconds to them, how far a corner is cut (mm),
    seconds of a block, of the spindle's start to its highest speed, of a change from chip to chip
    and of a code such as coolant on; of the axis that turns the work its speed (degrees/s) and
    seconds of its clamp, of a change of pallets, of a place that is probed and of a bar that is fed
    on. What a machine has not is as it may be.
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
    code_s: float
    turn_deg_s: float
    clamp_s: float
    pallet_s: float
    probe_s: float
    bar_s: float

    @staticmethod
    def of(rig: Rig) -> Values:
        """As its record has them."""
        machine, carrier, drive = rig.machine, rig.carrier, Drive.of(rig)
        turns, pallet_s = axis_of(rig), pallet_change_s(rig)
        return Values(
            *drive.rapid,
            *drive.acceleration,
            max(*drive.jerk_time_s, LEAST),
            machine.corner_tolerance_mm,
            max(machine.block_time_s, LEAST),
            rig.spindle.start_s,
            carrier.chip_to_chip_s,
            machine.m_code_s or USUAL_CODE_S,
            turns.speed_deg_s if turns is not None else 1.0,
            max(turns.clamp_s, LEAST) if turns is not None else 1.0,
            pallet_s if pallet_s is not None else 1.0,
            carrier.probe_touch_s or 1.0,
            bar_feed_s(rig) or 1.0,
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
                "probe_touch_s": now.probe_s if "probe_s" in names else carrier.probe_touch_s,
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
                "m_code_s": now.code_s if "code_s" in names else machine.m_code_s,
                "places": tuple(
                    _place(e, rig, now, names) if e.id == rig.place.id else e
                    for e in machine.places
                ),
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


def names_of(rig: Rig) -> tuple[str, ...]:
    """Those a machine has and a run tells: nobody starts a spindle with an empty chuck for it."""
    lacks = set[str]() if rig.spindle.turns == "tool" else {"start_s"}
    if axis_of(rig) is None:
        lacks |= {"turn_deg_s", "clamp_s"}
    if pallet_change_s(rig) is None:
        lacks.add("pallet_s")
    if not rig.carrier.probe_touch_s:
        lacks.add("probe_s")
    if not bar_feed_s(rig):
        lacks.add("bar_s")
    return tuple(name for name in NAMES if name not in lacks)


def axis_of(rig: Rig) -> RotaryAxis | None:
    """The first axis that turns what stands at its place far enough to be timed; None where none
    does.
    """
    able = (e for e in rig.place.rotaries if e.carries == "work" and e.high_deg >= LEAST_DEG)
    return next(able, None)


def pallet_change_s(rig: Rig) -> float | None:
    """None where no pallets are changed."""
    place = rig.place
    return place.pallet_change_s if isinstance(place, Table) and place.pallets > 1 else None


def bar_feed_s(rig: Rig) -> float:
    """0 where no bar is fed."""
    return rig.place.bar_feed_s if isinstance(rig.place, SpindleNose) else 0.0


def _place(
    place: Table | SpindleNose, rig: Rig, now: Values, names: frozenset[str]
) -> Table | SpindleNose:
    """The place with what is named of the axis that turns work, of its pallets and its bar."""
    axis, changed = axis_of(rig), dict[str, object]()
    if axis is not None:
        values = {
            "turn_deg_s": ("speed_deg_s", now.turn_deg_s),
            "clamp_s": ("clamp_s", now.clamp_s),
        }
        update = {field: value for name, (field, value) in values.items() if name in names}
        turned = axis.model_copy(update=update)
        changed["rotaries"] = tuple(turned if e is axis else e for e in place.rotaries)
    if "pallet_s" in names and pallet_change_s(rig) is not None:
        changed["pallet_change_s"] = now.pallet_s
    if "bar_s" in names and bar_feed_s(rig):
        changed["bar_feed_s"] = now.bar_s
    return place.model_copy(update=changed)


def _plain(value: float) -> float:
    """Three figures of it: no watch tells more."""
    return float(f"{value:.3g}")
