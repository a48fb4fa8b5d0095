"""What of the stock stands in an operation's way, level by level."""

from __future__ import annotations

from shapely import Point, Polygon, unary_union

from machining.geometry.regions import Region, disc, grown
from machining.geometry.solids import Solid, section
from machining.memo import digest
from machining.motion.paths.cleared import Level
from machining.motion.paths.clearing import ROUNDEST
from machining.motion.paths.holes import Target

from . import around
from .context import PlanFacts, Ready
from .state import State

INSIDE_MM, FINE_MM = 0.02, 0.005
UNDER_TOOL = 0.95  # of its radius: beside it, nothing is in its way


def levels(
    before: State, region: Region, top: float, heights: list[float], radius: float = 0.0
) -> tuple[Level, ...]:
    """The metal of a region between a top and heights that fall from there (mm), in plan; with a
    radius also where such a tool stands free beside it.
    """
    highest = before.top().highest_within(region)
    found, above = list[Level](), top
    for z in heights:
        stands = _between(before.solid, z, above)
        metal, beside = stands.intersection(region).simplify(FINE_MM), Polygon()
        if radius:
            near = grown(region, (ROUNDEST + 1.0) * radius)
            beside = grown(region, ROUNDEST * radius).difference(
                grown(stands.intersection(near), radius + FINE_MM)
            )
        found.append(
            Level(
                z,
                above if highest is None else min(above, highest),
                metal,
                beside.simplify(FINE_MM),
            )
        )
        above = z
    return tuple(found)


def _between(solid: Solid, low: float, high: float) -> Region:
    """Where a solid stands anywhere between two heights: at both ends and in the middle."""
    inside = min(INSIDE_MM, (high - low) / 4.0)
    return unary_union([section(solid, z) for z in (low + inside, (low + high) / 2, high - inside)])


def over_mouths(op: Ready) -> tuple[Level, ...]:
    """What stands over the mouths of its holes, as a level each, where anything does."""
    surface, radius = op.before.top(), UNDER_TOOL * op.tool.diameter_mm / 2.0
    found = []
    for x, y, mouth, _ in op.work.holes:
        stands = surface.highest_within(disc(x, y, radius))
        if stands is not None and stands > mouth + INSIDE_MM:
            found.append(Level(mouth, stands, Point(x, y)))
    return tuple(found)


def from_metal(op: Ready) -> tuple[Target, ...]:
    """Its holes, each from what stands over its mouth: a rapid ends there."""
    over = {(each.metal.x, each.metal.y): each.top for each in op.metal}  # type: ignore[attr-defined]
    return tuple(
        (x, y, max(mouth, over.get((x, y), mouth)), bottom) for x, y, mouth, bottom in op.work.holes
    )


def key_of(found: tuple[Level, ...]) -> str:
    """Equal for equal metal."""
    return digest([(each.z, each.top, each.metal.wkb, each.beside.wkb) for each in found])


def lifts_to(op: Ready, facts: PlanFacts) -> float:
    """How high a tool is lifted between two passes: just over the stock and what holds it."""
    tops = [each.top for each in around.holds(op, op.before.memo)]
    stands = max([float(op.before.bounds()[1][2]), *tops])
    return stands + facts.library.settings.first_clearance_mm
