"""Which way a solid is laid: straight with the axes, where its file has it turned."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import permutations, product
from math import acos, degrees
from typing import Literal

import numpy as np

from machining.quantities.errors import OutOfRange

from .frames import Pose, Vector, named
from .kernel import Examined
from .kernel.faces import Face

Lay = Literal["straight", "file"] | int  # or the number of a flat face
NAMED_SHARE = 0.5  # of the most, and a direction along an axis is the main one
LEAST_SHARE = 0.02  # of the surface, and it is nothing to go by
SQUARE = 1e-5
ALIKE = 1.0 - 1e-9


def laid(examined: Examined, lay: Lay = "straight") -> Examined:
    """The same solid, laid straight, left as its file has it, or with a flat face (its number)
    square to an axis. Raises OutOfRange for a face that is none, or not flat.
    """
    if lay == "file":
        return examined
    faces = examined.faces
    rotation = straightened(faces) if lay == "straight" else squared(faces, lay)
    if rotation is None:
        return examined
    return replace(
        examined,
        faces=tuple(_turned(face, rotation) for face in faces),
        mesh=examined.mesh.posed(Pose(rotation, np.zeros(3))),
        turned_deg=round(turned_by(rotation), 3),
    )


def _turned(face: Face, rotation: Vector) -> Face:
    """Its axis is put on one of the six directions where it is one but for the last digit."""
    axis, origin = rotation @ np.array(face.axis), rotation @ np.array(face.origin)
    whole = np.round(axis)
    if np.linalg.norm(whole) == 1.0 and np.linalg.norm(whole - axis) < SQUARE:
        axis = whole
    x, y, z = (float(v) + 0.0 for v in axis)
    a, b, c = (float(v) + 0.0 for v in origin)
    return replace(face, axis=(x, y, z), origin=(a, b, c))


def straightened(faces: Sequence[Face]) -> Vector | None:
    """The rotation (3x3) that lays a solid with its main directions along the axes, turning it no
    more than it must; None for one that lies straight as it is, or has nothing to go by.
    """
    told = [face for face in faces if face.kind in ("plane", "cylinder")]
    first, straight = _main(told)
    if first is None:
        return None
    second, beside = _main(_square_to(first, told))
    if straight and (second is None or beside):
        return None
    return _least_turned(_frame(first, second))


def squared(faces: Sequence[Face], number: int) -> Vector:
    """The rotation that lays a solid with one of its flat faces square to an axis, and straight
    beside. Raises OutOfRange for a face that is none, or not flat.
    """
    if not 0 <= number < len(faces) or faces[number].kind != "plane":
        raise OutOfRange("face", number, "the number of a flat face")
    first = np.array(faces[number].axis)
    return _least_turned(_frame(first, _main(_square_to(first, faces))[0]))


def turned_by(rotation: Vector) -> float:
    """How far a rotation turns (degrees)."""
    return degrees(acos(float(np.clip((np.trace(rotation) - 1.0) / 2.0, -1.0, 1.0))))


def _main(faces: Sequence[Face]) -> tuple[Vector | None, bool]:
    """The direction that most of the area lies along, its sense of no account, and whether it is
    one of the axes: of those that are, one counts that has half as much.
    """
    found: list[tuple[Vector, float]] = []
    for face in faces:
        axis = np.array(face.axis)
        for k, (known, area) in enumerate(found):
            if abs(float(known @ axis)) > ALIKE:
                found[k] = (known, area + face.area)
                break
        else:
            found.append((axis, face.area))
    most = max((area for _, area in found), default=0.0)
    if most < LEAST_SHARE * sum(face.area for face in faces):
        return None, True
    named_ones = [(axis, area) for axis, area in found if named(np.abs(axis)) is not None]
    axis, area = max(named_ones, key=lambda each: each[1], default=(np.zeros(3), 0.0))
    if found and area >= NAMED_SHARE * most:
        return axis, True
    return max(found, key=lambda each: each[1])[0] if found else None, False


def _square_to(first: Vector, faces: Sequence[Face]) -> list[Face]:
    return [
        face
        for face in faces
        if face.kind in ("plane", "cylinder") and abs(float(np.array(face.axis) @ first)) < SQUARE
    ]


def _frame(first: Vector, second: Vector | None) -> Vector:
    """Three directions square to each other (rows): the first, the second as far as it is square to
    it, and the third.
    """
    if second is None:
        second = np.eye(3)[int(np.abs(first).argmin())]
    second = second - float(second @ first) * first
    second = second / np.linalg.norm(second)
    return np.vstack([first, second, np.cross(first, second)])


def _least_turned(frame: Vector) -> Vector:
    """Of the ways to put three directions on the axes, that which turns the least."""
    ways = (
        np.diag(signs) @ frame[list(order)]
        for order in permutations(range(3))
        for signs in product((1.0, -1.0), repeat=3)
    )
    return max(
        (way for way in ways if np.linalg.det(way) > 0), key=lambda way: float(np.trace(way))
    )
