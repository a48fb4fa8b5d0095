"""In which order the fronts of a clearing are cut, and how the tool goes from one to the next: it
stays down where the way is free, and is lifted just over what stands where it is not.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

import numpy as np
from shapely import (
    LineString,
    Point,
    STRtree,
    get_coordinates,
    get_point,
    shortest_line,
)
from shapely.ops import nearest_points, substring

from machining.geometry.frames import Vector
from machining.geometry.regions import Region, asked_often
from machining.motion.path import Pen

from .clearing import CHORD_MM, Front, off

RUN_IN_MM = 2.0
GENTLY = 1.4  # times as long, since the first order is not all
TURNED_IN, TURN_STEP_MM = 0.97, 0.5  # of its step a ring comes to, and how finely
BACK_MM = 60.0  # farther back along a cut, lifting is faster
RUBS_MM = 0.05  # a link may be as near to what stands
BESIDE = 1.5  # steps: as near as that a front waits for the one before


def turned_in(step: float, radius: float) -> tuple[Vector, Vector]:
    """How far along (mm) a tool is how far in (share of its step), so that it always meets as much
    as at the end.

    At a depth d a way that goes in by d' meets d + d'·√(2·R·d), to first order: kept at the step
    s that gives, with u = d/s, l = √(2·R·s)·(ln((1 + √u)/(1 − √u)) − 2·√u).
    Source: geometry of a circle that enters a half plane.
    """
    root = np.sqrt(np.linspace(0.0, TURNED_IN, 40))
    way = GENTLY * np.sqrt(2.0 * radius * step) * (np.log((1.0 + root) / (1.0 - root)) - 2.0 * root)
    share = root**2
    share[-1] = 1.0
    return way, share


@dataclass
class Clearing:
    """The fronts of one plan of metal, and where the tool's middle is free before each step;
    ``over_stock`` is where the tool is over stock at all.
    """

    fronts: list[Front]
    free: list[Region]
    metal: Region
    radius: float
    over_stock: Region

    def __post_init__(self) -> None:
        self.free = [asked_often(each) for each in self.free]
        self.metal, self.over_stock = asked_often(self.metal), asked_often(self.over_stock)
        self._lines = [LineString(front.line) for front in self.fronts]
        self._wide: dict[int, Region] = {}
        self._widest = max((front.step for front in self.fronts), default=0.0)
        self._rough = [line.simplify(self._widest / 10.0) for line in self._lines]
        self._tree = STRtree(self._rough)
        self._open = np.ones(len(self.fronts), dtype=bool)
        self._been: Vector | None = None

    def cut(self, pen: Pen, z: float, over: float, near: float) -> None:
        """All of them at a height; where the way between two is not free, at rapid at a height
        ``over`` what stands, and down to ``near`` over a floor (mm).
        """
        waits, then = self._waits()
        ready = [k for k, before in enumerate(waits) if not before]
        self._open, self._been = np.ones(len(self.fronts), dtype=bool), None
        while ready:
            k = ready[0] if pen.at is None else min(ready, key=partial(self._away, pen.at[:2]))
            self._one(pen, k, z, over, near)
            self._open[k] = False
            ready.remove(k)
            for other in then[k]:
                waits[other].discard(k)
                if not waits[other]:
                    ready.append(other)

    def _waits(self) -> tuple[list[set[int]], list[list[int]]]:
        """Which fronts each has to wait for, those of earlier steps beside it; and which wait for
        it.
        """
        found: list[set[int]] = [set() for _ in self.fronts]
        then: list[list[int]] = [[] for _ in self.fronts]
        if not self.fronts:
            return found, then
        which, near = self._tree.query(self._rough, "dwithin", BESIDE * self._widest)
        for a, b in zip(which.tolist(), near.tolist(), strict=True):
            if self.fronts[b].at < self.fronts[a].at:
                found[a].add(b)
                then[b].append(a)
        return found, then

    def _away(self, here: Vector, k: int) -> float:
        line = self.fronts[k].line
        spots = line if self.fronts[k].closed else line[:1]
        return float(np.hypot(*(spots - here).T).min())

    def _one(self, pen: Pen, k: int, z: float, over: float, near: float) -> None:
        front = self.fronts[k]
        line = front.line
        if front.closed:
            first = 0 if pen.at is None else int(np.hypot(*(line - pen.at[:2]).T).argmin())
            line = self._turned_in(np.concatenate([line[first:-1], line[: first + 1]]), front)
        line = self._run_out(line, front)
        start = self._beside(line[0], front, 0.0)
        way = None if pen.at is None or pen.at[2] > z + 1e-9 else self._way(pen.at[:2], start, k)
        if way is None:
            spot = self._beside(start, front, RUN_IN_MM)
            floor = self.over_stock.covers(Point(spot))
            pen.go_to(float(spot[0]), float(spot[1]), z + near if floor else z, over)
            if floor:
                pen.plunge(z)
            way = np.array([start])
        assert pen.at is not None
        if np.hypot(*(start - pen.at[:2])) > CHORD_MM:
            pen.link(np.column_stack([way, np.full(len(way), z)]))
        pen.cut(np.column_stack([line, np.full(len(line), z)]))
        self._been = line

    def _way(self, here: Vector, there: Vector, k: int) -> Vector | None:
        """To the beginning of a front without lifting: straight, or back along what was cut last
        as far as from there the straight way is free; None where that is too far.
        """
        if self._clear(here, there, k):
            return np.array([there])
        if self._been is None:
            return None
        back = self._been[::-1]
        near = int(np.hypot(*(back - there).T).argmin()) + 1
        along = float(np.hypot(*np.diff(back[:near], axis=0).T).sum())
        if along > BACK_MM or not self._clear(back[near - 1], there, k):
            return None
        return np.concatenate([back[1:near], [there]])

    def _beside(self, spot: Vector, front: Front, room: float) -> Vector:
        """Where the tool stands free next to the beginning of a front, with room round it (mm) as
        far as there is any there.
        """
        for share in (room, room / 4.0, 0.0):
            free = off(self.free[front.at], -share)
            if not free.is_empty:
                near = nearest_points(free, Point(spot))[0]
                found = np.array([near.x, near.y])
                if share == 0.0 or self._free_way(found, spot, front.at):
                    return found
        return spot

    def _turned_in(self, ring: Vector, front: Front) -> Vector:
        """A ring that begins where the tool is free and comes to its step no faster than that the
        width stays its own; what that leaves is cut at its end.
        """
        line = LineString(ring)
        way, in_ = turned_in(front.step, self.radius)
        over = min(float(way[-1]), line.length / 2.0)
        along = np.linspace(0.0, over, max(3, int(over / TURN_STEP_MM)))
        spots = line.interpolate(along)
        near = shortest_line(self.free[front.at], spots)
        from_, to = (get_coordinates(get_point(near, k)) for k in (0, 1))
        share = np.interp(along * way[-1] / over, way, in_)[:, None]
        first = from_ + (to - from_) * share
        ahead = get_coordinates(substring(line, over, line.length))
        return np.concatenate([first, ahead[1:], get_coordinates(spots)[1:]])

    def _run_out(self, line: Vector, front: Front) -> Vector:
        """Clear of the metal at an end that lies beside it."""
        if front.closed:
            return line
        for _ in range(2):  # one end, then the other
            line = line[::-1]
            away = line[-1] - line[-2]
            past = line[-1] + RUN_IN_MM * away / max(float(np.hypot(*away)), 1e-9)
            leaves = self.metal.distance(Point(line[-1])) > self.radius - 3.0 * CHORD_MM
            if leaves and self.free[front.at].covers(LineString([line[-1], past])):
                line = np.concatenate([line, [past]])
        return line

    def _clear(self, here: Vector, there: Vector, k: int) -> bool:
        """Is the straight way free: inside of what was open before, past no front still to cut?"""
        front = self.fronts[k]
        if np.hypot(*(there - here)) < CHORD_MM:
            return True
        if not self._free_way(here, there, front.at):
            return False
        way = LineString([here, there])
        return not any(
            self._open[n] and n != k and self.fronts[n].at < front.at
            for n in self._tree.query(way, "dwithin", self._widest).tolist()
        )

    def _free_way(self, here: Vector, there: Vector, at: int) -> bool:
        """Is the straight way inside of what is open before a step?"""
        if at not in self._wide:
            self._wide[at] = asked_often(self.free[at].buffer(RUBS_MM))
        return bool(self._wide[at].covers(LineString([here, there])))
