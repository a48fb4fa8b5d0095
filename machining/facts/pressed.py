"""What clamps press on where nothing stands behind it: a thin wall or floor that bends as it is
clamped, and springs back when it is let go.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from machining.geometry.frames import Vector
from machining.geometry.mesh import Mesh
from machining.geometry.pierced import thick_along
from machining.geometry.thickness import LIMITS_MM, Flags, Ints, Wall
from machining.holding.contacts import Contact, Contacts
from machining.holding.plate import gives

from .context import PlanFacts, Ready
from .observed import PressedThin

SQUARE = 0.9  # cosine between a contact and the wall's axis
ON_FACE_MM = 0.3
TOGETHER_MM = 20.0  # contacts so near push on one place
FIXED = "fixed jaw"  # what a vise's other jaw presses against


def presses_thin(op: Ready, part: Mesh) -> bool:
    """Is the part, in its own coordinates, thin anywhere under what closes on it?"""
    held = op.seen.held
    if held is None or not held.contacts.groups:
        return False
    for axis in range(3):
        at, _, _ = _pushes(op, held.contacts, axis)
        if len(at) and float(thick_along(at, part, axis, ON_FACE_MM).min()) <= LIMITS_MM[-1]:
            return True
    return False


def on_wall(op: Ready, wall: Wall, behind: Flags, facts: PlanFacts) -> PressedThin | None:
    """Where what closes on the part presses a wall most, with the cells (n,) that something carries
    ``behind`` it; None where nothing does, or nobody knows how stiff it is.
    """
    held = op.seen.held
    modulus = facts.material.modulus_gpa if facts.material is not None else None
    if held is None or modulus is None or not (wall.carries.any() or behind.any()):
        return None
    at, forces, bodies = _pushes(op, held.contacts, wall.axis)
    if not len(at):
        return None
    cells = _cells(wall, at)
    on = np.flatnonzero(cells >= 0)
    on = on[~behind[cells[on]]] if len(on) else on
    if not len(on):
        return None
    each = gives(wall, modulus, cells[on], behind)
    near = np.linalg.norm(at[on][:, None] - at[on][None], axis=2) <= TOGETHER_MM
    bends = each * (near @ forces[on])
    worst = int(np.argmax(np.where(np.isfinite(bends), bends, -1.0)))
    if not np.isfinite(bends[worst]):
        return None
    k = on[worst]
    force = float(near[worst] @ forces[on])
    thick = float(wall.thick[cells[k]])
    lie = op.station.lie
    begins = float(lie.pose.apply(wall.middles())[:, 2].min()) - wall.grid.cell / 2.0
    return PressedThin(bodies[k], thick, force, float(bends[worst]), at[k], begins)


def _pushes(op: Ready, contacts: Contacts, axis: int) -> tuple[Vector, Vector, list[str]]:
    """What presses along an axis of the part: points in part coordinates (n, 3), forces (N) and by
    which body. The fixed jaw presses back as the moving one presses.
    """
    lie = op.station.lie
    groups = {each.group for each in contacts.every if each.group is not None}
    jaw = next((g for g in groups if g.endswith("moving jaw")), None)
    counted = [*_grouped(contacts)]
    if jaw is not None:
        back = [each for each in contacts.every if each.body.endswith(FIXED)]
        counted += [(each, contacts.groups[jaw] / len(back)) for each in back]
    found = [
        (lie.pose.inverse().apply(np.array(each.at)), force, each.body)
        for each, force in counted
        if abs((lie.pose.rotation.T @ np.array(each.normal))[axis]) > SQUARE
    ]
    if not found:
        return np.zeros((0, 3)), np.zeros(0), []
    at, forces, bodies = zip(*found, strict=True)
    return np.array(at), np.array(forces), list(bodies)


def _grouped(contacts: Contacts) -> Iterator[tuple[Contact, float]]:
    for name, force in contacts.groups.items():
        mine = [each for each in contacts.every if each.group == name]
        for each in mine:
            yield each, force / len(mine)


def _cells(wall: Wall, at: Vector) -> Ints:
    """The cell of a wall that each point lies on (n,), -1 where none does."""
    across = [(wall.axis + 1) % 3, (wall.axis + 2) % 3]
    faces = wall.faces()
    found = np.full(len(at), -1, dtype=np.int64)
    for k, point in enumerate(at):
        for face in faces:
            off = np.abs(face[:, across] - point[across]).max(axis=1)
            near = int(np.argmin(off))
            on_it = abs(float(face[near, wall.axis] - point[wall.axis])) < ON_FACE_MM
            if off[near] <= wall.grid.cell and on_it:
                found[k] = near
    return found
