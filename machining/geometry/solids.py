"""Solids by plain booleans. The only module that knows manifold3d."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import pi, sin
from typing import TypeAlias

import manifold3d as m3
import numpy as np
from numpy.typing import NDArray
from shapely import Polygon, affinity, box, intersects, make_valid, transform, unary_union
from shapely import polygons as shapely_polygons
from shapely.geometry.base import BaseGeometry

from machining.quantities.errors import OutOfRange

from .frames import Pose, Vector
from .mesh import Mesh
from .regions import asked_often, polygons_of, region_from_loops, side_by_side

Solid: TypeAlias = m3.Manifold

ROUND_STEPS = 48
# of a radius: where the corners of as many steps lie for as much area as the circle has
AS_ROUND = (2.0 * pi / ROUND_STEPS / sin(2.0 * pi / ROUND_STEPS)) ** 0.5
FACET_SHARE = 0.004  # of a radius: the most a facet of a meshed round lies inside of it
SAME_HEIGHT_MM, STRAIGHT_MM = 1e-3, 1e-4


def block(low: Vector, high: Vector) -> Solid:
    """Axis-parallel box between two corners (mm). Raises OutOfRange where it has no volume."""
    size = np.asarray(high, dtype=float) - np.asarray(low, dtype=float)
    if not (size > 0).all():
        raise OutOfRange("size", tuple(float(s) for s in size), "over 0 in every direction")
    return Solid.cube(size.tolist()).translate(np.asarray(low, dtype=float).tolist())


def prism(region: BaseGeometry, low: float, high: float) -> Solid:
    """A plane region (shapely, XY) drawn up from z low to z high; empty for an empty region."""
    loops = [
        np.asarray(ring.coords)[:-1]
        for poly in polygons_of(region)
        for ring in (poly.exterior, *poly.interiors)
    ]
    if not loops or high <= low:
        return Solid()
    return Solid.extrude(
        m3.CrossSection([loop.tolist() for loop in loops], m3.FillRule.EvenOdd), high - low
    ).translate([0, 0, low])


def bar(x: float, y: float, radius: float, low: float, high: float, tip: float = 0.0) -> Solid:
    """A round bar along Z from low to high with a cone of height ``tip`` below low (a drill's
    point).
    """
    solid = Solid.cylinder(high - low, radius, radius, ROUND_STEPS).translate([x, y, low])
    if tip > 0:
        solid = solid + Solid.cylinder(tip, 0.0, radius, ROUND_STEPS).translate([x, y, low - tip])
    return solid


def joined(solids: Sequence[Solid]) -> Solid:
    """Union of any number of solids."""
    return (
        Solid.batch_boolean(list(solids), m3.OpType.Add)
        if len(solids) > 1
        else (solids[0] if solids else Solid())
    )


def from_mesh(mesh: Mesh) -> Solid:
    """A solid from a closed mesh. Raises OutOfRange when the mesh is not watertight."""
    welded = mesh.welded()
    solid = Solid(m3.Mesh(welded.vertices.astype(np.float32), welded.triangles.astype(np.uint32)))
    if solid.status() != m3.Error.NoError or solid.is_empty():
        raise OutOfRange("mesh", solid.status().name, "closed")
    return solid


def to_mesh(solid: Solid) -> Mesh:
    return _as_arrays(solid.to_mesh())


def _as_arrays(raw: m3.Mesh) -> Mesh:
    vertices = np.asarray(raw.vert_properties, dtype=np.float64)[:, :3]
    triangles = np.asarray(raw.tri_verts, dtype=np.int32)
    return Mesh(vertices, triangles, np.zeros(len(triangles), dtype=np.int32))


BLANK = int(Solid.reserve_ids(1))  # marks the surface of a blank, whatever is cut off it


def as_blank(solid: Solid) -> Solid:
    """The same solid, whose surface is told apart from what is cut later."""
    raw = solid.to_mesh64()
    triangles = np.array(raw.tri_verts)
    return Solid(
        m3.Mesh64(
            np.array(raw.vert_properties)[:, :3].copy(),
            triangles,
            run_index=np.array([0, triangles.size], dtype=np.uint64),
            run_original_id=np.array([BLANK], dtype=np.uint32),
        )
    )


def skins(solid: Solid) -> Mesh:
    """A solid's mesh whose triangles know their skin: face 0 a blank's own, 1 as cut."""
    raw = solid.to_mesh()
    mesh = _as_arrays(raw)
    faces = np.ones(len(mesh.triangles), dtype=np.int32)
    starts = [int(each) // 3 for each in raw.run_index]
    for k, original in enumerate(raw.run_original_id):
        if original == BLANK:
            faces[starts[k] : starts[k + 1]] = 0
    return Mesh(mesh.vertices, mesh.triangles, faces)


def pieces(solid: Solid) -> list[Solid]:
    """What of a solid does not hang together, each for itself; none of an empty one."""
    return [each for each in solid.decompose() if not each.is_empty()]


def posed(solid: Solid, pose: Pose) -> Solid:
    return solid.transform(np.column_stack([pose.rotation, pose.origin]).tolist())


LAID: tuple[list[float], ...] = ([0, 90, 0], [-90, 0, 0], [0, 0, 0])


# what turns X, or Y, up: (Y, Z, X) and (Z, X, Y)
LYING = (
    np.array([[0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [1.0, 0.0, 0.0]]),
    np.array([[0.0, 0.0, 1.0], [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]]),
)


def laid_along(upright: Solid, along: int, at: Vector) -> Solid:
    """What stands on the origin along Z, laid along X, Y or Z (0, 1, 2) from a point on (mm)."""
    return upright.rotate(LAID[along]).translate(np.asarray(at, dtype=float).tolist())


def stood_up(solid: Solid, along: int, at: Vector) -> Solid:
    """The same back again: what lies along X, Y or Z from a point on, upright on the origin."""
    turn = [-degrees for degrees in LAID[along]]
    return solid.translate((-np.asarray(at, dtype=float)).tolist()).rotate(turn)


def below(solid: Solid, z: float) -> Solid:
    """The part of a solid up to a height."""
    return solid.trim_by_plane([0.0, 0.0, -1.0], -z)


def above(solid: Solid, z: float) -> Solid:
    """The part of a solid from a height up."""
    return solid.trim_by_plane([0.0, 0.0, 1.0], z)


def volume(solid: Solid) -> float:
    return float(solid.volume())


def bounds(solid: Solid) -> tuple[Vector, Vector]:
    """Its lowest and highest corners; of an empty one both are its origin."""
    if solid.is_empty():
        return np.zeros(3), np.zeros(3)
    box = solid.bounding_box()
    return np.array(box[:3]), np.array(box[3:])


MOST_FLATS = 60  # heights that are told apart
AT_FIRST, MORE = 32, 4  # triangles looked at together: at first, and how many times as many then


@dataclass(frozen=True)
class TopSurface:
    """The upward-looking triangles of a solid in plan as closed rings (n, 4, 2), highest first,
    with their highest z.
    """

    rings: Vector
    heights: Vector

    def highest_within(self, region: BaseGeometry) -> float | None:
        """Highest z inside a plane region; a slope counts with its own highest point. None where
        nothing is there.
        """
        found = self.highest_at(region)
        return None if found is None else found[2]

    def highest_at(self, region: BaseGeometry) -> tuple[float, float, float] | None:
        """The same with a place there, as (x, y, z)."""
        if region.is_empty or not len(self.heights):
            return None
        asked, near, done, together = asked_often(region), self._near(region), 0, AT_FIRST
        while done < len(near):  # it is found high up: few of them are ever made into polygons
            some = near[done : done + together]
            pieces = shapely_polygons(self.rings[some])
            hit = np.flatnonzero(intersects(asked, pieces))
            if len(hit):
                spot = region.intersection(pieces[hit[0]]).representative_point()
                return float(spot.x), float(spot.y), float(self.heights[some[hit[0]]])
            done, together = done + together, MORE * together
        return None

    def flats(self, same: float) -> list[tuple[BaseGeometry, float]]:
        """Its parts that are equally high within ``same`` (mm), each with its highest z; coarser
        where it has very many heights.
        """
        if not len(self.heights):
            return []
        down = self.heights[0] - self.heights
        step = max(same, float(down[-1]) / MOST_FLATS)
        groups = np.round(down / step).astype(int)
        return [
            (
                side_by_side(shapely_polygons(self.rings[groups == k])),
                float(self.heights[groups == k].max()),
            )
            for k in np.unique(groups)
        ]

    def _near(self, region: BaseGeometry) -> NDArray[np.intp]:
        """The triangles whose surroundings meet those of a region."""
        west, south, east, north = region.bounds
        low, high = self._low_high
        return np.flatnonzero(
            (low[:, 0] <= east)
            & (high[:, 0] >= west)
            & (low[:, 1] <= north)
            & (high[:, 1] >= south)
        )

    @cached_property
    def _low_high(self) -> tuple[Vector, Vector]:
        a, b, c = (self.rings[:, k] for k in range(3))
        return np.minimum(np.minimum(a, b), c), np.maximum(np.maximum(a, b), c)


def top_surface(mesh: Mesh) -> TopSurface:
    """What looks up of a closed mesh."""
    corners = mesh.vertices[mesh.triangles]
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])[:, 2]
    up = corners[normals > 1e-9]
    heights = up[:, :, 2].max(axis=1)
    order = np.argsort(-heights, kind="stable")
    rings = np.concatenate([up[order][:, :, :2], up[order][:, :1, :2]], axis=1)
    return TopSurface(rings, heights[order])


def outline(solid: Solid) -> BaseGeometry:
    """Silhouette along Z as a region."""
    return region_from_loops([np.asarray(loop) for loop in solid.project().to_polygons()])


def section(solid: Solid, z: float) -> BaseGeometry:
    """Cut at height z as a region."""
    return region_from_loops([np.asarray(loop) for loop in solid.slice(z).to_polygons()])


def section_across(solid: Solid, along: int, at: float) -> BaseGeometry:
    """Cut square to X or Y (0, 1) at a coordinate, as a region of (Y or X, Z)."""
    upright = LYING[along]
    cut = section(posed(solid, Pose(upright, np.zeros(3))), at)
    return cut if along == 0 else affinity.affine_transform(cut, [0.0, 1.0, 1.0, 0.0, 0.0, 0.0])


def swept(
    profile: Sequence[tuple[float, float]],
    spots: Sequence[tuple[float, float, float]] | Vector,
    facets: int = 24,
) -> Solid:
    """What a convex turned tool sweeps: its profile as (height over the tip, radius), carried
    straight from spot to spot.

    A convex body carried along a line is the hull of both its ends.
    """
    around = np.linspace(0.0, 2.0 * np.pi, facets, endpoint=False)
    ring = np.column_stack([np.cos(around), np.sin(around)])
    tool = np.concatenate(
        [
            np.column_stack([max(radius, 1e-4) * ring, np.full(facets, height)])
            for height, radius in profile
        ]
    )
    at = np.asarray(spots, dtype=float)
    ends = zip(at[:-1], at[1:], strict=True) if len(at) > 1 else [(at[0], at[0])]
    return joined([Solid.hull_points(np.concatenate([tool + a, tool + b])) for a, b in ends])


def hull(points: Vector) -> Solid:
    """The convex solid about points (n, 3)."""
    return Solid.hull_points(points)


def revolved(region: BaseGeometry) -> Solid:
    """A region of (radius, z) turned about Z; empty for an empty region."""
    loops = [
        np.asarray(ring.coords)[:-1].tolist()
        for poly in polygons_of(region)
        for ring in (poly.exterior, *poly.interiors)
    ]
    return (
        m3.CrossSection(loops, m3.FillRule.EvenOdd).revolve(2 * ROUND_STEPS) if loops else Solid()
    )


def turned_at(profile: Sequence[tuple[float, float]], x: float, y: float, z: float) -> Solid:
    """What turns about an upright axis: its profile as (height over z, radius), upwards, mm."""
    (low, _), (high, _) = profile[0], profile[-1]
    region = Polygon([(0.0, low), *((radius, height) for height, radius in profile), (0.0, high)])
    return revolved(region).translate([x, y, z])


def half_section(solid: Solid) -> BaseGeometry:
    """What a solid sweeps when it turns about Z, as a region of (radius, z): its half sections
    every 45 degrees, joined.

    A round meshed with facets is cut a little inside of its vertices, which lie on it: corners are
    put back on them.
    """
    return _sound(
        transform(
            unary_union(_halves(solid)).simplify(STRAIGHT_MM), _on_vertices(to_mesh(solid).vertices)
        )
    )


def _sound(region: BaseGeometry) -> BaseGeometry:
    """Without the loops that moved corners may have made."""
    return region if region.is_valid else unary_union(polygons_of(make_valid(region)))


def always_there(solid: Solid) -> BaseGeometry:
    """What stands at every one of those half sections: less than the swept section where a solid is
    not round.
    """
    found = _halves(solid)
    least = found[0]
    for half in found[1:]:
        least = least.intersection(half)
    return _sound(
        transform(
            unary_union(polygons_of(least)).simplify(STRAIGHT_MM),
            _on_vertices(to_mesh(solid).vertices),
        )
    )


def _halves(solid: Solid) -> list[BaseGeometry]:
    half_plane = box(0.0, -1e6, 1e6, 1e6)
    halves: list[BaseGeometry] = []
    for turn in range(0, 360, 45):
        flat = solid.rotate([0.0, 0.0, -float(turn)]).rotate([-90.0, 0.0, 0.0]).slice(0.0)
        halves.append(
            region_from_loops([np.asarray(loop) for loop in flat.to_polygons()]).intersection(
                half_plane
            )
        )
    return halves


def _on_vertices(vertices: Vector) -> Callable[[NDArray[np.float64]], NDArray[np.float64]]:
    """Moves corners of (radius, z) out to the nearest vertex at their height, where it is no
    further off than a facet's sagitta.
    """
    known = np.unique(
        np.column_stack([np.hypot(vertices[:, 0], vertices[:, 1]), vertices[:, 2]]).round(5), axis=0
    )

    def moved(corners: NDArray[np.float64]) -> NDArray[np.float64]:
        found = corners.copy()
        for k, (r, z) in enumerate(corners):
            near = known[np.abs(known[:, 1] - z) < SAME_HEIGHT_MM, 0]
            off = near - r
            close = (off > -1e-5) & (off < FACET_SHARE * max(r, 1e-9))
            if close.any():
                found[k, 0] = near[close].min()
        return found

    return moved
