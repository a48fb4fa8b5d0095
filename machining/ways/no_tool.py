"""What is wrong with the tools of the shop for a hole or a pocket that none of them cuts."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil

from machining.facts.context import PlanFacts
from machining.plan.edit import AddOperation
from machining.quantities.said import Said, Shown, length
from machining.world.feature import Feature, Hole, Pocket
from machining.world.library import Library
from machining.world.tool import Tool

from .offers.bench import Offer, square
from .offers.holes import NEXT_SMALLER_DRILL, SAME_MM, drills, goes_before, goes_round, widens

NEAREST = 2  # drills that are named where none is of the size
NO_DRILL = {
    0: "The shop has no drill.",
    1: "The shop has no drill of Ø {size}: the nearest is Ø {one}.",
    2: "The shop has no drill of Ø {size}: the nearest are Ø {one} and Ø {other}.",
}
NO_MILL = "No mill is small enough to go in."
SHORT = "Mills that go in cut {reach} deep; it is {deep}."
NO_DRILL_BEFORE = (
    "{tool} takes it to its size, but the shop has no drill of Ø {least} to Ø {size} that goes"
    " before it."
)
SHORT_DRILL = "With {tool} it can be drilled {reach} deep; it is {deep}."
WIDE = "The smallest mill of the shop has Ø {smallest}; Ø {limit} would go in."
WIDE_IN_CORNERS = (
    "The smallest mill of the shop has Ø {smallest}; its corners ask for Ø {limit} at most."
)


def no_tool(feature: Feature, library: Library) -> Said | None:
    """Which tool is missing for it, as a sentence; None where there is one that is as small and as
    long as it asks for, or that takes a hole to its size, and of what is neither hole nor pocket.
    """
    if isinstance(feature, Hole) and feature.around:
        return _mills(feature.diameter_mm, feature.length_mm, WIDE, library)
    if isinstance(feature, Hole):
        return _hole(feature, library)
    if isinstance(feature, Pocket) and not feature.floor_radius_mm and not feature.draft_deg:
        return _pocket(feature, library)
    return None


def for_offer(offer: Offer, facts: PlanFacts) -> Said | None:
    """The same of what an offer without a tool is for, the first there is a sentence of."""
    if offer.tool:
        return None
    added = (each.operation for each in offer.edits if isinstance(each, AddOperation))
    names = (name for operation in added for name in getattr(operation.on, "ids", ()))
    features = (facts.geometry.feature(name) for name in names)
    told = (no_tool(each, facts.library) for each in features if each is not None)
    return next((said for said in told if said is not None), None)


def _hole(hole: Hole, library: Library) -> Said | None:
    size, deep = hole.diameter_mm, hole.length_mm
    exact = _of(library, lambda tool: drills(tool, size))
    mills = _of(library, lambda tool: goes_round(tool, size))
    reach = max((each.usable_length_mm for each in mills), default=0.0)
    before = _of(library, lambda tool: goes_before(tool, size))
    wider = _of(library, lambda tool: widens(tool, size))
    drilled = exact or (before if wider else [])
    if reach >= deep or any(each.usable_length_mm >= deep for each in drilled):
        return None
    told = {"reach": length(reach), "deep": length(deep), "size": _across(size)}
    if drilled:
        longest = max(drilled, key=lambda each: each.usable_length_mm)
        told |= {"tool": Shown(longest.name), "reach": length(longest.usable_length_mm)}
        return Said(SHORT_DRILL, told)
    if wider:
        least = _across(ceil(10.0 * NEXT_SMALLER_DRILL * size - SAME_MM) / 10.0)
        return Said(NO_DRILL_BEFORE, told | {"tool": Shown(wider[0].name), "least": least})
    sizes = {each.diameter_mm for each in _of(library, lambda tool: tool.kind == "drill")}
    near = sorted(sorted(sizes, key=lambda each: abs(each - size))[:NEAREST])
    told |= dict(zip(("one", "other"), map(_across, near), strict=False))
    return Said(f"{NO_DRILL[len(near)]} {SHORT if mills else NO_MILL}", told)


def _pocket(pocket: Pocket, library: Library) -> Said | None:
    sides = sorted(max(each) - min(each) for each in zip(*pocket.loops[0], strict=True))
    corners = 2.0 * pocket.corner_radius_mm
    words = WIDE_IN_CORNERS if corners else WIDE
    return _mills(corners or sides[-2], pocket.depth_mm, words, library)


def _mills(limit: float, deep: float, wide: str, library: Library) -> Said | None:
    """What is wrong with all mills for a recess that one of at most so much (mm) cuts."""
    known = _of(library, square)
    mills = [each for each in known if each.diameter_mm <= limit + SAME_MM]
    if not known:
        return Said(NO_MILL)
    if not mills:
        smallest = min(each.diameter_mm for each in known)
        return Said(wide, {"limit": _across(limit), "smallest": _across(smallest)})
    reach = max(each.usable_length_mm for each in mills)
    return Said(SHORT, {"reach": length(reach), "deep": length(deep)}) if reach < deep else None


def _across(diameter: float) -> Shown:
    """A diameter with as many places as it has."""
    return Shown(diameter, "length" if abs(diameter - round(diameter, 1)) < 5e-4 else "size")


def _of(library: Library, has: Callable[[Tool], bool]) -> list[Tool]:
    """Those in an assembly: the others can't be loaded."""
    there = {each.tool for each in library.assemblies.values()}
    return [each for each in library.tools.values() if each.key in there and has(each)]
