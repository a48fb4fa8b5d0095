"""Walks a plan from blank to finished part."""

from __future__ import annotations

from functools import partial

from machining.geometry.solids import Solid, posed
from machining.memo import Memo, digest
from machining.plan.document import Plan
from machining.plan.numbering import operation_numbers
from machining.world.geometry import PartGeometry, of_block
from machining.world.library import Library

from .context import PlanFacts, SetupFacts
from .operations import operation_facts
from .setups import setup_facts
from .stock import blank_bounds, blank_solid


def geometry_of(plan: Plan, library: Library, memo: Memo) -> PartGeometry:
    """The part's solid: read from a file, or its block. Raises Missing for a file that
    isn't there.
    """
    if plan.part.geometry:
        return library.get("geometries", plan.part.geometry)  # type: ignore[return-value]
    return memo.get(("block", plan.part.size_mm, plan.part.typed), lambda: of_block(plan.part))


def walk(plan: Plan, library: Library, memo: Memo) -> PlanFacts:
    """All facts of a plan. Raises Missing or OutOfRange where there is no part or no
    blank at all.
    """
    geometry = geometry_of(plan, library, memo)
    facts = PlanFacts(plan, library, geometry, library.materials.get(plan.material))
    requirements = [each.model_dump_json() for each in plan.part.requirements]
    facts.key = digest(
        library.key, geometry.key, plan.material, plan.stock.saw_tolerance_mm, requirements
    )
    key = digest("blank", geometry.key, plan.stock.model_dump_json())
    stock = memo.get(("stock", key), lambda: blank_solid(geometry, plan.stock))
    blank = blank_bounds(geometry, plan.stock)
    numbers = operation_numbers(plan)
    for place, setup in enumerate(plan.setups, 1):
        seen = setup_facts(setup, place, facts, key, stock, blank, memo)
        facts.setups.append(seen)
        for operation in setup.operations:
            operation_facts(operation, numbers[operation.id], seen, facts, memo)
        if seen.operations:
            key = seen.stock_end_key
            stock = memo.get(("stock", key), partial(_back, seen))
    return facts


def _back(seen: SetupFacts) -> Solid:
    """The stock a setup leaves, in part coordinates."""
    return posed(seen.operations[-1].stock_after, seen.lie.pose.inverse())
