"""Another way of cutting an operation, as a proposal with what speaks for it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from machining.cutting import speeds
from machining.cutting.search import Cut
from machining.facts.context import PlanFacts
from machining.plan.proposal import Proposal
from machining.quantities.said import Said


@dataclass(frozen=True, slots=True)
class Question:
    """What is compared, in words, and how it is shown: cuts with their loads, schools in columns,
    ways to a size, or ways to a hole.
    """

    words: str
    shown: Literal["cuts", "schools", "sizes", "holes"]


@dataclass(frozen=True, slots=True)
class Choice(Proposal):
    """``edits`` are empty where nothing of this kind fits; ``because`` says why.

    ``cut`` is what the search of a roughing cut found, ``holding`` its factor, ``life_min`` minutes
    in cut; ``limits`` name what holds a way back, ``pockets`` are those of the magazine it needs
    and the plan has not filled. ``last`` is the operation it adds whose size and finish count,
    empty where it adds none. What is ``finer`` is for size and finish alone: it takes longer.
    """

    tool: str = ""
    because: Said = field(default_factory=Said)
    cut: Cut | None = None
    holding: float | None = None
    life_min: float | None = None
    limits: tuple[str, ...] = ()
    pockets: int | None = None
    last: str = ""
    finer: bool = False


def shop_feed(value: float, facts: PlanFacts) -> float:
    """A feed (mm/min) in the shop's steps; what they leave as it is, in tenths."""
    step = float(facts.feed_step)
    stepped = speeds.feed_in_steps(value, step)
    return down(stepped, 0.1) if stepped < 10.0 * step else round(stepped, 6)


def down(value: float, step: float) -> float:
    """The next lower multiple of a step, the value itself where it is under one."""
    return round(int(value / step + 1e-9) * step, 6) or value
