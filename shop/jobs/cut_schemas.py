"""What is answered about cuts: along an operation, and over the part. The core answers in bytes
already written.
"""

from __future__ import annotations

from typing import Literal

from ninja import Schema

from .held_schemas import SentenceOut
from .schemas import FixOut


class AlongOut(Schema):
    """Power (kW), depth and width (mm) in even parts of the way in cut, and where the tip is;
    ``coarse_mm`` is the cell its stock was looked at with where finer ones were too many, else 0.
    """

    way_mm: float
    power_kw: list[float]
    depth_mm: list[float]
    width_mm: list[float]
    at: list[list[float]]
    coarse_mm: float


class PlaceOut(Schema):
    """A place of the part: how far it is, what roughs and finishes it (operations by id), what the
    drawing asks there (requirements by id), and its faces in the solid that is drawn.
    """

    where: SentenceOut
    feature: str
    faces: list[int]
    stage: Literal["not yet", "roughed", "finished", "checked"]
    stands: float
    area: float
    blank: bool
    rough: list[str]
    finish: list[str]
    asked: list[str]


class CutsItOut(FixOut):
    """``one_part_s`` is what it does to the time of one part."""

    one_part_s: float


class StandingOut(Schema):
    """A place where something still stands after the last setup, and what was tried and cuts most
    of it.
    """

    where: SentenceOut
    offers: list[CutsItOut]
