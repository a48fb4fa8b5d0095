"""Walks a plan from blank to finished part."""

from __future__ import annotations

from machining.memo import Memo, digest
from machining.plan.document import Plan
from machining.plan.numbering import operation_numbers
from machining.world.geometry import PartGeometry, of_block
from machining.world.library import Library

from .blank import blank_of
from .context import PlanFacts
from .operations import operation_facts
from .setups import setup_facts


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
    blank = blank_of(plan, geometry, library, memo)
    facts = PlanFacts(plan, library, geometry, blank, library.materials.get(plan.material))
    requirements = [each.model_dump_json() for each in plan.part.requirements]
    facts.key = digest(library.key, geometry.key, plan.material, requirements)
    stock, numbers = blank.state, operation_numbers(plan)
    for place, setup in enumerate(plan.setups, 1):
        seen = setup_facts(setup, place, facts, stock, memo)
        facts.setups.append(seen)
        for operation in setup.operations:
            operation_facts(operation, numbers[operation.id], seen, facts, memo)
        if seen.operations and place < len(plan.setups):
            stock = seen.leaves.in_part()
    return facts
