"""Points that somebody points at, and what is answered of them. The core answers in bytes already
written.
"""

from __future__ import annotations

from typing import Annotated, Any

from ninja import Schema
from pydantic import Field

from .held_schemas import SentenceOut, ShownOut

Number = Annotated[float, Field(ge=-10_000, le=10_000, allow_inf_nan=False)]
Spot = tuple[Number, Number, Number]


class PointIn(Schema):
    """A place in a station's frame (mm), and which way what lies there looks; or a ``feature``."""

    at: Spot = (0.0, 0.0, 0.0)
    looks: Spot | None = None
    feature: str = Field("", max_length=40)


class ReadIn(Schema):
    """``near_mm`` is how near to a corner it may be to be meant for it."""

    station: str = Field(max_length=80)
    points: list[PointIn] = Field(min_length=1, max_length=2)
    near_mm: float = Field(1.0, ge=0, le=100, allow_inf_nan=False)


class PositionAtOut(Schema):
    position: int
    code: str
    reference: str
    at: list[float] | None


class ReadAtOut(Schema):
    """From the zero of a station; ``positions`` by the machine's own reckoning, or from the first
    position where nobody has measured where the table is.
    """

    station: str
    setup: str
    at: list[float]
    diameter_mm: float | None
    positions: list[PositionAtOut]


class PointOut(Schema):
    """``at`` is in part coordinates."""

    said: SentenceOut
    at: list[float]
    feature: str
    stations: list[ReadAtOut]


class BetweenOut(Schema):
    distance_mm: float
    along: list[float]
    angle_deg: float | None


class PointedOut(Schema):
    """What the last of the points can be used for, as edits to send."""

    label: str
    values: dict[str, ShownOut]
    edits: list[dict[str, Any]]


class ReadOut(Schema):
    points: list[PointOut]
    between: BetweenOut | None
    offers: list[PointedOut]
