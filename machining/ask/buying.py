"""Tools that a change asks for and the shop has not, and from how many parts on they pay."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterable, Sequence
from typing import Any

from machining.facts.lacking import Lacking

MOST = 10_000_000  # parts, up to which it is looked for


def plain(found: Iterable[Lacking]) -> list[dict[str, Any]]:
    """Name, how many more, how many of those are ``missing`` before any is worn, what all of them
    cost (None where nobody has said) and the days they take.
    """
    return [
        {
            "tool": each.name,
            "more": each.more,
            "missing": each.missing,
            "cost": each.cost,
            "days": each.tool.order_days,
        }
        for each in found
    ]


def bought(after: Iterable[Lacking], before: Iterable[Lacking]) -> list[Lacking]:
    """What a plan lacks more of than before."""
    had = {(each.tool.key, each.inserts): each.more for each in before}
    return [each for each in after if each.more > had.get((each.tool.key, each.inserts), 0)]


def pays_from(tools: Sequence[Lacking], less: Callable[[int], float], quantity: int) -> int | None:
    """From how many parts on what is saved is more than what missing tools cost, where it is this
    job alone that pays for them; None where it never is, nobody has said what they cost, or none is
    missing. ``less`` is what so many parts cost less: so much for each, less what it takes once;
    edges that they wear are in it, so of a tool only what is not worn yet is still to be paid.
    """
    tools = [each for each in tools if each.missing]
    if not tools or any(each.tool.cost is None for each in tools):
        return None
    each = (less(2 * quantity) - less(quantity)) / quantity
    once = each * quantity - less(quantity)

    def pays(many: int) -> bool:
        left = (max(one.missing - one.worn / quantity * many, 0.0) for one in tools)
        unpaid = sum((one.tool.cost or 0.0) * rest for one, rest in zip(tools, left, strict=True))
        return each * many - once > unpaid

    if each <= 0.0 or not pays(MOST):
        return None
    return 1 + bisect_left(range(1, MOST), True, key=pays)
