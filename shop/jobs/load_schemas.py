"""What is answered about a load. The core answers in bytes already written."""

from __future__ import annotations

from typing import Literal

from ninja import Schema

from .schemas import SentenceOut


class ShapeOut(Schema):
    """Rings (x, y) of a body, mm from the middle of the stock."""

    role: str
    name: str
    rings: list[list[list[float]]]


class SpotOut(Schema):
    """A position: where the middle of its stock stands, mm from the middle of the table; ``at`` is
    its zero as the offset table has it, from the ``reference``; ``out_mm`` how far tools would go
    past the end of an axis there.
    """

    x_mm: float
    y_mm: float
    code: str
    reference: str
    at: list[float] | None
    out_mm: float


class ClosestOut(Schema):
    mm: float
    why: SentenceOut


class LoadStationOut(Schema):
    """``closest_x`` and ``closest_y`` are the least pitches of its equal positions."""

    id: str
    shapes: list[ShapeOut]
    spots: list[SpotOut]
    closest_x: ClosestOut | None
    closest_y: ClosestOut | None


class ReachedOut(Schema):
    """How far (mm from the table's middle) an obstacle comes over the table while it is cut."""

    name: str
    towards: Literal["x+", "x-", "y+", "y-"]
    at_mm: float


class LoadOut(Schema):
    """``table`` is its size, ``travel`` how far a tool goes from its middle either way, mm.
    ``measured`` says whether offsets are machine positions; ``block`` is how the control takes
    them, empty where that is not known; the times are of a cycle in either order.
    """

    machine: str
    table: list[float]
    travel: list[float]
    measured: bool
    block: str
    by_tool_s: float | None
    by_part_s: float | None
    reached: list[ReachedOut]
    stations: list[LoadStationOut]
