"""Kinds of operation as a tagged union."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from machining.world.record import Cusp, Length, LengthOrZero, Place, Step

from .base import OperationBase
from .places import Top, Where
from .turned import PartOff, TurnFace, TurnFinish, TurnGroove, TurnRough, TurnThread


class Face(OperationBase):
    """``over_mm`` is how far over the blank as drawn its passes begin: through air, where the blank
    is no larger.
    """

    PLACES = frozenset({"top"})
    VERB = "Face top"
    kind: Literal["face"] = "face"
    on: Where = Top()
    step_down_mm: Step = 2.0
    step_over_mm: Step | None = None
    leave_mm: LengthOrZero = 0.0
    over_mm: LengthOrZero = 0.0
    ways: Literal["both", "one"] = "both"


class RoughOutside(OperationBase):
    """``over_mm`` is how far outside the blank as drawn its passes begin: through air, where the
    blank is no larger.
    """

    PLACES = frozenset({"outside"})
    VERB = "Rough outside"
    kind: Literal["rough_outside"] = "rough_outside"
    on: Where
    step_down_mm: Step
    step_over_mm: Step
    leave_mm: LengthOrZero = 0.3
    over_mm: LengthOrZero = 0.0


class RoughPocket(OperationBase):
    """``enter`` says how the tool gets down; ``ramp_deg`` is for ramp and helix, ``hole_at_mm``
    where an open hole stands (empty: in the middle).
    """

    PLACES = frozenset({"features", "rectangle"})
    VERB = "Rough pocket"
    kind: Literal["rough_pocket"] = "rough_pocket"
    on: Where
    step_down_mm: Step
    step_over_mm: Step
    leave_mm: LengthOrZero = 0.3
    leave_floor_mm: LengthOrZero = 0.0
    enter: Literal["ramp", "helix", "plunge", "hole"] = "ramp"
    ramp_deg: float = Field(3.0, ge=0.1, le=90)
    hole_at_mm: Place | None = None


class FinishWalls(OperationBase):
    """``chain`` is how many times the width is cut, measured and corrected before the size is
    reached: 1 goes straight to it.
    """

    PLACES = frozenset({"outside", "features", "rectangle"})
    VERB = "Finish walls"
    kind: Literal["finish_walls"] = "finish_walls"
    on: Where
    step_down_mm: Step
    width_mm: Step = 0.3
    passes: int = Field(1, ge=1, le=10)
    lead: Literal["straight", "angle", "arc"] = "straight"
    chain: int = Field(1, ge=1, le=5)


class FinishFloor(OperationBase):
    PLACES = frozenset({"features", "rectangle"})
    VERB = "Finish floor"
    kind: Literal["finish_floor"] = "finish_floor"
    on: Where
    depth_mm: Length = 0.3
    step_over_mm: Step


class Drill(OperationBase):
    PLACES = frozenset({"features", "points"})
    VERB = "Drill"
    kind: Literal["drill"] = "drill"
    on: Where
    peck_mm: Step | None = None
    past_mm: LengthOrZero = 1.0
    depth_mm: Length | None = None


class Ream(OperationBase):
    PLACES = frozenset({"features", "points"})
    VERB = "Ream"
    kind: Literal["ream"] = "ream"
    on: Where
    past_mm: LengthOrZero = 1.0
    depth_mm: Length | None = None


class Tap(OperationBase):
    PLACES = frozenset({"features", "points"})
    VERB = "Tap"
    kind: Literal["tap"] = "tap"
    on: Where
    depth_mm: Length


class Bore(OperationBase):
    PLACES = frozenset({"features", "points"})
    VERB = "Bore"
    kind: Literal["bore"] = "bore"
    on: Where
    width_mm: Step = 0.25
    past_mm: LengthOrZero = 0.5


class Chamfer(OperationBase):
    """``below_mm`` is how far the tip goes below the chamfer: the edge cuts further out, where it
    is faster.
    """

    PLACES = frozenset({"top", "features", "points"})
    VERB = "Break edges"
    kind: Literal["chamfer"] = "chamfer"
    on: Where = Top()
    size_mm: Length = 0.4
    below_mm: LengthOrZero = 0.0


class _InHoles(OperationBase):
    PLACES = frozenset({"features", "points"})


class Spot(_InHoles):
    """A cone to a mouth diameter, before drilling."""

    VERB = "Spot"
    kind: Literal["spot"] = "spot"
    on: Where
    mouth_diameter_mm: Length


class Countersink(_InHoles):
    """A cone over a hole to a mouth diameter; ``ball_diameter_mm`` is the ball that is to sit in
    it.
    """

    VERB = "Countersink"
    kind: Literal["countersink"] = "countersink"
    on: Where
    mouth_diameter_mm: Length
    ball_diameter_mm: Length | None = None


class Counterbore(_InHoles):
    """A flat wider mouth, plunged by a tool of its size or milled by a smaller one."""

    VERB = "Counterbore"
    kind: Literal["counterbore"] = "counterbore"
    on: Where
    diameter_mm: Length
    depth_mm: Length
    step_down_mm: Step = 1.0


class SpotFace(_InHoles):
    """A flat seat round a hole, only as deep as the seat needs."""

    VERB = "Spot-face"
    kind: Literal["spot_face"] = "spot_face"
    on: Where
    diameter_mm: Length
    depth_mm: Length = 0.5
    step_down_mm: Step = 0.5


class BackChamfer(_InHoles):
    """The far edge of a through hole, cut by a tool that passes it, is moved aside and comes up
    against it.
    """

    VERB = "Chamfer behind"
    kind: Literal["back_chamfer"] = "back_chamfer"
    on: Where
    size_mm: Length = 0.4
    below_mm: LengthOrZero = 0.5


class MillHole(_InHoles):
    """A hole milled on a helix, ``step_down_mm`` a turn. ``from_diameter_mm`` is what is open
    already, ``leave_mm`` stays on the radius.
    """

    VERB = "Mill hole"
    kind: Literal["mill_hole"] = "mill_hole"
    on: Where
    diameter_mm: Length | None = None
    from_diameter_mm: LengthOrZero = 0.0
    step_down_mm: Step = 1.0
    leave_mm: LengthOrZero = 0.0
    past_mm: LengthOrZero = 0.5
    depth_mm: Length | None = None


class MillThread(_InHoles):
    """An internal thread on a helix. ``taper_per_mm`` is on diameter: 0.0625 for one in sixteen,
    measured at the mouth.
    """

    VERB = "Mill thread"
    kind: Literal["mill_thread"] = "mill_thread"
    on: Where
    major_mm: Length
    pitch_mm: Length
    depth_mm: Length
    passes: int = Field(1, ge=1, le=12)
    spring_passes: int = Field(0, ge=0, le=3)
    cuts: Literal["up", "down"] = "up"
    hand: Literal["right", "left"] = "right"
    taper_per_mm: float = Field(0.0, ge=0, le=0.3)


class Undercut(OperationBase):
    """A slanted flank under an edge, ``width_mm`` wide at its floor, in passes of equal step or
    equal load.
    """

    PLACES = frozenset({"lines"})
    VERB = "Undercut"
    kind: Literal["undercut"] = "undercut"
    on: Where
    depth_mm: Length
    width_mm: Step
    passes: int = Field(3, ge=1, le=30)
    equal: Literal["step", "load"] = "load"
    past_mm: LengthOrZero | None = None


class Engrave(OperationBase):
    """Lines or a text with a pointed tool, by depth or by width; the other follows."""

    PLACES = frozenset({"lines", "text"})
    VERB = "Engrave"
    kind: Literal["engrave"] = "engrave"
    on: Where
    depth_mm: Length | None = 0.3
    width_mm: Step | None = None

    @model_validator(mode="after")
    def _one_of_both(self) -> Engrave:
        if (self.depth_mm is None) == (self.width_mm is None):
            raise ValueError("depth_mm or width_mm must be given, one of the two")
        return self


class RoundEdge(OperationBase):
    """An outside edge rounded by a form tool in one pass, or by a ball in as many as its cusp
    allows.
    """

    PLACES = frozenset({"top", "lines"})
    VERB = "Round edges"
    kind: Literal["round_edge"] = "round_edge"
    on: Where = Top()
    radius_mm: Length
    cusp_mm: Cusp = 0.01


class Slope(OperationBase):
    """A chamfer at any angle from the face, ``size_mm`` wide on it: upright by a tool of that
    angle, or by a ball or bull nose step by step; tilted by an end mill's bottom or a chamfer
    mill's flank, the rotary axes locked for each straight edge or live along the way.
    """

    PLACES = frozenset({"top", "lines"})
    VERB = "Slope"
    kind: Literal["slope"] = "slope"
    on: Where = Top()
    size_mm: Length
    angle_deg: float = Field(ge=0.5, le=89.5)
    cusp_mm: Cusp = 0.01
    axes: Literal["upright", "locked", "live"] = "upright"


Operation = Annotated[
    Face
    | RoughOutside
    | RoughPocket
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
