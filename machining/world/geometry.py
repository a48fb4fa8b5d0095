"""A part's solid with its features: from a STEP file, or a block with typed features."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from pydantic import TypeAdapter
from shapely import MultiPoint, minimum_bounding_radius

from machining.geometry.frames import Direction, Pose, Vector, orientation
from machining.geometry.kernel import Examined
from machining.geometry.mesh import Mesh
from machining.geometry.regions import region_from_loops
from machining.geometry.solids import Solid, bar, block, from_mesh, posed, prism, to_mesh

from .feature import Feature, Flat, Hole, Pocket, feature_id
from .part import Part
from .recognise import recognise

STORED_DIGITS = 5
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
                across = 2.0 * float(minimum_bounding_radius(MultiPoint(self.mesh.vertices[:, [a, b]])))
                if across - max(sides[a], sides[b]) < FACETS * across:
                    sides[a] = sides[b] = across
        return tuple(round(float(v), 3) for v in sides)  # type: ignore[return-value]

    def feature(self, id: str) -> Feature | None:
        return next((each for each in self.features if each.id == id), None)


def from_examined(key: str, examined: Examined) -> PartGeometry:
    """The mesh is rounded to what is stored of it, so that a solid read from storage is the same solid."""
    mesh = Mesh(np.round(examined.mesh.vertices, STORED_DIGITS) + 0.0, examined.mesh.triangles, examined.mesh.faces)
    return PartGeometry(key, mesh, examined.volume, recognise(examined), examined.schema)


def to_json(geometry: PartGeometry) -> bytes:
    """Features and mesh as one JSON text, for storage and self-contained exports."""
    return json.dumps(
        {
            "key": geometry.key, "volume_mm3": geometry.volume_mm3, "schema": geometry.schema,
            "features": [f.model_dump(mode="json") for f in geometry.features],
            "vertices": np.round(geometry.mesh.vertices, STORED_DIGITS).ravel().tolist(),
            "triangles": geometry.mesh.triangles.ravel().tolist(), "faces": geometry.mesh.faces.tolist(),
        },
        separators=(",", ":"),
    ).encode()


def from_json(text: bytes) -> PartGeometry:
    raw = json.loads(text)
    mesh = Mesh(np.array(raw["vertices"]).reshape(-1, 3), np.array(raw["triangles"], dtype=np.int32).reshape(-1, 3), np.array(raw["faces"], dtype=np.int32))
    return PartGeometry(raw["key"], mesh, raw["volume_mm3"], _FEATURES.validate_python(raw["features"]), raw["schema"])


def of_block(part: Part) -> PartGeometry:
    """The block of a part without a file, its typed features cut out of it."""
    x, y, z = part.size_mm
    solid = block(np.array([-x / 2, -y / 2, 0.0]), np.array([x / 2, y / 2, z]))
    for feature in part.typed:
        solid = solid - (_hole(feature) if isinstance(feature, Hole) else _pocket(feature))
    sides: list[tuple[Direction, float, float]] = [
        ("+z", z, x * y), ("-z", 0.0, x * y), ("+x", x / 2, y * z), ("-x", x / 2, y * z), ("+y", y / 2, x * z), ("-y", y / 2, x * z),
    ]
    flats = [Flat(id=feature_id("flat", side, (0.0, 0.0, height), area), faces=side, height_mm=height, area_mm2=area, outermost=True) for side, height, area in sides]
    mesh = to_mesh(solid)
    return PartGeometry(part.model_dump_json(), mesh, float(solid.volume()), (*flats, *part.typed))


def _hole(hole: Hole) -> Solid:
    turn = orientation(hole.axis, 0)
    x, y, z = turn @ np.array(hole.point)
    return posed(bar(x, y, hole.diameter_mm / 2, z, z + hole.length_mm), Pose(turn.T, np.zeros(3)))


def _pocket(pocket: Pocket) -> Solid:
    turn = orientation(pocket.opens, 0)
    loops = [(np.array(loop) @ turn.T) for loop in pocket.loops]
    floor = float(loops[0][0][2])
    return posed(prism(region_from_loops([loop[:, :2] for loop in loops]), floor, floor + pocket.depth_mm), Pose(turn.T, np.zeros(3)))
