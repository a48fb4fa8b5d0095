"""Milling forces over one revolution: Kienzle along a helical edge."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import acos, ceil, pi, radians, tan

import numpy as np

from machining.geometry.frames import Vector
from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Degrees, Millimetres, NewtonsPerSquareMillimetre, Plain

STEPS = 1440  # of one turn
AT_WALL = radians(12.0)  # an edge this close to leaving the wall generates it


@dataclass(frozen=True, slots=True)
class MillingForces:
    """Over one revolution, N: largest and mean force in the plane of the table, the largest along
    the axis, the largest square to the wall while an edge generates it, the mean square to the
    feed, and the mean torque in N·m.
    """

    peak_side: float
    mean_side: float
    peak_axial: float
    peak_normal: float
    mean_aside: float
    mean_torque: float


@lru_cache(maxsize=4096)
def over_one_turn(
    diameter: float,
    edges: int,
    depth: float,
    width: float,
    feed_per_tooth: float,
    kc11: float,
    mc: float,
    radial_ratio: float,
    axial_ratio: float,
    edge_angle: float = 90.0,
    helix: float = 30.0,
) -> MillingForces:
    """Tangential, radial and axial force along every edge, summed at each angle of the turn.

    Climb milling along +X with the wall on the +Y side; an edge cuts between the entry angle and
    180 degrees, where it leaves the wall. Raises OutOfRange for a width outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2 (mechanistic model), with Kienzle's
    coefficients.
    """
    within("width", width, 0.0, positive("diameter", diameter), low_open=True)
    positive("depth", depth), positive("feed_per_tooth", feed_per_tooth)
    sin_kappa, entry = np.sin(radians(edge_angle)), pi - acos(1.0 - 2.0 * width / diameter)
    count = edges * ceil(STEPS / edges)
    step = 2.0 * pi / count
    phi = (np.arange(count) + 0.5) * step
    chip = np.where(
        (phi >= entry) & (phi <= pi), feed_per_tooth * sin_kappa * np.abs(np.sin(phi)), 0.0
    )
    tangential = kc11 / sin_kappa * np.where(chip > 1e-9, np.maximum(chip, 1e-9) ** (1.0 - mc), 0.0)
    radial = radial_ratio * tangential
    lag = depth * 2.0 * tan(radians(helix)) / diameter
    along = -tangential * np.cos(phi) - radial * np.sin(phi)
    across = tangential * np.sin(phi) - radial * np.cos(phi)
    x, y, z, near = (
        _along_edges(f, lag, depth, edges, step)
        for f in (along, across, axial_ratio * tangential, np.abs(phi - pi) < AT_WALL)
    )
    side = np.hypot(x, y)
    at_wall = (near > 1e-9) & (side > 0)
    normal = np.abs(y[at_wall]).max() if at_wall.any() else np.abs(y).max()
    torque = _mean_torque(
        diameter, edges, depth / sin_kappa, feed_per_tooth * sin_kappa, entry, kc11, mc
    )
    of_turn = (side.max(), side.mean(), z.max(), normal, abs(y.mean()))
    peak_side, mean_side, axial, at_it, aside = map(float, of_turn)
    return MillingForces(peak_side, mean_side, axial, at_it, aside, torque)


def _along_edges(per_mm: Vector, lag: float, depth: float, edges: int, step: float) -> Vector:
    """Sum over the whole length of every edge, for each angle of one pitch; ``per_mm`` is for a
    millimetre of edge at an angle.

    A helical edge sweeps its lag: the sum along it is the integral over that angle, wound round as
    often as it goes.
    """
    if lag < step:
        swept = depth * per_mm
    else:
        total = np.concatenate([[0.0], np.cumsum(per_mm) * step])
        angle = (np.arange(len(per_mm)) + 1.0) * step
        whole, rest = divmod(lag, 2.0 * pi)
        from_angle = np.mod(angle - rest, 2.0 * pi)
        before = np.interp(from_angle, np.arange(len(total)) * step, total)
        swept = (
            depth
            / lag
            * (
                total[1:]
                - before
                + np.where(from_angle > angle, total[-1], 0.0)
                + whole * total[-1]
            )
        )
    folded: Vector = swept.reshape(edges, -1).sum(axis=0)
    return folded


@lru_cache(maxsize=1)
def _gauss() -> tuple[Vector, Vector]:
    nodes, weights = np.polynomial.legendre.leggauss(64)
    return nodes, weights


def _mean_torque(
    diameter: float,
    edges: int,
    edge_length: float,
    chip: float,
    entry: float,
    kc11: float,
    mc: float,
) -> float:
    """Integral of h^(1−mc) over the arc; the helix spreads it over the turn but doesn't change its
    mean.
    """
    nodes, weights = _gauss()
    phi = entry + (pi - entry) * (nodes + 1.0) / 2.0
    force = kc11 * edge_length * (chip * np.sin(phi)) ** (1.0 - mc)
    return float(edges * (weights @ force) * (pi - entry) / 2.0 * diameter / 2000.0 / (2.0 * pi))


@formula(unit="N")
def peak_side_force(
    diameter: Millimetres,
    edges: Plain,
    depth: Millimetres,
    width: Millimetres,
    feed_per_tooth: Millimetres,
    kc11: NewtonsPerSquareMillimetre,
    mc: Plain,
    radial_ratio: Plain,
    axial_ratio: Plain,
    edge_angle: Degrees = 90.0,
    helix: Degrees = 30.0,
) -> float:
    """F = max over one turn of |Σ edges (Ft + Fr)|, with Ft = kc1.1·b·h^(1−mc), Fr = cr·Ft

    Largest force of the cutter on the work, square to its axis. Raises OutOfRange for a width
    outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return over_one_turn(
        diameter,
        int(edges),
        depth,
        width,
        feed_per_tooth,
        kc11,
        mc,
        radial_ratio,
        axial_ratio,
        edge_angle,
        helix,
    ).peak_side


