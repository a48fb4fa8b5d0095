"""How far a turned part stands out of what carries it, and how far its last cut bends it there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from machining.geometry.contours import runs_at
from machining.geometry.frames import Vector
from machining.geometry.regions import Region
from machining.holding import shaft
from machining.plan.turned import TurnFinish
from machining.quantities.computed import Given

from .context import PlanFacts, Ready
from .holdings.centres import DRIVER

HINGE_MM, HINGE_SHARE = 1.0, 0.05  # of a piece that leans freely: long, and of the radius there
OVER_MM = 0.5  # where it is gripped, and so far from its end


@dataclass(frozen=True, slots=True)
class Free:
    """The longest stretch of a part (mm) that nothing carries while it is cut, how thick it is
    there, and whether it is carried at both ends.
    """

    long: float
    across: float
    between: bool


def carried_at(op: Ready) -> list[float]:
    """Heights (mm) where a centre or a steady carries it."""
    rests = op.stand.of("centre", "steady")
    return sorted(b.bottom if b.role == "centre" else (b.bottom + b.top) / 2.0 for b in rests)


def free_of(op: Ready) -> list[Free]:
    """Its stretches from what grips it to its free end."""
    grip = op.stand.of("jaw", "nose")
    if not grip:
        return []
    half = op.after.half_section()
    low, high = max(each.top for each in grip), float(half.bounds[3])
    ends = [low, *(z for z in carried_at(op) if z > low)]
    found = [Free(b - a, _across(half, a, b), True) for a, b in zip(ends, ends[1:], strict=False)]
    if high - ends[-1] > OVER_MM:
        found.append(Free(high - ends[-1], _across(half, ends[-1], high), False))
    return found


def _across(half: Region, low: float, high: float) -> float:
    """The mean diameter from one height to another, of what is left."""
    radii = [_radii(half, z)[1] for z in np.linspace(low, high, 9)[1:-1]]
    return 2.0 * float(np.mean(radii))


def _radii(half: Region, z: float) -> tuple[float, float]:
    """Inner and outer radius of the section; nothing has none."""
    runs = runs_at(half, z)
    return (runs[0][0], runs[-1][1]) if runs else (0.0, 0.0)


def look(op: Ready, facts: PlanFacts) -> None:
    """The figure part_bends of an outside contour that is turned to size."""
    kind, force, material = op.operation, op.figures.get("push_force"), facts.material
    if not isinstance(kind, TurnFinish) or kind.on.side != "outside" or force is None:
        return
    if not op.turns or material is None or material.modulus_gpa is None:
        return
    grip = op.stand.of("jaw", "nose")
    if not grip:
        return
    half, cut = op.after.half_section(), [z for z, _ in kind.on.at_mm]
    low, high = max(each.top for each in grip), float(half.bounds[3])
    if high - low < OVER_MM:
        return
    heights = np.linspace(low, high, shaft.PIECES + 1)
    middles = (heights[1:] + heights[:-1]) / 2.0
    radii = np.array([_radii(half, float(z)) for z in middles])
    if radii[:, 1].min(initial=1.0) <= 0.0:
        return
    hinged = any(each.name == DRIVER for each in grip)
    given = _given(heights, radii, material.modulus_gpa, carried_at(op), hinged)
    most = _most(heights, given, (min(cut), max(cut)))
    if most is not None:
        origin = "beam between what carries it"
        op.work_out(shaft.bends, "part_bends", force=force, gives=Given(most, origin))


def _given(
    heights: Vector, radii: Vector, modulus_gpa: float, rests: list[float], hinged: bool
) -> Vector:
    """By a unit force at each height (µm/N); where its end only runs on a centre it can lean there:
    a short thin piece stands for that.
    """
    if not hinged:
        return shaft.gives(heights, radii[:, 1], radii[:, 0], modulus_gpa, rests)
    low = float(heights[0])
    longer = np.concatenate([[low - HINGE_MM], heights])
    outer = np.concatenate([[HINGE_SHARE * radii[0, 1]], radii[:, 1]])
    inner = np.concatenate([[0.0], radii[:, 0]])
    return shaft.gives(longer, outer, inner, modulus_gpa, [low, *rests])[1:]


def _most(heights: Vector, given: Vector, span: tuple[float, float]) -> float | None:
    there = (heights >= span[0] - OVER_MM) & (heights <= span[1] + OVER_MM)
    return float(given[there].max()) if there.any() else None
