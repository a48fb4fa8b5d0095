"""All of a setup in one range of its spindle, where that range does what each of it asks for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from machining.cutting import spindle
from machining.facts.context import OperationFacts, SetupFacts
from machining.plan.edit import Change
from machining.world.spindle import Spindle, SpindleRange


@dataclass(frozen=True, slots=True)
class OneRange:
    """The range it can stay in, the edits for that, and what a cycle spends on changes now (s)."""

    stays: SpindleRange
    edits: tuple[Change, ...]
    spared_s: float


def one_range(setup: SetupFacts) -> Iterator[OneRange]:
    """Ways to change no range of a spindle in a cycle: those that ask for the fewest edits first.
    Whether nothing stops it so is for the plan to show.
    """
    for turned in setup.machine.spindles if setup.machine is not None else ():
        using, spent = _using(turned, setup), _spent_s(turned, setup)
        if spent <= 0 or any(op.seen.spindle_range is None for op in using):
            continue
        ways = [_all_in(each, using, spent) for each in turned.ranges]
        found = [way for way in ways if way is not None]
        yield from sorted(found, key=lambda way: len(way.edits))


def range_changes_s(setup: SetupFacts) -> float:
    """What a cycle that follows another spends on changes of range (s)."""
    spindles = setup.machine.spindles if setup.machine is not None else ()
    return sum(_spent_s(each, setup) for each in spindles)


def _using(turned: Spindle, setup: SetupFacts) -> list[OperationFacts]:
    return [op for op in setup.operations if op.rig and op.rig.spindle.id == turned.id]


def _spent_s(turned: Spindle, setup: SetupFacts) -> float:
    used = [each for op in _using(turned, setup) if (each := op.seen.spindle_range)]
    changes = sum(one != other for one, other in pairwise([*used[-1:], *used]))
    return changes * turned.range_change_s


def _all_in(stays: SpindleRange, using: list[OperationFacts], spent_s: float) -> OneRange | None:
    others = [op for op in using if op.seen.spindle_range != stays.name]
    if not all(_does(stays, op) for op in others):
        return None
    edits = (Change(on=op.on, fields={"spindle_range": stays.name}) for op in others)
    return OneRange(stays, tuple(edits), spent_s)


def _does(stays: SpindleRange, op: OperationFacts) -> bool:
    """Does it turn at an operation's speed with the power and the torque that it takes?"""
    rpm = op.value("rpm")
    if rpm is None or not stays.min_rpm <= rpm <= stays.max_rpm:
        return False
    low, high = spindle.neighbours(stays.continuous, rpm)
    power = spindle.available_power(rpm, low.rpm, low.power_kw, high.rpm, high.power_kw)
    ends = (low.rpm, low.torque_nm, high.rpm, high.torque_nm)
    torque = spindle.available_torque(rpm, *ends, power)
    return (op.value("power") or 0.0) <= power and (op.value("torque") or 0.0) <= torque
