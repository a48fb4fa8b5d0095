"""Where an operation works: its region, heights and hole positions in the setup frame."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import radians, tan
from typing import Literal

import numpy as np
from shapely import Polygon, unary_union

from machining.geometry.frames import LEVEL, Direction
from machining.geometry.regions import (
    Region,
    filled,
    rectangle,
    region_from_loops,
)
from machining.geometry.solids import above, outline, posed
from machining.memo import digest
from machining.motion.paths.holes import Target
from machining.placing.zero import Lie
from machining.plan.places import DrawnArea, OnFeatures, Rectangle, TypedHoles
from machining.quantities.errors import OutOfRange
from machining.world.feature import Feature, Hole, Pocket, Slanted, is_round
from machining.world.geometry import PartGeometry

Line = tuple[tuple[float, float, float], ...]
Mouth = Literal["wall", "sink", "face"]


class NotFromHere(OutOfRange):
    """A feature whose tool can't come from this setup's spindle. ``opens`` says from
    where it can, ``lean`` what it is where that is at an angle.
    """

    def __init__(
        self, feature: str, opens: tuple[Direction, ...], lean: Slanted | None = None
    ) -> None:
        super().__init__("feature", feature, "open towards the spindle in this setup")
        self.feature, self.opens, self.lean = feature, opens, lean


SAME_MM, SKIN_MM = 1e-6, 0.01  # what stands less over a floor is of it


@dataclass(frozen=True)
class Work:
    """``region`` is cut away between floor and top; ``kept`` (if any) is the outline that stays
    inside it.

    ``lines`` are followed by the tool's middle, each corner with its height of the tip. ``holes``
    hold mouth and tip heights. ``corner_radius`` is the smallest inner corner, None where there is
    none; ``across`` the width of a slot. ``turned`` is what a turning tool takes, as (radius, z);
    ``left_behind`` what stays behind shoulders it can't get behind, mm.
    """

    region: Region = Polygon()
    kept: Region = Polygon()
    top: float = 0.0
    floor: float = 0.0
    wall_height: float = 0.0
    holes: tuple[Target, ...] = ()
    hole_diameter: float = 0.0
    hole_depth: float = 0.0
    point_height: float = 0.0
    corner_radius: float | None = None
    passes_bottom: bool = False
    lines: tuple[Line, ...] = ()
    across: float = 0.0
    turned: Region = Polygon()
    left_behind: float = 0.0

    @property
    def is_thin(self) -> bool:
        """Nothing lies between its floor and its top."""
        return self.top - self.floor < 1e-6

    @cached_property
    def key(self) -> str:
        """Equal for equal works, whatever led to them."""
        return digest(
            self.region.wkb,
            self.kept.wkb,
            self.turned.wkb,
            self.top,
            self.floor,
            self.wall_height,
            self.holes,
            self.hole_diameter,
            self.hole_depth,
            self.lines,
        )


@dataclass(frozen=True, slots=True)
class Area:
    """A pocket in plan, its heights, and its smallest inner corner (None where it has none), mm;
    ``through`` where it has no floor, ``closed`` with walls all round; its walls stand upright from
    ``upright`` on. ``as_it_stands`` says its top is whatever of the stock stands over it, no higher
    than ``top``.
    """

    region: Region
    top: float
    floor: float
    corner: float | None
    through: bool = False
    closed: bool = True
    fillet: float = 0.0
    as_it_stands: bool = False

    @property
    def upright(self) -> float:
        return self.floor + self.fillet


def hole_ends(
    on: OnFeatures | TypedHoles, lie: Lie, geometry: PartGeometry, mouth: Mouth = "wall"
) -> tuple[list[Target], float, list[bool]]:
    """Place, mouth and bottom height of each hole, their diameter (mm), and which of them go
    through. The mouth is where the wall ends, or where the cone at it opens, or the face that a
    counterbore begins in.

    Raises NotFromHere, or OutOfRange for what is no hole or not all of one diameter.
    """
    if isinstance(on, TypedHoles):
        return (
            [(x, y, on.top_mm, on.top_mm - on.depth_mm) for x, y in on.at_mm],
            on.diameter_mm,
            [on.through] * len(on.at_mm),
        )
    found = _found(on, geometry)
    holes = [feature for feature in found if is_round(feature)]
    if len(holes) < len(found):
        raise OutOfRange("features", ", ".join(on.ids), "holes of one diameter")
    wider = geometry.features if mouth == "face" else ()
    over = [
        0.0 if mouth == "wall" or isinstance(hole, Slanted) else over_wall(hole, lie.up, wider)
        for hole in holes
    ]
    return _ends_of(holes, lie, over)


def over_wall(hole: Hole, towards: Direction | None, features: Sequence[Feature] = ()) -> float:
    """How far over a hole's wall (mm) the cone at its end opens, or the counterbore over it, if
    that is among the features.
    """
    sunk = [
        (sink.diameter_mm - hole.diameter_mm) / 2.0 / tan(radians(sink.angle_deg / 2.0))
        for sink in hole.sinks
        if sink.at == towards
    ]
    bored = [
        each.length_mm + over_wall(each, towards, features)
        for each in features
        if isinstance(each, Hole) and each.around == hole.id and towards in each.opens
    ]
    return max((*sunk, *bored), default=0.0)


def _ends_of(
    holes: list[Hole | Slanted], lie: Lie, over: list[float]
) -> tuple[list[Target], float, list[bool]]:
    diameters = {round(h.diameter_mm, 3) for h in holes}
    if len(diameters) > 1:
        raise OutOfRange(
            "features",
            " and ".join(f"Ø{d:g}" for d in sorted(diameters)),
            "holes of one diameter in one operation",
        )
    through = [hole.through for hole in holes]
    ends = [
        _seen(hole, lie) if isinstance(hole, Hole) else _seen_slanted(hole, lie) for hole in holes
    ]
    raised = [
        (x, y, mouth + by, bottom) for (x, y, mouth, bottom), by in zip(ends, over, strict=True)
    ]
    return raised, holes[0].diameter_mm, through


def _found(on: OnFeatures, geometry: PartGeometry) -> list[Feature]:
    found = [geometry.feature(id) for id in on.ids]
    gone = [id for id, feature in zip(on.ids, found, strict=True) if feature is None]
    if gone:
        raise OutOfRange("feature", gone[0], "a feature of the part; the part has changed")
    return [feature for feature in found if feature is not None]


def pocket_area(
    on: OnFeatures | Rectangle | DrawnArea,
    lie: Lie,
    geometry: PartGeometry,
    wanted: str = "one pocket",
) -> Area:
    """The pocket a place names. Raises NotFromHere, or OutOfRange for what is no pocket."""
    if isinstance(on, Rectangle):
        most = min(on.length_mm, on.width_mm) / 2.0
        if on.corner_radius_mm > most + SAME_MM:
            raise OutOfRange("corner_radius_mm", on.corner_radius_mm, f"at most {most:g} here")
        area = rectangle(on.x_mm, on.y_mm, on.length_mm, on.width_mm, on.corner_radius_mm)
        return Area(area, on.top_mm, on.top_mm - on.depth_mm, on.corner_radius_mm or None)
    if isinstance(on, DrawnArea):
        return Area(on.region, on.top_mm, on.top_mm - on.depth_mm, on.corner_radius_mm)
    found = _found(on, geometry)
    pocket = found[0]
    if len(found) == 1 and isinstance(pocket, Slanted) and pocket.shape == "face":
        return _over_slanted(pocket, lie, geometry)
    if len(found) != 1 or not isinstance(pocket, Pocket):
        raise OutOfRange("features", ", ".join(on.ids), wanted)
    if lie.up is None or not pocket.opens_to(lie.up):
        raise NotFromHere(pocket.id, (pocket.opens,))
    loops = [lie.pose.apply(np.array(loop)) for loop in pocket.loops]
    end = float(loops[0][0][2])  # a window's other end, seen from its other side
    floor = end if pocket.opens == lie.up else end - pocket.depth_mm
    area = region_from_loops([_ccw(loop[:, :2], outer=i == 0) for i, loop in enumerate(loops)])
    return Area(
        area,
        floor + pocket.depth_mm,
        floor,
        pocket.corner_radius_mm or None,
        pocket.through,
        pocket.closed,
        pocket.floor_radius_mm,
    )


def _over_slanted(face: Slanted, lie: Lie, geometry: PartGeometry) -> Area:
    """A slanted face as a floor where it lies level; it is open wherever nothing of the part stands
    higher beside it. Raises NotFromHere.
    """
    if float((lie.pose.rotation @ face.looks)[2]) < LEVEL:
        raise NotFromHere(face.id, (), lean=face)
    mesh, own = geometry.mesh, np.isin(geometry.mesh.faces, face.surfaces)
    seen = lie.pose.apply(mesh.vertices)
    pieces = [Polygon(seen[triangle][:, :2]) for triangle in mesh.triangles[own]]
    face_outline = filled(unary_union([piece for piece in pieces if piece.area > 0.0]))
    floor = float(lie.pose.apply(np.array(face.point))[2])
    higher = outline(above(posed(geometry.solid, lie.pose), floor + SKIN_MM))
    free = face_outline.difference(higher)
    top = float(lie.stock_high[2])
    return Area(free, top, floor, None, closed=False, as_it_stands=True)


def _ccw(loop: np.ndarray, outer: bool) -> np.ndarray:
    x, y = loop[:, 0], loop[:, 1]
    positive = float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) > 0
    return loop if positive == outer else loop[::-1]


def _seen_slanted(hole: Slanted, lie: Lie) -> Target:
    up = float((lie.pose.rotation @ hole.direction)[2])
    if abs(up) < LEVEL or ("high" if up > 0 else "low") not in hole.comes:
        raise NotFromHere(hole.id, (), lean=hole)
    x, y, middle = (float(each) for each in lie.pose.apply(np.array(hole.point)))
    return x, y, middle + hole.length_mm / 2.0, middle - hole.length_mm / 2.0


def _seen(hole: Hole, lie: Lie) -> Target:
    if lie.up not in hole.opens:
        raise NotFromHere(hole.id, hole.opens)
    ends = lie.pose.apply(
        np.array(
            [
                hole.point,
                np.array(hole.point) + hole.length_mm * np.eye(3)["xyz".index(hole.axis[1])],
            ]
        )
    )
    x, y = ends[0][:2].tolist()
    return x, y, float(ends[:, 2].max()), float(ends[:, 2].min())
