"""Makes the STEP files of the demo shop's parts with the kernel: ``python tools/demo_parts.py
FOLDER``.
"""

from __future__ import annotations

import re
import sys
from math import radians
from pathlib import Path

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.BRepFilletAPI import BRepFilletAPI_MakeChamfer, BRepFilletAPI_MakeFillet
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax1, gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.IFSelect import IFSelect_RetDone
from OCP.STEPControl import STEPControl_AsIs, STEPControl_Writer
from OCP.TopAbs import TopAbs_EDGE
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Shape


def box(
    x: float, y: float, z: float, dx: float, dy: float, dz: float, radius: float = 0.0
) -> TopoDS_Shape:
    """Axis-parallel box with its four upright edges rounded."""
    shape = BRepPrimAPI_MakeBox(gp_Pnt(x, y, z), dx, dy, dz).Shape()
    if not radius:
        return shape
    fillet = BRepFilletAPI_MakeFillet(shape)
    edges = TopExp_Explorer(shape, TopAbs_EDGE)
    while edges.More():
        edge = TopoDS.Edge(edges.Current())
        if abs(BRepAdaptor_Curve(edge).Line().Direction().Z()) > 0.99:
            fillet.Add(radius, edge)
        edges.Next()
    return fillet.Shape()


def drum(x: float, y: float, z: float, diameter: float, height: float) -> TopoDS_Shape:
    return BRepPrimAPI_MakeCylinder(
        gp_Ax2(gp_Pnt(x, y, z), gp_Dir(0, 0, 1)), diameter / 2, height
    ).Shape()


def cut(shape: TopoDS_Shape, *away: TopoDS_Shape) -> TopoDS_Shape:
    for tool in away:
        shape = BRepAlgoAPI_Cut(shape, tool).Shape()
    return shape


def write(shape: TopoDS_Shape, path: Path) -> None:
    writer = STEPControl_Writer()
    writer.Transfer(shape, STEPControl_AsIs)
    if writer.Write(str(path)) != IFSelect_RetDone:
        raise SystemExit(f"{path} could not be written")
    path.write_text(_neutral(path.read_text()))


def _neutral(text: str) -> str:
    """The same file without the hour it was made and the kernel's own names."""
    head, _, data = text.partition("ENDSEC;")
    head = (
        "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('made-up"
        " part'),'2;1');\nFILE_NAME('part','2026-01-01T00:00:00',(''),(''),'','','');\n"
        + head[head.index("FILE_SCHEMA") :]
    )
    return head + "ENDSEC;" + re.sub(r"'Open CASCADE STEP translator[^']*'", "'part'", data)


def clamp_block() -> TopoDS_Shape:
    """TW-118 sensor clamp block: 96 x 64 x 32, zero at the middle of the bottom face."""
    body = box(-48, -32, 0, 96, 64, 32, 8)
    pocket = box(-26, -17, 14, 52, 34, 20, 5)
    recess = box(-20, -12, -1, 40, 24, 7, 6)
    corner_holes = [drum(x, y, -1, 6.8, 40) for x in (-38, 38) for y in (-23, 23)]
    pin_holes = [drum(x, 0, -1, 6, 13) for x in (-36, 36)]
    return cut(body, pocket, recess, drum(0, 0, -1, 20, 40), *corner_holes, *pin_holes)


def gland() -> TopoDS_Shape:
    """TW-520 bulkhead gland: a flange of 48 with a neck of 30 for a thread, a relief behind it,
    bored 22; zero at the middle of the flange.
    """
    around = [(27.0, 8.0, 10.0), (30.0, 18.0, 24.0)]  # diameter, from, long
    rings = [
        cut(drum(0, 0, z, 60, long), drum(0, 0, z - 1, diameter, long + 2))
        for diameter, z, long in around
    ]
    return cut(drum(0, 0, 0, 48, 42), *rings, drum(0, 0, -1, 22, 50))


def hub() -> TopoDS_Shape:
    """TW-402 anemometer hub: a drum of 36 bored 12, three flats round it with a hole of 6.8 in each
    for an arm; zero at the middle of its back.
    """
    body = cut(drum(0, 0, 0, 36, 30), drum(0, 0, -1, 12, 40))
    for turn in (90, 210, 330):
        flat = turned(box(15.5, -20, 8, 10, 40, 14), turn, (0, 0, 1))
        arm = turned(drum(0, 0, 0, 6.8, 30), 90, (0, 1, 0))
        body = cut(body, flat, turned(lifted(arm, 15), turn, (0, 0, 1)))
    return body


