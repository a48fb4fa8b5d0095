"""What the zero of a station could be taken from."""

from __future__ import annotations

from typing import Any

from machining.evaluation import plain_said
from machining.facts.route import walk
from machining.facts.zero import axes
from machining.memo import Memo
from machining.plan.document import Plan
from machining.world.library import Library

from .asked import station_of


def zero(plan: Plan, library: Library, memo: Memo, station: str) -> list[dict[str, Any]]:
    """Axis by axis, with how it is picked up. Raises Missing."""
    facts = walk(plan, library, memo)
    seen = station_of(facts, station)
    return [
        {
            "axis": each.axis,
            "picked": each.picked,
            "within_mm": each.within_mm,
            "ways": [{"by": by, "words": words} for by, words in each.ways],
            "choices": [
                {
                    "of": choice.of,
                    "at": choice.at,
                    "feature": choice.feature,
                    **plain_said(choice.said),
                }
                for choice in each.choices
            ],
        }
        for each in axes(seen, facts)
    ]
