"""How the part of a station is held, and where it is thin."""

from __future__ import annotations

from collections import Counter
from dataclasses import asdict
from typing import Any

from machining.evaluation import plain_said
from machining.facts.context import Ready
from machining.facts.flip import corner_words, flip_of
from machining.facts.hold_seen import WhatIf, hold_seen
from machining.facts.lasts import lasts
from machining.facts.route import walk
from machining.facts.thin_seen import thin_seen
from machining.facts.wrong_way import Wrong, every_way
from machining.memo import Memo
from machining.plan.document import Plan
from machining.quantities.checks import within
from machining.world.library import Library

from .asked import operation_of, station_of


def what_lasts(plan: Plan, library: Library, memo: Memo, station: str) -> dict[str, Any] | None:
    """How likely a batch runs without a slip in the cut that is stood least; None while nobody
    knows. Raises Missing.
    """
    facts = walk(plan, library, memo)
    seen = station_of(facts, station)
    found = lasts(seen, facts)
    return asdict(found) if found is not None else None


def thin(plan: Plan, library: Library, memo: Memo, operation: str) -> list[dict[str, Any]]:
    """Where the stock is thin once an operation is done, those it cuts on first; none where nothing
    is known of it. Raises Missing.
    """
    facts = walk(plan, library, memo)
    op = operation_of(facts, operation)
    return [asdict(each) for each in thin_seen(op, facts)] if isinstance(op, Ready) else []


def wrong_way(plan: Plan, library: Library, memo: Memo, station: str) -> dict[str, Any] | None:
    """The other ways a station's part could be put in: each that goes in and makes a difference,
    how many make none, and how many do not go in, by why; None where nobody knows. Raises Missing.
    """
    facts = walk(plan, library, memo)
    seen = station_of(facts, station)
    found = every_way(seen, facts)
    if found is None:
        return None
    flip = flip_of(seen, facts)
    return {
        "ways": [_way(each) for each in found if not each.why_not and not each.same],
        "same": sum(each.same for each in found),
        "not_in": dict(Counter(each.why_not for each in found if each.why_not)),
        "marked": corner_words(flip.lies) if flip is not None else "",
    }


def _way(way: Wrong) -> dict[str, Any]:
    pin = asdict(way.pin) if way.pin is not None else None
    return {
        "words": way.words,
        "pushed": way.pushed,
        "spoils_mm3": way.spoils_mm3,
        "at": way.at,
        "pin": pin,
    }


def hold(
    plan: Plan,
    library: Library,
    memo: Memo,
    station: str,
    operation: str = "",
    force: float = 1.0,
    friction: float = 1.0,
) -> dict[str, Any] | None:
    """With what each of its operations asks, and all round of one; None while nobody knows how it
    is held. ``force`` and ``friction`` are shares of the planned ones to try. Raises Missing, and
    OutOfRange for shares from a tenth to three times.
    """
    tried = WhatIf(within("force", force, 0.1, 3.0), within("friction", friction, 0.1, 3.0))
    facts = walk(plan, library, memo)
    seen = station_of(facts, station)
    found = hold_seen(seen, facts, operation, tried)
    if found is None:
        return None
    said = {"free": [plain_said(each) for each in found.free], "moves": plain_said(found.moves)}
    return {**asdict(found), **said}
