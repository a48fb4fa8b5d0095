"""All of a setup in one range of its spindle, where that range does what each of it asks for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from machining.cutting import spindle
from machining.facts import ledger
from machining.facts.context import OperationFacts, PlanFacts, SetupFacts
from machining.plan.edit import Change
from machining.world.spindle import SpindleRange


@dataclass(frozen=True, slots=True)
class OneRange:
    """The range it can stay in, the edits for that, and what a cycle spends on changes now (s)."""

    stays: SpindleRange
    edits: tuple[Change, ...]
    spared_s: float


def one_range(setup: SetupFacts, facts: PlanFacts) -> Iterator[OneRange]:
    """Ways to change no range of a spindle in a cycle: those that ask for the fewest edits first.
    Whether nothing stops it so is for the plan to show.
    """
    written = ledger.of_plan(facts)[setup.id].events
    for turned in setup.machine.spindles if setup.machine is not None else ():
        using = {op.id: op for op in setup.operations if op.rig and op.rig.spindle.id == turned.id}
        spent = sum(e.seconds for e in written if e.kind == "range" and e.operation in using)
        if spent <= 0 or any(op.seen.spindle_range is None for op in using.values()):
            continue
        ways = [_all_in(each, [*using.values()], spent) for each in turned.ranges]
        found = [way for way in ways if way is not None]
        yield from sorted(found, key=lambda way: len(way.edits))


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
