"""What is answered about sides that a machine turns to the tool."""

from __future__ import annotations

from ninja import Schema

from machining.geometry.frames import Direction


class TurnedOut(Schema):
    """A side of the part that is turned to the tool, where its axes stand and what it takes;
    ``askew`` with the head tilted, by axes of which some are ``loose``, not clamped.
    """

    side: str
    index: str
    seconds: float
    askew: bool = False
    loose: str = ""


class TurnsToOut(Schema):
    """A side of the part that the machine turns to the tool, where its axes stand then, and what
    becomes of the ``other`` way they could go there.
    """

    side: Direction
    words: str
    index: str
    other: str = ""


class FlipOut(Schema):
    """How a part is turned over: its size as it lay (mm), the rotation from there row by row, and
    where its left front top corner lies now.
    """

    size: list[float]
    turn: list[float]
    lies: str


class CarrierOut(Schema):
    """A tombstone: an outline in X and Z of its table, from ``low`` to ``high`` along Y, mm."""

    corners: list[list[float]]
    low: float
    high: float
