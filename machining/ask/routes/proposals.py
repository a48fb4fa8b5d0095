"""Propose a route: whole plans of different character for a part, each worked out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from itertools import count, groupby
from typing import Any

from machining.geometry.frames import opposite
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import LoadedTool, Plan
from machining.plan.edit import Edit, RemoveSetup, SetStock, UnloadTool
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said, Shown
from machining.ways.blank import stock_of
from machining.ways.first_setup import with_usual_stock
from machining.world.capability import too_wide, turns_to_sides, turns_work, usual_rig
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.stock import Block

from ..abreast import abreast
from ..carry_over import on_machine
from ..costs import costs_of
from ..finishing import finishing
from ..telling import Tell
from ..trying import EDITS
from .better import fuller, ordered
from .characters import Found, characters
from .mending import with_less_to_look_at
from .onwards import onwards
from .plain import plain_of, tidy, told
from .route import Bench, Route, Step, stops_of

MOST_SETUPS, IDS = 6, 1000
# plans that are evaluated for a route, for one after a whole one is known, to make one better
MOST_TRIED, MOST_AFTER, MOST_BETTER = 60, 20, 20
LOADS = Said("Loads, and the order of their operations")
AS_ON = "Planned on {machine} and carried over."
OTHERWISE_HELD = "Hold it in the {item}: what holds it on {machine} does not go here."


def propose(
    plan: Plan,
    library: Library,
    memo: Memo,
    machines: list[str] | None = None,
    afresh: bool = False,
    tell: Tell = lambda share, doing, so_far: None,
    hands: int = 1,
) -> dict[str, Any]:
    """Two to four whole plans where there are as many, each begun on another machine (of all, or
    of those named), with reasons, figures, and what could not be planned. Once one is whole it is
    carried over to the others, and only where it does not go there they are planned anew. Setups
    that are there stay as they are, or go where it is planned ``afresh``. ``tell`` hears how far it
    is (share, words) and what is proposed so far; so many ``hands`` of this machine plan at the
    same time. Raises OutOfRange for a part that nothing is known of.
    """
    begun = _begun(plan, library, afresh)
    bench = Bench(library, memo, taken=_ids(begun), kept=begun.setups)
    bench.walk(begun)  # raises what it lacks
    before = bench.evaluate(begun)
    stopped = frozenset(each.key for each in stops_of(before))
    start = Route(begun, stopped=stopped, unknown=before.unknown)
    able = [each for each in library.machines.values() if not machines or each.key in machines]
    able.sort(key=lambda each: _rank(each, begun, library))
    search = _Search(bench, start, plan, able, tell, hands)
    search.look_on_all()
    tell(len(able) / (len(able) + 1), LOADS, search.so_far())
    picked = characters(search.found, library)

    def better(k: int, given: None) -> Found:
        return search.worked_out(len(able) + k, lambda: _better(picked[k], bench)) or picked[k]

    done = dict(abreast(better, lambda k: None, len(picked), hands, memo.go_on))
    search.found = [done[k] for k in range(len(picked))]
    return search.so_far()


@dataclass(slots=True)
class _Search:
    """For a ``plan``: what was ``found`` on the machines that are ``able`` to, and those on which
    nothing could be begun.
    """

    bench: Bench
    start: Route
    plan: Plan
    able: list[Machine]
    tell: Tell
    hands: int
    found: list[Found] = field(default_factory=list)
    none: list[str] = field(default_factory=list)

    def so_far(self) -> dict[str, Any]:
        picked = characters(self.found, self.bench.library)
        return told(picked, self.none, (self.plan, self.start.plan), self.bench)

    def look_on_all(self) -> None:
        """One machine after the other until the part comes out of one; then those that turn the
        work, or do not, together.
        """
        stock = self.start.plan.stock
        turned, decided = stock.TURNED, self.plan.stock != Block()
        for turns, of in groupby(enumerate(self.able), lambda each: turns_work(each[1])):
            if decided and turns != turned and any(self._is_all(e, turned) for e in self.found):
                return  # a bar is turned, and a block milled, where that goes
            rest = [*of]
            while rest:
                together = rest if any(each.whole for each in self.found) else rest[:1]
                self._look_on(together)
                rest = rest[len(together) :]

    def _is_all(self, each: Found, turned: bool) -> bool:
        return each.is_all(turned, self.bench.library)

    def _look_on(self, machines: Sequence[tuple[int, Machine]]) -> None:
        first = next((each for each in self.found if each.whole), None)

        def says(k: int) -> None:
            turn, machine = machines[k]
            doing = Said("On {machine}", {"machine": Shown(machine.name)})
            self.tell(turn / (len(self.able) + 1), doing, self.so_far())

        def look(k: int, given: None) -> Found | None:
            turn, machine = machines[k]
            return self.worked_out(turn, lambda: self._on(machine, first))

        go_on = self.bench.memo.go_on
        came = dict(abreast(look, says, len(machines), self.hands, go_on))
        for k, (_, machine) in enumerate(machines):
            one = came[k]
            if one is None:
                self.none.append(machine.name)
            elif all(one.route.plan != each.route.plan for each in self.found):
                self.found.append(one)

    def _on(self, machine: Machine, first: Found | None) -> Found | None:
        """Carried over from the first whole one, else planned anew."""
        if first is not None and (one := _carried(first, machine, self.bench)) is not None:
            return one
        most = MOST_AFTER if first is not None else MOST_TRIED
        start = _from_bar(self.start, machine, self.plan, self.bench)
        return _routed(start, machine, self.able, most, self.bench)

    def worked_out(self, turn: int, make: Callable[[], Found | None]) -> Found | None:
        """What is made, with what is told of it, with ids that no other turn gives."""
        self.bench.numbers = count(1 + turn * IDS)
        found = make()
        if found is not None:
            found.plain = plain_of(found, self.plan, self.start.plan, self.bench)
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


def _begun(plan: Plan, library: Library, afresh: bool) -> Plan:
    gone: list[Edit] = []
    if afresh:
        gone += [RemoveSetup(setup=each.id) for each in reversed(plan.setups)]
        gone += [UnloadTool(tool=each.id) for each in plan.tools]
    bare = apply(plan, gone)
    return apply(bare, with_usual_stock(bare, library.settings))


def _better(found: Found, bench: Bench) -> Found:
    """With its sides in one load, more parts at a time and another order, where that takes less."""
    if not found.whole:
        return found
    bench.until = bench.tried + MOST_BETTER
    plan, answer = fuller(found.route.plan, found.told, bench)
    plan, answer = ordered(plan, answer, bench)
    route, _ = with_less_to_look_at(replace(found.route, plan=plan), answer, bench)
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


def _rank(machine: Machine, plan: Plan, library: Library) -> tuple[float, ...]:
    """Bars to lathes first, blocks to mills; the shop's first machine before the others."""
    turns = turns_work(machine) == plan.stock.TURNED
    return (not turns, machine.key != library.settings.first_machine)


def _ids(plan: Plan) -> frozenset[str]:
    return frozenset(
        [each.id for each in plan.tools]
        + [op.id for setup in plan.setups for op in setup.operations]
    )


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
