"""What size a drill or a reamer is to leave a hole: of its own they make no other."""

from __future__ import annotations

from machining.plan.operation import Drill, Ream
from machining.plan.places import OnFeatures, TypedHoles
from machining.plan.turned import Profile
from machining.quantities.errors import MachiningError
from machining.world.feature import Hole
from machining.world.part import Requirement
from machining.world.tool import Tool

from .context import OperationFacts, PlanFacts
from .kinds.base import Unsuited
from .place import hole_ends

WIDENS = frozenset(
    {"drill", "ream", "bore", "mill_hole", "tap", "mill_thread", "turn_rough", "turn_finish"}
)
DRILLS_MM, REAMS_MM = 0.1, 0.02  # what a hole of neither may be off the size it is drawn or typed
DRILLED_BAND_MM = 0.1  # a twist drill cuts over its size by some hundredths, and wanders


def closer_than_drilled(asked: Requirement, diameter: float) -> bool:
    """Is a hole of a size (mm) asked for in a narrower band than a drill leaves it in?"""
    return 0.0 < asked.band_mm < DRILLED_BAND_MM and asked.is_near(diameter)


def drawn_hole(op: OperationFacts, facts: PlanFacts) -> float | None:
    """Diameter (mm) of the hole a drill or reamer is to leave; None where there is none to compare
    with.
    """
    on = op.operation.on
    if not isinstance(op.operation, Drill | Ream) or not isinstance(on, OnFeatures | TypedHoles):
        return None
    try:
        return hole_ends(on, op.lie, facts.geometry)[1]
    except MachiningError:
        return None


def asked_size(op: OperationFacts, facts: PlanFacts) -> tuple[float, float, str] | None:
    """The least and the largest diameter (mm) of its holes, and the requirement that says so; of
    holes nobody limits what they are typed or drawn as, a little either way. None of a drilled one
    that is drawn only: what is left of it is looked at as a solid.
    """
    on, usual = op.operation.on, REAMS_MM if isinstance(op.operation, Ream) else DRILLS_MM
    if isinstance(on, TypedHoles):
        return on.diameter_mm - usual, on.diameter_mm + usual, ""
    ids = on.ids if isinstance(on, OnFeatures) else ()
    holes = [each for each in map(facts.geometry.feature, ids) if isinstance(each, Hole)]
    limits = [
        (each.nominal_mm + each.lower_mm, each.nominal_mm + each.upper_mm, each.what)
        for each in facts.plan.part.requirements
        for hole in holes
        if each.nominal_mm is not None and _is_of(each, hole)
    ]
    if limits:
        return max(each[0] for each in limits), min(each[1] for each in limits), limits[0][2]
    if isinstance(op.operation, Ream) and holes:
        sizes = [hole.diameter_mm for hole in holes]
        return min(sizes) - usual, max(sizes) + usual, ""
    return None


def _is_of(asked: Requirement, hole: Hole) -> bool:
    """Does it limit the hole's diameter?"""
    limits = asked.band_mm > 0 and not asked.thread
    return limits and asked.feature == hole.id and asked.is_near(hole.diameter_mm)


def wrong_size(op: OperationFacts, facts: PlanFacts, tool: Tool) -> Unsuited | None:
    """Why the hole that the tool makes is of another size than is asked for here, as a sentence
    with ``{names}`` of lengths (mm); None where it is not.
    """
    drawn, has = drawn_hole(op, facts), tool.diameter_mm
    if drawn is None:
        return None
    low, high, asks = asked_size(op, facts) or (drawn - DRILLS_MM, drawn, "")
    narrow = has < low - 1e-6 and not is_widened(op, facts)
    if asks and (narrow or has > high + 1e-6):
        told = {"has": has, "low": low, "high": high}
        return "Ø {has}: the drawing wants the hole Ø {low} to Ø {high}.", told
    if has > high + 1e-6:
        return "Ø {has} is larger than the hole, Ø {drawn}.", {"has": has, "drawn": drawn}
    if narrow:
        return (
            "Ø {has} is smaller than the hole, Ø {drawn}, and nothing makes it wider after.",
            {"has": has, "drawn": drawn},
        )
    return None


def is_widened(op: OperationFacts, facts: PlanFacts) -> bool:
    """Does anything that comes later make its holes wider?"""
    every = facts.operations()
    later = every[[each.id for each in every].index(op.id) + 1 :]
    return any(each.operation.kind in WIDENS and _same_holes(op, each) for each in later)


def _same_holes(op: OperationFacts, other: OperationFacts) -> bool:
    """Do both work in one hole: drawn ones by their names, typed ones by where they are."""
    mine, its = op.operation.on, other.operation.on
    if isinstance(mine, OnFeatures) and isinstance(its, OnFeatures):
        return bool(set(mine.ids) & set(its.ids))
    if op.station is not other.station or op.work is None or other.work is None:
        return False
    axes = {(round(x, 2), round(y, 2)) for x, y, *_ in op.work.holes}
    inside = isinstance(its, Profile) and its.side == "inside" and (0.0, 0.0) in axes
    return inside or any((round(x, 2), round(y, 2)) in axes for x, y, *_ in other.work.holes)
