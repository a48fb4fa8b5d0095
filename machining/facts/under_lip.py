"""Whether what a straight tool cuts into is a lip of the part over a place that is free below."""

from __future__ import annotations

from machining.geometry.regions import Region, disc, grown
from machining.geometry.solids import above, bar, bounds, outline, posed, section
from machining.memo import digest
from machining.removal.gouge import Gouge
from machining.world.tool import POINTED

from .context import PlanFacts, Ready
from .stations import part_outline

TIP_MM = 0.1  # over the floor
LEAN_MM = 0.15  # what a flank leans in by on that height, with what chords are off


def lip_over(op: Ready, gouge: Gouge, facts: PlanFacts) -> float | None:
    """How high over the floor the lip begins (mm), where the tool stands clear of the part on its
    floor and not above; None where the part stands up from there.
    """
    radius, floor = op.tool.diameter_mm / 2.0, op.work.floor
    if op.turns or op.aimed is not None or op.tool.kind in POINTED or op.work.region.is_empty:
        return None
    x, y, _ = gouge.at
    key = ("lip over", digest(x, y, radius, floor), facts.geometry.key, op.lie.key)

    def found() -> float | None:
        part, tool = posed(facts.geometry.solid, op.lie.pose), disc(x, y, radius)
        stands = section(part, floor + TIP_MM)
        if grown(stands, -LEAN_MM).intersects(tool):
            return None
        high = float(bounds(part)[1][2])
        if high <= floor + TIP_MM:
            return None
        over = above(part, floor + TIP_MM) ^ bar(x, y, radius, floor, high + TIP_MM)
        if outline(over).difference(grown(stands, LEAN_MM)).is_empty:
            return None
        return float(bounds(over)[0][2]) - floor

    return op.after.memo.get(key, found)


def open_above(op: Ready, facts: PlanFacts) -> Region:
    """What of its region is open from its floor up inside the part's outline: nothing of the part
    stands over it.
    """
    part = posed(facts.geometry.solid, op.lie.pose)
    over = outline(above(part, op.work.floor + TIP_MM))
    inside = part_outline(facts.geometry, op.lie, op.after.memo)
    return op.work.region.intersection(inside).difference(over)
