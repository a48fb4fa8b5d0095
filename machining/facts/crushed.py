"""How hard what closes on a part presses its surface, against what the material stands before it is
dented.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from shapely import MultiPoint

from machining.geometry.frames import Vector
from machining.holding.contacts import Contact, Contacts
from machining.holding.patch import INWARDS
from machining.world.clamping import ScrewDown
from machining.world.gear import Gear

from .context import PlanFacts, Ready

SAME_WAY = 0.999  # cosine: contacts of one face
UNDER_HEAD = 0.6  # of what its four points span inwards: a head bears on a ring


@dataclass(frozen=True, slots=True)
class Dented:
    """What presses, with how much (N/mm²) of what the material stands, in the middle of its face
    (mm, as the part lies); ``share`` of its force would only just do it.
    """

    body: str
    pressure: float
    stands: float
    at: tuple[float, float, float]

    @property
    def share(self) -> float:
        return self.stands / self.pressure


def dented(op: Ready, facts: PlanFacts) -> Dented | None:
    """The face that is pressed hardest, where that is more than the material's proof stress; None
    while nobody knows that.
    """
    return op.before.memo.get(("dented", op.key), lambda: _dented(op, facts))


def _dented(op: Ready, facts: PlanFacts) -> Dented | None:
    held, material = op.seen.held, facts.material
    if held is None or material is None or material.proof_n_mm2 is None or op.turns:
        return None
    worst: Dented | None = None
    for name in held.contacts.groups:
        for face in _faces([each for each in held.contacts.every if each.group == name]):
            found = _on(op, face, held.contacts, name, material.proof_n_mm2)
            if found is not None and (worst is None or found.pressure > worst.pressure):
                worst = found
    return worst if worst is not None and worst.pressure > worst.stands else None


def _faces(contacts: list[Contact]) -> list[list[Contact]]:
    """Those that look the same way together."""
    found = list[list[Contact]]()
    for each in contacts:
        normal = np.array(each.normal)
        mine = next((f for f in found if float(np.array(f[0].normal) @ normal) > SAME_WAY), None)
        if mine is None:
            found.append([each])
        else:
            mine.append(each)
    return found


def _on(
    op: Ready, face: list[Contact], contacts: Contacts, name: str, stands: float
) -> Dented | None:
    every = [each for each in contacts.every if each.group == name]
    area = _area(face) * (UNDER_HEAD if _is_screw(op, face[0].body) else 1.0)
    if area <= 0.0:
        return None  # a line or a point: its pressure is not worked out
    force = contacts.groups[name] * len(face) / len(every)
    middle = np.mean([each.at for each in face], axis=0)
    x, y, z = (float(v) for v in middle)
    return Dented(face[0].body, force / area, stands, (x, y, z))


def _area(face: list[Contact]) -> float:
    """Of what its points stand for, which were moved in from its corners."""
    if len(face) < 3:
        return 0.0
    normal = np.array(face[0].normal)
    first = np.cross(normal, np.eye(3)[int(np.argmin(np.abs(normal)))])
    first /= np.linalg.norm(first)
    second: Vector = np.cross(normal, first)
    spots = [(float(np.array(e.at) @ first), float(np.array(e.at) @ second)) for e in face]
    return float(MultiPoint(spots).convex_hull.area) / INWARDS**2


def _is_screw(op: Ready, body: str) -> bool:
    """Does the head of a screw press there?"""
    gear, held = op.station.item, op.station.planned.holding
    clamps = getattr(held, "clamps", ())
    if not isinstance(gear, Gear) or not body.startswith("clamp "):
        return False
    return isinstance(gear.clamps[clamps[int(body[6:]) - 1].clamp], ScrewDown)
