"""Setups count 1, 2, 3; operations 10, 20, 30 within their setup. Both are positions,
never stored.
"""

from __future__ import annotations

from .document import Plan


def setup_numbers(plan: Plan) -> dict[str, int]:
    return {setup.id: place for place, setup in enumerate(plan.setups, 1)}


def operation_numbers(plan: Plan) -> dict[str, int]:
    return {
        op.id: 10 * place for setup in plan.setups for place, op in enumerate(setup.operations, 1)
    }
