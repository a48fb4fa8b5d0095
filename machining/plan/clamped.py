"""A part clamped down on what it stands on, as a plan says it: dowels it lies against, clamps that
press it down or against them, and what holds the plate it lies on.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from machining.geometry.frames import Sideways
from machining.world.asked import Asked
from machining.world.record import Coordinate, Id, Key, Length, LengthOrZero, Line, Record, Torque

from .in_vise import SIDES, Holding, HoldingBase

FIXED_IN = (("base", "the base"), ("under", "what holds the base"))
MOST_DOWELS, MOST_CLAMPS = 12, 20


class Dowel(Record):
    """A round pin that stands in the base and touches the part at a ``side``, ``at_mm`` along it
    from the middle of the stock.
    """

    id: Id
    side: Annotated[Sideways, Asked("At its", choices=SIDES)]
    at_mm: Annotated[Coordinate, Asked("From the middle")] = 0.0
    high_mm: Annotated[Length, Asked("High")] = 8.0


class Clamp(Record):
    """A clamp of the shop that comes from a ``side``, ``at_mm`` along it from the middle of the
    stock; a strap lies ``over_mm`` over the part, a screw goes down that far from the side.
    ``fixed_in`` is what takes its reaction.
    """

    id: Id
    clamp: Key
    side: Annotated[Sideways, Asked("From its", choices=SIDES)]
    at_mm: Annotated[Coordinate, Asked("From the middle")] = 0.0
    over_mm: Annotated[LengthOrZero, Asked("Over the part")] = 0.0
    torque_nm: Annotated[Torque, Asked("Torque", "torque")]
    fixed_in: Annotated[Literal["base", "under"], Asked("Screwed into", choices=FIXED_IN)] = "base"


class Clamped(HoldingBase):
    """``x_mm`` and ``y_mm`` are the middle of the stock from that of the base, ``raised_mm`` how
    high it lies on two parallels, ``hangs_mm`` how far it reaches below the highest seat of a
    fixture. Where its dowels are a nest of fixed pins, ``nest_mm`` is the
    diameter they stand for and ``shim_mm`` what lies between each and the part. Clamps are
    tightened in their order. Without a ``vise`` the base is bolted to what it stands on.
    """

    kind: Literal["clamped"] = "clamped"
    base: Key
    x_mm: Annotated[Coordinate, Asked("On the base at X")] = 0.0
    y_mm: Annotated[Coordinate, Asked("Y")] = 0.0
    raised_mm: Annotated[LengthOrZero, Asked("Parallels under it")] = 0.0
    hangs_mm: Annotated[LengthOrZero, Asked("Reaches below its seats")] = 0.0
    nest_mm: Annotated[Length | None, Asked("Nest made for Ø", empty="no nest")] = None
    shim_mm: Annotated[LengthOrZero, Asked("Shim at each dowel")] = 0.0
    dowels: tuple[Dowel, ...] = Field((), max_length=MOST_DOWELS)
    clamps: tuple[Clamp, ...] = Field((), max_length=MOST_CLAMPS)
    vise: Holding | None = None
    reason: Line = ""

    @model_validator(mode="after")
    def _one_of_each_name(self) -> Clamped:
        ids = [*(each.id for each in self.dowels), *(each.id for each in self.clamps)]
        for id in ids:
            if ids.count(id) > 1:
                raise ValueError(f"id is {id!r} more than once; each dowel and clamp has its own")
        if self.vise is None:
            for each in self.clamps:
                if each.fixed_in == "under":
                    raise ValueError(
                        f"fixed_in of {each.id} is 'under'; it must be 'base' where nothing holds"
                        " the base"
                    )
        return self

    @property
    def item(self) -> str:
        """Key of the library's record."""
        return self.base

    @property
    def items(self) -> tuple[str, ...]:
        return (self.base,) if self.vise is None else (self.base, self.vise.vise)

    @property
    def gear(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(each.clamp for each in self.clamps))
