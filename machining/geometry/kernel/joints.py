"""How the faces of a solid meet along its edges."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, degrees
from typing import Any

import numpy as np

from ..frames import Vector

TANGENT_DEG = 1.0


@dataclass(frozen=True, slots=True)
class Joint:
    """An edge between the faces numbered ``one`` and ``other``, ``length`` mm long. ``bend_deg`` is
    how far the outward normal turns from one to the other in its middle: over 0 round an outside
    edge, under 0 in an inside corner, 0 where one runs on into the other.
    """

    one: int
    other: int
    length: float
    bend_deg: float

    @property
    def tangent(self) -> bool:
        return abs(self.bend_deg) < TANGENT_DEG

    def beyond(self, face: int) -> int | None:
        """The face on the other side of it; None where it is not an edge of ``face``."""
        return self.other if face == self.one else self.one if face == self.other else None


def joints_of(shape: Any) -> tuple[Joint, ...]:
    """Of every edge between two faces; faces are counted as they come in the shape."""
    from OCP.BRep import BRep_Tool
    from OCP.TopAbs import TopAbs_EDGE, TopAbs_FACE
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopoDS import TopoDS

    sides: dict[Any, list[tuple[int, Any, Any]]] = {}
    number, faces = 0, TopExp_Explorer(shape, TopAbs_FACE)
    while faces.More():
        face = TopoDS.Face(faces.Current())
        edges = TopExp_Explorer(face, TopAbs_EDGE)
        while edges.More():
            edge = TopoDS.Edge(edges.Current())
            if not BRep_Tool.Degenerated_s(edge):
                sides.setdefault(_Same(edge), []).append((number, face, edge))
            edges.Next()
        number += 1
        faces.Next()
    found = (
        _joint(*pair)
        for pair in sides.values()
        if len(pair) == 2 and pair[0][0] != pair[1][0]  # not a seam
    )
    return tuple(each for each in found if each is not None)


class _Same:
    """An edge as a key: the same whichever way it is run along."""

    __slots__ = ("edge", "known")

    def __init__(self, edge: Any) -> None:
        self.edge, self.known = edge, hash(edge)

    def __hash__(self) -> int:
        return self.known

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and bool(self.edge.IsSame(other.edge))


def _joint(a: tuple[int, Any, Any], b: tuple[int, Any, Any]) -> Joint | None:
    from OCP.BRepAdaptor import BRepAdaptor_Curve
    from OCP.GCPnts import GCPnts_AbscissaPoint
    from OCP.gp import gp_Pnt, gp_Vec
    from OCP.TopAbs import TopAbs_REVERSED

    (one, face, edge), (other, far, same) = a, b
    curve = BRepAdaptor_Curve(edge)
    middle = 0.5 * (curve.FirstParameter() + curve.LastParameter())
    point, along = gp_Pnt(), gp_Vec()
    curve.D1(middle, point, along)
    here, there = _outward(face, edge, middle), _outward(far, same, middle)
    if here is None or there is None or along.Magnitude() < 1e-12:
        return None
    way = np.array([along.X(), along.Y(), along.Z()]) / along.Magnitude()
    if edge.Orientation() == TopAbs_REVERSED:
        way = -way
    into = np.cross(here, way)  # the face lies on the left of its edges
    bend = degrees(atan2(-float(there @ into), float(there @ here)))
    return Joint(one, other, float(GCPnts_AbscissaPoint.Length_s(curve)), bend)


def _outward(face: Any, edge: Any, at: float) -> Vector | None:
    """The outward normal of a face at a place of its edge; None at a cone's point."""
    from OCP.BRep import BRep_Tool
    from OCP.BRepAdaptor import BRepAdaptor_Surface
    from OCP.gp import gp_Pnt, gp_Vec
    from OCP.TopAbs import TopAbs_REVERSED

    drawn = BRep_Tool.CurveOnSurface_s(edge, face, 0.0, 1.0)
    if drawn is None:
        return None
    place = drawn.Value(at)
    point, du, dv = gp_Pnt(), gp_Vec(), gp_Vec()
    BRepAdaptor_Surface(face).D1(place.X(), place.Y(), point, du, dv)
    normal = du.Crossed(dv)
    if normal.Magnitude() < 1e-12:
        return None
    sign = -1.0 if face.Orientation() == TopAbs_REVERSED else 1.0
    return np.array([normal.X(), normal.Y(), normal.Z()]) * (sign / normal.Magnitude())
