"""Where the parts of a load stand, and the offsets they keep their zeros in."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from machining.exchange.offset_block import to_g10
from machining.exchange.offset_table import table, to_csv
from machining.facts.loaded import load_seen
from machining.facts.offsets import offsets_of
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.document import Plan
from machining.quantities.errors import Missing
from machining.world.library import Library


def load(plan: Plan, library: Library, memo: Memo, setup: str) -> dict[str, Any] | None:
    """How a setup's parts stand on the table; None where they stand on none. Raises Missing."""
    facts = walk(plan, library, memo)
    seen = next((each for each in facts.setups if each.planned.id == setup), None)
    if seen is None:
        raise Missing("Setup", setup)
    found = load_seen(seen, facts, memo)
    return None if found is None else asdict(found)


def offsets(plan: Plan, library: Library, memo: Memo, setup: str, write: str = "csv") -> bytes:
    """The offset table of a setup as CSV, or as the block its control takes, in ``metric`` or
    ``inch``. Raises Missing, NotWritten.
    """
    facts = walk(plan, library, memo)
    lines = table(each for each in offsets_of(facts) if each.setup.planned.id == setup)
    if not lines:
        raise Missing("Setup", setup)
    if write == "csv":
        return to_csv(lines).encode()
    return to_g10(lines, "inch" if write == "inch" else "metric").encode()
