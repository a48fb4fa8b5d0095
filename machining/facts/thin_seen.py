"""Where a station's stock is thin once an operation is done, for who looks at it: each wall flat,
as thick as it is, with what carries it and where it is cut.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from shapely import MultiPoint

from machining.geometry.frames import Vector
from machining.geometry.thickness import Flags, Ints, Wall

from .context import PlanFacts, Ready
from .thin import Standing, is_slender, standing

MOST_CELLS = 56  # one way, of what is drawn
MOST_WALLS = 12

Pair = tuple[int, int]


@dataclass(frozen=True, slots=True)
class WallSeen:
    """A wall or bar, thin along an axis of the station. Its flat is spanned by ``across`` and
    ``up``, two of its axes; ``cells`` are places in it (from the low corner, ``cell_mm`` each) with
    their thickness, ``carried`` are edges of cells (0 to 3: low and high across, low and high up)
    over which it is carried, ``held`` cells lie on what holds the part. ``outline`` is what it
    covers from above, ``worst`` the cell its cut bends most, None where it is not cut.
    """

    thin_along: str
    across: str
    up: str
    thick_mm: float
    far_mm: float
    ratio: float
    slender: bool
    cut: bool
    gives_um_n: float
    force_n: float | None
    bends_mm: float | None
    cell_mm: float
    cells: list[tuple[int, int, float]]
    carried: list[tuple[int, int, int]]
    held: list[Pair]
    worst: Pair | None
    outline: list[tuple[float, float]]
    at: list[float]


def thin_seen(op: Ready, facts: PlanFacts) -> list[WallSeen]:
    """Those it cuts on first, the worst first; none where nothing is thin."""
    if op.turns:
        return []
    every = sorted(
        standing(op, op.before, op.after, facts),
        key=lambda each: (not each.cut, -(each.thin.bends_mm or 0.0), -each.thin.ratio),
    )
    return [_seen(op, each, facts) for each in every[:MOST_WALLS]]


def _seen(op: Ready, standing: Standing, facts: PlanFacts) -> WallSeen:
    thin, wall, held, cut = standing
    lie = op.station.lie
    turn = lie.pose.rotation
    ways = [turn[:, (wall.axis + 1) % 3], turn[:, (wall.axis + 2) % 3]]
    up = int(abs(ways[1][2]) >= abs(ways[0][2])) if abs(turn[2, wall.axis]) < 0.7 else 1
    flat = _Flat(wall, 1 - up, [_sign(way) for way in ways])
    low, high = (lie.pose.apply(each)[:, :2] for each in wall.faces())
    covers = MultiPoint(np.vstack([low, high])).convex_hull
    ring = covers.exterior.coords if covers.geom_type == "Polygon" else covers.coords
    return WallSeen(
        thin_along=_name(turn[:, wall.axis]),
        across=_name(ways[1 - up]),
        up=_name(ways[up]),
        thick_mm=wall.mean_mm,
        far_mm=thin.far_mm,
        ratio=thin.ratio,
        slender=is_slender(thin, facts),
        cut=cut,
        gives_um_n=1000.0 * thin.gives,
        force_n=thin.force_n if cut else None,
        bends_mm=thin.bends_mm if cut else None,
        cell_mm=flat.by * wall.grid.cell,
        cells=flat.cells(),
        carried=flat.carried(),
        held=flat.of(held),
        worst=flat.nearest(thin.at) if cut else None,
        outline=[(round(float(x), 3), round(float(y), 3)) for x, y in ring],
        at=lie.pose.apply(thin.at).round(2).tolist(),
    )


class _Flat:
    """A wall's cells as they are drawn: across and up, several as one where they are many."""

    def __init__(self, wall: Wall, across: int, signs: list[float]) -> None:
        order = [across, 1 - across]
        self.wall, self.order, self.signs = wall, order, [signs[k] for k in order]
        at = wall.at[:, order] * np.array(self.signs, dtype=np.int64)
        self.low = at.min(axis=0)
        span = int((at.max(axis=0) - self.low).max()) + 1
        self.by = -(-span // MOST_CELLS)
        self.at: Ints = (at - self.low) // self.by

    def cells(self) -> list[tuple[int, int, float]]:
        names, which = np.unique(self.at, axis=0, return_inverse=True)
        which = which.reshape(-1)
        thick = np.bincount(which, self.wall.thick) / np.bincount(which)
        return [
            (int(i), int(j), round(float(t), 2)) for (i, j), t in zip(names, thick, strict=True)
        ]

    def carried(self) -> list[tuple[int, int, int]]:
        found = set[tuple[int, int, int]]()
        for k, sign in enumerate(self.signs):
            for end in (0, 1):
                way = 2 * self.order[k] + end
                side = 2 * k + (end if sign > 0 else 1 - end)
                for i, j in self.at[self.wall.carries[:, way]].tolist():
                    found.add((i, j, side))
        return sorted(found)

    def of(self, which: Flags) -> list[Pair]:
        return sorted({(i, j) for i, j in self.at[which].tolist()})

    def nearest(self, point: Vector) -> Pair:
        k = int(np.argmin(np.linalg.norm(self.wall.middles() - point, axis=1)))
        i, j = self.at[k].tolist()
        return i, j


def _sign(way: Vector) -> float:
    return 1.0 if way[int(np.abs(way).argmax())] > 0 else -1.0


def _name(way: Vector) -> str:
    return "XYZ"[int(np.abs(way).argmax())]
