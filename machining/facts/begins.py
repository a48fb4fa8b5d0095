"""What a cycle begins with before its first operation: bars fed, zeros found by a probe."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from machining.quantities.computed import Computed

from .bars import bar_feed, fed
from .context import PlanFacts, SetupFacts
from .probing import probing

First = tuple[Literal["bar", "probe"], Computed, int]


def begins_with(setup: SetupFacts, facts: PlanFacts) -> Iterator[First]:
    """Of each the figure of one part, and at how many positions."""
    for each in setup.stations:
        if fed(each, facts) is not None:
            yield "bar", bar_feed(each), each.planned.positions
        if setup.operations and (found := probing(each)) is not None:
            yield "probe", found, each.planned.positions
