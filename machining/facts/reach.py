"""Does the tool get there: stick-out against what stands beside it, flutes, shank,
inner corners.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from machining.geometry.regions import grown
from machining.memo import Memo
from machining.quantities.computed import Given

from . import around, stands_out
from .context import PlanFacts, Ready
from .hold import swept_region
from .observed import InHoldersWay
from .stand import Body

ROUGH_SIMPLIFY_MM = 0.2


def of_operation(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    """Figures stick_out_needed, spare, longest, slenderness; needs path and stock after."""
    if not op.path.legs:
        return
    settings = facts.library.settings
    lowest = float(op.path.bounds()[0][2])
    best: tuple[float, float, InHoldersWay] | None = None
    held = around.holds(op, memo)
    for section_radius, above in (*op.holder.wider_steps, *_head(op)):
        key = (
            "obstacle",
            op.after.key,
            op.trace_key,
            section_radius,
            settings.side_margin_mm,
            around.holds_key(op),
        )
        met = memo.get(
            key, partial(_highest, op, section_radius + settings.side_margin_mm, held, memo)
        )
        if met is None:
            continue
        need = met.at[2] - lowest + settings.below_margin_mm - above
        if best is None or need > best[0]:
            best = (need, above, met)
    if best is not None:
        _, above, met = best
        op.seen = replace(op.seen, in_way=met)
        where = Given(met.at[2] - lowest, "stock, jaws and path")
        stands_out.against(op, where, above, facts.shop("below_margin_mm"))
    stands_out.at_most(op)
    stands_out.slender(op)


def _head(op: Ready) -> Iterator[tuple[float, float]]:
    """The spindle's end: radius, and how far over the holder's front it begins, mm."""
    for step in op.rig.spindle.nose:
        yield step.diameter_mm / 2.0, op.holder.length_mm + step.above_mm


def _highest(op: Ready, reach: float, held: tuple[Body, ...], memo: Memo) -> InHoldersWay | None:
    """What stands highest under a disc of this radius carried along the path: stock after the cut,
    or a body of the holding.
    """
    under = grown(swept_region(op, memo), reach - op.tool.diameter_mm / 2.0).simplify(
        ROUGH_SIMPLIFY_MM
    )
    over = [body for body in held if under.intersects(body.region)]
    stock = op.after.top().highest_at(under)
    body = max(over, key=lambda each: each.top, default=None)
    if body is not None and (stock is None or body.top >= stock[2]):
        spot = under.intersection(body.region).representative_point()
        named = body.name or body.of or body.role
        name = f"{body.role} {named}" if named.isdigit() else named
        return InHoldersWay(name, (float(spot.x), float(spot.y), body.top))
    return None if stock is None else InHoldersWay("", stock)


def cutting_length_needed(op: Ready) -> float:
    """How long the flutes (side cuts) or the usable length (walls, holes) must be, mm."""
    if op.work.holes:
        return max(mouth - bottom for _, _, mouth, bottom in op.work.holes)
    return max(op.work.wall_height, op.work.top - op.work.floor)
