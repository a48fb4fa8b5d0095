"""Sizes that are measured while a batch runs: which setup leaves them, and on how many parts."""

from __future__ import annotations

import re
from dataclasses import dataclass

from machining.motion.by_hand import gauged
from machining.world.part import Requirement

from .context import PlanFacts
from .size import drawn_as

_ONE_IN = re.compile(r"(?:1|one) in (\d+)|every (\d+)(?!\d)(?!\s*(?:h|min|shift|day))")
_EACH = re.compile(r"^(every|each)( part| piece| one)?$|^all( parts| pieces)?$|^100 ?%")


@dataclass(frozen=True, slots=True)
class Gauged:
    """Of one setup: sizes of its first part, and how many more are measured in the batch."""

    sizes: int = 0
    later: int = 0


def gauging(facts: PlanFacts) -> dict[str, Gauged]:
    """By setup. A size is measured after the last operation that cuts its feature."""
    quantity, usual = facts.plan.quantity, facts.library.settings.gauge_every
    found = {each.id: Gauged() for each in facts.setups}
    for asked in facts.plan.part.requirements:
        setup = _left_by(asked, facts)
        if setup and (asked.band_mm > 0 or asked.thread):
            every = one_in(asked.how_often) or usual
            was = found[setup]
            found[setup] = Gauged(was.sizes + 1, was.later + gauged(quantity, every))
    return found


def _left_by(asked: Requirement, facts: PlanFacts) -> str:
    """Its setup, empty where nothing that is planned cuts the feature."""
    last = ""
    for setup in facts.setups:
        if any(asked.feature in drawn_as(op.operation.on, facts) for op in setup.operations):
            last = setup.id
    return last


def one_in(words: str) -> int | None:
    """What a drawing's words say of how many parts one is measured; None where they do not."""
    said = words.strip().lower()
    number = _ONE_IN.search(said)
    if number:
        return max(int(number[1] or number[2]), 1)
    return 1 if _EACH.search(said) else None
