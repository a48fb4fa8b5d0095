"""What would cut what still stands after the last setup."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, plain_fix, plain_said
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.kinds import kind_of
from machining.facts.left import Left, left_over, sides_over, together
from machining.facts.route import walk
from machining.memo import Memo, digest
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import AddOperation
from machining.plan.operation import Chamfer, Countersink, Operation, RoundEdge, Slope
from machining.plan.places import Lines, OnFeatures, Outside, Top
from machining.plan.proposal import Proposal
from machining.ways.first_setup import turned_over
from machining.ways.offers.there import offers_there
from machining.world.feature import Edge, Slanted
from machining.world.library import Library

MOST_TRIED, MOST_OFFERED = 6, 3  # of one place
LESS = 0.5  # of what stands there, that an offer has to cut


def finishing(plan: Plan, library: Library, memo: Memo) -> list[dict[str, Any]]:
    """For each place where something still stands, in the order of the evaluation: what was tried
    of the shop's tools and cuts most of it, as edits, with what it does to the time of one part
    (s); the quickest first.
    """
    facts, before = walk(plan, library, memo), evaluate(plan, library, memo)
    rows = together(left_over(facts, memo), facts.geometry)
    return [
        {
            "where": plain_said(row.where),
            "offers": _kept(row, facts, plan, library, memo, before),
        }
        for row in rows
    ]


def _kept(
    row: Left, facts: PlanFacts, plan: Plan, library: Library, memo: Memo, before: Evaluation
) -> list[dict[str, Any]]:
    kept = []
    for tried, offer in enumerate(_fitting(row, facts)):
        if tried == MOST_TRIED:
            break
        after = _after(offer, plan, library, memo, before)
        if after is not None and before.left_mm3 - after.left_mm3 >= LESS * row.volume:
            seconds = after.one_part_s - before.one_part_s
            kept.append((seconds, tried, {**plain_fix(offer), "one_part_s": seconds}))
    if not kept:
        return _turned(row, facts, library, memo, before)
    return [told for _, _, told in sorted(kept)[:MOST_OFFERED]]


def _turned(
    row: Left, facts: PlanFacts, library: Library, memo: Memo, before: Evaluation
) -> list[dict[str, Any]]:
    """A setup with the part turned over, where something can be cut from there: by itself it only
    takes the time of loading.
    """
    if not facts.plan.setups:
        return []
    name = digest("turned", facts.key, row.where.text)[:8]
    over = turned_over(facts, facts.plan.setups[-1], (f"s{name}", f"st{name}"), "x")
    offer = Proposal("Turn the part over in a new setup, and cut it from there", (over,))
    after = _after(offer, facts.plan, library, memo, before)
    if after is None:
        return []
    then = walk(apply(facts.plan, offer.edits), library, memo)
    added = (edit for found in _fitting(row, then) for edit in found.edits)
    if not any(isinstance(edit, AddOperation) and edit.setup == over.setup.id for edit in added):
        return []
    return [{**plain_fix(offer), "one_part_s": after.one_part_s - before.one_part_s}]


def _after(
    offer: Proposal, plan: Plan, library: Library, memo: Memo, before: Evaluation
) -> Evaluation | None:
    """The answer with it, None where it can't be done, brings a stop or goes into the part."""
    try:
        after = evaluate(apply(plan, offer.edits), library, memo)
    except EditRefused:
        return None
    known = {f.key for f in before.open}
    worse = any(
        (f.severity == "stop" or f.id == "reach.gouges") and f.key not in known for f in after.open
    )
    return None if after.problem or worse else after


def _fitting(row: Left, facts: PlanFacts) -> Iterator[Proposal]:
    if any(piece.place == "edge" for piece in row.pieces):
        return offers_there(facts, partial(_breaks, row, facts))
    names = {piece.name for piece in row.pieces if piece.place != "side"}
    sunk = any(getattr(facts.geometry.feature(name), "sinks", ()) for name in names)
    sides = {
        side for piece in row.pieces for side in sides_over(piece.low, piece.high, facts.geometry)
    }

    def suits(operation: Operation, station: StationFacts) -> bool:
        on = operation.on
        if isinstance(operation, Countersink):
            return sunk and bool(names & set(getattr(on, "ids", ())))
        if kind_of(operation).needs_hole or isinstance(operation, Chamfer | RoundEdge):
            return False
        if isinstance(on, OnFeatures):
            return bool(names & set(on.ids)) if names else not sides
        if names:
            return False
        if isinstance(on, Top):
            return station.lie.up in sides
        return not isinstance(on, Outside) or bool(sides - {station.lie.up})

    return offers_there(facts, suits)


def _breaks(row: Left, facts: PlanFacts, operation: Operation, station: StationFacts) -> bool:
    """Does it break these edges, or slope this face, by what is drawn?"""
    found = [facts.geometry.feature(piece.name) for piece in row.pieces]
    if isinstance(operation, Slope) and isinstance(operation.on, Lines):
        return any(
            isinstance(each, Slanted) and each.lean_deg == operation.angle_deg for each in found
        )
    size = getattr(operation, "radius_mm", getattr(operation, "size_mm", None))
    return isinstance(operation, Chamfer | RoundEdge | Slope) and any(
        isinstance(each, Edge) and each.size_mm == size for each in found
    )
