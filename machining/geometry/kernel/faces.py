"""What a face of the solid is: a plane, a cylinder, a cone, a ball, a ring, or something else."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import degrees, pi, radians, tan
from typing import Any, Literal

import numpy as np

from ..frames import Vector

Triple = tuple[float, float, float]
FaceKind = Literal["plane", "cylinder", "cone", "sphere", "torus", "other"]
NOWHERE: Triple = (0.0, 0.0, 0.0)
FACET_DEG = 30.0  # between corners of a mesh that goes all the way round
AS_GOOD_AS_MM = 1e-3  # a free-form face this near to a plane, cylinder or cone is one


@dataclass(frozen=True, slots=True)
class Face:
    """One face of the solid; lengths in mm, area in mm².

    For a plane ``axis`` is the outward normal, else the surface's axis; ``origin`` lies on it.
    ``radius`` is that of a cylinder or sphere, a cone's at ``origin``, a torus's *around its ring*;
    ``tube`` the radius of a torus's tube, ``lean_deg`` by how much a cone opens towards ``axis``
    (negative: it closes). ``inward`` tells a hollow from a boss; ``sweep_deg`` is the arc covered
    about the axis; ``low`` and ``high`` bound cylinders and cones along the axis from ``origin``.
    """

    kind: FaceKind
    area: float
    axis: Triple
    origin: Triple
    radius: float = 0.0
    inward: bool = False
    sweep_deg: float = 0.0
    low: float = 0.0
    high: float = 0.0
    lean_deg: float = 0.0
    tube: float = 0.0

    def radius_at(self, along: float) -> float:
        """Of a cylinder or cone, ``along`` its axis from its origin (mm)."""
        return self.radius + along * tan(radians(self.lean_deg))


def face_of(face: Any, backwards: bool, corners: Vector) -> Face:
    """Read a face of the kernel; ``backwards`` where it is turned against its surface, ``corners``
    are those of its mesh. A free-form face that is a plane, a cylinder or a cone in all but name is
    read as one.
    """
    from OCP.BRep import BRep_Tool
    from OCP.BRepAdaptor import BRepAdaptor_Surface
    from OCP.BRepGProp import BRepGProp
    from OCP.GeomConvert import GeomConvert_SurfToAnaSurf
    from OCP.GProp import GProp_GProps

    properties = GProp_GProps()
    BRepGProp.SurfaceProperties_s(face, properties)
    area, surface = float(properties.Mass()), BRepAdaptor_Surface(face)
    found = _known(surface, area, corners, backwards)
    if found is None:
        plain = GeomConvert_SurfToAnaSurf(BRep_Tool.Surface_s(face)).ConvertToAnalytical(
            AS_GOOD_AS_MM
        )
        found = _converted(plain, surface, area, corners, backwards) if plain is not None else None
    return found or Face("other", area, NOWHERE, NOWHERE)


def _known(surface: Any, area: float, corners: Vector, backwards: bool) -> Face | None:
    from OCP import GeomAbs

    kind = surface.GetType()
    if kind == GeomAbs.GeomAbs_Plane:
        plane = surface.Plane()
        # a left-handed placement turns the normal of the surface against its axis
        sign = (1.0 if plane.Direct() else -1.0) * (-1.0 if backwards else 1.0)
        return Face(
            "plane", area, _triple(plane.Axis().Direction(), sign), _triple(plane.Location())
        )
    rounds: dict[Any, tuple[FaceKind, str]] = {
        GeomAbs.GeomAbs_Cylinder: ("cylinder", "Cylinder"),
        GeomAbs.GeomAbs_Cone: ("cone", "Cone"),
        GeomAbs.GeomAbs_Sphere: ("sphere", "Sphere"),
        GeomAbs.GeomAbs_Torus: ("torus", "Torus"),
    }
    if kind not in rounds:
        return None
    name, method = rounds[kind]
    shape = getattr(surface, method)()
    sweep = degrees(surface.LastUParameter() - surface.FirstUParameter())
    return _round(name, area, shape, corners, sweep, shape.Position().Direct() == backwards)


def _round(
    kind: FaceKind, area: float, shape: Any, corners: Vector, sweep: float, inward: bool
) -> Face:
    """A surface of revolution."""
    place = shape.Position()
    axis, origin = _triple(place.Direction()), _triple(place.Location())
    heights = (corners - np.array(origin)) @ np.array(axis)
    bounded = kind in ("cylinder", "cone")
    return Face(
        kind,
        area,
        axis,
        origin,
        float(shape.MajorRadius() if kind == "torus" else _radius(kind, shape)),
        inward=inward,
        sweep_deg=sweep,
        low=round(float(heights.min()), 9) if bounded else 0.0,
        high=round(float(heights.max()), 9) if bounded else 0.0,
        lean_deg=degrees(shape.SemiAngle()) if kind == "cone" else 0.0,
        tube=float(shape.MinorRadius()) if kind == "torus" else 0.0,
    )


def _converted(
    plain: Any, surface: Any, area: float, corners: Vector, backwards: bool
) -> Face | None:
    """As the plain surface says it, whose own sense and limits are not those of the face."""
    from OCP.GeomAdaptor import GeomAdaptor_Surface

    place, outward = _middle(surface, backwards)
    found = _known(GeomAdaptor_Surface(plain), area, corners, False)
    if found is None or found.kind not in ("plane", "cylinder", "cone"):
        return None
    axis = np.array(found.axis)
    if found.kind == "plane":
        sign = 1.0 if axis @ outward > 0 else -1.0
        return replace(found, axis=_as_triple(sign * axis))
    away = place - np.array(found.origin)
    away = away - (away @ axis) * axis
    return replace(found, inward=bool(away @ outward < 0), sweep_deg=_sweep(corners, found))


def _middle(surface: Any, backwards: bool) -> tuple[Vector, Vector]:
    """A place in the middle of a face, and its outward normal there."""
    from OCP.gp import gp_Pnt, gp_Vec

    point, du, dv = gp_Pnt(), gp_Vec(), gp_Vec()
    surface.D1(
        0.5 * (surface.FirstUParameter() + surface.LastUParameter()),
        0.5 * (surface.FirstVParameter() + surface.LastVParameter()),
        point,
        du,
        dv,
    )
    normal = np.array(_triple(du.Crossed(dv))) * (-1.0 if backwards else 1.0)
    return np.array(_triple(point)), normal


def _sweep(corners: Vector, face: Face) -> float:
    """The arc about an axis that corners cover (degrees): all of it but the widest gap."""
    axis = np.array(face.axis)
    side = np.cross(axis, np.eye(3)[int(np.abs(axis).argmin())])
    away = corners - np.array(face.origin)
    at = np.sort(np.arctan2(away @ np.cross(axis, side), away @ side))
    gap = degrees(float(np.diff(np.append(at, at[0] + 2.0 * pi)).max()))
    return 360.0 if gap < FACET_DEG else 360.0 - gap


def _radius(kind: FaceKind, shape: Any) -> float:
    return float(shape.RefRadius() if kind == "cone" else shape.Radius())


def _triple(of: Any, sign: float = 1.0) -> Triple:
    return (sign * float(of.X()), sign * float(of.Y()), sign * float(of.Z()))


def _as_triple(vector: Vector) -> Triple:
    return (float(vector[0]), float(vector[1]), float(vector[2]))
