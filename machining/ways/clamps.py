"""Other places of a clamp, where no tool comes while it is on."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import islice

import numpy as np

from machining.facts import hold
from machining.facts.context import PlanFacts, Ready, StationFacts
from machining.facts.holdings.clamped import lying_of
from machining.facts.holdings.clamped_bodies import apart, clamp_of, standing
from machining.facts.holdings.lying import Lying
from machining.geometry.frames import Sideways
from machining.geometry.regions import Region, grown
from machining.plan.base import ClampChange
from machining.plan.clamped import Clamp, Clamped
from machining.plan.edit import Change, Edit
from machining.plan.in_vise import CALLED
from machining.plan.proposal import Proposal
from machining.quantities.errors import MachiningError
from machining.quantities.said import Shown, length
from machining.world.gear import Gear

STEP_MM, MOST_OFFERED = 5.0, 3
OF_PART: tuple[Sideways, ...] = ("+y", "-y", "+x", "-x")


def _lying(station: StationFacts) -> Lying | None:
    held, gear = station.planned.holding, station.item
    if not isinstance(held, Clamped) or not isinstance(gear, Gear):
        return None
    return lying_of(station, held, gear)


def elsewhere(op: Ready, clamps: Sequence[Clamp], facts: PlanFacts) -> Iterator[Proposal]:
    """Clamps moved to where no operation that they are on for comes near them."""
    lying = _lying(op.station)
    if lying is None or not clamps:
        return
    ids = {each.id for each in clamps}
    during = [each for each in _cut(op.station) if ids & each.stand.on]
    kept = _together(during) - ids
    for moved in _placed(lying, clamps, during, facts, kept):
        fresh = {each.id: each for each in moved}
        every = [fresh.get(each.id, each) for each in lying.held.clamps]
        words, values = _said(lying, clamps, moved)
        yield Proposal(f"Put {words}", (_with(op.station, every),), values)


def changed_before(op: Ready, clamps: Sequence[Clamp], facts: PlanFacts) -> Iterator[Proposal]:
    """Clamps taken off before an operation, with others like them put on elsewhere first."""
    lying, own = _lying(op.station), _cut(op.station)
    place = next((k for k, each in enumerate(own) if each.id == op.id), 0)
    if lying is None or place == 0 or not clamps:
        return
    last, rest, ids = own[place - 1], own[place:], {each.id for each in clamps}
    taken = {*(each.id for each in lying.held.clamps), *(each.id for each in lying.held.dowels)}
    free = iter(id for k in range(1, 99) if (id := f"c{k}") not in taken)
    fresh = [each.model_copy(update={"id": next(free)}) for each in clamps]
    for moved in _placed(lying, fresh, rest, facts, op.stand.on - ids):
        change = last.operation.clamps_after
        put_on, taken_off = (change.on, change.off) if change is not None else ((), ())
        on = (*(id for id in put_on if id not in ids), *(each.id for each in moved))
        off = (*taken_off, *(each.id for each in clamps if each.id not in put_on))
        words, values = _said(lying, clamps, moved)
        yield Proposal(
            f"Change clamps before it: put {words}",
            (
                _with(op.station, (*lying.held.clamps, *moved)),
                _change(last, ClampChange(on=on, off=off)),
            ),
            values,
        )


def _said(
    lying: Lying, clamps: Sequence[Clamp], moved: Sequence[Clamp]
) -> tuple[str, dict[str, Shown]]:
    """ "clamp 1 at its back, 12 from the middle; clamp 2 …"."""
    numbers = [_number(lying, each) for each in clamps]
    values = {f"at{n}": length(each.at_mm) for n, each in zip(numbers, moved, strict=True)}
    words = [
        f"clamp {n} at its {CALLED[each.side]}, {{at{n}}} from the middle"
        for n, each in zip(numbers, moved, strict=True)
    ]
    return "; ".join(words), values


def _cut(station: StationFacts) -> list[Ready]:
    return [each for each in station.operations if isinstance(each, Ready)]


def _with(station: StationFacts, clamps: Sequence[Clamp]) -> Edit:
    said = [each.model_dump(mode="json") for each in clamps]
    return Change(on=station.on, fields={"holding.clamps": said})


def _change(op: Ready, change: ClampChange) -> Edit:
    return Change(on=op.on, fields={"clamps_after": change.model_dump(mode="json")})


def _number(lying: Lying, clamp: Clamp) -> int:
    return [each.id for each in lying.held.clamps].index(clamp.id) + 1


def _placed(
    lying: Lying,
    clamps: Sequence[Clamp],
    during: Sequence[Ready],
    facts: PlanFacts,
    kept: frozenset[str],
) -> Iterator[list[Clamp]]:
    """A few ways to place all of them: the first at each of its nearest free places, the others
    after it at theirs. ``kept`` are the clamps that stay on with them.
    """
    swept = _swept(during, facts)
    for first in islice(_free(lying, clamps[0], swept, kept), MOST_OFFERED):
        together, there, moved = _with_one(lying, first), kept | {first.id}, [first]
        for each in clamps[1:]:
            found = next(_free(together, each, swept, there), None)
            if found is None:
                break
            together, there = _with_one(together, found), there | {found.id}
            moved.append(found)
        else:
            yield moved


def _with_one(lying: Lying, clamp: Clamp) -> Lying:
    others = [each for each in lying.held.clamps if each.id != clamp.id]
    return replace(lying, held=lying.held.model_copy(update={"clamps": (*others, clamp)}))


def _swept(during: Sequence[Ready], facts: PlanFacts) -> list[tuple[Region, float]]:
    """What edges cover with the shop's margin, and how low what stands there has to stay."""
    margin = facts.library.settings.jaw_margin_mm
    return [
        (
            grown(hold.swept_region(each, each.before.memo), margin),
            float(each.path.bounds()[0][2]) - margin,
        )
        for each in during
        if each.path.legs and each.aimed is None
    ]


def _free(
    lying: Lying, clamp: Clamp, swept: Sequence[tuple[Region, float]], on: frozenset[str]
) -> Iterator[Clamp]:
    """Its free places: nearest along its own side, then at the others."""
    for moved in _places(lying, clamp):
        trial = _with_one(lying, moved)
        later = {each.id for each in trial.held.clamps} - on
        try:
            stands = clamp_of(trial, moved, len(trial.held.clamps))
            if not any(
                b.top > low and s.intersects(b.region) for s, low in swept for b in stands.bodies
            ):
                apart(trial, standing(trial, later), on | {moved.id})
                yield moved
        except MachiningError:
            continue


def _together(during: Sequence[Ready]) -> frozenset[str]:
    return frozenset[str]().union(*(each.stand.on for each in during))


def _places(lying: Lying, clamp: Clamp) -> Iterator[Clamp]:
    size = lying.lie.stock_high - lying.lie.stock_low
    for side in (clamp.side, *(each for each in OF_PART if each != clamp.side)):
        half = float(size[1 if side[1] == "x" else 0]) / 2.0
        steps = np.arange(0.0, half + STEP_MM, STEP_MM)
        near = clamp.at_mm if side == clamp.side else 0.0
        for step in steps:
            spots = round(near + float(step), 3), round(near - float(step), 3)
            for at in dict.fromkeys(spots):
                if abs(at) <= half and (side, at) != (clamp.side, clamp.at_mm):
                    yield clamp.model_copy(update={"side": side, "at_mm": at})
