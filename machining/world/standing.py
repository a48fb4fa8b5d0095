"""Tools that stay in the magazine of a machine, whatever job is on it."""

from __future__ import annotations

from pydantic import Field

from .record import Key, Length, Line, NoneOrKey, Record


class StandingTool(Record):
    """An assembly that stays in a pocket of a machine, of its first carrier where none is named,
    measured as ``number``; ``of`` is the job that keeps it there, empty for the shop's own.
    """

    number: int = Field(ge=1, le=9999)
    pocket: int = Field(ge=1, le=400)
    assembly: Key
    stick_out_mm: Length
    carrier: NoneOrKey = ""
    of: Line = ""
