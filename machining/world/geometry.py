"""A part's solid with its features: from a STEP file, or a block with typed features."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cached_property
from math import radians, tan
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter
from shapely import MultiPoint, Polygon, minimum_bounding_radius, unary_union

from machining.geometry.frames import Direction, Pose, Vector, orientation, standing
from machining.geometry.kernel import Examined
from machining.geometry.mesh import Mesh, by_creases
from machining.geometry.solids import (
    Solid,
    bar,
    block,
    from_mesh,
    joined,
    posed,
    prism,
    to_mesh,
    turned_at,
)
from machining.quantities.errors import OutOfRange

from .feature import Boss, Feature, Flat, Hole, Pocket, Slanted, feature_id
from .part import Part
from .recognise import recognise

STORED_DIGITS = 5
SMALLEST_MM, LARGEST_MM = 0.2, 5000.0
MOST_TRIANGLES, MOST_FEATURES = 2_000_000, 5_000
FACETS = 0.002  # of a side: what a meshed round may measure less than it is
_FEATURES: TypeAdapter[tuple[Feature, ...]] = TypeAdapter(tuple[Feature, ...])


@dataclass(frozen=True)
class PartGeometry:
    """``key`` names the geometry by its content; the mesh is closed, in part coordinates (mm)."""

    key: str
    mesh: Mesh
    volume_mm3: float
    features: tuple[Feature, ...]
    schema: str = ""

    @cached_property
    def solid(self) -> Solid:
        return from_mesh(self.mesh)

    @cached_property
    def bounds(self) -> tuple[Vector, Vector]:
        return self.mesh.bounds()

    @cached_property
    def size(self) -> tuple[float, float, float]:
        """Sides as they would be measured: a round's facets do not show (mm)."""
        low, high = self.bounds
        sides = high - low
        for a, b in ((0, 1), (0, 2), (1, 2)):
            if abs(sides[a] - sides[b]) < FACETS * sides[a]:
                across = 2.0 * float(
                    minimum_bounding_radius(MultiPoint(self.mesh.vertices[:, [a, b]]))
                )
                if across - max(sides[a], sides[b]) < FACETS * across:
                    sides[a] = sides[b] = across
        return tuple(round(float(v), 3) for v in sides)  # type: ignore[return-value]

    def feature(self, id: str) -> Feature | None:
        return next((each for each in self.features if each.id == id), None)


def from_examined(key: str, examined: Examined) -> PartGeometry:
    """The mesh is rounded to what is stored of it, so that a solid read from storage is the same
    solid. Raises OutOfRange for a size no part has.
    """
    mesh = Mesh(
        np.round(examined.mesh.vertices, STORED_DIGITS) + 0.0,
        examined.mesh.triangles,
        examined.mesh.faces,
    )
    check_size(mesh)
    return PartGeometry(key, mesh, examined.volume, recognise(examined), examined.schema)


def to_json(geometry: PartGeometry) -> bytes:
    """Features and mesh as one JSON text, for storage and self-contained exports."""
    return json.dumps(
        {
            "key": geometry.key,
            "volume_mm3": geometry.volume_mm3,
            "schema": geometry.schema,
            "features": [f.model_dump(mode="json") for f in geometry.features],
            "vertices": np.round(geometry.mesh.vertices, STORED_DIGITS).ravel().tolist(),
            "triangles": geometry.mesh.triangles.ravel().tolist(),
            "faces": geometry.mesh.faces.tolist(),
        },
        separators=(",", ":"),
    ).encode()


def from_json(text: bytes) -> PartGeometry:
    """The stored geometry. Raises OutOfRange for what is none: wrong types, ragged, empty, corners
    that don't exist, sizes no part has.
    """
    try:
        raw = json.loads(text)
        kinds = {"vertices": np.float64, "triangles": np.int64, "faces": np.int64}
        vertices, triangles, faces = (
            np.asarray(raw[name], dtype=kind) for name, kind in kinds.items()
        )
        key, schema, volume = str(raw["key"]), str(raw["schema"]), float(raw["volume_mm3"])
        features = _FEATURES.validate_python(raw["features"])
    except (KeyError, TypeError, ValueError, OverflowError, RecursionError) as problem:
        raise OutOfRange(
            "geometry",
            type(problem).__name__,
            "key, schema, volume, features, and a mesh of numbers in rows of three",
        ) from problem
    if (
        len(key) > 80
        or len(schema) > 400
        or triangles.size > 3 * MOST_TRIANGLES
        or len(features) > MOST_FEATURES
    ):
        raise OutOfRange(
            "geometry",
            f"{triangles.size // 3} triangles, {len(features)} features",
            f"of up to {MOST_TRIANGLES} triangles and {MOST_FEATURES} features, with short names",
        )
    if not np.isfinite(volume):
        raise OutOfRange("volume", volume, "finite")
    return PartGeometry(key, _mesh(vertices, triangles, faces), volume, features, schema)


