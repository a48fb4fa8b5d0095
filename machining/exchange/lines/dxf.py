"""Lines of a DXF file: lines, polylines, arcs, circles, ellipses, splines, and those of blocks."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from io import BytesIO
from typing import Any

from ezdxf import recover, units
from ezdxf.disassemble import recursive_decompose
from ezdxf.document import Drawing
from ezdxf.entities.dxfentity import DXFEntity
from ezdxf.enums import InsertUnits
from ezdxf.lldxf.const import DXFError
from ezdxf.math import Vec3

from machining.quantities.errors import OutOfRange

from .joined import Corners, Found

DRAWN = frozenset({"LINE", "LWPOLYLINE", "POLYLINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE", "HELIX"})
CALLED = {1: "in", 2: "ft", 4: "mm", 5: "cm", 6: "m", 8: "µin", 9: "mil", 13: "µm"}
MOST_ENTITIES = 100_000


def read_dxf(content: bytes, chord_mm: float) -> Found:
    """Raises OutOfRange for what is no DXF file. A drawing without a unit is read in mm."""
    try:
        document, _ = recover.read(BytesIO(content))
    except (DXFError, OSError, ValueError) as problem:
        raise OutOfRange("the file", "something else", "a DXF drawing") from problem
    unit = int(document.units or 0)
    known = unit in CALLED
    to_mm = (
        float(units.conversion_factor(InsertUnits(unit), InsertUnits.Millimeters)) if known else 1.0
    )
    lines, left_out = list[Corners](), Counter[str]()
    for entity in _entities(document):
        kind = entity.dxftype()
        if kind not in DRAWN:
            left_out[kind.lower()] += 1
            continue
        lines += _flat(entity, to_mm, chord_mm)
    return Found(lines, CALLED.get(unit, "mm"), known, dict(left_out))


def _entities(document: Drawing) -> Iterator[DXFEntity]:
    """Of the model, blocks taken apart, layers that are off left out."""
    hidden = {
        layer.dxf.name.lower() for layer in document.layers if layer.is_off() or layer.is_frozen()
    }
    for count, entity in enumerate(recursive_decompose(document.modelspace())):
        if count >= MOST_ENTITIES:
            raise OutOfRange("things drawn in the file", f"over {MOST_ENTITIES}", "fewer")
        if entity.dxf.get("layer", "0").lower() not in hidden:
            yield entity


def _flat(entity: Any, to_mm: float, chord_mm: float) -> Iterator[Corners]:
    """As corners, no farther off its curve than a chord may be."""
    try:
        spots = list(_spots(entity, chord_mm / to_mm))
    except (TypeError, ValueError, ZeroDivisionError, DXFError):
        return
    yield tuple((spot.x * to_mm, spot.y * to_mm) for spot in spots)


def _spots(entity: Any, chord: float) -> Iterator[Vec3]:
    kind = entity.dxftype()
    if kind == "LINE":
        yield from (entity.dxf.start, entity.dxf.end)
    elif kind in ("LWPOLYLINE", "POLYLINE"):
        for k, piece in enumerate(entity.virtual_entities()):  # its lines and arcs
            spots = list(_spots(piece, chord))
            if k == 0:
                last = _begins(entity)
                yield last
            if spots[-1].distance(last) < spots[0].distance(last):
                spots.reverse()
            yield from spots[1:]
            last = spots[-1]
    else:
        yield from entity.flattening(chord)


def _begins(polyline: Any) -> Vec3:
    """Its first corner, where everything else of the drawing is."""
    if polyline.dxftype() == "POLYLINE":
        return Vec3(next(iter(polyline.points_in_wcs())))
    return Vec3(next(iter(polyline.vertices_in_wcs())))
