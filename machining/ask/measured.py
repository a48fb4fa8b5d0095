"""Offsets that somebody has measured, against those of the plan."""

from __future__ import annotations

from typing import Any

from machining.exchange.offset_table import Difference, differences, from_csv, table
from machining.facts.offsets import offsets_of
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.at import Faces, Spots
from machining.plan.document import Plan
from machining.plan.edit import Change
from machining.quantities.errors import Missing, NotUnderstood
from machining.world.library import Library

Moves = dict[int, tuple[float, float]]  # of positions (counted from 1), mm


def measured(
    plan: Plan, library: Library, memo: Memo, setup: str, text: str
) -> list[dict[str, Any]]:
    """Each measured position of a setup with how far it is off along each axis, and edits that put
    it where it was found; the last line, without a position, puts all of them there.

    Raises Missing for a setup, NotUnderstood for a table that is not of this plan.
    """
    facts = walk(plan, library, memo)
    mine = [each for each in offsets_of(facts) if each.setup.planned.id == setup]
    if not mine:
        raise Missing("Setup", setup)
    try:
        found = differences(table(mine), from_csv(text))
    except Missing as problem:
        raise NotUnderstood(problem.field, problem.value, "one that is planned") from None
    rows = [
        {
            "station": each.planned.station,
            "position": each.planned.position,
            "code": each.planned.code,
            "off": [each.by.get(axis) for axis in "xyz"],
            "edits": _edits(plan, [each]),
        }
        for each in found
    ]
    whole = {"station": "", "position": 0, "code": "", "off": [None] * 3}
    return [*rows, {**whole, "edits": _edits(plan, found)}] if len(rows) > 1 else rows


def _edits(plan: Plan, found: list[Difference]) -> list[dict[str, Any]]:
    """Their stations with every position by itself, those that were found elsewhere moved."""
    moves = dict[str, Moves]()
    for each in found:
        by = each.by
        if each.planned.side or isinstance(plan.station(each.planned.station).at, Faces):
            continue  # turned to the tool it stands elsewhere; a tombstone is as it is
        away = by.get("x", 0.0), by.get("y", 0.0)
        moves.setdefault(each.planned.station, {})[each.planned.position] = away
    return [
        Change(
            on=f"station:{id}", fields={"at": _moved(plan, id, by).model_dump(mode="json")}
        ).model_dump(mode="json")
        for id, by in moves.items()
    ]


def _moved(plan: Plan, id: str, by: Moves) -> Spots:
    spots = []
    for position, (x, y) in enumerate(plan.station(id).spots, 1):
        dx, dy = by.get(position, (0.0, 0.0))
        spots.append((round(x + dx, 4), round(y + dy, 4)))
    return Spots(at_mm=tuple(spots))
