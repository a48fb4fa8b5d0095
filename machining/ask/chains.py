"""What adds up over the distances of the drawing."""

from __future__ import annotations

from typing import Any

from machining.evaluation import plain_said
from machining.facts.route import walk
from machining.facts.stack_up import chains
from machining.memo import Memo
from machining.plan.document import Plan
from machining.world.library import Library


def stack_ups(plan: Plan, library: Library, memo: Memo) -> list[dict[str, Any]]:
    """Requirement by requirement, the largest link of each first."""
    return [
        {
            "asked": each.asked.id,
            "what": each.asked.what,
            "ends": [plain_said(end) for end in each.ends or ()],
            "links": [
                {**plain_said(link.said), "mm": link.mm, "source": link.source}
                for link in each.links
            ],
            "worst_mm": each.worst_mm,
            "mostly_mm": each.mostly_mm,
            "allowed_mm": each.allowed_mm,
            "unknown": plain_said(each.unknown) if each.unknown is not None else None,
        }
        for each in chains(walk(plan, library, memo))
    ]
