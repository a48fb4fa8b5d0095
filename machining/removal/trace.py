"""What a path met, kept small: one value a step, without the columns."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from machining.geometry.columns import Columns
from machining.geometry.frames import Pose, Vector
from machining.motion.path import Path

from .carry import KINDS, Steps, carry_on, more_intervals, parts_of
from .shape import Shape

BESIDE = 9  # steps looked at together
COARSER = 1.05
SOME_MM3 = 1e-3  # a step that takes less is in air


@dataclass(frozen=True, slots=True)
class Trace:
    """``steps`` with their ``removed`` volume (mm³) and its ``moment`` (mm³·mm), on columns of a
    ``cell``; ``coarse`` where that is larger than was asked for.
    """

    steps: Steps
    removed: NDArray[np.float32]
    moment: NDArray[np.float32]
    cell: float
    coarse: bool = False

    def volume(self, *kinds: str) -> float:
        """What legs of some kinds took, mm³; of all where none is named."""
        return float(self.removed[self._of(kinds)].sum(dtype=np.float64))

    def in_cut_mm(self, *kinds: str) -> float:
        """How much of their way these legs were in contact: a thin cut takes a column now and then,
        so a step counts with those beside it.
        """
        beside = np.convolve(self.removed, np.ones(BESIDE), "same")[: len(self.removed)]
        met = self._of(kinds) & (beside > SOME_MM3 * self.cell)
        return float(self.steps.length[met].sum(dtype=np.float64))

    def way_mm(self, *kinds: str) -> float:
        """How long these legs are."""
        return float(self.steps.length[self._of(kinds)].sum(dtype=np.float64))

    def most_at(self, kind: str) -> Vector | None:
        """Where (x, y, z) a leg of a kind takes most in a step; None where none takes any."""
        own = np.where(self._of((kind,)), self.removed, 0.0)
        k = int(own.argmax()) if len(own) else 0
        return self.steps.at[k].astype(float) if len(own) and own[k] > 0.0 else None

    def moved(self, by: Pose) -> Trace:
        """The same, its places seen from another frame."""
        steps = self.steps
        at = np.asarray(by.apply(steps.at.astype(float)), dtype=steps.at.dtype)
        return replace(self, steps=Steps(at, steps.length, steps.kind, steps.leg))

    def _of(self, kinds: tuple[str, ...]) -> NDArray[np.bool_]:
        if not kinds:
            return np.ones(len(self.removed), dtype=bool)
        return np.isin(self.steps.kind, [k for k, kind in enumerate(KINDS) if kind in kinds])


def joined(traces: list[Trace]) -> Trace:
    """One after the other, as one way."""
    legs = np.cumsum([0, *(int(each.steps.leg.max(initial=-1)) + 1 for each in traces)])
    further = [
        replace(t.steps, leg=t.steps.leg + np.int32(first))
        for t, first in zip(traces, legs[:-1], strict=True)
    ]
    removed, moment = (
        np.concatenate([getattr(each, name) for each in traces]) for name in ("removed", "moment")
    )
    coarsest = max(traces, key=lambda each: each.cell)
    coarse = any(each.coarse for each in traces)
    return Trace(_after(further), removed, moment, coarsest.cell, coarse)


def trace_of(path: Path, shape: Shape, stock: Columns) -> Trace:
    """What a tool meets along a path through stock, which stays as it is: only a part of the path
    is held in full at a time.
    """
    grid, ceiling = stock.grid, stock.top
    lowest = float(path.bounds()[0][2]) if path.legs else ceiling
    left = stock.copy(more_intervals(lowest, shape, ceiling))
    steps, removed, moment = [], [], []
    for part in parts_of(path, grid.cell, ceiling):
        met = carry_on(part, shape, ceiling, left)
        steps.append(
            Steps(part.at.astype(np.float32), part.length.astype(np.float32), part.kind, part.leg)
        )
        removed.append(met.removed.astype(np.float32))
        moment.append(met.moment.astype(np.float32))
    found = np.concatenate(removed), np.concatenate(moment)
    return Trace(_after(steps), *found, grid.cell, grid.cell > COARSER * grid.wanted)


def _after(steps: list[Steps]) -> Steps:
    """One after the other."""
    of = [f.name for f in fields(Steps)]
    return Steps(*(np.concatenate([getattr(each, name) for each in steps]) for name in of))
