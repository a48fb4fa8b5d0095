"""A batch over several machines with fewer people than machines: who is waited for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from heapq import heapify, heapreplace
from math import ceil, floor

from machining.quantities.checks import not_negative, positive
from machining.quantities.errors import OutOfRange

from .flow import Step, checked, cycles_of

MOST_CYCLES = 20_000  # in all: more are told from these, as the work repeats itself
SLACK = 1e-9


@dataclass(frozen=True, slots=True)
class Attended:
    """When the first cycle of a step starts and its last one ends, s from the beginning; how long
    its machine stands in between for want of parts, and for want of somebody.
    """

    starts_s: float
    ends_s: float
    waits_s: float
    alone_s: float


def attended(steps: Sequence[Step], quantity: int, people: int) -> list[Attended]:
    """Every step as in ``flow``, but a setup is built, a first cycle run and parts are put in only
    where one of so many people is free: they go where they were wanted first. Beside a running
    machine they do what of a cycle is ``beside_s``. Raises OutOfRange as flow does, or for nobody.
    """
    positive("people", float(people))
    checked(steps)
    most = _most(steps, quantity)
    if most >= quantity:
        return _run(steps, quantity, people)
    half = max(most // 2, 1)
    few, more = _run(steps, half, people), _run(steps, most, people)
    further = (quantity - most) / (most - half)
    return [
        Attended(
            b.starts_s + (b.starts_s - a.starts_s) * further,
            b.ends_s + (b.ends_s - a.ends_s) * further,
            max(b.waits_s + (b.waits_s - a.waits_s) * further, 0.0),
            max(b.alone_s + (b.alone_s - a.alone_s) * further, 0.0),
        )
        for a, b in zip(few, more, strict=True)
    ]


def machines_for_one(each_s: float, hand_s: float) -> int | None:
    """How many machines like it one person keeps running: n = ⌊t/h⌋; None where it needs nobody.
    Raises OutOfRange for values under 0, or more by hand than there is time.
    """
    not_negative("hand_s", hand_s)
    if hand_s > each_s + SLACK:
        raise OutOfRange("hand_s", f"{hand_s:g}", f"at most each_s, {each_s:g}")
    return floor(each_s / hand_s + SLACK) if hand_s > 0 else None


def _most(steps: Sequence[Step], quantity: int) -> int:
    """How many parts are followed one by one: whole cycles of every step."""
    cycles = sum(cycles_of(each, quantity) for each in steps)
    return quantity if cycles <= MOST_CYCLES else max(quantity * MOST_CYCLES // cycles, 2)


class _Step:
    """How far a step has come: its place, cycles that have ended, when its machine is free."""

    def __init__(self, step: Step, quantity: int) -> None:
        self.step, self.cycles = step, cycles_of(step, quantity)
        self.ends = list[float]()
        self.built: float | None = None
        self.starts = self.waits = self.alone = 0.0


def _run(steps: Sequence[Step], quantity: int, people: int) -> list[Attended]:
    every = [_Step(each, quantity) for each in steps]
    free = dict.fromkeys((each.machine for each in steps), 0.0)
    hands = [0.0] * people
    heapify(hands)
    while True:
        wanted = [
            (ready, place)
            for place, one in enumerate(every)
            if (ready := _ready(place, one, every, free, quantity)) is not None
        ]
        if not wanted:
            return [Attended(e.starts, e.ends[-1], e.waits, e.alone) for e in every]
        ready, place = min(wanted)
        _do(every[place], ready, free, hands)


def _ready(
    place: int, one: _Step, every: list[_Step], free: dict[str, float], quantity: int
) -> float | None:
    """When its next work could begin; None where it has none, or nobody knows yet."""
    done = len(one.ends)
    before = [each for each in every[:place] if each.step.machine == one.step.machine]
    if done == one.cycles or any(len(each.ends) < each.cycles for each in before):
        return None
    if one.built is None:
        return free[one.step.machine]
    come = free[one.step.machine]
    wanted = min((done + 1) * one.step.parts, quantity)
    for at in one.step.takes:
        giver = every[at]
        cycle = ceil(wanted / giver.step.parts) - 1 + giver.step.late
        if len(giver.ends) <= cycle:
            return None
        come = max(come, giver.ends[cycle])
    for at in one.step.whole:
        if len(every[at].ends) < every[at].cycles:
            return None
        come = max(come, every[at].ends[-1])
    return come


def _do(one: _Step, ready: float, free: dict[str, float], hands: list[float]) -> None:
    """Build it, or run its next cycle."""
    step, machine = one.step, one.step.machine
    build = one.built is None and step.build_s > 0.0
    hand = step.build_s if build else step.hand_s
    first = not one.ends and one.built is not None
    if first:
        hand = step.each_s + step.prove_s  # the first cycle is watched to its end
    needs = hand > 0.0 or step.beside_s > 0.0
    starts = max(ready, hands[0]) if needs and (build or one.built is not None) else ready
    if one.built is None:
        one.built = free[machine] = starts + step.build_s
        if build:
            heapreplace(hands, one.built)
        return
    if first:
        one.starts = starts
    else:
        one.waits += ready - free[machine]
        one.alone += starts - ready
    if needs:
        heapreplace(hands, starts + hand + step.beside_s)
    ends = starts + step.each_s + (step.prove_s if first else 0.0)
    one.ends.append(ends)
    free[machine] = ends
