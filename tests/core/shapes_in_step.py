"""Solids with one shape of the trade each, made with the kernel and read back from STEP."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from math import cos, pi, radians, sin
from pathlib import Path

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakePolygon,
)
from OCP.BRepFilletAPI import BRepFilletAPI_MakeChamfer, BRepFilletAPI_MakeFillet
from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCone, BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakePrism
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Vec
from OCP.TopAbs import TopAbs_EDGE
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Shape, TopoDS_Wire

from machining.geometry.kernel import Examined, examine
from tools.demo_parts import box, write


def read(shape: TopoDS_Shape) -> Examined:
    """The solid as a STEP file says it."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shape.step"
        write(shape, path)
        return examine(path.read_bytes())


def plate(radius: float = 0.0) -> TopoDS_Shape:
    """100 x 60 x 25, its zero at the middle of its bottom."""
    return box(-50, -30, 0, 100, 60, 25, radius)


def edges_where(shape: TopoDS_Shape, wanted: Callable[[gp_Pnt], bool]) -> list[TopoDS_Edge]:
    """Edges all of whose ends and middle fit, each once."""
    found: list[TopoDS_Edge] = []
    every = TopExp_Explorer(shape, TopAbs_EDGE)
    while every.More():
        edge = TopoDS.Edge(every.Current())
        curve = BRepAdaptor_Curve(edge)
        a, b = curve.FirstParameter(), curve.LastParameter()
        fits = all(wanted(curve.Value(t)) for t in (a, (a + b) / 2, b))
        if fits and not any(edge.IsSame(known) for known in found):
            found.append(edge)
        every.Next()
    return found


def rounded(shape: TopoDS_Shape, radius: float, wanted: Callable[[gp_Pnt], bool]) -> TopoDS_Shape:
    made = BRepFilletAPI_MakeFillet(shape)
    for edge in edges_where(shape, wanted):
        made.Add(radius, edge)
    return made.Shape()


def chamfered(shape: TopoDS_Shape, size: float, wanted: Callable[[gp_Pnt], bool]) -> TopoDS_Shape:
    made = BRepFilletAPI_MakeChamfer(shape)
    for edge in edges_where(shape, wanted):
        made.Add(size, edge)
    return made.Shape()


def at_height(z: float) -> Callable[[gp_Pnt], bool]:
    return lambda p: abs(p.Z() - z) < 1e-6


def cone(x: float, y: float, z: float, below: float, above: float, high: float) -> TopoDS_Shape:
    """A cone by its diameters at its ends."""
    return BRepPrimAPI_MakeCone(
        gp_Ax2(gp_Pnt(x, y, z), gp_Dir(0, 0, 1)), below / 2, above / 2, high
    ).Shape()


def lying_drum(
    at: tuple[float, float, float],
    along: tuple[float, float, float],
    diameter: float,
    long: float,
) -> TopoDS_Shape:
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(*at), gp_Dir(*along)), diameter / 2, long).Shape()


def prism_of(
    corners: list[tuple[float, float, float]], up: tuple[float, float, float]
) -> TopoDS_Shape:
    face = BRepBuilderAPI_MakeFace(_wire(corners)).Face()
    return BRepPrimAPI_MakePrism(face, gp_Vec(*up)).Shape()


def hexagon(across: float, low: float, high: float) -> TopoDS_Shape:
    radius = across / 3**0.5
    corners = [(radius * cos(k * pi / 3), radius * sin(k * pi / 3), low) for k in range(6)]
    return prism_of(corners, (0, 0, high - low))


def drafted(length: float, width: float, low: float, high: float, lean: float) -> TopoDS_Shape:
    """A frustum that opens upwards by ``lean`` degrees a side."""
    by = (high - low) * sin(radians(lean)) / cos(radians(lean))
    made = BRepOffsetAPI_ThruSections(True, True)
    for z, wider in ((low, 0.0), (high, by)):
        a, b = length / 2 + wider, width / 2 + wider
        made.AddWire(_wire([(-a, -b, z), (a, -b, z), (a, b, z), (-a, b, z)]))
    return made.Shape()


def _wire(corners: list[tuple[float, float, float]]) -> TopoDS_Wire:
    made = BRepBuilderAPI_MakePolygon()
    for corner in corners:
        made.Add(gp_Pnt(*corner))
    made.Close()
    return made.Wire()


def fused(*shapes: TopoDS_Shape) -> TopoDS_Shape:
    whole = shapes[0]
    for other in shapes[1:]:
        whole = BRepAlgoAPI_Fuse(whole, other).Shape()
    return whole
