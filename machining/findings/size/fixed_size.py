"""size.fixed-size: a drill or a reamer makes a hole of its own size, and that is not the one asked
for.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.plan.edit import Change
from machining.plan.operation import Drill, Ream
from machining.plan.places import OnFeatures, TypedHoles
from machining.plan.proposal import Proposal
from machining.plan.turned import Profile
from machining.quantities.said import Shown
from machining.world.feature import Hole
from machining.world.part import Requirement
from machining.world.tool import DRILLS, Tool

from ..finding import Finding, Severity, of_operation
from ..sizes import is_near
from ..tools import other_tools

WIDENS = frozenset(
    {"drill", "ream", "bore", "mill_hole", "tap", "mill_thread", "turn_rough", "turn_finish"}
)
DRILLS_MM, REAMS_MM = 0.1, 0.02  # what a hole of neither may be off the size it is drawn or typed


def fixed_size(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, has = op.operation, op.tool.diameter_mm
    if not isinstance(kind, Drill | Ream):
        return
    low, high, of = _asked(op, facts)
    if low <= has <= high or (has < low and _is_widened(op, facts)):
        return
    wide: Severity = "stop" if of or has > high else "look"
    words = "{tool} makes the hole {has}; {what} asks for {low} to {high}."
    if not of:
        words = "{tool} makes the hole {has}; it is to be {wanted}."
    yield of_operation(
        op,
        "size.fixed-size",
        wide,
        words,
        {
            "tool": Shown(f"T{op.loaded.number}"),
            "has": Shown(has, "size"),
            "what": Shown(of),
            "low": Shown(low, "size"),
            "high": Shown(high, "size"),
            "wanted": Shown((low + high) / 2.0, "size"),
        },
        "",
        (*_other(op, facts, low, high), *_as_it_is(op, has)),
    )


def _asked(op: Ready, facts: PlanFacts) -> tuple[float, float, str]:
    """The least and the largest diameter (mm) of its holes, and the requirement that says so; of
    holes nobody limits what they are drawn or typed as, a little either way.
    """
    kind = op.operation
    usual = REAMS_MM if isinstance(kind, Ream) else DRILLS_MM
    if isinstance(kind.on, TypedHoles):
        return kind.on.diameter_mm - usual, kind.on.diameter_mm + usual, ""
    holes = [
        hole
        for hole in map(
            facts.geometry.feature, kind.on.ids if isinstance(kind.on, OnFeatures) else ()
        )
        if isinstance(hole, Hole)
    ]
    limits = [
        (each.nominal_mm + each.lower_mm, each.nominal_mm + each.upper_mm, each.what)
        for each in facts.plan.part.requirements
        for hole in holes
        if each.nominal_mm is not None and _is_of(each, hole)
    ]
    if limits:
        return max(each[0] for each in limits), min(each[1] for each in limits), limits[0][2]
    if isinstance(kind, Ream) and holes:  # what is drilled is looked at as a solid
        sizes = [hole.diameter_mm for hole in holes]
        return min(sizes) - usual, max(sizes) + usual, ""
    return 0.0, 1e6, ""


def _is_of(asked: Requirement, hole: Hole) -> bool:
    """Does it limit the hole's diameter?"""
    limits = asked.band_mm > 0 and not asked.thread
    return limits and asked.feature == hole.id and is_near(asked, hole.diameter_mm)


def _is_widened(op: Ready, facts: PlanFacts) -> bool:
    """Does anything that comes later make its holes wider?"""
    every = facts.operations()
    later = every[[each.id for each in every].index(op.id) + 1 :]
    return any(each.operation.kind in WIDENS and _same_holes(op, each) for each in later)


def _same_holes(op: Ready, other: OperationFacts) -> bool:
    """Do both work in one hole: drawn ones by their names, typed ones by where they are."""
    mine, its = op.operation.on, other.operation.on
    if isinstance(mine, OnFeatures) and isinstance(its, OnFeatures):
        return bool(set(mine.ids) & set(its.ids))
    if op.station is not other.station or other.work is None:
        return False
    axes = {(round(x, 2), round(y, 2)) for x, y, *_ in op.work.holes}
    inside = isinstance(its, Profile) and its.side == "inside" and (0.0, 0.0) in axes
    return inside or any((round(x, 2), round(y, 2)) in axes for x, y, *_ in other.work.holes)


def _other(op: Ready, facts: PlanFacts, low: float, high: float) -> list[Proposal]:
    def suits(tool: Tool) -> bool:
        return low <= tool.diameter_mm <= high

    kinds = DRILLS if isinstance(op.operation, Drill) else frozenset({"reamer"})
    return other_tools(op, facts, suits, None, kinds)


def _as_it_is(op: Ready, has: float) -> Iterator[Proposal]:
    """Typed holes take the size their tool makes."""
    if isinstance(op.operation.on, TypedHoles):
        yield Proposal(
            "The hole is {has}",
            (Change(on=op.on, fields={"on.diameter_mm": has}),),
            {"has": Shown(has, "size")},
        )
