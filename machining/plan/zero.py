"""Where the zero of a station is, and how somebody finds it there: each axis is taken from a named
place, so far from it.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from machining.world.asked import Asked
from machining.world.record import Line, NoneOrId, Record

Axis = Literal["x", "y", "z"]
Of = Literal["stock", "part", "hole", "face", "jaw", "stop", "seat", "table", "spot"]
End = Literal["low", "middle", "high"]
AXES: tuple[Axis, ...] = ("x", "y", "z")
MOST_MM = 1000.0
# what an axis can be taken from
SIDEWAYS: tuple[Of, ...] = ("stock", "part", "hole", "face", "jaw", "stop", "table", "spot")
UPRIGHT: tuple[Of, ...] = ("stock", "part", "face", "seat", "table", "spot")
# by the id of a feature, or the key of a spot of the table
NAMED: frozenset[Of] = frozenset({"hole", "face", "spot"})
PICKED = (
    ("edge", "edge finder"),
    ("probe", "probe"),
    ("indicator", "indicator"),
    ("touch", "tool touched off"),
    ("known", "known, not picked up"),
)
Picked = Literal["", "edge", "probe", "indicator", "touch", "known"]


class From(Record):
    """What one axis of a zero is taken from: an end or the middle of the blank or the finished part
    (``at``), the axis of a hole or a boss, or a flat face (``feature``), the fixed jaw, the stop,
    what the part rests on, the middle or the top of the table, a known spot on it (by its key in
    ``feature``). Zero lies ``off_mm`` from there, towards
    plus. ``by`` is how it is picked up, empty: as the shop does there.
    """

    of: Of = "stock"
    at: End = "middle"
    feature: NoneOrId = ""
    off_mm: Annotated[float, Asked("Off")] = Field(0.0, ge=-MOST_MM, le=MOST_MM)
    by: Picked = ""

    @model_validator(mode="after")
    def _names_it(self) -> Self:
        if bool(self.feature) != (self.of in NAMED):
            wanted = (
                "name a hole, a face or a spot" if self.of in NAMED else f"be empty for {self.of}"
            )
            raise ValueError(f"feature is {self.feature!r}; it must {wanted}")
        return self


class Zero(Record):
    """``each_part`` says whether it is picked up anew on every part, or on the first and kept."""

    x: From = From()
    y: From = From()
    z: From = From(of="part", at="high")
    each_part: Annotated[
        bool,
        Asked("Picked up", choices=(("", "on the first part"), ("each", "on every part"))),
    ] = False
    reason: Line = ""

    @model_validator(mode="after")
    def _can_be(self) -> Self:
        for axis in AXES:
            of, able = self.axis(axis).of, UPRIGHT if axis == "z" else SIDEWAYS
            if of not in able:
                raise ValueError(
                    f"{axis} of a zero is taken from {of!r}; it must be from {', '.join(able)}"
                )
        return self

    def axis(self, axis: Axis) -> From:
        taken: From = getattr(self, axis)
        return taken

    @property
    def taken(self) -> tuple[From, From, From]:
        return self.x, self.y, self.z


def in_the_middle(of: Literal["stock", "part"], top: Literal["stock", "part"] = "part") -> Zero:
    """X and Y in the middle of the blank or the finished part, Z on the top of one of them."""
    return Zero(x=From(of=of), y=From(of=of), z=From(of=top, at="high"))


def on_hole(id: str) -> Zero:
    """X and Y on the axis of a hole, Z on top of the finished part."""
    on = From(of="hole", feature=id)
    return Zero(x=on, y=on)
