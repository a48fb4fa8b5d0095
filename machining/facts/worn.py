"""Edges that wear out while a batch runs."""

from __future__ import annotations

from dataclasses import dataclass

from .context import PlanFacts, Ready, SetupFacts
from .found import in_cut_s


@dataclass(frozen=True, slots=True)
class Worn:
    """How many edges the whole batch wears out in a setup, one that is worn in part in part: it was
    in use before and is after; and how many of its tools nobody has said a life of.
    """

    edges: float = 0.0
    unknown: int = 0


def worn(setup: SetupFacts, facts: PlanFacts) -> Worn:
    """As the cut as found wears them."""
    used, lacks = 0.0, set[str]()
    for op in setup.operations:
        if isinstance(op, Ready) and op.time.cutting_s > 0.0:
            share = edges_of_a_part(op)
            if share is None:
                lacks.add(op.loaded.id)
            else:
                used += share
    return Worn(used * facts.plan.quantity, len(lacks))


def edges_of_a_part(op: Ready, life_min: float | None = None) -> float | None:
    """What share of an edge one part wears: the time it is in metal over its life, or over
    ``life_min`` where its own is not known; None where neither is. What is fed past the work wears
    nothing.
    """
    life = op.value("edge_life") or life_min
    if life is None:
        return None
    seconds = in_cut_s(op)
    if seconds is None:
        seconds = op.time.cutting_s - op.time.link_s
    return seconds / 60.0 / life
