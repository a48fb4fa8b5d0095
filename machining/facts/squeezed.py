"""How far out of round the jaws of a chuck press what they grip while it is cut: what is turned
round there is not when they open.
"""

from __future__ import annotations

import numpy as np

from machining.geometry.contours import runs_at
from machining.geometry.regions import Region
from machining.holding import ring
from machining.quantities.computed import Given

from .context import PlanFacts, Ready
from .holdings import chuck as chuck_in
from .holdings.soft_jaws import fit
from .kinds import kind_of

HEIGHTS = 48
OPEN_MM = 0.05  # a bore begins at this radius


def look(op: Ready, facts: PlanFacts) -> None:
    """The figure squeezed of a contour that is turned to size in what is gripped as a ring."""
    held, material = chuck_in.held_in(op.station), facts.material
    if held is None or material is None or material.modulus_gpa is None:
        return
    if not kind_of(op.operation).finishes or not op.turns or op.stand.flat:
        return
    holding, chuck = held
    stood = ring_of(op.after.half_section(), op.stand.along, op.stand.inside)
    if stood is None:
        return
    thick, inertia = stood
    how, gripped = fit(op.station, holding, chuck), op.stand.grips_at / 2.0
    bears = 0.0 if how is None or how.at_edges else how.touches_deg
    mean = gripped + thick / 2.0 if op.stand.inside else gripped - thick / 2.0
    force = op.figures.get("jaw_at_speed") or Given(holding.force_per_jaw_n)
    op.work_out(
        ring.out_of_round,
        "squeezed",
        per_jaw=force,
        jaws=Given(float(chuck.jaws), f"chuck:{chuck.name}"),
        radius=Given(mean, "stock"),
        modulus=facts.of_material("modulus_gpa"),
        inertia=Given(inertia, "section of the ring, as far along as its radius"),
        bears=Given(bears, "how its jaws fit"),
    )


def ring_of(half: Region, along: tuple[float, float], inside: bool) -> tuple[float, float] | None:
    """Thickness (mm) of what is gripped from one height to another, and the second moment (mm⁴) of
    the ring about its middle line as far along as the radius is; None where it is solid there.
    """
    low, high = along
    reach = half.bounds[2]
    start, end = max(float(half.bounds[1]), low - reach), min(float(half.bounds[3]), high + reach)
    heights = start + (np.arange(HEIGHTS) + 0.5) / HEIGHTS * (end - start)
    walls = [_wall(half, float(z), inside) for z in heights]
    gripped = [
        wall
        for wall, z in zip(walls, heights, strict=True)
        if low <= z <= high and wall is not None
    ]
    if not gripped or all(inner <= OPEN_MM for inner, _ in gripped):
        return None
    step = (end - start) / HEIGHTS
    inertia = sum((outer - inner) ** 3 / 12.0 * step for inner, outer in filter(None, walls))
    return float(np.mean([outer - inner for inner, outer in gripped])), float(inertia)


def _wall(half: Region, z: float, inside: bool) -> tuple[float, float] | None:
    """From where to where out (mm) the section is solid at a height: its outermost piece, or the
    one round the bore; None where there is nothing.
    """
    runs = runs_at(half, z)
    if not runs:
        return None
    return runs[0] if inside else runs[-1]
