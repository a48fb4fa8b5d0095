"""An order to be found: what lies between operations that follow each other, and what comes before
what. Operations are numbers from 0 here.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from machining.geometry.frames import Vector


@dataclass(frozen=True)
class Problem:
    """Seconds ``between`` (n, n) one operation and the next; ``again`` (n, n) between the last of
    a run and the first of the next, all nought where none comes; ``start`` (n,) before the first.
    Those with the same number in ``alike`` (n,) have tool, range and side in common. ``before`` are
    pairs, the first of them earlier; ``fixed`` the place of those that keep it.
    """

    between: Vector
    again: Vector
    start: Vector
    alike: Sequence[int]
    before: Sequence[tuple[int, int]] = ()
    fixed: Mapping[int, int] = field(default_factory=dict)

    @property
    def many(self) -> int:
        return len(self.start)

    def seconds(self, order: Sequence[int]) -> float:
        found = float(self.start[order[0]] + self.again[order[-1], order[0]])
        return found + float(self.between[order[:-1], order[1:]].sum())

    def allows(self, order: Sequence[int]) -> bool:
        at = {each: place for place, each in enumerate(order)}
        return all(at[a] < at[b] for a, b in self.before) and all(
            at[each] == place for each, place in self.fixed.items()
        )

    @cached_property
    def reached(self) -> NDArray[np.bool_]:
        """(n, n): whether the first comes before the second, by any number of pairs. One that comes
        before itself is in a ring.
        """
        found = np.zeros((self.many, self.many), dtype=bool)
        for a, b in self.before:
            found[a, b] = True
        for k in range(self.many):
            found |= found[:, k, None] & found[None, k, :]
        return found
