"""Steps of an offered cut that spindle and holding stand: an offer brings no stop of its own."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from math import floor

from machining.facts import requirement
from machining.facts.context import PlanFacts, Ready, StationFacts
from machining.facts.operations import drafted
from machining.plan.document import LoadedTool
from machining.plan.edit import AddOperation, LoadTool
from machining.plan.operation import Drill, Face, Operation, RoughOutside, RoughPocket
from machining.removal.found import NEAR

from .bench import Offer

ROUNDS = 8
ROOM = 0.98  # of what is left, since figures are rounded down after it
NARROWEST = 0.04  # of the diameter: from there on less deep
LEAST_STEP_MM = 0.1
PASSES_MEET = 1.0 + 1.5 * NEAR  # of the section they are made for, where they are widest


def gentle(offer: Offer, station: StationFacts, facts: PlanFacts) -> Offer:
    """The same offer with steps, or a drill's feed, that spindle and holding stand with the blank
    at its largest; as it was where nothing is asked too much, or nothing helps.
    """
    added = offer.edits[-1]
    if not isinstance(added, AddOperation):
        return offer
    loaded = _tool_of(offer, added.operation, facts)
    if loaded is None or not isinstance(added.operation, Face | RoughOutside | RoughPocket | Drill):
        return offer
    milder: Operation = added.operation
    for _ in range(ROUNDS):
        known = drafted(milder, loaded, station, facts)
        if known is None or (share := min(_shares(known, facts), default=1.0)) >= 1.0:
            break
        changed = _less(known, ROOM * share, facts)
        if not changed:
            break
        milder = milder.model_copy(update=changed)
    return replace(offer, edits=(*offer.edits[:-1], added.model_copy(update={"operation": milder})))


def _tool_of(offer: Offer, operation: Operation, facts: PlanFacts) -> LoadedTool | None:
    loads = (edit.tool for edit in offer.edits if isinstance(edit, LoadTool))
    return next((t for t in (*loads, *facts.plan.tools) if t.id == operation.tool), None)


def _shares(op: Ready, facts: PlanFacts) -> Iterator[float]:
    """What is there of what is asked, over 1 where there is enough."""
    settings = facts.library.settings
    more = PASSES_MEET if getattr(op.operation, "clears", "") == "open" else 1.0
    for name in ("power", "torque"):
        limit = op.value(f"{name}_limit")
        for prefix in ("", "worst_"):
            asked = op.value(f"{prefix}{name}")
            if asked and limit is not None:
                yield settings.power_share * limit / (asked * more)
    holding = op.value("holding")
    if holding is not None:
        yield holding / (requirement.asked(op, facts) * more)


def _less(op: Ready, share: float, facts: PlanFacts) -> dict[str, object]:
    """What to change so that it asks no more than a share of what it asks now."""
    kind = op.operation
    if isinstance(kind, Drill):
        return _slower(op, share, facts)
    assert isinstance(kind, Face | RoughOutside | RoughPocket)
    over = op.seen.blank_over_mm
    if over > getattr(kind, "over_mm", over):
        return {"over_mm": over}  # its passes begin where the largest blank does
    if not isinstance(kind, Face):
        narrower = floor(100.0 * kind.step_over_mm * share) / 100.0
        if narrower >= NARROWEST * op.tool.diameter_mm:
            return {"step_over_mm": narrower}
    lower = floor(10.0 * kind.step_down_mm * share) / 10.0
    return {"step_down_mm": lower} if lower >= LEAST_STEP_MM else {}


def _slower(op: Ready, share: float, facts: PlanFacts) -> dict[str, object]:
    """Thinner chips cut harder: what a drill asks goes with feed^(1 − mc)."""
    feed, step = op.value("feed"), facts.feed_step.value
    if feed is None or facts.material is None:
        return {}
    slower = floor(feed * share ** (1.0 / (1.0 - facts.material.mc)) / step) * step
    return {"feed_mm_min": slower} if slower > 0 else {}
