"""What an operation's path meets, all of it and where it is hardest."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from .loads import Loads
from .trace import Trace

NEAR = 0.1  # of a depth or width: so near it is as it was said
USUAL = 0.5  # of the way in cut: corners and ends are the rest


@dataclass(frozen=True, slots=True)
class Hardest:
    """Where a path meets most: its section square to the feed (mm²), depth and width (mm), and
    where the tip stands (mm).
    """

    area: float
    depth: float
    width: float
    at: tuple[float, float, float]


@dataclass(frozen=True)
class Found:
    """What an operation's path meets; its hardest place is None where it is all in air."""

    trace: Trace
    loads: Loads
    hardest: Hardest | None

    @cached_property
    def usual_width(self) -> float:
        """The width (mm) that is passed only in corners."""
        return self.loads.width_over(USUAL)

    @cached_property
    def largest_section(self) -> float:
        """Of the cut, square to its feed, mm²."""
        return float(self.loads.area.max(initial=0.0))

    @cached_property
    def shares_in_cut(self) -> tuple[float, float]:
        """Of the way sideways and ramps, and of the way straight down, what is in contact."""
        return self._share("cut", "ramp"), self._share("plunge")

    def _share(self, *kinds: str) -> float:
        way = self.trace.way_mm(*kinds)
        return self.trace.in_cut_mm(*kinds) / way if way > 0 else 0.0

    def differs(self, depth: float, width: float) -> bool:
        """Is its hardest place more than a tenth off what was said?"""
        worst = self.hardest
        return worst is not None and not (_near(worst.depth, depth) and _near(worst.width, width))


def _near(found: float, said: float) -> bool:
    return abs(found - said) <= NEAR * said
