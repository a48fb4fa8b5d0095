"""What an operation's path meets, all of it and where it is hardest."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from machining.geometry.frames import Vector

from .loads import Loads, loads
from .trace import Trace

NEAR = 0.1  # of a depth or width: so near it is as it was said
USUAL = 0.5  # of the way in cut: corners and ends are the rest
SELDOM = 0.9  # of the way in cut has no wider one


@dataclass(frozen=True, slots=True)
class Hardest:
    """Where a path meets most: its section square to the feed (mm²), depth and width (mm), and
    where the tip stands (mm).
    """

    area: float
    depth: float
    width: float
    at: tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Met:
    """What loads come to: the hardest place, None where all is in air; the width (mm) that is
    passed only in corners, the one that is seldom passed, the depth (mm) that half of the way in
    cut has, and the largest section of the cut, square to its feed (mm²).
    """

    hardest: Hardest | None
    usual_width: float
    seldom_width: float
    usual_depth: float
    largest_section: float


@dataclass(frozen=True, slots=True)
class AtFeed:
    """What loads along a path are worked out with (see ``loads``): feed in mm/min, diameter and
    flank in mm.
    """

    feed: float
    diameter: float
    flank: float | None = None
    of_edge: float = 1.0

    def loads(self, trace: Trace) -> Loads:
        return loads(trace, self.feed, self.diameter, self.flank, self.of_edge)


@dataclass(frozen=True)
class Found:
    """What an operation's path meets. Its loads along the way are worked out anew when they are
    asked: of an hour's path they are much to keep.
    """

    trace: Trace
    going: AtFeed
    met: Met

    def loads(self) -> Loads:
        return self.going.loads(self.trace)

    @property
    def hardest(self) -> Hardest | None:
        """None where it is all in air."""
        return self.met.hardest

    @cached_property
    def shares_in_cut(self) -> tuple[float, float]:
        """Of the way sideways and ramps, and of the way straight down, what is in contact."""
        return self._share("cut", "ramp"), self._share("plunge")

    @cached_property
    def at_rapid(self) -> tuple[float, Vector | None]:
        """What its rapid moves take, mm³, and where they take most."""
        return self.trace.volume("rapid"), self.trace.most_at("rapid")

    def _share(self, *kinds: str) -> float:
        way = self.trace.way_mm(*kinds)
        return self.trace.in_cut_mm(*kinds) / way if way > 0 else 0.0

    def differs(self, depth: float, width: float) -> bool:
        """Is its hardest place more than a tenth off what was said?"""
        worst = self.hardest
        return worst is not None and not (_near(worst.depth, depth) and _near(worst.width, width))


def met_in(loads: Loads, trace: Trace, diameter: float, mc: float) -> Met:
    """What loads come to for a tool of a diameter (mm) in a material of an ``mc``.

    The hardest is where the spindle has most to do: the section of the cut at the force its chip
    asks for. The way down on a ramp is not asked: its tool cuts with its bottom.
    """
    usual, seldom = loads.widths_over(USUAL, SELDOM)
    return Met(
        _hardest(loads, trace, diameter, mc),
        usual,
        seldom,
        loads.usual_depth,
        float(loads.area.max(initial=0.0)),
    )


def _hardest(loads: Loads, trace: Trace, diameter: float, mc: float) -> Hardest | None:
    if not loads.in_cut.any():
        return None
    asked = loads.area * loads.chip_share(diameter) ** -mc
    k = int(np.argmax(np.where(loads.in_cut, asked, 0.0)))
    x, y, z = (float(v) for v in trace.steps.at[loads.step[k]])
    return Hardest(float(loads.area[k]), float(loads.depth[k]), float(loads.width[k]), (x, y, z))


def _near(found: float, said: float) -> bool:
    return abs(found - said) <= NEAR * said
