"""Kinds of operation as a tagged union, and where each of them works."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from machining.world.record import Id, NotNegative, Positive, Record


class Top(Record):
    """The whole top of the stock as it lies."""

    kind: Literal["top"] = "top"


class Outside(Record):
    """Round the part, down to ``depth_mm`` below its top."""

    kind: Literal["outside"] = "outside"
    depth_mm: Positive


class OnFeatures(Record):
    """Features of the part, by id; holes are visited in the order given."""

    kind: Literal["features"] = "features"
    ids: tuple[str, ...] = Field(min_length=1)


class Rectangle(Record):
    """A typed rectangle, measured from the setup's zero (X, Y of its middle, Z of its top)."""

    kind: Literal["rectangle"] = "rectangle"
    x_mm: float
    y_mm: float
    top_mm: float = 0.0
    length_mm: Positive
    width_mm: Positive
    corner_radius_mm: NotNegative = 0.0
    depth_mm: Positive


class Points(Record):
    """Typed hole positions from the setup's zero, alike in diameter and depth."""

    kind: Literal["points"] = "points"
    at_mm: tuple[tuple[float, float], ...] = Field(min_length=1)
    top_mm: float = 0.0
    diameter_mm: Positive
    depth_mm: Positive
    through: bool = False


Where = Annotated[Top | Outside | OnFeatures | Rectangle | Points, Field(discriminator="kind")]


class OperationBase(Record):
    """``rpm`` and ``feed_mm_min`` left empty follow the material's data; filled, they are the planner's own."""

    PLACES: ClassVar[frozenset[str]] = frozenset()
    VERB: ClassVar[str] = ""

    id: Id
    tool: str = ""
    rpm: Positive | None = None
    feed_mm_min: Positive | None = None
    coolant: str = "flood"
    reason: str = Field("", max_length=300)
    stop_after: str = Field("", max_length=200)

    @model_validator(mode="after")
    def _place_fits(self) -> OperationBase:
        on = getattr(self, "on", None)
        if on is not None and on.kind not in self.PLACES:
            raise ValueError(f"on is {on.kind!r}; it must be {' or '.join(sorted(self.PLACES))}")
        return self


class Face(OperationBase):
    PLACES = frozenset({"top"})
    VERB = "Face top"
    kind: Literal["face"] = "face"
    on: Where = Top()
    step_down_mm: Positive = 2.0
    step_over_mm: Positive | None = None
    leave_mm: NotNegative = 0.0


class RoughOutside(OperationBase):
    PLACES = frozenset({"outside"})
    VERB = "Rough outside"
    kind: Literal["rough_outside"] = "rough_outside"
    on: Where
    step_down_mm: Positive
    step_over_mm: Positive
    leave_mm: NotNegative = 0.3


class RoughPocket(OperationBase):
    PLACES = frozenset({"features", "rectangle"})
    VERB = "Rough pocket"
    kind: Literal["rough_pocket"] = "rough_pocket"
    on: Where
    step_down_mm: Positive
    step_over_mm: Positive
    leave_mm: NotNegative = 0.3
    leave_floor_mm: NotNegative = 0.0
    ramp_deg: float = Field(3.0, gt=0, le=90)


class FinishWalls(OperationBase):
    PLACES = frozenset({"outside", "features", "rectangle"})
    VERB = "Finish walls"
    kind: Literal["finish_walls"] = "finish_walls"
    on: Where
    step_down_mm: Positive
    width_mm: Positive = 0.3
    passes: int = Field(1, ge=1, le=10)


class FinishFloor(OperationBase):
    PLACES = frozenset({"features", "rectangle"})
    VERB = "Finish floor"
    kind: Literal["finish_floor"] = "finish_floor"
    on: Where
    depth_mm: Positive = 0.3
    step_over_mm: Positive


class Drill(OperationBase):
    PLACES = frozenset({"features", "points"})
    VERB = "Drill"
    kind: Literal["drill"] = "drill"
    on: Where
    peck_mm: Positive | None = None
    past_mm: NotNegative = 1.0
    depth_mm: Positive | None = None


class Ream(OperationBase):
    PLACES = frozenset({"features", "points"})
    VERB = "Ream"
    kind: Literal["ream"] = "ream"
    on: Where
    past_mm: NotNegative = 1.0
    depth_mm: Positive | None = None


class Tap(OperationBase):
    PLACES = frozenset({"features", "points"})
    VERB = "Tap"
    kind: Literal["tap"] = "tap"
    on: Where
    depth_mm: Positive


class Bore(OperationBase):
    PLACES = frozenset({"features", "points"})
    VERB = "Bore"
    kind: Literal["bore"] = "bore"
    on: Where
    width_mm: Positive = 0.25
    past_mm: NotNegative = 0.5


class Chamfer(OperationBase):
    """``below_mm`` is how far the tip goes below the chamfer: the edge cuts further out, where it is faster."""

    PLACES = frozenset({"top", "features", "points"})
    VERB = "Break edges"
    kind: Literal["chamfer"] = "chamfer"
    on: Where = Top()
    size_mm: Positive = 0.4
    below_mm: NotNegative = 0.0


Operation = Annotated[
    Face | RoughOutside | RoughPocket | FinishWalls | FinishFloor | Drill | Ream | Tap | Bore | Chamfer,
    Field(discriminator="kind"),
]
KINDS: frozenset[str] = frozenset({"face", "rough_outside", "rough_pocket", "finish_walls", "finish_floor", "drill", "ream", "tap", "bore", "chamfer"})
ROTATES_IN_PLACE: frozenset[str] = frozenset({"drill", "ream", "tap", "bore"})
ROUGHS: frozenset[str] = frozenset({"face", "rough_outside", "rough_pocket"})
FINISHES: frozenset[str] = frozenset({"finish_walls", "finish_floor", "bore", "ream"})
