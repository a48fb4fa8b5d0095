"""What a tool meets along its path, over as much of it as a control or a spindle can tell apart."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from machining.geometry.frames import Vector

from .carry import KINDS
from .trace import Trace

WINDOW_S = 0.1
LEAST_CELLS = 12  # a window is at least that long: in fewer, single columns would tell
DOWN = 0.5  # a step that falls by more than this share of its length goes down
LEVEL_MM = 1e-6
AS_DEEP = 0.0  # a cut as wide as it is deep
CONTACT = 1e-4  # mm², less of a cut is none


@dataclass(frozen=True, slots=True)
class Loads:
    """Of each step along a path that feeds sideways (n,): where it is (place in the steps), the
    section of the cut square to its feed, mm², how deep it is and how wide, mm, each over a window
    that ends there; ``level`` ones do not go down on a ramp.
    """

    step: NDArray[np.int32]
    level: NDArray[np.bool_]
    area: NDArray[np.float32]
    depth: NDArray[np.float32]
    width: NDArray[np.float32]
    length: NDArray[np.float32]

    @property
    def in_cut(self) -> NDArray[np.bool_]:
        return self.level & (self.area > CONTACT)

    def mean_width(self) -> float:
        """Along what is in cut, mm."""
        return self._mean(self.width)

    def mean_depth(self) -> float:
        return self._mean(self.depth)

    def chip_share(self, diameter: float) -> Vector:
        """Mean chip of each width, of the feed per tooth of a square edge: (2·ae/D)/φ."""
        wide = np.clip(self.width / diameter, 1e-4, 1.0)
        share: Vector = 2.0 * wide / np.arccos(1.0 - 2.0 * wide)
        return share

    @property
    def usual_depth(self) -> float:
        """The depth (mm) that half of the way in cut has."""
        cut = self.in_cut
        return float(np.median(self.depth[cut])) if cut.any() else 0.0

    def _mean(self, values: NDArray[np.float32]) -> float:
        cut = self.in_cut
        total = float(self.length[cut].sum(dtype=np.float64))
        of_way = values[cut] * self.length[cut]
        return float(of_way.sum(dtype=np.float64)) / total if total > 0 else 0.0

    def widths_over(self, *shares: float) -> list[float]:
        """The widths (mm) that are not passed over these shares of the length in cut."""
        cut = self.in_cut
        if not cut.any():
            return [0.0] * len(shares)
        order = np.argsort(self.width[cut])
        along = np.cumsum(self.length[cut][order], dtype=np.float64)
        at = np.searchsorted(along, np.multiply(shares, along[-1]))
        found: list[float] = self.width[cut][order][np.minimum(at, len(order) - 1)].tolist()
        return found


def loads(
    trace: Trace,
    feed_mm_min: float,
    diameter: float,
    flank: float | None = None,
    of_edge: float = 1.0,
) -> Loads:
    """Over a tenth of a second at a feed; a cut is no wider than the tool. Where a ``flank`` takes
    each column bit by bit, a cut is as wide as that says (mm), ``AS_DEEP`` along an edge. Sections
    are square to the way of the edge; ``of_edge`` is the feed's share of the edge's, which goes
    round a wider way in a hole.
    """
    steps, cell = trace.steps, trace.cell
    window = max(feed_mm_min / 60.0 * WINDOW_S, LEAST_CELLS * cell)
    before = np.concatenate([steps.at[:1], steps.at[:-1]])
    falls = before[:, 2] - steps.at[:, 2]
    feeds = (steps.kind == KINDS.index("cut")) & (falls <= DOWN * steps.length)
    which = np.flatnonzero(feeds)
    if not len(which):
        none = np.zeros(0, np.float32)
        return Loads(which.astype(np.int32), none > 0, none, none, none, none)
    # a window ends where the tool was lifted
    run = np.concatenate([[0], np.cumsum(np.diff(which) > 1)])
    first = np.searchsorted(run, run)
    length = steps.length[which].astype(np.float64)
    along = np.concatenate([[0.0], np.cumsum(length)])
    start = np.maximum(np.searchsorted(along, along[1:] - window, side="left"), first)
    volume = sums_over(trace.removed[which], start)
    moment = sums_over(trace.moment[which], start)
    # where the tool has only just come down it is all of the window that counts
    span = along[1:] - along[start]
    area = of_edge * volume / np.where((start > first) & (span > window / 2.0), span, window)
    with np.errstate(divide="ignore", invalid="ignore"):
        depth = np.where(volume > 0, moment / volume, 0.0)
        width = np.where(depth > 0, np.minimum(area / depth, diameter), 0.0)
    if flank is not None:
        wide = np.sqrt(area) if flank == AS_DEEP else np.where(area > 0, flank, 0.0)
        width = np.minimum(wide, diameter)
        depth = np.divide(area, width, out=np.zeros_like(area), where=area > 0)
    kept = (each.astype(np.float32) for each in (area, depth, width, length))
    return Loads(which.astype(np.int32), falls[which] <= LEVEL_MM, *kept)


def down_section(trace: Trace, feed_mm_min: float) -> float:
    """The most (mm²) that is taken straight down, for its way, over a tenth of a second at a feed;
    0 where nothing is.
    """
    steps = trace.steps
    which = np.flatnonzero(steps.kind == KINDS.index("plunge"))
    if not len(which):
        return 0.0
    window = max(feed_mm_min / 60.0 * WINDOW_S, LEAST_CELLS * trace.cell)
    first = np.searchsorted(steps.leg[which], steps.leg[which])
    along = np.concatenate([[0.0], np.cumsum(steps.length[which].astype(np.float64))])
    start = np.maximum(np.searchsorted(along, along[1:] - window, side="left"), first)
    volume, span = sums_over(trace.removed[which], start), along[1:] - along[start]
    return float((volume / np.maximum(span, window / 2.0)).max())


def sums_over(values: NDArray[np.floating], start: NDArray[np.intp]) -> Vector:
    """Sums from ``start`` to each place."""
    total = np.concatenate([[0.0], np.cumsum(values, dtype=np.float64)])
    return total[1:] - total[start]
