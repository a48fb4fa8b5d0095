"""A batch that runs over several machines at the same time: what waits for what."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import not_negative
from machining.quantities.errors import OutOfRange


@dataclass(frozen=True, slots=True)
class Step:
    """A setup of a route on a ``machine``: built and proven once (s), then cycles of ``each_s``
    that turn out so many ``parts``, the first of them after ``late`` cycles more. It takes its
    parts from steps before it (places); from those in ``whole`` all of them at once. Somebody is
    at it for ``hand_s`` of each cycle, and does ``beside_s`` while it runs.
    """

    machine: str
    build_s: float
    prove_s: float
    each_s: float
    parts: int = 1
    late: int = 0
    takes: tuple[int, ...] = ()
    whole: tuple[int, ...] = ()
    hand_s: float = 0.0
    beside_s: float = 0.0


@dataclass(frozen=True, slots=True)
class Run:
    """When the first cycle of a step starts and its last one ends, s from the beginning. In between
    its machine stands for ``waits_s`` for want of parts.
    """

    starts_s: float
    ends_s: float
    waits_s: float


def flow(steps: Sequence[Step], quantity: int) -> list[Run]:
    """Every step as soon as its machine is free of the one before it there, and its parts have
    come. Raises OutOfRange for a step that takes from one after it, or negative times.
    """
    free, ends = dict[str, float](), list[Vector]()
    found = list[Run]()
    checked(steps)
    for step in steps:
        built = free.get(step.machine, 0.0) + step.build_s
        come = _come(steps, ends, step, quantity)
        done = _done(step, np.maximum(come, built))
        ends.append(done)
        free[step.machine] = float(done[-1])
        first = max(built, float(come[0]))
        busy = step.prove_s + step.each_s * len(done)
        found.append(Run(first, float(done[-1]), float(done[-1]) - first - busy))
    return found


def checked(steps: Sequence[Step]) -> None:
    """Raises OutOfRange for a step that takes from one after it, or negative times."""
    for place, step in enumerate(steps):
        if any(each >= place for each in (*step.takes, *step.whole)):
            raise OutOfRange("takes", f"{step.takes}", f"steps before step {place + 1}")
        for name in ("build_s", "prove_s", "each_s", "hand_s", "beside_s"):
            not_negative(name, getattr(step, name))
        if step.hand_s > step.each_s:
            raise OutOfRange("hand_s", f"{step.hand_s:g}", f"at most each_s, {step.each_s:g}")


def cycles_of(step: Step, quantity: int) -> int:
    return ceil(quantity / step.parts) + step.late


def _come(steps: Sequence[Step], ends: Sequence[Vector], step: Step, quantity: int) -> Vector:
    """When each of its cycles has the parts it puts in, s."""
    cycles = cycles_of(step, quantity)
    wanted = np.minimum((np.arange(cycles) + 1) * step.parts, quantity)
    found = np.zeros(cycles)
    for place in step.takes:
        before = steps[place]
        cycle = np.ceil(wanted / before.parts).astype(int) - 1 + before.late
        found = np.maximum(found, ends[place][cycle])
    for place in step.whole:
        found = np.maximum(found, ends[place][-1])
    return found


def _done(step: Step, ready: Vector) -> Vector:
    """When each cycle ends: right after the one before it, or once it is ready; the first one is
    run slowly.
    """
    count = np.arange(len(ready))
    ready = ready.copy()
    ready[1:] -= step.prove_s  # as if all began that much later
    started = np.maximum.accumulate(ready - step.each_s * count)
    done: Vector = started + step.each_s * (count + 1) + step.prove_s
    return done
