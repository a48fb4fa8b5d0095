"""Machines that were to be planned on and that no proposal begins on: what came of each."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from machining.evaluation import plain_said
from machining.quantities.said import Said, Shown
from machining.world.capability import turns_work
from machining.world.machine import Machine

from .characters import Found
from .route import stops_of

NOTHING = Said("Nothing of the part could be begun on it.")
TURNED = Said(
    "Not planned on: turned from bar the part comes out. Tick mills alone to have it milled."
)
MILLED = Said(
    "Not planned on: milled from a block the part comes out. Tick lathes alone to have it turned."
)
LEFT = Said("Begun on it the part does not come out of what was planned.")
UNKNOWN = Said("What was planned there has a question that could not be answered.")
NO_BETTER = "Begun on it the part comes out too, no better at anything: {batch} for the batch."
AT_FIRST = (
    "Begun on it the part comes out too, no better at anything: {batch} for the batch, before its"
    " loads and its order were looked into."
)


def elsewhere(
    machines: Sequence[Machine],
    found: Mapping[int, Found | None],
    picked: Sequence[Found],
    better: Sequence[Found] = (),
    skipped: Sequence[int] = (),
) -> Iterator[dict[str, Any]]:
    """One row for each of the ``machines`` that was looked at or ``skipped``, as it is told: which,
    why nothing is proposed there, and what it leaves. They are named by their turn: ``found`` is
    what was planned, None where nothing was begun; ``better`` what was made so.
    """
    proposed = {each.machine for each in picked}
    for turn, machine in enumerate(machines):
        if turn in skipped:
            why = MILLED if turns_work(machine) else TURNED
            yield {"machine": machine.name, "why": plain_said(why), "missed": []}
        elif turn in found and machine.key not in proposed:
            yield {"machine": machine.name, **_came_to(found[turn], better)}


def _came_to(found: Found | None, better: Sequence[Found]) -> dict[str, Any]:
    if found is None:
        return {"why": plain_said(NOTHING), "missed": []}
    missed = found.plain["missed"] if found.plain is not None else []
    return {"why": plain_said(_why(found, better)), "missed": missed}


def _why(found: Found, better: Sequence[Found]) -> Said:
    told = found.told
    if found.whole:
        text = NO_BETTER if any(found is each for each in better) else AT_FIRST
        return Said(text, {"batch": Shown(told.batch_s, "time")})
    if told.left:
        return LEFT
    stops = [each for each in stops_of(told) if each.key not in found.route.stopped]
    return Said(stops[0].message, stops[0].values) if stops else UNKNOWN