def _mesh(vertices: NDArray[Any], triangles: NDArray[Any], faces: NDArray[Any]) -> Mesh:
    """A mesh of plain rows of numbers. Raises OutOfRange for what is none."""
    if (
        vertices.ndim != 1
        or triangles.ndim != 1
        or len(vertices) % 3
        or len(triangles) % 3
        or not len(triangles)
        or not len(vertices)
    ):
        raise OutOfRange(
            "mesh",
            f"{vertices.size} and {triangles.size} numbers",
            "corners and triangles in rows of three",
        )
    if (
        faces.ndim != 1
        or len(faces) != len(triangles) // 3
        or not np.isfinite(vertices).all()
        or triangles.min() < 0
        or triangles.max() >= len(vertices) // 3
    ):
        raise OutOfRange(
            "mesh", "damaged", "of finite corners, triangles between them and a face for each"
        )
    mesh = Mesh(
        np.asarray(vertices.reshape(-1, 3), dtype=np.float64),
        triangles.astype(np.int32).reshape(-1, 3),
        np.clip(faces, -1, 2**31 - 1).astype(np.int32),
    )
    check_size(mesh)
    return mesh


def check_size(mesh: Mesh) -> None:
    """Raises OutOfRange for what is no part of a machine shop: a kilometre or a micrometre long."""
    low, high = mesh.bounds()
    longest = float((high - low).max())
    if (
        not SMALLEST_MM <= longest <= LARGEST_MM
        or float(np.abs(mesh.vertices).max()) > 10.0 * LARGEST_MM
    ):
        raise OutOfRange(
            "size of the part",
            f"{longest:.4g} mm",
            f"from {SMALLEST_MM:g} to {LARGEST_MM:g} mm at its longest; was the file written in"
            " another unit?",
        )


def of_block(part: Part) -> PartGeometry:
    """The block of a part without a file, its typed features cut out of it."""
    x, y, z = part.size_mm
    solid = block(np.array([-x / 2, -y / 2, 0.0]), np.array([x / 2, y / 2, z]))
    for feature in part.typed:
        solid = solid - taken_by(feature)
    sides: list[tuple[Direction, float, float]] = [
        ("+z", z, x * y),
        ("-z", 0.0, x * y),
        ("+x", x / 2, y * z),
        ("-x", x / 2, y * z),
        ("+y", y / 2, x * z),
        ("-y", y / 2, x * z),
    ]
    flats = [
        Flat(
            id=feature_id("flat", side, (0.0, 0.0, height), area),
            faces=side,
            height_mm=height,
            area_mm2=area,
            outermost=True,
        )
        for side, height, area in sides
    ]
    mesh = by_creases(to_mesh(solid))
    return PartGeometry(part.model_dump_json(), mesh, float(solid.volume()), (*flats, *part.typed))


def ring_round(boss: Boss, wide: float) -> Solid:
    """What a boss stands clear of, so wide (mm), in part coordinates."""
    turn = orientation(boss.axis, 0)
    x, y, z = turn @ np.array(boss.point)
    radius, high = boss.diameter_mm / 2.0, z + boss.length_mm
    ring = bar(x, y, radius + wide, z, high) - bar(x, y, radius, z - 1.0, high + 1.0)
    return posed(ring, Pose(turn.T, np.zeros(3)))


def taken_by(feature: Hole | Pocket | Slanted) -> Solid:
    """What a feature takes out of its part, in part coordinates."""
    if isinstance(feature, Slanted):
        return _slanted(feature)
    return _hole(feature) if isinstance(feature, Hole) else _pocket(feature)


def _slanted(hole: Slanted) -> Solid:
    turn = standing(hole.direction)
    x, y, z = turn @ np.array(hole.point)
    half = hole.length_mm / 2.0
    upright = bar(x, y, hole.diameter_mm / 2.0, z - half, z + half)
    return posed(upright, Pose(turn.T, np.zeros(3)))


def _hole(hole: Hole) -> Solid:
    turn = orientation(hole.axis, 0)
    x, y, z = turn @ np.array(hole.point)
    radius, long = hole.diameter_mm / 2, hole.length_mm
    takes = [bar(x, y, radius, z, z + long)]
    for sink in hole.sinks:
        mouth, lean = sink.diameter_mm / 2, tan(radians(sink.angle_deg / 2))
        high = (mouth - radius) / lean
        cone = (radius, mouth) if sink.at == hole.axis else (mouth, radius)
        start = long if sink.at == hole.axis else -high
        takes.append(turned_at([(start, cone[0]), (start + high, cone[1])], x, y, z))
    if hole.bottom_deg and not hole.through:
        deep = radius / tan(radians(hole.bottom_deg / 2))
        at_low = hole.axis in hole.opens
        tip = [(-deep, 0.0), (0.0, radius)] if at_low else [(long, radius), (long + deep, 0.0)]
        takes.append(turned_at(tip, x, y, z))
    return posed(joined(takes) if len(takes) > 1 else takes[0], Pose(turn.T, np.zeros(3)))


def _pocket(pocket: Pocket) -> Solid:
    turn = orientation(pocket.opens, 0)
    loops = [(np.array(loop) @ turn.T) for loop in pocket.loops]
    floor = float(loops[0][0][2])
    outer, *islands = (Polygon(loop[:, :2]) for loop in loops)  # whichever way they are drawn
    region = outer.difference(unary_union(islands)) if islands else outer
    return posed(
        prism(region, floor, floor + pocket.depth_mm),
        Pose(turn.T, np.zeros(3)),
    )