def lifted(shape: TopoDS_Shape, z: float) -> TopoDS_Shape:
    move = gp_Trsf()
    move.SetTranslation(gp_Vec(0, 0, z))
    return BRepBuilderAPI_Transform(shape, move, True).Shape()


def hinge_plate() -> TopoDS_Shape:
    """A plain second part for the browser test: a plate with a pocket and three holes."""
    return cut(
        box(0, 0, 0, 80, 50, 20, 6),
        box(20, 12, 12, 40, 26, 10, 5),
        *[drum(x, 25, -1, 8.5, 30) for x in (10, 70)],
        drum(40, 25, -1, 10, 30),
    )


def cap() -> TopoDS_Shape:
    """A round with a seat and two blind holes from above."""
    return cut(
        drum(0, 0, 0, 64, 16),
        drum(0, 0, 9, 28, 10),
        *[drum(0, y, 6, 6.8, 20) for y in (-23, 23)],
    )


def bushing() -> TopoDS_Shape:
    """TW-276 mast foot bushing: a flange of 76 with a spigot of 60, bored 32; zero at the middle of
    the flange's face.
    """
    whole = BRepAlgoAPI_Fuse(drum(0, 0, 0, 76, 12), drum(0, 0, 0, 60, 34)).Shape()
    return cut(whole, drum(0, 0, -1, 32, 40))


def two_blocks() -> TopoDS_Shape:
    from OCP.BRep import BRep_Builder
    from OCP.TopoDS import TopoDS_Compound

    pair, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(pair)
    builder.Add(pair, box(0, 0, 0, 40, 30, 10))
    builder.Add(pair, box(0, 0, 20, 20, 30, 10))
    return pair


def bracket() -> TopoDS_Shape:
    """A plate with a boss, a window, counterbored holes, a slanted end and a chamfered top, that
    lies 17 degrees askew in its file.
    """
    boss = box(-25, -18, 0, 40, 36, 24, 6)
    body = BRepAlgoAPI_Fuse(box(-48, -30, 0, 96, 60, 10), boss).Shape()
    wedge = turned(box(36, -50, 10, 60, 100, 40), 30, (0, 1, 0), (36, 0, 10))
    body = cut(
        body,
        drum(-5, 0, -1, 12, 40),
        box(21, -8, -1, 10, 16, 20, 3),
        *[drum(-38, y, -1, 6.8, 20) for y in (-20, 20)],
        *[drum(-38, y, 5, 12, 20) for y in (-20, 20)],
        wedge,
    )
    chamfer = BRepFilletAPI_MakeChamfer(body)
    edges, known = TopExp_Explorer(body, TopAbs_EDGE), list[TopoDS_Edge]()
    while edges.More():
        edge = TopoDS.Edge(edges.Current())
        curve = BRepAdaptor_Curve(edge)
        ends = [curve.Value(t) for t in (curve.FirstParameter(), curve.LastParameter())]
        outer = all(abs(p.Z() - 24) < 1e-6 and abs(p.X() + 5) + abs(p.Y()) > 13 for p in ends)
        if outer and not any(edge.IsSame(each) for each in known):
            known.append(edge)
            chamfer.Add(1.0, edge)
        edges.Next()
    return turned(chamfer.Shape(), 17, (0, 0, 1))


def turned(
    shape: TopoDS_Shape,
    degrees: float,
    about: tuple[float, float, float],
    at: tuple[float, float, float] = (0, 0, 0),
) -> TopoDS_Shape:
    move = gp_Trsf()
    move.SetRotation(gp_Ax1(gp_Pnt(*at), gp_Dir(*about)), radians(degrees))
    return BRepBuilderAPI_Transform(shape, move, True).Shape()


PARTS = {
    "TW-118-B.step": clamp_block,
    "TW-402-A.step": hub,
    "TW-520-A.step": gland,
    "TW-241-A.step": cap,
    "TW-276-A.step": bushing,
    "hinge-plate.step": hinge_plate,
    "two-blocks.step": two_blocks,
    "askew-bracket.step": bracket,
}

if __name__ == "__main__":
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    for name, make in PARTS.items():
        write(make(), folder / name)
        print(name, (folder / name).stat().st_size)
