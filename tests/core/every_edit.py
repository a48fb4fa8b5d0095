"""Every numeric field of a plan's setups and operations, and another value for it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from machining.plan.document import Plan

A_LITTLE = 1.01


def edits_of(plan: Plan) -> Iterator[tuple[str, str, float]]:
    """What can be edited of setups and operations as a number: what on, which field, its value."""
    for setup in plan.setups:
        for station in setup.stations:
            for field, value in _numbers(station.model_dump()):
                yield f"station:{station.id}", field, value
        for operation in setup.operations:
            for field, value in _numbers(operation.model_dump()):
                yield f"operation:{operation.id}", field, value


def _numbers(raw: dict[str, Any], path: str = "") -> Iterator[tuple[str, float]]:
    for name, value in raw.items():
        if isinstance(value, dict):
            yield from _numbers(value, f"{path}{name}.")
        elif isinstance(value, int | float) and not isinstance(value, bool):
            yield path + name, value


def another(value: float) -> float:
    """A little more; a count one more."""
    return value + 1 if isinstance(value, int) else value * A_LITTLE or 0.01
