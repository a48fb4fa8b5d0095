"""What an operation asks of the spindle along its way."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from machining.geometry.frames import Vector
from machining.removal.loads import Loads

from .context import PlanFacts, Ready

SAMPLES = 240


@dataclass(frozen=True, slots=True)
class Along:
    """Motor power (kW) in even parts of an operation's way in its cuts (mm), the most of each part,
    with where the tip stands then, in the setup frame; and depth and width (mm) there. A turned cut
    has no width. ``coarse_mm`` is the cell its stock was looked at with, where a finer one would
    have been too many; 0 where it was not.
    """

    way_mm: float
    power_kw: list[float]
    depth_mm: list[float]
    width_mm: list[float]
    at: list[list[float]]
    coarse_mm: float = 0.0


def along(op: Ready, facts: PlanFacts) -> Along | None:
    """None where its path was not carried, or nothing says how hard its material is."""
    if facts.material is None or not op.needs("feed", "chip"):
        return None
    if op.found_turned is not None:
        return _turned(op)
    found = op.found
    if found is None:
        return None
    met = found.loads()
    if not len(met.step):
        return None
    power = _power(op, facts, met)
    way, most = _parts(met.length.astype(float), power)
    spots = found.trace.steps.at[met.step[most]].astype(float)
    if op.aimed is not None:
        spots = op.station.lie.pose.apply(op.aimed.pose.inverse().apply(spots))
    told = [each[most].astype(float).round(4).tolist() for each in (power, met.depth, met.width)]
    coarse = found.trace.cell if found.trace.coarse else 0.0
    return Along(way, told[0], told[1], told[2], spots.round(2).tolist(), coarse)


def _turned(op: Ready) -> Along | None:
    """Of one whose force is that of an edge as long as its cut is deep."""
    met = op.found_turned.loads if op.found_turned is not None else None
    if met is None or not op.needs("specific_force", "cutting_force"):
        return None
    kc, per_turn = op.figures["specific_force"].value, op.figures["chip"].value
    power: Vector = kc * met.depth * per_turn * met.speed / 60e3 / op.rig.spindle.reaches_edge
    way, most = _parts(met.length, power)
    spots = np.insert(met.at[most], 1, 0.0, axis=1)
    told = [each[most].round(4).tolist() for each in (power, met.depth)]
    return Along(way, told[0], told[1], [0.0] * len(most), spots.round(2).tolist())


def _power(op: Ready, facts: PlanFacts, met: Loads) -> Vector:
    """P = A·vf·kc/η with the mean chip of each width, as the figures of an operation say it."""
    assert facts.material is not None
    thick = op.figures["chip"].value * np.sin(np.radians(op.tool.edge_angle_deg))
    chip = thick * met.chip_share(op.tool.diameter_mm)
    kc = facts.material.kc11_n_mm2 * chip**-facts.material.mc
    feed, reaches = op.figures["feed"].value, op.rig.spindle.reaches_edge
    asked: Vector = met.area * feed * kc / 60e6 / reaches
    return asked


def _parts(length: Vector, power: Vector) -> tuple[float, np.ndarray]:
    """The whole way (mm), and where most power is asked in each of its even parts that has any."""
    way = np.cumsum(length)
    part = np.minimum((SAMPLES * way / max(float(way[-1]), 1e-9)).astype(int), SAMPLES - 1)
    order = np.lexsort((-power, part))
    _, first = np.unique(part[order], return_index=True)
    places: np.ndarray = order[first]
    return float(way[-1]), places
