"""What is answered about a load. The core answers in bytes already written."""

from __future__ import annotations

from typing import Any, Literal

from ninja import Schema
from pydantic import Field

from .held_schemas import SentenceOut


class ShapeOut(Schema):
    """Rings (x, y) of a body, mm from the middle of the stock."""

    role: str
    name: str
    rings: list[list[list[float]]]


class SpotOut(Schema):
    """A position: where the middle of its stock stands, mm from the middle of the table; ``at`` is
    its zero as the offset table has it, from the ``reference``; ``out_mm`` how far tools would go
    past the end of an axis there, ``face`` which of a tombstone it is on, measured from that
    face's middle, 0 on a table.
    """

    x_mm: float
    y_mm: float
    code: str
    reference: str
    at: list[float] | None
    out_mm: float
    face: int


class OffsetOut(Schema):
    """The zero of a position, with a ``side`` turned to the tool, empty for what is up; ``at`` is
    from another position of the same offset where ``from_first``; ``index`` where the axes stand.
    """

    station: int
    position: int
    side: str
    code: str
    at: list[float] | None
    from_first: bool
    index: str


class SwingOut(Schema):
    """The diameter of what goes round about an axis; ``most_mm`` is 0 where nobody has said."""

    axis: str
    body: str
    across_mm: float
    most_mm: float


class TombstoneOut(Schema):
    """``level_mm`` is how far its faces' middle lies over the middle of Y's way; ``faces`` are the
    turns that bring each to the tool, degrees; ``above`` what turns, seen from above, the tool
    below.
    """

    name: str
    wide_mm: float
    tall_mm: float
    level_mm: float
    faces: list[float]
    above: list[ShapeOut]


class CarriesOut(Schema):
    """A tombstone that the table has."""

    key: str
    name: str
    sides: int


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


class HowManyOut(Schema):
    """So many parts at each station at a time: ``one_part_s`` is a part's share of cycles and
    loading, ``batch_part_s`` of the whole batch with building and proving. The last of the
    ``cycles`` holds ``last`` parts; a position that is left out saves ``one_less_s`` of a cycle.
    The machines ask ``cost`` for a part, 0 where they have no price. ``stops`` say what would stop
    it that does not now, ``edits`` load it so.
    """

    parts: int
    cycle_s: float
    one_part_s: float
    batch_part_s: float
    cycles: int
    last: int
    one_less_s: float
    cost: float
    stops: list[SentenceOut]
    edits: list[dict[str, Any]]


class MeasuredIn(Schema):
    """An offset table with what was found at the machine, as CSV."""

    text: str = Field(min_length=1, max_length=200_000)


class MeasuredOut(Schema):
    """A position that was measured: how far ``off`` the plan it is along X, Y and Z, None where
    that is not known, and ``edits`` that put it where it was found. The last line, without a
    position, is of all.
    """

    station: str
    position: int
    code: str
    off: list[float | None]
    edits: list[dict[str, Any]]


class PlateOut(Schema):
    """What a load stands on between it and the table, mm."""

    name: str
    x_mm: float
    y_mm: float
    thick_mm: float


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
    offsets: list[OffsetOut]
    swings: list[SwingOut]
    tombstone: TombstoneOut | None
    carries: list[CarriesOut]
    arms: list[ShapeOut]
    plate: PlateOut | None = None
