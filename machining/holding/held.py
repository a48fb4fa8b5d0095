"""Whether a held part stays put: a rigid body with points of contact, their friction and what the
clamps press with.

The factor is an upper bound: bodies do not give way here, and a clamp presses all the time.
Source: static equilibrium with Coulomb friction; cones of 16 corners inside the round ones.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import positive

from .contacts import CORNERS, Contacts
from .cut import Pushes
from .simplex import Base, base_of, best, farthest, most

MOST = 100.0  # times: more is told as over that
SEATED_SHARE = 0.01  # of the clamp force, that may be left over
CARRIES = 1e-6  # of the clamp force, and a contact carries some
JAMMED = 1e-6


@dataclass(frozen=True, slots=True, eq=False)
class Factor:
    """How many times a cut may push before the part moves, where it is weakest: in which direction
    (3,), by which of its wrenches, and which contacts carry something then. ``seated`` is whether
    clamps and weight alone find their balance.
    """

    factor: float
    towards: Vector
    which: int
    carrying: tuple[int, ...]
    seated: bool = True


@dataclass(frozen=True, slots=True, eq=False)
class Seat:
    """What clamps and weight leave over without friction: its wrench (6,), and how much in all
    (N).
    """

    left: Vector
    residual_n: float
    seated: bool


def jams(contacts: Contacts) -> bool:
    """Can what only bears hold itself by friction, so that it carries without being pressed? What
    rolls has none to hold by.
    """
    bears = contacts.bears.astype(bool) & (contacts.friction > 0.0)
    columns = contacts.in_cones[bears].reshape(-1, 6)
    if not len(columns):
        return False
    with_sum = np.column_stack([columns, np.ones(len(columns))])
    slack = np.zeros((1, 7))
    slack[0, 6] = 1.0
    amount = np.zeros(7)
    amount[6] = 1.0
    worth = np.append(np.ones(len(columns)), 0.0)
    return most(np.vstack([with_sum, slack]), amount, worth).worth > JAMMED


def counted(contacts: Contacts) -> Contacts:
    """The same as it is reckoned with: where what bears can jam, friction there counts nothing."""
    return contacts.without_friction(contacts.bears) if jams(contacts) else contacts


def factor(contacts: Contacts, cut: Pushes) -> Factor | None:
    """The least over all that a cut can do; None where it does not push. ``contacts`` are those
    that are ``counted``.
    """
    if not cut.any:
        return None
    base = _base(contacts, _unit(contacts))
    if base is None:
        return Factor(0.0, cut.towards[0], 0, (), seated=False)
    far, shares = _far(base, contacts, cut, least=True)
    weakest = int(np.argmin(far))
    carried = shares[weakest].reshape(-1, CORNERS).sum(axis=1)
    carrying = tuple(int(k) for k in np.flatnonzero(carried > CARRIES))
    return Factor(min(float(far[weakest]), MOST), cut.towards[weakest], weakest, carrying)


def factors(contacts: Contacts, cut: Pushes) -> Vector:
    """Of each thing a cut can do for itself (k,), no more than the most that is told."""
    base = _base(contacts, _unit(contacts))
    if base is None:
        return np.zeros(len(cut.wrenches))
    return np.minimum(_far(base, contacts, cut)[0], MOST)


def carried_at(contacts: Contacts, cut: Pushes, which: int) -> Vector:
    """What each contact presses with (n,), N, where one of the wrenches is as large as is stood."""
    base = _base(contacts, _unit(contacts))
    if base is None:
        return np.zeros(len(contacts.every))
    alone = Pushes(cut.towards[[which]], cut.wrenches[[which]])
    shares = _far(base, contacts, alone)[1][0]
    found: Vector = shares.reshape(-1, CORNERS).sum(axis=1) * _unit(contacts)
    return found


def _far(base: Base, contacts: Contacts, cut: Pushes, least: bool = False) -> tuple[Vector, Vector]:
    """How many times each wrench can be added (k,), and what the cones carry then."""
    size = np.abs(cut.wrenches).max(axis=1)
    pushing = size > 0.0
    size = np.where(pushing, size, 1.0)
    ways = np.zeros((len(cut.wrenches), base.columns.shape[1]))
    ways[:, :6] = cut.wrenches / size[:, None]
    far, shares = farthest(base, ways, _unit(contacts) / size, least)
    return np.where(pushing, far, inf), shares


def least_scale(contacts: Contacts, cut: Pushes, required: float) -> float | None:
    """How many times as hard all clamps have to press (at least) so that a cut is held ``required``
    times; None where no force does.
    """
    positive("required", required)
    unit = _unit(contacts)
    columns = _columns(contacts)
    groups = len(contacts.forces)
    scale = np.zeros((1, 6 + groups))
    scale[0, 6:] = -contacts.forces / unit
    every = np.vstack([columns, scale])
    worth = np.append(np.zeros(len(columns)), -1.0)
    least = 0.0
    for each in cut.wrenches:
        amount = np.zeros(6 + groups)
        amount[:6] = -(contacts.constant + required * each) / unit
        found = most(every, amount, worth)
        if found.status != "optimal":
            return None
        least = max(least, 0.0 - found.worth)
    return least


def seat(contacts: Contacts) -> Seat:
    """What clamps and weight do to a part that no friction holds: least sum of what is left."""
    unit, groups = _unit(contacts), len(contacts.forces)
    columns = np.column_stack([contacts.along_normals, contacts.in_group.T])
    left = np.vstack([np.eye(6), -np.eye(6)])
    every = np.vstack([columns, np.column_stack([left, np.zeros((12, groups))])])
    amount = np.append(0.0 - contacts.constant / unit, contacts.forces / unit)
    worth = np.append(np.zeros(len(columns)), -np.ones(12))
    found = most(every, amount, worth)
    over = (found.shares[len(columns) : len(columns) + 6] - found.shares[-6:]) * -unit
    residual = float(np.abs(over).sum())
    return Seat(over, residual, residual <= SEATED_SHARE * unit)


def not_pressed(contacts: Contacts) -> tuple[int, ...]:
    """Those that bear and carry nothing however clamps and weight are balanced; none where they
    find no balance.
    """
    smooth = contacts.without_friction(np.ones(len(contacts.every), dtype=bool))
    base = _base(smooth, _unit(contacts))
    if base is None:
        return ()
    found = []
    for k in np.flatnonzero(contacts.bears):
        worth = np.zeros(len(base.columns))
        worth[k * CORNERS : (k + 1) * CORNERS] = 1.0
        if best(base, worth).worth <= CARRIES:
            found.append(int(k))
    return tuple(found)


def _unit(contacts: Contacts) -> float:
    """The force (N) that all are divided by: of the clamps, of the weight where there are none."""
    return float(contacts.forces.sum() or np.abs(contacts.constant).max() or 1.0)


def _columns(contacts: Contacts) -> Vector:
    """Of each corner of each cone (n·16, 6 + g): its wrench, and 1 N of its group."""
    n, groups = len(contacts.every), len(contacts.forces)
    own = np.repeat(contacts.in_group.T, CORNERS, axis=0).reshape(n * CORNERS, groups)
    return np.column_stack([contacts.in_cones.reshape(-1, 6), own])


def _base(contacts: Contacts, unit: float) -> Base | None:
    """Forces that balance clamps and weight; None where none do."""
    amount = np.append(0.0 - contacts.constant, contacts.forces) / unit
    return base_of(_columns(contacts), amount)
