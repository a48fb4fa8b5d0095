"""Indexed or in several setups: sides that rotary axes turn to the tool, or a setup each."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import partial
from itertools import islice, product
from typing import cast

from machining.geometry.frames import DIRECTIONS, Direction
from machining.plan.apply import apply
from machining.plan.document import Plan, Setup
from machining.plan.edit import (
    AddOperation,
    Change,
    LoadTool,
    MoveOperation,
    RemoveOperation,
    RemoveSetup,
)
from machining.plan.operation import Operation
from machining.quantities.said import Said, Shown
from machining.world.capability import turns_to_sides, turns_work
from machining.world.machine import Machine

from ..carry_over import on_machine
from ..routes.better import loaded
from ..routes.onwards import ways_to_hold
from ..routes.route import Bench, stops_of
from .machines import alike
from .way import Way, why_not

MOST_MACHINES, MOST_HELD = 3, 3  # that are tried
MOST_LOADED = 12  # plans, for how many parts at a time
AT_AN_ANGLE = Said("Not tried: some of its sides stand at an angle, and come up only in a fixture.")
SIDES = frozenset(DIRECTIONS)


def indexed(plan: Plan, bench: Bench) -> Iterator[Way]:
    """Setups of one side each as sides that rotary axes turn to the tool."""
    sides = [each for each in plan.setups if each.operations]
    if len(sides) < 2 or not all(_of_one_side(each) for each in sides):
        return
    able = [each for each in bench.library.machines.values() if turns_to_sides(each)]
    for machine in sorted(able, key=lambda each: each.hourly_cost)[:MOST_MACHINES]:
        if all(alike(machine, each, bench) for each in sides):
            values = {"machine": Shown(machine.name)}
            said = Said("Indexed on {machine}: held once, turned to its sides", values)
            yield Way(said, partial(_turned, plan, machine.key, sides, bench))


def _of_one_side(setup: Setup) -> bool:
    return len(setup.stations) == 1 and all(each.aim is None for each in setup.operations)


def _turned(plan: Plan, key: str, sides: list[Setup], bench: Bench) -> Plan | None:
    """The setups after the first as sides of it, as far as nothing stops it; None where that is no
    setup.
    """
    all_there = on_machine(plan, bench.library, bench.memo, key, [each.id for each in sides])
    first, plan = sides[0].id, all_there
    for then in sides[1:]:
        after = _as_side(plan, first, then.id)
        told, now = bench.evaluate(after), bench.evaluate(plan)
        if why_not(told, now) is None:
            plan = after
    return plan if len(plan.setups) < len(all_there.setups) else _as_side(plan, first, sides[1].id)


def _as_side(plan: Plan, first: str, then: str) -> Plan:
    """A setup's operations cut from its side at the station of an earlier one."""
    into, gone = plan.setup(first), plan.setup(then)
    station, up = into.stations[0], gone.stations[0].orientation.up
    for op in gone.operations:
        move = MoveOperation(operation=op.id, setup=first, index=len(plan.setup(first).operations))
        aim = up if up != station.orientation.up else None
        fields = {"aim": aim, "station": ""}
        plan = apply(plan, [move, Change(on=f"operation:{op.id}", fields=fields)])
    return apply(plan, [RemoveSetup(setup=then)])


def in_several(plan: Plan, bench: Bench) -> Iterator[Way]:
    """What the last setup turns to the tool, in setups of their own on a mill without rotary axes;
    what is turned on another lathe.
    """
    last = plan.setups[-1]
    up = last.stations[0].orientation.up
    aims = {each.aim for each in last.operations if each.aim not in (None, up)}
    now = bench.library.machines.get(last.machine)
    if len(last.stations) > 1 or not aims or now is None:
        return
    every = sorted(bench.library.machines.values(), key=lambda each: each.hourly_cost)
    mills = [each for each in every if not turns_work(each) and not turns_to_sides(each)]
    lathes = [each for each in every if turns_work(each) and each is not now]
    begins: list[Machine | None] = [*lathes] if turns_work(now) else [None]
    for mill, begun in islice(product(mills, begins), MOST_MACHINES):
        values = {"machine": Shown(mill.name), "count": Shown(f"{1 + len(aims)}")}
        text = "In {count} setups on {machine}, a side each"
        if begun is not None:
            values["lathe"], text = Shown(begun.name), "In {count} setups, on {lathe} and {machine}"
        said, why = Said(text, values), None if aims <= SIDES else AT_AN_ANGLE
        yield Way(said, partial(_side_by_side, plan, begun or mill, mill, bench), why)
        if why is not None:
            return


def _side_by_side(plan: Plan, begun: Machine, mill: Machine, bench: Bench) -> Plan | None:
    """What is up on one machine, each further side up in a setup of its own on a mill, with as many
    parts at a time as that takes. None where nothing holds it.
    """
    last = plan.setups[-1]
    free = Change(on=f"station:{last.stations[0].id}", fields={"at": None})
    alone = apply(plan, [free]) if not turns_work(begun) else plan
    alone = on_machine(alone, bench.library, bench.memo, begun.key, [last.id])
    work = (
        on_machine(alone, bench.library, bench.memo, mill.key, [last.id])
        if begun is not mill
        else alone
    )
    up = last.stations[0].orientation.up
    aside = [each for each in work.setups[-1].operations if each.aim not in (None, up)]
    gone = [RemoveOperation(operation=each.id) for each in aside]
    loads = [LoadTool(tool=each) for each in work.tools if each.machine == mill.key]
    found: Plan | None = apply(alone, [*gone, *(loads if begun is not mill else [])])
    for side in dict.fromkeys(each.aim for each in aside):
        mine = [each.model_copy(update={"aim": None, "station": ""}) for each in aside]
        mine = [each for each, was in zip(mine, aside, strict=True) if was.aim == side]
        found = _with_side(found, mill, str(side), mine, bench) if found is not None else None
    if found is None:
        return None
    bench.until = bench.tried + MOST_LOADED
    return loaded(found, bench.evaluate(found), bench)[0]


def _with_side(
    plan: Plan, mill: Machine, side: str, work: Sequence[Operation], bench: Bench
) -> Plan | None:
    """A further setup with a side up that cuts so much, held in what stops it least."""
    best: tuple[tuple[float, ...], Plan] | None = None
    for _, begun in islice(ways_to_hold(plan, mill, cast(Direction, side), bench), MOST_HELD):
        setup = begun.setups[-1].id
        after = apply(begun, [AddOperation(setup=setup, operation=each) for each in work])
        told = bench.evaluate(after)
        rank = (len(stops_of(told)), told.unknown, told.batch_s)
        if best is None or rank < best[0]:
            best = rank, after
    return best[1] if best is not None else None
