"""Which jobs' plans use which items of the library."""

from __future__ import annotations

from collections import defaultdict

from shop.library.uses import Used

from .models import PlanUse


def used_by_plans() -> Used:
    found: dict[tuple[str, str], set[str]] = defaultdict(set)
    for kind, key, number in PlanUse.objects.values_list("kind", "key", "plan__job__number"):
        found[(kind, key)].add(number)
    return {place: sorted(numbers) for place, numbers in found.items()}
