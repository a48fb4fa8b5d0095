"""What stands round a held part, and sentences with figures in them."""

from __future__ import annotations

from typing import Literal

from ninja import Schema


class ShownOut(Schema):
    value: float | str
    quantity: str


class SentenceOut(Schema):
    text: str
    values: dict[str, ShownOut]


class BodyOut(Schema):
    """Of what holds the part: corners in X and Y, drawn up from bottom to top; in X or Y and Z
    where it is drawn along the ``axis`` across; then turned about the origin, row by row.
    ``of`` names what it is or belongs to.
    """

    role: Literal[
        "jaw",
        "step",
        "stop",
        "nose",
        "parallel",
        "bed",
        "handle",
        "chuck",
        "centre",
        "steady",
        "angle",
        "pallet",
        "dowel",
        "fixture",
        "clamp",
        "heel",
    ]
    name: str
    of: str = ""
    corners: list[list[float]]
    bottom: float
    top: float
    axis: Literal["x", "y", "z"] = "z"
    turn: list[float] | None = None


class HeldOut(Schema):
    item: str
    name: str
    force: float
    quantity: str
    each: str
    gripped_mm: float
    unasked: list[str]
