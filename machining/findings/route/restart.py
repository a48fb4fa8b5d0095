"""route.restart: a long cut with no place to start again from."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.quantities.said import Shown

from ..finding import Finding, keep, of_operation

ID = "route.restart"


def restart(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Every operation begins with its tool called and everything said anew: a safe place. In one
    that takes long there is none until its end.
    """
    longest = 60.0 * facts.library.settings.restart_min
    if op.time.total_s <= longest:
        return
    yield of_operation(
        op,
        ID,
        "look",
        "It runs {takes} with no place to start again from, should an edge break or the power fail;"
        " {longest} is what the shop lets go by.",
        {"takes": Shown(op.time.total_s, "time"), "longest": Shown(longest, "time")},
        "",
        (keep(op, ID, "somebody stays at the machine"),),
    )
