"""Reads STEP files with the solid kernel. The only package that imports OCP, and only inside
functions.

The kernel holds the interpreter for the whole of a read, so a server calls this in a process of its
own.
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from machining.quantities.errors import MachiningError

from ..frames import Vector
from ..mesh import Mesh
from .faces import Face, face_of
from .joints import Joint, joints_of

CHORD_MM = 0.02
CHORD_ANGLE_RAD = 0.2
MAX_FACES = 20_000


class UnreadableStep(MachiningError):
    """A STEP file that can't be used; the text says why and what would help."""

    def __init__(self, sentence: str) -> None:
        super().__init__("STEP file", "", "")
        self.args = (sentence,)


class SeveralSolids(UnreadableStep):
    """More than one solid in the file; ``sizes`` are their bounding sizes, in file order."""

    def __init__(self, sizes: list[tuple[float, float, float]]) -> None:
        super().__init__(f"The file holds {len(sizes)} solids; choose the one to be machined.")
        self.sizes = sizes


@dataclass(frozen=True, slots=True)
class Examined:
    """What a STEP file says, as plain values: volume (mm³), faces, a mesh whose triangles name
    their face, and the edges where two faces meet; ``turned_deg`` is how far it was turned to lie
    as it does.
    """

    volume: float
    faces: tuple[Face, ...]
    mesh: Mesh
    schema: str
    joints: tuple[Joint, ...] = ()
    turned_deg: float = 0.0


def examine(
    step: bytes,
    solid: int | None = None,
    progress: Callable[[float, str], None] = lambda share, doing: None,
) -> Examined:
    """Read a STEP file (AP203, AP214, AP242) to plain arrays.

    ``solid`` picks one of several. Raises UnreadableStep with a sentence, SeveralSolids when one
    must be chosen.
    """
    check_text(step)
    progress(0.1, "reading")
    shape = _read(step)
    solids = _solids(shape)
    if not solids:
        raise UnreadableStep(
            "The file holds no solid, only surfaces or curves; export the part as a solid body."
        )
    if len(solids) > 1 and solid is None:
        raise SeveralSolids([_size(each) for each in solids])
    if solid is not None and not 0 <= solid < len(solids):
        raise UnreadableStep(
            f"The file holds {len(solids)} solids; there is no number {solid + 1}."
        )
    chosen = solids[solid or 0]
    progress(0.5, "meshing")
    mesh, faces = _mesh_and_faces(chosen)
    progress(0.9, "measuring")
    return Examined(_volume(chosen), tuple(faces), mesh, _schema(step), joints_of(chosen))


def check_text(step: bytes) -> None:
    """What can be seen without the kernel: is it STEP at all, and whole?"""
    if not step.strip():
        raise UnreadableStep("The file is empty.")
    if not step.lstrip()[:20].startswith(b"ISO-10303-21"):
        raise UnreadableStep("This is not a STEP file: it doesn't begin with ISO-10303-21.")
    if b"END-ISO-10303-21" not in step[-400:]:
        raise UnreadableStep(
            "The STEP file is cut off: its closing line END-ISO-10303-21 is missing. Export or copy"
            " it again."
        )


def _schema(step: bytes) -> str:
    head = step[:4000]
    for mark, name in (
        (b"AP242", "AP242"),
        (b"AUTOMOTIVE_DESIGN", "AP214"),
        (b"CONFIG_CONTROL_DESIGN", "AP203"),
        (b"AP203", "AP203"),
    ):
        if mark in head:
            return name
    return "STEP"


def _read(step: bytes) -> Any:
    from OCP.IFSelect import IFSelect_RetDone
    from OCP.STEPControl import STEPControl_Reader

    reader = STEPControl_Reader()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "part.step"
        path.write_bytes(step)
        if reader.ReadFile(str(path)) != IFSelect_RetDone:
            raise UnreadableStep("The STEP file is damaged: its entities can't be read.")
    if reader.TransferRoots() == 0:
        raise UnreadableStep("The file holds no shape.")
    return reader.OneShape()


def _each(shape: Any, kind: Any) -> list[Any]:
    from OCP.TopExp import TopExp_Explorer

    found, seen = TopExp_Explorer(shape, kind), []
    while found.More():
        seen.append(found.Current())
        found.Next()
    return seen


def _solids(shape: Any) -> list[Any]:
    from OCP.TopAbs import TopAbs_SOLID

    return _each(shape, TopAbs_SOLID)


def _size(shape: Any) -> tuple[float, float, float]:
    from OCP.Bnd import Bnd_Box
    from OCP.BRepBndLib import BRepBndLib

    box = Bnd_Box()
    BRepBndLib.AddOptimal_s(shape, box, False, False)
    low, high = box.CornerMin(), box.CornerMax()
    return tuple(
        round(b - a, 3) for a, b in ((low.X(), high.X()), (low.Y(), high.Y()), (low.Z(), high.Z()))
    )  # type: ignore[return-value]


def _volume(shape: Any) -> float:
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps

    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, properties)
    return float(properties.Mass())


def _mesh_and_faces(shape: Any) -> tuple[Mesh, list[Face]]:
    from OCP.BRep import BRep_Tool
    from OCP.BRepMesh import BRepMesh_IncrementalMesh
    from OCP.TopAbs import TopAbs_FACE, TopAbs_REVERSED
    from OCP.TopLoc import TopLoc_Location
    from OCP.TopoDS import TopoDS

    raw = _each(shape, TopAbs_FACE)
    if len(raw) > MAX_FACES:
        raise UnreadableStep(
            f"The solid has {len(raw)} faces; up to {MAX_FACES} can be read. Is it a scanned mesh?"
        )
    BRepMesh_IncrementalMesh(shape, CHORD_MM, False, CHORD_ANGLE_RAD, True)
    vertices: list[Vector] = []
    triangles, owners, faces, base = [], [], [], 0
    for number, item in enumerate(raw):
        face = TopoDS.Face(item)
        where = TopLoc_Location()
        tessellation = BRep_Tool.Triangulation_s(face, where)
        if tessellation is None:
            raise UnreadableStep(
                f"Face {number + 1} of the solid can't be meshed; repair the model and export it"
                " again."
            )
        move = where.Transformation()
        points = np.array(
            [
                [p.X(), p.Y(), p.Z()]
                for p in (
                    tessellation.Node(i + 1).Transformed(move)
                    for i in range(tessellation.NbNodes())
                )
            ]
        )
        corners = (
            np.array(
                [tessellation.Triangle(i + 1).Get() for i in range(tessellation.NbTriangles())],
                dtype=np.int32,
            )
            - 1
        )
        backwards = face.Orientation() == TopAbs_REVERSED
        if backwards:
            corners = corners[:, ::-1]
        vertices.append(points)
        triangles.append(corners + base)
        owners.append(np.full(len(corners), number, dtype=np.int32))
        base += len(points)
        faces.append(face_of(face, backwards, points))
    return Mesh(np.concatenate(vertices), np.concatenate(triangles), np.concatenate(owners)), faces
