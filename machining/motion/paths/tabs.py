"""Bridges left across a cut that goes round: where they stand along its line, and a path that rises
over them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from shapely import LineString
from shapely.ops import substring

from machining.geometry.frames import Vector

Spot = tuple[float, float]
SAME_MM = 1e-9


@dataclass(frozen=True, slots=True)
class Raised:
    """Stretches of a closed line, each from a place to another (mm along it), over which the tool
    keeps as high as ``height``.
    """

    stretches: tuple[tuple[float, float], ...]
    height: float
    length: float

    def over(self, nodes: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
        """Nodes (mm along the line, height) of a way that goes on round it, raised: up and down at
        the ends of each stretch.
        """
        if not self.stretches or min(z for _, z in nodes) >= self.height:
            return list(nodes)
        found = [self._at(*nodes[0])]
        for (s, z), (t, low) in pairwise(nodes):
            for at, ends in self._ends(s, t):
                share = (at - s) / (t - s)
                height = z + (low - z) * share
                raised = max(height, self.height)
                found += [(at, raised), (at, height)] if ends else [(at, height), (at, raised)]
            found.append(self._at(t, low))
        return found

    def _at(self, s: float, z: float) -> tuple[float, float]:
        within = s % self.length
        inside = any(
            low < within + lap < high
            for low, high in self.stretches
            for lap in (-self.length, 0.0, self.length)
        )
        return s, max(z, self.height) if inside else z

    def _ends(self, s: float, t: float) -> list[tuple[float, bool]]:
        """Where stretches begin and end between two places, and which of both it is."""
        laps = np.arange(np.floor(s / self.length) - 1.0, np.floor(t / self.length) + 1.0)
        every = [
            (place + lap * self.length, ends)
            for lap in laps
            for low, high in self.stretches
            for place, ends in ((low, False), (high, True))
        ]
        return sorted(each for each in every if s + SAME_MM < each[0] < t - SAME_MM)


def spread(line: Sequence[Spot], count: int, window: float) -> tuple[tuple[float, float], ...]:
    """Stretches ``window`` long (mm), evenly along a closed line from the middle of its longest
    side; each is moved to where all of it lies on one side, if that is near. Raises ValueError
    where they would meet.
    """
    corners = np.array(line)
    sides = np.hypot(*np.diff(corners, axis=0).T)
    way = np.concatenate([[0.0], np.cumsum(sides)])
    length = float(way[-1])
    if count * window > 0.8 * length:
        raise ValueError(f"{count} of {window:g} along {length:.0f}")
    longest = int(np.argmax(sides))
    first = float(way[longest] + sides[longest] / 2.0)
    found = []
    for k in range(count):
        at = (first + k * length / count) % length
        at = _on_a_side(at, way, window, length / count / 3.0)
        found.append((at - window / 2.0, at + window / 2.0))
    return tuple(sorted(found))


def _on_a_side(at: float, way: Vector, window: float, near: float) -> float:
    """The nearest place whose stretch lies on one side; as it is where none is near."""
    best = None
    for low, high in pairwise(way.tolist()):
        if high - low < window:
            continue
        there = min(max(at, low + window / 2.0), high - window / 2.0)
        if abs(there - at) <= near and (best is None or abs(there - at) < abs(best - at)):
            best = there
    return at if best is None else best


def between(line: Sequence[Spot], stretches: Sequence[tuple[float, float]]) -> list[LineString]:
    """What of a closed line lies between stretches."""
    whole = LineString(line)
    twice = LineString([*line, *line[1:]])
    if not stretches:
        return [whole]
    length = whole.length
    found = []
    for (_, end), (begin, _) in zip(stretches, [*stretches[1:], stretches[0]], strict=True):
        begin = begin if begin > end else begin + length
        low = end % length
        found.append(substring(twice, low, low + (begin - end)))
    return found
