"""Two jaws of a vise, as a plan says how they hold."""

from __future__ import annotations

from typing import Annotated, Literal

from machining.world.asked import Asked
from machining.world.record import Coordinate, Key, Length, LengthOrZero, Line, Record, Torque

SIDES = (("+y", "back"), ("-y", "front"), ("+x", "right"), ("-x", "left"))
CALLED = dict(SIDES)
MOUNTED = (
    ("inside", "inside"),
    ("outside", "both on the outside"),
    ("back", "the moving one on its back"),
)
JawsOn = Literal["inside", "outside", "back"]
STOPS = (("", "none"), ("low", "at its left or front end"), ("high", "at its right or back end"))


class HoldingBase(Record):
    """What every way of holding has: ``items`` are keys of the library's holdings, its own first,
    ``gear`` of its clamps.
    """

    @property
    def item(self) -> str:
        """Key of the library's record."""
        raise NotImplementedError

    @property
    def items(self) -> tuple[str, ...]:
        return (self.item,)

    @property
    def gear(self) -> tuple[str, ...]:
        return ()


class Holding(HoldingBase):
    """Two jaws of a vise. ``fixed`` is the side of the machine the fixed jaw stands on, ``stop``
    the end the part is pushed against along the jaws. A long part lies in two like it, their
    middles ``second_mm`` apart along the jaws. Soft jaws may have its outline cut into them, each
    ``profile_mm`` deep.
    """

    kind: Literal["vise"] = "vise"
    vise: Key
    fixed: Annotated[Literal["+y", "-y", "+x", "-x"], Asked("Fixed jaw", choices=SIDES)] = "+y"
    grip_depth_mm: Annotated[Length, Asked("Grip")]
    torque_nm: Annotated[Torque, Asked("Torque", "torque")]
    shift_mm: Annotated[Coordinate, Asked("Shift along the jaws")] = 0.0
    stop: Annotated[Literal["", "low", "high"], Asked("Stop", choices=STOPS)] = ""
    parallels_in_mm: Annotated[
        LengthOrZero | None, Asked("Parallels in from the jaws", empty="at them")
    ] = None
    second_mm: Annotated[Length | None, Asked("Second vise, middles apart", empty="none")] = None
    jaws_on: Annotated[JawsOn, Asked("Jaws mounted", choices=MOUNTED)] = "inside"
    profile_mm: Annotated[LengthOrZero, Asked("Outline cut into each jaw")] = 0.0
    reason: Line = ""

    @property
    def item(self) -> str:
        """Key of the library's record."""
        return self.vise
