"""What hangs together by what it shares."""

from __future__ import annotations

import numpy as np
from numba import njit
from numpy.typing import NDArray


def connected(links: NDArray[np.integer], count: int) -> NDArray[np.int64]:
    """For each of ``count`` things the number of the group it is in, groups numbered in the order
    of their first thing. ``links`` (n, k) holds things that hang together, row by row.
    """
    _, group = np.unique(_joined(links, count), return_inverse=True)
    return group.astype(np.int64)


@njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _joined(links, count):  # type: ignore[no-untyped-def]
    """For each thing one of its group, the same for all of them: the first."""
    root = np.arange(count)
    for row in range(links.shape[0]):
        for k in range(links.shape[1] - 1):
            a, b = links[row, k], links[row, k + 1]
            while root[a] != a:
                root[a] = root[root[a]]
                a = root[a]
            while root[b] != b:
                root[b] = root[root[b]]
                b = root[b]
            root[max(a, b)] = min(a, b)
    for thing in range(count):
        a = thing
        while root[a] != a:
            a = root[a]
        root[thing] = a
    return root
