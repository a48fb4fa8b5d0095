"""The finished part, and what the drawing asks of it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from .feature import Hole, Pocket
from .record import Coordinate, Id, Line, Name, NoneOrId, Point, Record

NEAR = 0.2  # of a diameter or a depth: a size that is that near is it


class Requirement(Record):
    """What the drawing asks of a feature, or of the whole part (``feature`` empty). ``datum`` is
    the face or hole it is measured from, empty where the drawing names none.
    """

    id: Id
    what: Name = Field(min_length=1, max_length=60)
    feature: NoneOrId = ""
    datum: NoneOrId = ""
    nominal_mm: Coordinate | None = None
    upper_mm: Coordinate = 0.0
    lower_mm: Coordinate = 0.0
    thread: Name = ""
    finish_um: float | None = Field(
        None, ge=0.01, le=1_000, description="largest height of the roughness, Rt"
    )
    measured_with: Name = ""
    how_often: Name = ""

    @model_validator(mode="after")
    def _band(self) -> Requirement:
        if self.upper_mm < self.lower_mm:
            raise ValueError(
                f"upper_mm is {self.upper_mm:g}; it must be at least lower_mm, {self.lower_mm:g}"
            )
        return self

    @property
    def band_mm(self) -> float:
        return self.upper_mm - self.lower_mm

    def is_near(self, size: float) -> bool:
        """Is a size (mm) the one that is asked for, not another of the same feature?"""
        return abs((self.nominal_mm or 0.0) - size) <= NEAR * size


class Part(Record):
    """A solid read from a file (``geometry`` is its hash) or a block of a size with typed features.

    A block has its zero at the middle of its bottom face. ``turned_deg`` is how far the solid was
    turned from how its file has it, to lie straight. ``edges`` is what becomes of edges that no
    operation breaks, empty: what the shop does; those of features in ``sharp`` must stay.
    """

    geometry: Name = ""
    file_name: Line = ""
    turned_deg: float = Field(0.0, ge=0, le=180)
    size_mm: Point = (100.0, 60.0, 20.0)
    typed: tuple[Hole | Pocket, ...] = Field((), max_length=500)
    requirements: tuple[Requirement, ...] = Field((), max_length=500)
    edges: Literal["", "machine", "hand", "leave"] = ""
    sharp: tuple[Id, ...] = Field((), max_length=500)

    @model_validator(mode="after")
    def _plainly_typed(self) -> Part:
        """What is typed is cut out of a block, and nobody types a fillet or a draft."""
        for feature in self.typed:
            fields = (
                ("around", "open_deg")
                if isinstance(feature, Hole)
                else ("floor_radius_mm", "draft_deg")
            )
            for field in fields:
                if getattr(feature, field):
                    raise ValueError(
                        f"{field} of {feature.id} is {getattr(feature, field)}; it must be left"
                        " out of a typed feature"
                    )
        return self

    @model_validator(mode="after")
    def _has_size(self) -> Part:
        if not all(0 < side <= 5000 for side in self.size_mm):
            raise ValueError(
                f"size_mm is {' x '.join(f'{side:g}' for side in self.size_mm)}; each side must be"
                " over 0 and up to 5000"
            )
        return self
