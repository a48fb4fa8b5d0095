"""What a machine can do: who turns, what it tilts, which of its parts do an operation. The one
place that reads it off the machine's record.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from .carrier import Carrier
from .machine import Machine, SpindleNose, Table
from .rotary_axis import RotaryAxis
from .spindle import Spindle
from .tool import STANDS_STILL, Tool


@dataclass(frozen=True, slots=True)
class Rig:
    """What of a machine does an operation: the spindle that turns tool or work, what carries the
    tool, and where the work is.
    """

    machine: Machine
    spindle: Spindle
    carrier: Carrier
    place: Table | SpindleNose

    @property
    def whole_spindle(self) -> Spindle:
        """With all its ranges, also for what is cut in one of them."""
        return next(each for each in self.machine.spindles if each.id == self.spindle.id)

    def in_range(self, name: str) -> Rig:
        """With only the range of its spindle that is called so; with all where none is."""
        of = tuple(each for each in self.spindle.ranges if each.name == name)
        return replace(self, spindle=self.spindle.model_copy(update={"ranges": of})) if of else self

    @property
    def turns_work(self) -> bool:
        """Does the work turn, and the tool stand still?"""
        return self.spindle.turns == "work"

    @property
    def turns_to_sides(self) -> bool:
        """Does it turn another side of the work to the tool?"""
        return any(each.about != "z" for each in self.place.rotaries) or self._drives_round

    @property
    def _drives_round(self) -> bool:
        """Is the work held before its spindle, to be turned under a driven tool?"""
        return isinstance(self.place, SpindleNose) and bool(self.place.rotaries)


def place_of(machine: Machine, id: str = "") -> Table | SpindleNose | None:
    """One of its places, the first where none is named; None for what it does not have."""
    return next((each for each in machine.places if id in ("", each.id)), None)


def carrier_of(machine: Machine, id: str = "") -> Carrier | None:
    """One of its carriers, the first where none is named; None for what it does not have."""
    return next((each for each in machine.carriers if id in ("", each.id)), None)


def too_wide(tool: Tool, carrier: Carrier) -> bool:
    """Is a tool wider than what carries it takes? One that stands still is clamped beside it."""
    return tool.kind not in STANDS_STILL and tool.diameter_mm > carrier.max_tool_diameter_mm


def turns_work(machine: Machine | None, place: str = "") -> bool:
    """Is a place of it, the first where none is named, before a spindle that turns the work?"""
    return machine is not None and isinstance(place_of(machine, place), SpindleNose)


def turns_to_sides(machine: Machine) -> bool:
    """Has its table rotary axes, so that the work is turned to be cut from several sides?"""
    table = machine.places[0]
    return isinstance(table, Table) and bool(table.rotaries)


def driven(carrier: Carrier, machine: Machine) -> Spindle | None:
    """The spindle that a carrier's tools turn in, None where they stand still."""
    return next((each for each in machine.spindles if each.id == carrier.drives), None)


def rig(
    machine: Machine, place: str = "", carrier: str = "", still: bool | None = None
) -> Rig | None:
    """What does an operation at a place with a carrier's tool, None where the machine has no such
    place or carrier, or where nothing turns: over a table by a carrier that drives no tools.
    ``still`` says whether the tool stands still while the work turns, None as it
    is usual there. A carrier that drives nothing leaves the work to turn.
    """
    at, holds = place_of(machine, place), carrier_of(machine, carrier)
    if at is None or holds is None:
        return None
    spindle = driven(holds, machine)
    if isinstance(at, SpindleNose) and (still is not False or spindle is None):
        spindle = next(each for each in machine.spindles if each.id == at.spindle)
    return None if spindle is None else Rig(machine, spindle, holds, at)


def usual_rig(machine: Machine) -> Rig:
    """What does an operation where nobody has named place or carrier."""
    each = (rig(machine, carrier=carrier.id) for carrier in machine.carriers)
    return next(found for found in each if found is not None)  # one of them drives a table's


@dataclass(frozen=True, slots=True)
class Tilting:
    """A table with an axis that tilts it about the station's X and one that turns it about Z."""

    table: Table
    tilt: RotaryAxis
    turn: RotaryAxis


def tilting(rig: Rig) -> Tilting | None:
    """The table that follows an edge at any angle, None where it has not both axes."""
    if not isinstance(rig.place, Table):
        return None
    about = {each.about: each for each in rig.place.turning}
    if not {"x", "z"} <= about.keys():
        return None
    return Tilting(rig.place, about["x"], about["z"])
