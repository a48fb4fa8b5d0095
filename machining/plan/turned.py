"""Kinds of turned operation and their places: Z from the setup's zero, positive away from the
chuck; sizes as diameters.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, ClassVar, Literal, Self, TypeAlias

from pydantic import Field, model_validator

from machining.world.asked import Asked
from machining.world.record import Coordinate, Length, LengthOrZero, Place, Record, Step

from .asked_alike import A_SIDE, HAND, LEAVE, OVER, PASSES, PITCH, SPRING, THREAD
from .base import OperationBase

MOST_CORNERS = 300  # of a contour
Side: TypeAlias = Literal["outside", "inside"]


class Plane(Record):
    """A flat square to the spindle at ``z_mm``, cut in to ``to_diameter_mm``."""

    kind: Literal["plane"] = "plane"
    z_mm: Annotated[Coordinate, Asked("At Z")] = 0.0
    to_diameter_mm: Annotated[LengthOrZero, Asked("In to Ø")] = 0.0


class Profile(Record):
    """Corners of a turned contour as (Z, diameter), from the free end towards the chuck."""

    kind: Literal["profile"] = "profile"
    at_mm: tuple[Place, ...] = Field(min_length=2, max_length=MOST_CORNERS)
    side: Annotated[
        Side,
        Asked("Turn", choices=(("outside", "outside"), ("inside", "inside"))),
    ] = "outside"

    @staticmethod
    def through(corners: Iterable[tuple[float, float]], side: Side) -> Profile:
        """The contour through corners of (radius, z), mm."""
        at = tuple((round(z, 3) + 0.0, round(2.0 * r, 3)) for r, z in corners)
        return Profile(at_mm=at, side=side)

    @model_validator(mode="after")
    def _runs_to_the_chuck(self) -> Profile:
        for place, ((z, d), (next_z, next_d)) in enumerate(
            zip(self.at_mm[:-1], self.at_mm[1:], strict=True), 1
        ):
            if next_z > z:
                raise ValueError(
                    f"corner {place + 1} is at Z {next_z:g}; it must be at or below corner {place},"
                    f" {z:g}: a contour runs towards the chuck"
                )
            if (z, d) == (next_z, next_d):
                raise ValueError(f"corner {place + 1} is corner {place} again; they must differ")
        if any(d < 0 for _, d in self.at_mm):
            raise ValueError("a diameter is under 0; every diameter must be 0 or more")
        if self.at_mm[0][0] <= self.at_mm[-1][0]:
            raise ValueError("the contour has no length; it must end below where it starts")
        return self


class Groove(Record):
    """A groove into a round from outside: ``z_mm`` is its wall away from the chuck, ``diameter_mm``
    its bottom.
    """

    kind: Literal["groove"] = "groove"
    z_mm: Annotated[Coordinate, Asked("From Z")]
    width_mm: Annotated[Step, Asked("Wide")]
    diameter_mm: Annotated[LengthOrZero, Asked("Bottom Ø")]


class RingGroove(Record):
    """A groove into a face at ``z_mm``, with its outer wall at a diameter."""

    kind: Literal["ring"] = "ring"
    z_mm: Annotated[Coordinate, Asked("Face at Z")] = 0.0
    outer_diameter_mm: Annotated[Length, Asked("Outer Ø")]
    width_mm: Annotated[Step, Asked("Wide")]
    depth_mm: Annotated[Length, Asked("Deep")]

    @model_validator(mode="after")
    def _has_a_middle(self) -> RingGroove:
        if 2.0 * self.width_mm > self.outer_diameter_mm:
            raise ValueError(
                f"width_mm is {self.width_mm:g}; it must be up to half the outer diameter,"
                f" {self.outer_diameter_mm / 2:g}"
            )
        return self


class Stretch(Record):
    """A length of a round, from ``z_mm`` towards the chuck."""

    kind: Literal["stretch"] = "stretch"
    z_mm: Annotated[Coordinate, Asked("From Z")] = 0.0
    length_mm: Annotated[Length, Asked("Long")]


class _Turned(OperationBase):
    """``rpm`` typed turns at one speed; else the speed at the edge is kept: the material's, or
    ``cutting_speed_m_min``.
    """

    FEEDS: ClassVar[tuple[str, ...]] = ("feed_per_rev_mm", "feed_mm_min")

    @model_validator(mode="after")
    def _all_round(self) -> Self:
        if self.aim is not None:
            raise ValueError(f"aim is {self.aim!r}; it must be empty: what is turned has no side")
        return self


class TurnFace(_Turned):
    """``over_mm`` is how far before the blank as drawn its passes begin: through air, where the
    blank is no longer.
    """

    PLACES = frozenset({"plane"})
    VERB = "Face end"
    kind: Literal["turn_face"] = "turn_face"
    on: Plane = Plane()
    depth_mm: Annotated[Length, A_SIDE] = 1.5
    leave_mm: Annotated[LengthOrZero, LEAVE] = 0.0
    over_mm: Annotated[LengthOrZero, OVER] = 0.0


class TurnRough(_Turned):
    """Passes along the spindle, each up to ``depth_mm`` a side; ``leave_mm`` stays on the radius,
    ``leave_face_mm`` on shoulders.
    """

    PLACES = frozenset({"profile"})
    VERB = "Rough turn"
    kind: Literal["turn_rough"] = "turn_rough"
    on: Profile
    depth_mm: Annotated[Length, A_SIDE] = 2.0
    leave_mm: Annotated[LengthOrZero, LEAVE] = 0.3
    leave_face_mm: Annotated[LengthOrZero, Asked("on shoulders")] = 0.1


class TurnFinish(_Turned):
    """Along the contour. ``width_mm`` is what was left on the radius for it."""

    PLACES = frozenset({"profile"})
    VERB = "Finish turn"
    kind: Literal["turn_finish"] = "turn_finish"
    on: Profile
    width_mm: Annotated[Step, Asked("Was left", "size")] = 0.3
    passes: Annotated[int, PASSES] = Field(1, ge=1, le=5)


class TurnGroove(_Turned):
    """Plunges side by side, ``step_mm`` apart at most, and once along the bottom."""

    PLACES = frozenset({"groove", "ring"})
    VERB = "Groove"
    kind: Literal["turn_groove"] = "turn_groove"
    on: Annotated[Groove | RingGroove, Field(discriminator="kind")]
    step_mm: Annotated[Step | None, Asked("Step aside", "size", empty="auto")] = None


class TurnThread(_Turned):
    """An outside 60° thread. ``towards`` is where the tool runs; ``ends`` in a relief, or pulled
    out over its last turn, which is then not full.

    ``run_in_mm`` left empty is what the axis needs to reach its feed.
    """

    PLACES = frozenset({"stretch"})
    VERB = "Thread"
    FEEDS = ()
    kind: Literal["turn_thread"] = "turn_thread"
    on: Stretch
    diameter_mm: Annotated[Length, THREAD]
    pitch_mm: Annotated[Length, PITCH]
    starts: Annotated[int, Asked("Starts", "count")] = Field(1, ge=1, le=8)
    passes: Annotated[int, PASSES] = Field(6, ge=1, le=40)
    spring_passes: Annotated[int, SPRING] = Field(1, ge=0, le=5)
    hand: Annotated[Literal["right", "left"], HAND] = "right"
    towards: Annotated[
        Literal["chuck", "tail"],
        Asked("Run", choices=(("chuck", "towards the chuck"), ("tail", "away from the chuck"))),
    ] = "chuck"
    ends: Annotated[
        Literal["relief", "pulled"],
        Asked("Ends", choices=(("relief", "in a relief"), ("pulled", "pulled out"))),
    ] = "relief"
    run_in_mm: Annotated[LengthOrZero | None, Asked("Run-in", empty="auto")] = None


class PartOff(_Turned):
    """``z_mm`` of its plane is the parted face."""

    PLACES = frozenset({"plane"})
    VERB = "Part off"
    kind: Literal["part_off"] = "part_off"
    on: Plane
