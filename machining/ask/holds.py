"""How the part of a station is held."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from machining.evaluation import plain_said
from machining.facts.hold_seen import hold_seen
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.document import Plan
from machining.quantities.errors import Missing
from machining.world.library import Library


def hold(
    plan: Plan, library: Library, memo: Memo, station: str, operation: str = ""
) -> dict[str, Any] | None:
    """With what each of its operations asks, and all round of one; None while nobody knows how it
    is held. Raises Missing.
    """
    facts = walk(plan, library, memo)
    seen = next((each for each in facts.stations if each.id == station), None)
    if seen is None:
        raise Missing("Station", station)
    found = hold_seen(seen, facts, operation)
    if found is None:
        return None
    said = {"free": [plain_said(each) for each in found.free], "moves": plain_said(found.moves)}
    return {**asdict(found), **said}
