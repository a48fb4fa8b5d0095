"""Milling forces over one revolution: Kienzle along a helical edge."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import acos, pi, radians, tan

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Degrees, Millimetres, NewtonsPerSquareMillimetre, Plain

TURN_STEPS = 180
SLICE_DEG = 3.0


@dataclass(frozen=True, slots=True)
class MillingForces:
    """Over one revolution, N: largest and mean force in the plane of the table, the largest along the axis,
    the largest square to the wall while an edge generates it, the mean square to the feed, and the mean torque in N·m."""

    peak_side: float
    mean_side: float
    peak_axial: float
    peak_normal: float
    mean_aside: float
    mean_torque: float


@lru_cache(maxsize=4096)
def over_one_turn(
    diameter: float, edges: int, depth: float, width: float, feed_per_tooth: float, kc11: float, mc: float,
    radial_ratio: float, axial_ratio: float, edge_angle: float = 90.0, helix: float = 30.0,
) -> MillingForces:
    """Tangential, radial and axial force of every slice of every edge, summed at each angle of the turn.

    Climb milling along +X with the wall on the +Y side; an edge cuts between the entry angle and 180 degrees, where
    it leaves the wall. Raises OutOfRange for a width outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2 (mechanistic model), with Kienzle's coefficients.
    """
    within("width", width, 0.0, positive("diameter", diameter), low_open=True)
    lag_per_mm = 2.0 * tan(radians(helix)) / diameter
    slices = max(1, int(np.ceil(np.degrees(depth * lag_per_mm) / SLICE_DEG)))
    sin_kappa = np.sin(radians(edge_angle))
    height = positive("depth", depth) / slices
    entry = pi - acos(1.0 - 2.0 * width / diameter)
    turn = (np.arange(TURN_STEPS) + 0.5) * 2.0 * pi / TURN_STEPS
    along = (np.arange(slices) + 0.5) * height * lag_per_mm
    pitch = np.arange(edges) * 2.0 * pi / edges
    phi = np.mod(turn[:, None, None] + pitch[None, :, None] - along[None, None, :], 2.0 * pi)
    cutting = (phi >= entry) & (phi <= pi)
    chip = np.where(cutting, positive("feed_per_tooth", feed_per_tooth) * sin_kappa * np.abs(np.sin(phi)), 0.0)
    length = height / sin_kappa
    tangential = kc11 * length * np.where(chip > 1e-9, np.maximum(chip, 1e-9) ** (1.0 - mc), 0.0)
    radial, axial = radial_ratio * tangential, axial_ratio * tangential
    x = (-tangential * np.cos(phi) - radial * np.sin(phi)).sum(axis=(1, 2))
    y = (tangential * np.sin(phi) - radial * np.cos(phi)).sum(axis=(1, 2))
    z = axial.sum(axis=(1, 2))
    side = np.hypot(x, y)
    at_wall = (np.abs(phi - pi) < np.radians(12.0)).any(axis=(1, 2)) & (side > 0)
    normal = np.abs(y[at_wall]).max() if at_wall.any() else np.abs(y).max()
    torque = _mean_torque(diameter, edges, depth / sin_kappa, feed_per_tooth * sin_kappa, entry, kc11, mc)
    return MillingForces(float(side.max()), float(side.mean()), float(z.max()), float(normal), float(abs(y.mean())), torque)


@lru_cache(maxsize=1)
def _gauss() -> tuple[Vector, Vector]:
    nodes, weights = np.polynomial.legendre.leggauss(64)
    return nodes, weights


def _mean_torque(diameter: float, edges: int, edge_length: float, chip: float, entry: float, kc11: float, mc: float) -> float:
    """Integral of h^(1−mc) over the arc; the helix spreads it over the turn but doesn't change its mean."""
    nodes, weights = _gauss()
    phi = entry + (pi - entry) * (nodes + 1.0) / 2.0
    force = kc11 * edge_length * (chip * np.sin(phi)) ** (1.0 - mc)
    return float(edges * (weights @ force) * (pi - entry) / 2.0 * diameter / 2000.0 / (2.0 * pi))


@formula(unit="N")
def peak_side_force(
    diameter: Millimetres, edges: Plain, depth: Millimetres, width: Millimetres, feed_per_tooth: Millimetres,
    kc11: NewtonsPerSquareMillimetre, mc: Plain, radial_ratio: Plain, axial_ratio: Plain, edge_angle: Degrees = 90.0, helix: Degrees = 30.0,
) -> float:
    """F = max over one turn of |Σ edges (Ft + Fr)|, with Ft = kc1.1·b·h^(1−mc), Fr = cr·Ft

    Largest force of the cutter on the work, square to its axis. Raises OutOfRange for a width outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return over_one_turn(diameter, int(edges), depth, width, feed_per_tooth, kc11, mc, radial_ratio, axial_ratio, edge_angle, helix).peak_side


@formula(unit="N")
def force_on_wall(
    diameter: Millimetres, edges: Plain, depth: Millimetres, width: Millimetres, feed_per_tooth: Millimetres,
    kc11: NewtonsPerSquareMillimetre, mc: Plain, radial_ratio: Plain, axial_ratio: Plain, helix: Degrees = 30.0,
) -> float:
    """Fn = max |Fy| while an edge generates the wall

    Force square to the wall at the moment its surface is made. Raises OutOfRange for a width outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return over_one_turn(diameter, int(edges), depth, width, feed_per_tooth, kc11, mc, radial_ratio, axial_ratio, 90.0, helix).peak_normal


@formula(unit="N")
def force_in_slot(
    diameter: Millimetres, edges: Plain, depth: Millimetres, feed_per_tooth: Millimetres,
    kc11: NewtonsPerSquareMillimetre, mc: Plain, radial_ratio: Plain, axial_ratio: Plain, helix: Degrees = 30.0,
) -> float:
    """Fa = |mean Fy| over one turn with ae = D

    Force square to the feed that pulls a tool of a slot's own width towards one wall. Raises OutOfRange for values not over 0.
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return over_one_turn(diameter, int(edges), depth, diameter, feed_per_tooth, kc11, mc, radial_ratio, axial_ratio, 90.0, helix).mean_aside
