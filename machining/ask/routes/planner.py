"""Routes as one process plans them: anew, carried over from a whole one, and made better."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from itertools import count
from math import inf

from machining.geometry.frames import opposite
from machining.plan.apply import apply
from machining.plan.document import LoadedTool, Plan
from machining.plan.edit import SetStock
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said, Shown
from machining.ways.blank import stock_of
from machining.world.capability import too_wide, turns_to_sides, turns_work, usual_rig
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.stock import Block

from ..carry_over import on_machine
from ..costs import costs_of
from ..finishing import finishing
from ..trying import EDITS
from .better import fuller, in_one_range, nothing_twice, ordered
from .characters import Found
from .mending import with_less_to_look_at
from .onwards import onwards
from .plain import plain_of, tidy
from .route import Bench, Route, Step, stops_of

MOST_SETUPS, IDS = 6, 1000
# plans that are evaluated for a route, for one after a whole one is known, to make one better
MOST_TRIED, MOST_AFTER, MOST_BETTER = 60, 20, 20
AS_ON = "Planned on {machine} and carried over."
OTHERWISE_HELD = "Hold it in the {item}: what holds it on {machine} does not go here."


@dataclass(slots=True)
class Planner:
    """Plans for a ``plan`` from where it ``begins``, on machines that are ``able`` to, named by
    their ``turn``. What was planned before anybody knew of a whole route is kept, with how many
    plans that took.
    """

    bench: Bench
    plan: Plan
    begins: Route
    able: list[Machine]
    _anew: dict[int, tuple[Found | None, float]] = field(default_factory=dict)

    def ahead(self, turn: int) -> Found | None:
        """Planned anew, as if nothing whole were known."""
        before = self.bench.tried
        found = self._worked_out(turn, lambda: self._planned(turn, MOST_TRIED))
        self._anew[turn] = found, self.bench.tried - before
        return found

    def on(self, turn: int, first: Found | None) -> Found | None:
        """Carried over from the ``first`` whole one, else planned anew; None where nothing is
        begun there.
        """
        return self._worked_out(turn, lambda: self._on(turn, first))

    def better(self, turn: int, found: Found) -> Found:
        """With its sides in one load, more parts at a time and another order, where that takes
        less.
        """
        later = len(self.able) + turn
        before = self.begins.plan
        return self._worked_out(later, lambda: _better(found, before, self.bench)) or found

    def _on(self, turn: int, first: Found | None) -> Found | None:
        if first is not None and (one := _carried(first, self.able[turn], self.bench)) is not None:
            return one
        most = MOST_AFTER if first is not None else MOST_TRIED
        found, tried = self._anew.get(turn, (None, inf))
        known = tried < most or (first is None and turn in self._anew)
        return found if known else self._planned(turn, most)

    def _planned(self, turn: int, most: int) -> Found | None:
        machine = self.able[turn]
        start = _from_bar(self.begins, machine, self.plan, self.bench)
        return _routed(start, machine, self.able, most, self.bench)

    def _worked_out(self, turn: int, make: Callable[[], Found | None]) -> Found | None:
        """What is made, with what is told of it, and with ids that no other turn gives."""
        self.bench.numbers = count(1 + turn * IDS)
        found = make()
        if found is not None:
            found.plain = plain_of(found, self.plan, self.begins.plan, self.bench)
        return found


def _from_bar(start: Route, machine: Machine, plan: Plan, bench: Bench) -> Route:
    """From round bar, where the machine turns the work and nobody has decided on a blank."""
    if not turns_work(machine) or start.plan.setups or plan.stock != Block():
        return start
    try:
        geometry = bench.walk(start.plan).geometry
        bar = stock_of("round", plan, geometry, bench.library)
        return replace(start, plan=apply(start.plan, [SetStock(stock=bar)]))
    except MachiningError:
        return start


def _better(found: Found, before: Plan, bench: Bench) -> Found:
    if not found.whole:
        return found
    bench.until = bench.tried + MOST_BETTER
    so = found.route.plan, found.told
    for step in (fuller, in_one_range, ordered):
        so = step(*so, bench)
    route, answer = with_less_to_look_at(replace(found.route, plan=so[0]), so[1], bench)
    plan, _ = nothing_twice(route.plan, answer, bench)
    route = replace(route, plan=tidy(plan, before))
    after = _found(found.machine, route, bench)
    return after if after.whole else found


def _carried(found: Found, machine: Machine, bench: Bench) -> Found | None:
    """A whole route on another machine; None where that does not take its tools, something stops it
    there, or it would turn its sides to the tool.
    """
    route, library = found.route, bench.library
    fresh = route.plan.setups[len(bench.kept) :]
    was = [library.machines[each.machine] for each in fresh]
    if any(turns_work(each) != turns_work(machine) for each in was):
        return None
    used = {op.tool for each in fresh for op in each.operations}
    if any(_too_large(e, machine, library) for e in route.plan.tools if e.id in used):
        return None
    ups = {station.orientation.up for each in fresh for station in each.stations}
    if turns_to_sides(machine) and any(not ups <= {up, opposite(up)} for up in ups):
        return None
    try:
        ids = [each.id for each in fresh]
        plan = on_machine(route.plan, library, bench.memo, machine.key, ids, False)
    except MachiningError:
        return None
    steps = tuple(_as_on(each, plan, was[0], library) for each in route.steps)
    one = _found(machine.key, replace(route, plan=plan, steps=steps), bench)
    return one if one.whole else None


def _too_large(loaded: LoadedTool, machine: Machine, library: Library) -> bool:
    """Is a tool wider than what changes tools on a machine takes?"""
    assembly = library.assemblies.get(loaded.assembly)
    tool = library.tools.get(assembly.tool) if assembly is not None else None
    return tool is not None and too_wide(tool, usual_rig(machine).carrier)


def _as_on(step: Step, plan: Plan, machine: Machine, library: Library) -> Step:
    """The reasons of a setup that was carried over from a machine."""
    held = getattr(plan.setup(step.setup).stations[-1].holding, "item", "")
    as_on, last = Said(AS_ON, {"machine": Shown(machine.name)}), step.because[-1]
    if held != step.item:
        item = library.holdings.get(held)
        name = Shown(item.name if item is not None else held)
        last = Said(OTHERWISE_HELD, {"item": name, "machine": Shown(machine.name)})
    return replace(step, item=held, because=(*step.because[:-1], as_on, last), instead=())


def _routed(
    start: Route, machine: Machine, able: list[Machine], most: int, bench: Bench
) -> Found | None:
    """A route that begins on a machine, and goes on on others where it does no more; None where
    nothing is cut on it.
    """
    route = start
    others, until = [each for each in able if each is not machine], bench.tried + most
    for _ in range(MOST_SETUPS):
        tried = onwards(route, [machine], bench)
        if tried is None and len(route.plan.setups) > len(start.plan.setups):
            tried = onwards(route, others, bench)
        if tried is None:
            break
        route = tried.route
        if bench.tried > until:
            break
        if not tried.far[0] and not bench.evaluate(route.plan, to_its_end=True).left:
            break
    if len(route.plan.setups) == len(start.plan.setups):
        return None
    route = _finished(route, bench)
    return _found(machine.key, replace(route, plan=tidy(route.plan, start.plan)), bench)


def _found(machine: str, route: Route, bench: Bench) -> Found:
    answer = bench.evaluate(route.plan, to_its_end=True)
    return Found(machine, route, answer, costs_of(bench.walk(route.plan)))


def _finished(route: Route, bench: Bench) -> Route:
    """With what would cut what still stands, as far as it brings no stop."""
    now = bench.evaluate(route.plan, to_its_end=True)
    if not now.left or now.left_mm3 <= 0:
        return route
    for row in finishing(route.plan, bench.library, bench.memo):
        for offer in row["offers"][:1]:
            try:
                after = apply(route.plan, EDITS.validate_python(offer["edits"]))
            except MachiningError:
                continue
            if not bench.keeps(after):
                continue
            then = bench.evaluate(after, to_its_end=True)
            if len(stops_of(then)) <= len(stops_of(now)) and then.left_mm3 < now.left_mm3:
                route, now = replace(route, plan=after), then
    return route
