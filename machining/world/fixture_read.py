"""What a solid has of a fixture: upright pieces of its body, and the faces, pins and holes that can
be seats, locators and threads.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import hypot

import numpy as np
from shapely import Polygon, unary_union

from machining.geometry.frames import Sideways, Vector
from machining.geometry.mesh import Mesh
from machining.geometry.regions import Region, polygons_of
from machining.geometry.solids import Solid, above, below, outline
from machining.quantities.errors import OutOfRange
from machining.quantities.names import COARSE

from .feature import Boss, Hole
from .fixture import MOST_BLOCKS, MOST_PICKED, Block, Locator, Seat, Thread
from .geometry import PartGeometry
from .record import Place

SAME_MM, FINE_MM = 0.02, 0.03  # heights taken as one; what an outline may be off
THIN_MM = 0.002  # off a level face that a piece ends at
MOST_LEVELS = 40
AS_A_HOLE_MM2 = 400.0  # a larger level face round a hole's middle is a ring, and no floor
LEAST_MM2, LEAST_WIDE_MM, LEAST_HIGH_MM = 12.0, 2.0, 1.0  # of what can be picked
STRAIGHT = 1.0 - 1e-6  # cosine
DRAWN_MM = 0.15  # a tapping drill may be off what its thread leaves
SIDES: dict[tuple[int, bool], Sideways] = {
    (0, True): "-x",
    (0, False): "+x",
    (1, True): "-y",
    (1, False): "+y",
}


@dataclass(frozen=True, slots=True)
class Found:
    """What can be picked of a body ``size`` (mm) large, from its middle and its bottom."""

    size: tuple[float, float, float]
    blocks: tuple[Block, ...]
    seats: tuple[Seat, ...]
    locators: tuple[Locator, ...]
    threads: tuple[Thread, ...]


def found_in(geometry: PartGeometry) -> Found:
    """As it lies in its file, Z up. Raises OutOfRange for one without a level face."""
    low, high = geometry.bounds
    off = np.array([*(low[:2] + high[:2]) / 2.0, low[2]])
    mesh = Mesh(geometry.mesh.vertices - off, geometry.mesh.triangles, geometry.mesh.faces)
    body = geometry.solid.translate((-off).tolist())
    threads = tuple(_threads(geometry, off))
    seats = tuple(_seats(mesh, threads))
    if not seats:
        raise OutOfRange("faces that look up", 0, "one at least that a part can lie on")
    return Found(
        tuple(round(float(v), 3) for v in high - low),  # type: ignore[arg-type]
        tuple(_blocks(body, mesh)),
        seats,
        (*_faces(mesh), *_pins(geometry, off))[:MOST_PICKED],
        threads,
    )


# -- its body


def _blocks(body: Solid, mesh: Mesh) -> Iterator[Block]:
    """Between the heights of its corners, each as wide as it is anywhere there."""
    levels = _levels(mesh)
    slabs = [
        (low, high, _coarse(outline(above(below(body, high - THIN_MM), low + THIN_MM))))
        for low, high in zip(levels[:-1], levels[1:], strict=True)
    ]
    blocks = [
        Block(low_mm=low, high_mm=high, **_loops(piece))
        for low, high, region in _merged(slabs)
        for piece in polygons_of(region)
        if piece.area > SAME_MM
    ]
    if len(blocks) > MOST_BLOCKS:
        raise OutOfRange("pieces of the body", len(blocks), f"at most {MOST_BLOCKS}")
    yield from blocks


def _levels(mesh: Mesh) -> list[float]:
    heights = np.unique(mesh.vertices[:, 2].round(3))
    kept = heights[np.concatenate([[True], np.diff(heights) > SAME_MM])]
    if len(kept) > MOST_LEVELS:
        flat = np.unique(_level_heights(mesh))
        spread = np.linspace(kept[0], kept[-1], MOST_LEVELS)
        kept = np.unique(np.concatenate([spread, flat, kept[[0, -1]]]).round(3))
        kept = kept[np.concatenate([[True], np.diff(kept) > SAME_MM])]
    return [float(each) for each in kept]


def _level_heights(mesh: Mesh) -> Vector:
    normals, corners = _normals(mesh)
    level = np.abs(normals[:, 2]) > STRAIGHT
    heights: Vector = corners[level][:, 0, 2].round(3)
    return heights


def _merged(slabs: Sequence[tuple[float, float, Region]]) -> list[tuple[float, float, Region]]:
    found = list[tuple[float, float, Region]]()
    for low, high, region in slabs:
        if found and found[-1][2].symmetric_difference(region).area < SAME_MM:
            found[-1] = (found[-1][0], high, found[-1][2])
        elif not region.is_empty:
            found.append((low, high, region))
    return found


def _coarse(region: Region) -> Region:
    return region.simplify(FINE_MM)


def _loops(piece: Polygon) -> dict[str, tuple[tuple[Place, ...], ...] | tuple[Place, ...]]:
    def loop(ring: object) -> tuple[Place, ...]:
        coords = list(ring.coords)[:-1]  # type: ignore[attr-defined]
        return tuple((round(x, 3), round(y, 3)) for x, y in coords)

    return {
        "outline": loop(piece.exterior),
        "holes": tuple(loop(each) for each in piece.interiors if Polygon(each).area > LEAST_MM2),
    }


# -- what can be picked


def _normals(mesh: Mesh) -> tuple[Vector, Vector]:
    corners = mesh.vertices[mesh.triangles]
    across = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    lengths = np.linalg.norm(across, axis=1, keepdims=True)
    return across / np.maximum(lengths, 1e-12), corners


def _is_in_hole(piece: Polygon, threads: Sequence[Thread]) -> bool:
    x, y = piece.centroid.coords[0]
    return any(hypot(x - e.at_mm[0], y - e.at_mm[1]) < e.size_mm / 2.0 for e in threads) and (
        piece.area < AS_A_HOLE_MM2
    )


def _seats(mesh: Mesh, threads: Sequence[Thread]) -> Iterator[Seat]:
    """Level faces that look up, the highest and largest first."""
    normals, corners = _normals(mesh)
    found = []
    for face in np.unique(mesh.faces):
        own = mesh.faces == face
        if normals[own][:, 2].min() < STRAIGHT:
            continue
        high = round(float(corners[own][0, 0, 2]), 3)
        for piece in polygons_of(_coarse(unary_union([Polygon(t[:, :2]) for t in corners[own]]))):
            if piece.area >= LEAST_MM2 and high > 0.0 and not _is_in_hole(piece, threads):
                found.append((high, piece))
    found.sort(key=lambda each: (-each[0], -each[1].area))
    for k, (high, piece) in enumerate(found[:MOST_PICKED], 1):
        yield Seat(id=f"seat-{k}", high_mm=high, **_loops(piece))


def _faces(mesh: Mesh) -> Iterator[Locator]:
    """Upright flat faces square to X or Y, the largest first; a part lies on their free side."""
    normals, corners = _normals(mesh)
    found = []
    for face in np.unique(mesh.faces):
        own = mesh.faces == face
        way = normals[own][0]
        k = int(np.abs(way[:2]).argmax())
        if abs(way[k]) < STRAIGHT or float((normals[own] @ way).min()) < STRAIGHT:
            continue
        spots = corners[own].reshape(-1, 3)
        low, high = (round(float(v), 3) for v in (spots[:, 2].min(), spots[:, 2].max()))
        begin, end = (round(float(v), 3) for v in (spots[:, 1 - k].min(), spots[:, 1 - k].max()))
        if end - begin < LEAST_WIDE_MM or high - low < LEAST_HIGH_MM:
            continue
        at = round(float(spots[0, k]), 3)
        ends = [(at, begin), (at, end)] if k == 0 else [(begin, at), (end, at)]
        found.append(((end - begin) * (high - low), SIDES[k, way[k] > 0], ends, low, high))
    found.sort(key=lambda each: -each[0])
    for number, (_, side, ends, low, high) in enumerate(found[:MOST_PICKED], 1):
        yield Locator(
            id=f"face-{number}", side=side, at_mm=ends[0], to_mm=ends[1], low_mm=low, high_mm=high
        )


def _pins(geometry: PartGeometry, off: Vector) -> Iterator[Locator]:
    """Round ones that stand up; which side of a part they touch is what lies nearest to it from the
    fixture's middle, until somebody says.
    """
    bosses = [b for b in geometry.features if isinstance(b, Boss) and b.axis == "+z"]
    for number, boss in enumerate(bosses, 1):
        x, y, z = (round(float(v), 3) for v in np.array(boss.point) - off)
        k = 0 if abs(x) >= abs(y) else 1
        side = SIDES[k, (x, y)[k] < 0.0]
        yield Locator(
            id=f"pin-{number}",
            side=side,
            at_mm=(x, y),
            to_mm=(x, y),
            diameter_mm=boss.diameter_mm,
            low_mm=max(z, 0.0),
            high_mm=round(z + boss.length_mm, 3),
        )


def _nominal(drawn: float) -> float | None:
    """The coarse thread that a hole is drilled for, or is drawn as; None where it is of none."""
    drilled = {size - pitch: size for size, pitch in COARSE.items()}
    for known in (drilled, {size: size for size in COARSE}):
        near = min(known, key=lambda each: abs(drawn - each))
        if abs(drawn - near) < DRAWN_MM:
            return float(known[near])
    return None


def _threads(geometry: PartGeometry, off: Vector) -> Iterator[Thread]:
    """Holes that are open upwards and may be threads, by what they are drilled for."""
    up = [h for h in geometry.features if isinstance(h, Hole) and "+z" in h.opens]
    holes = [(hole, size) for hole in up if (size := _nominal(hole.diameter_mm)) is not None]
    for number, (hole, size) in enumerate(holes[:MOST_PICKED], 1):
        x, y, z = (round(float(v), 3) for v in np.array(hole.point) - off)
        yield Thread(
            id=f"hole-{number}",
            at_mm=(x, y),
            size_mm=size,
            high_mm=round(z + hole.length_mm, 3),
        )
