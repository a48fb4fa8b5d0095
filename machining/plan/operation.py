"""Kinds of operation as a tagged union."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from machining.world.asked import Asked
from machining.world.record import Cusp, Length, LengthOrZero, Step

from .asked_alike import (
    A_TURN,
    CUSP,
    DEPTH,
    DEPTH_OR,
    DRAWN_DEPTH,
    HAND,
    LEAVE,
    MOUTH,
    OR_WIDTH,
    OVER,
    PASSES,
    PAST,
    PITCH,
    SIZE,
    SPRING,
    STEP_DOWN,
    STEP_OVER,
    THREAD,
    WIDTH,
    Clears,
)
from .base import OperationBase
from .places import HOLES, Top, Where
from .pockets import CutOut as CutOut
from .pockets import FinishFloor as FinishFloor
from .pockets import FinishWalls as FinishWalls
from .pockets import RoughPocket as RoughPocket
from .pockets import Slot as Slot
from .turned import PartOff, TurnFace, TurnFinish, TurnGroove, TurnRough, TurnThread

RUNS = (
    ("", "along the longer side"),
    ("x+", "towards X+"),
    ("x-", "towards X−"),
    ("y+", "towards Y+"),
    ("y-", "towards Y−"),
)


class Face(OperationBase):
    """Its passes begin ``over_mm`` over the blank as drawn: in air, where that is no larger."""

    PLACES = frozenset({"top"})
    VERB = "Face top"
    kind: Literal["face"] = "face"
    on: Where = Top()
    step_down_mm: Annotated[Step, STEP_DOWN] = 2.0
    step_over_mm: Annotated[Step | None, Asked("Step over", empty="70 % Ø")] = None
    leave_mm: Annotated[LengthOrZero, LEAVE] = 0.0
    over_mm: Annotated[LengthOrZero, OVER] = 0.0
    ways: Annotated[
        Literal["both", "one"], Asked("Cut", choices=(("both", "both ways"), ("one", "one way")))
    ] = "both"
    towards: Annotated[Literal["", "x+", "x-", "y+", "y-"], Asked("Passes run", choices=RUNS)] = ""


class RoughOutside(OperationBase):
    """Its passes begin ``over_mm`` outside the blank as drawn. It ``clears`` from what is open on,
    or in plain rings, whatever they meet.
    """

    PLACES = frozenset({"outside"})
    VERB = "Rough outside"
    kind: Literal["rough_outside"] = "rough_outside"
    on: Where
    step_down_mm: Annotated[Step, STEP_DOWN]
    step_over_mm: Annotated[Step, STEP_OVER]
    leave_mm: Annotated[LengthOrZero, LEAVE] = 0.3
    over_mm: Annotated[LengthOrZero, OVER] = 0.0
    clears: Clears = "open"


class Drill(OperationBase):
    PLACES = HOLES
    VERB = "Drill"
    kind: Literal["drill"] = "drill"
    on: Where
    peck_mm: Annotated[Step | None, Asked("Peck", empty="none")] = None
    past_mm: Annotated[LengthOrZero, PAST] = 1.0
    depth_mm: Annotated[Length | None, DRAWN_DEPTH] = None


class Ream(OperationBase):
    PLACES = HOLES
    VERB = "Ream"
    kind: Literal["ream"] = "ream"
    on: Where
    past_mm: Annotated[LengthOrZero, PAST] = 1.0
    depth_mm: Annotated[Length | None, DRAWN_DEPTH] = None


class Tap(OperationBase):
    PLACES = HOLES
    VERB = "Tap"
    FEEDS = ("feed_mm_min",)
    kind: Literal["tap"] = "tap"
    on: Where
    depth_mm: Annotated[Length, DEPTH]


class Bore(OperationBase):
    PLACES = HOLES
    VERB = "Bore"
    kind: Literal["bore"] = "bore"
    on: Where
    width_mm: Annotated[Step, WIDTH] = 0.25
    past_mm: Annotated[LengthOrZero, PAST] = 0.5


class Chamfer(OperationBase):
    """``below_mm`` is how far the tip goes below the chamfer: the edge cuts further out, where it
    is faster.
    """

    PLACES = HOLES | {"top", "lines", "drawn"}
    VERB = "Break edges"
    kind: Literal["chamfer"] = "chamfer"
    on: Where = Top()
    size_mm: Annotated[Length, SIZE] = 0.4
    below_mm: Annotated[LengthOrZero, Asked("Tip below")] = 0.0


class _InHoles(OperationBase):
    PLACES = HOLES


class Spot(_InHoles):
    """A cone to a mouth diameter, before drilling."""

    VERB = "Spot"
    kind: Literal["spot"] = "spot"
    on: Where
    mouth_diameter_mm: Annotated[Length, MOUTH]


class Countersink(_InHoles):
    """A cone over a hole to a mouth diameter; ``ball_diameter_mm`` is the ball to sit in it."""

    VERB = "Countersink"
    kind: Literal["countersink"] = "countersink"
    on: Where
    mouth_diameter_mm: Annotated[Length, MOUTH]
    ball_diameter_mm: Annotated[Length | None, Asked("Ball Ø", empty="none")] = None


class Counterbore(_InHoles):
    """A flat wider mouth, plunged by a tool of its size or milled by a smaller one."""

    VERB = "Counterbore"
    kind: Literal["counterbore"] = "counterbore"
    on: Where
    diameter_mm: Annotated[Length, Asked("Opens to Ø")]
    depth_mm: Annotated[Length, DEPTH]
    step_down_mm: Annotated[Step, A_TURN] = 1.0


class SpotFace(_InHoles):
    """A flat seat round a hole, only as deep as the seat needs."""

    VERB = "Spot-face"
    kind: Literal["spot_face"] = "spot_face"
    on: Where
    diameter_mm: Annotated[Length, Asked("Seat Ø")]
    depth_mm: Annotated[Length, DEPTH] = 0.5
    step_down_mm: Annotated[Step, A_TURN] = 0.5


class BackChamfer(_InHoles):
    """The far edge of a through hole, cut by a tool that passes it, is moved aside and comes up
    against it.
    """

    VERB = "Chamfer behind"
    kind: Literal["back_chamfer"] = "back_chamfer"
    on: Where
    size_mm: Annotated[Length, SIZE] = 0.4
    below_mm: Annotated[LengthOrZero, Asked("Edge below")] = 0.5


class MillHole(_InHoles):
    """A hole milled on a helix, ``step_down_mm`` a turn. ``from_diameter_mm`` is what is open
    already, ``leave_mm`` stays on the radius.
    """

    VERB = "Mill hole"
    kind: Literal["mill_hole"] = "mill_hole"
    on: Where
    diameter_mm: Annotated[Length | None, Asked("To Ø", "size", empty="drawn")] = None
    from_diameter_mm: Annotated[LengthOrZero, Asked("Open already Ø")] = 0.0
    step_down_mm: Annotated[Step, A_TURN] = 1.0
    leave_mm: Annotated[LengthOrZero, LEAVE] = 0.0
    past_mm: Annotated[LengthOrZero, PAST] = 0.5
    depth_mm: Annotated[Length | None, DRAWN_DEPTH] = None


class MillThread(_InHoles):
    """An internal thread on a helix. ``taper_per_mm`` is on diameter: 0.0625 for one in sixteen,
    measured at the mouth.
    """

    VERB = "Mill thread"
    kind: Literal["mill_thread"] = "mill_thread"
    on: Where
    major_mm: Annotated[Length, THREAD]
    pitch_mm: Annotated[Length, PITCH]
    depth_mm: Annotated[Length, DEPTH]
    passes: Annotated[int, PASSES] = Field(1, ge=1, le=12)
    spring_passes: Annotated[int, SPRING] = Field(0, ge=0, le=3)
    cuts: Annotated[
        Literal["up", "down"],
        Asked("Cut", choices=(("up", "from the bottom up"), ("down", "from the top down"))),
    ] = "up"
    hand: Annotated[Literal["right", "left"], HAND] = "right"
    taper_per_mm: Annotated[float, Asked("Taper on Ø", "number")] = Field(0.0, ge=0, le=0.3)


class Undercut(OperationBase):
    """A slanted flank under an edge, ``width_mm`` wide at its floor, in passes of equal step or
    equal load.
    """

    PLACES = frozenset({"lines"})
    VERB = "Undercut"
    kind: Literal["undercut"] = "undercut"
    on: Where
    depth_mm: Annotated[Length, DEPTH]
    width_mm: Annotated[Step, Asked("Under the edge by")]
    passes: Annotated[int, PASSES] = Field(3, ge=1, le=30)
    equal: Annotated[
        Literal["step", "load"],
        Asked("Each pass takes", choices=(("load", "the same load"), ("step", "the same step"))),
    ] = "load"
    past_mm: Annotated[LengthOrZero | None, Asked("Past the ends", empty="auto")] = None


class Engrave(OperationBase):
    """Lines or a text with a pointed tool, by depth or by width; the other follows."""

    PLACES = frozenset({"lines", "drawn", "text"})
    VERB = "Engrave"
    kind: Literal["engrave"] = "engrave"
    on: Where
    depth_mm: Annotated[Length | None, DEPTH_OR] = 0.3
    width_mm: Annotated[Step | None, OR_WIDTH] = None

    @model_validator(mode="after")
    def _one_of_both(self) -> Engrave:
        if (self.depth_mm is None) == (self.width_mm is None):
            raise ValueError("depth_mm or width_mm must be given, one of the two")
        return self


class RoundEdge(OperationBase):
    """An outside edge rounded by a form tool in one pass, or by a ball as its cusp allows."""

    PLACES = frozenset({"top", "lines", "drawn"})
    VERB = "Round edges"
    kind: Literal["round_edge"] = "round_edge"
    on: Where = Top()
    radius_mm: Annotated[Length, Asked("Radius")]
    cusp_mm: Annotated[Cusp, CUSP] = 0.01


class Slope(OperationBase):
    """A chamfer at any angle from the face, ``size_mm`` wide on it: upright by a tool of that
    angle, or by a ball or bull nose step by step; tilted by an end mill's bottom or a chamfer
    mill's flank, the rotary axes locked for each straight edge or live along the way.
    """

    PLACES = frozenset({"top", "lines", "drawn"})
    VERB = "Slope"
    kind: Literal["slope"] = "slope"
    on: Where = Top()
    size_mm: Annotated[Length, Asked("Wide on the face")]
    angle_deg: Annotated[float, Asked("From the face", "angle")] = Field(ge=0.5, le=89.5)
    cusp_mm: Annotated[Cusp, CUSP] = 0.01
    axes: Annotated[
        Literal["upright", "locked", "live"],
        Asked(
            "Tool stands",
            choices=(
                ("upright", "upright"),
                ("locked", "tilted, axes locked"),
                ("live", "tilted, axes live"),
            ),
        ),
    ] = "upright"


Operation = Annotated[
    Face
    | RoughOutside
    | RoughPocket
    | Slot
    | CutOut
    | FinishWalls
    | FinishFloor
    | Drill
    | Ream
    | Tap
    | Bore
    | Chamfer
    | Spot
    | Countersink
    | Counterbore
    | SpotFace
    | BackChamfer
    | MillHole
    | MillThread
    | Undercut
    | Engrave
    | RoundEdge
    | Slope
    | TurnFace
    | TurnRough
    | TurnFinish
    | TurnGroove
    | TurnThread
    | PartOff,
    Field(discriminator="kind"),
]
KINDS: frozenset[str] = frozenset(
    each.model_fields["kind"].default for each in get_args(get_args(Operation)[0])
)