@formula(unit="N")
def peak_axial_force(
    diameter: Millimetres,
    edges: Plain,
    depth: Millimetres,
    width: Millimetres,
    feed_per_tooth: Millimetres,
    kc11: NewtonsPerSquareMillimetre,
    mc: Plain,
    radial_ratio: Plain,
    axial_ratio: Plain,
    edge_angle: Degrees = 90.0,
    helix: Degrees = 30.0,
) -> float:
    """Fa = max over one turn of Σ edges ca·Ft

    Largest force of the cutter along its axis; a right-hand helix lifts the work with it. Raises
    OutOfRange for a width outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return over_one_turn(
        diameter,
        int(edges),
        depth,
        width,
        feed_per_tooth,
        kc11,
        mc,
        radial_ratio,
        axial_ratio,
        edge_angle,
        helix,
    ).peak_axial


@formula(unit="N")
def force_on_wall(
    diameter: Millimetres,
    edges: Plain,
    depth: Millimetres,
    width: Millimetres,
    feed_per_tooth: Millimetres,
    kc11: NewtonsPerSquareMillimetre,
    mc: Plain,
    radial_ratio: Plain,
    axial_ratio: Plain,
    helix: Degrees = 30.0,
) -> float:
    """Fn = max |Fy| while an edge generates the wall

    Force square to the wall at the moment its surface is made. Raises OutOfRange for a width
    outside (0, diameter].
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return over_one_turn(
        diameter,
        int(edges),
        depth,
        width,
        feed_per_tooth,
        kc11,
        mc,
        radial_ratio,
        axial_ratio,
        90.0,
        helix,
    ).peak_normal


@formula(unit="N")
def force_in_slot(
    diameter: Millimetres,
    edges: Plain,
    depth: Millimetres,
    feed_per_tooth: Millimetres,
    kc11: NewtonsPerSquareMillimetre,
    mc: Plain,
    radial_ratio: Plain,
    axial_ratio: Plain,
    helix: Degrees = 30.0,
) -> float:
    """Fa = |mean Fy| over one turn with ae = D

    Force square to the feed that pulls a tool of a slot's own width towards one wall. Raises
    OutOfRange for values not over 0.
    Source: Altintas, Manufacturing Automation, ch. 2.
    """
    return over_one_turn(
        diameter,
        int(edges),
        depth,
        diameter,
        feed_per_tooth,
        kc11,
        mc,
        radial_ratio,
        axial_ratio,
        90.0,
        helix,
    ).mean_aside
