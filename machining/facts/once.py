"""What is asked again and again of a plan, found once."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from typing import TypeVar

from .context import PlanFacts

T = TypeVar("T")


def once(facts: PlanFacts, key: Hashable, make: Callable[[], T], of: object = None) -> T:
    """What is made for a key of these facts, ``of`` the very object that was asked about then: a
    station as it might be has the id of the one that is. While the facts are still gathered it is
    made anew each time: more may come to them.
    """
    if not facts.every:
        return make()
    known = facts.shown.get(key)
    if known is None or known[0] is not of:
        known = facts.shown[key] = of, make()
    return known[1]  # type: ignore[no-any-return]
