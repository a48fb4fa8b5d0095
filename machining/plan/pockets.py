"""Pockets, slots, their walls and floors."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from machining.world.asked import Asked
from machining.world.record import Length, LengthOrZero, Place, Step

from .asked_alike import DEPTH, LEAVE, PASSES, PAST, RAMP, STEP_DOWN, STEP_OVER, WIDTH, Clears
from .base import OperationBase
from .places import Where


class RoughPocket(OperationBase):
    """``enter`` is how it gets down where nothing is open; ``ramp_deg`` is for ramp and helix,
    ``hole_at_mm`` where an open hole stands (empty: in the middle), ``past_mm`` for windows.
    """

    PLACES = frozenset({"features", "rectangle", "area"})
    VERB = "Rough pocket"
    kind: Literal["rough_pocket"] = "rough_pocket"
    on: Where
    step_down_mm: Annotated[Step, STEP_DOWN]
    step_over_mm: Annotated[Step, STEP_OVER]
    leave_mm: Annotated[LengthOrZero, LEAVE] = 0.3
    leave_floor_mm: Annotated[LengthOrZero, Asked("on the floor")] = 0.0
    enter: Annotated[
        Literal["ramp", "helix", "plunge", "hole"],
        Asked(
            "Get down",
            choices=(
                ("ramp", "by a ramp"),
                ("helix", "on a helix"),
                ("hole", "into a drilled hole"),
                ("plunge", "straight down"),
            ),
        ),
    ] = "ramp"
    ramp_deg: Annotated[float, RAMP] = Field(3.0, ge=0.1, le=90)
    hole_at_mm: Place | None = None
    past_mm: LengthOrZero = 0.5
    clears: Clears = "open"


class Slot(OperationBase):
    """As wide as its tool: down on a slope to and fro, round and round where closed, then along
    it at each level. A smaller tool ``cuts`` its middle, then both walls, or goes in loops from
    wall to wall, ``step_over_mm`` wide each. On lines it is ``depth_mm`` deep and ``width_mm`` wide
    (empty: as the tool), or beside them: cut round.
    """

    PLACES = frozenset({"features", "rectangle", "lines", "drawn"})
    VERB = "Slot"
    kind: Literal["slot"] = "slot"
    on: Where
    step_down_mm: Annotated[Step, STEP_DOWN]
    cuts: Annotated[
        Literal["width", "walls", "loops"],
        Asked(
            "Cut",
            choices=(
                ("width", "at the tool's width"),
                ("walls", "its middle, then both walls"),
                ("loops", "in loops"),
            ),
        ),
    ] = "width"
    step_over_mm: Annotated[Step | None, Asked("Step over", empty="10 % Ø")] = None
    leave_mm: Annotated[LengthOrZero, LEAVE] = 0.0
    ramp_deg: Annotated[float, Field(ge=0.1, le=90), RAMP] = 3.0
    depth_mm: Length | None = None
    width_mm: Length | None = None
    runs: Literal["on", "beside"] = "on"


class CutOut(OperationBase):
    """Round the part's outline at the tool's own width, ``past_mm`` below its bottom: the frame of
    a plate stays outside. ``tabs`` bridges are left across, ``tab_mm`` wide in their middle and
    ``tab_high_mm`` high over the part's bottom.
    """

    PLACES = frozenset({"outside"})
    VERB = "Cut out"
    kind: Literal["cut_out"] = "cut_out"
    on: Where
    step_down_mm: Annotated[Step, STEP_DOWN]
    leave_mm: Annotated[LengthOrZero, LEAVE] = 0.0
    ramp_deg: Annotated[float, Field(ge=0.1, le=90), RAMP] = 3.0
    past_mm: Annotated[LengthOrZero, PAST] = 0.2
    tabs: Annotated[int, Asked("Tabs", "count")] = Field(0, ge=0, le=24)
    tab_mm: Annotated[Length, Asked("each wide")] = 6.0
    tab_high_mm: Annotated[Length, Asked("and high")] = 1.0


class FinishWalls(OperationBase):
    """``chain`` is how many times the width is cut, measured and corrected before the size is
    reached: 1 goes straight to it; ``past_mm`` is for windows.
    """

    PLACES = frozenset({"outside", "features", "rectangle", "area"})
    VERB = "Finish walls"
    kind: Literal["finish_walls"] = "finish_walls"
    on: Where
    step_down_mm: Annotated[Step, STEP_DOWN]
    width_mm: Annotated[Step, WIDTH] = 0.3
    passes: Annotated[int, PASSES] = Field(1, ge=1, le=10)
    lead: Annotated[
        Literal["straight", "angle", "arc"],
        Asked(
            "Come in", choices=(("straight", "straight"), ("angle", "at 45°"), ("arc", "on an arc"))
        ),
    ] = "straight"
    chain: Annotated[int, Asked("Cuts to measure", "count")] = Field(1, ge=1, le=5)
    past_mm: LengthOrZero = 0.5


class FinishFloor(OperationBase):
    PLACES = frozenset({"features", "rectangle", "area"})
    VERB = "Finish floor"
    kind: Literal["finish_floor"] = "finish_floor"
    on: Where
    depth_mm: Annotated[Length, DEPTH] = 0.3
    step_over_mm: Annotated[Step, STEP_OVER]
