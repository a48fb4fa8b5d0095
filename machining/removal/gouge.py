"""What a cut takes of the finished part."""

from __future__ import annotations

from dataclasses import dataclass

from machining.geometry.regions import Region


@dataclass(frozen=True, slots=True)
class Gouge:
    """How deep (mm) an operation cuts into the finished part, how much of it it takes (mm³), and
    where: the tip of a tool that turns at (x, y, z), a cut into what turns at (radius, 0, z), mm.
    ``share`` is what that is of all it takes from what turns.
    """

    deep: float
    at: tuple[float, float, float]
    volume: float
    share: float = 0.0


@dataclass(frozen=True, slots=True, eq=False)
class Compared:
    """The stock it leaves was held against the part; ``gouge`` is None where that stays whole,
    ``section`` is the part's of (radius, z) where it turns.
    """

    gouge: Gouge | None
    section: Region | None = None
