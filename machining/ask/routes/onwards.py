"""A route with one more setup: which side up, on which machine, held in what."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import count
from math import inf

import numpy as np

from machining.evaluation import Evaluation
from machining.facts.context import PlanFacts
from machining.findings.finding import Finding
from machining.geometry.frames import Direction, orientation
from machining.plan.apply import apply
from machining.plan.document import Orientation, Plan, Setup, Station
from machining.plan.edit import AddSetup, Change
from machining.plan.proposal import Proposal
from machining.plan.zero import in_the_middle
from machining.quantities.errors import MachiningError
from machining.quantities.said import Said, Shown, fill
from machining.ways.first_setup import blank_size, fits, on_tombstone
from machining.ways.takes_it import takes_it
from machining.world.library import Library
from machining.world.machine import Machine, Table
from machining.world.stock.base import SIDE_WORDS

from .cutting import cut
from .mending import mended, without_air, without_stops
from .route import Bench, Missed, Route, Step, stops_of
from .sides import how_far, sides_first

MOST_SIDES, MOST_HELD, MOST_IN_CHUCK = 3, 3, 6  # that are tried of a setup
OF_HOLDING = ("hold.", "reach.stick-out", "travel.axis", "travel.neighbour", "travel.swing")
LAST = ("clamped", "pulled")
COMES_OUT = "{done} of the {left} places still to be cut come out with its {side} up."
ALL_COMES_OUT = (
    "The last place still to be cut comes out with its {side} up.",
    "All {left} places still to be cut come out with its {side} up.",
)
SLOWER = Said("It goes as well, and takes longer or leaves more.")
LESS_DEEP = (0.6, 0.4)  # of the usual grip
MOST_MENDED = 8  # stops, of which another holding would be tried first
AGAIN = 3  # times that something else is taken instead of what is stopped


@dataclass(frozen=True)
class Tried:
    """A setup as it came out, and how ``far`` the part is then; the fewer ``stops``, the more it
    cuts and the quicker (s) the better.
    """

    route: Route
    told: Evaluation
    held: Said
    far: tuple[int, int]

    @property
    def stops(self) -> list[Finding]:
        return [each for each in stops_of(self.told) if each.key not in self.route.stopped]

    @property
    def wrong(self) -> int:
        """What is stopped, and operations with a question that nobody can answer."""
        return len(self.stops) + max(self.told.unknown - self.route.unknown, 0)

    @property
    def held_badly(self) -> bool:
        """Is anything stopped that another holding may let go?"""
        return self.told.unknown > self.route.unknown or any(
            each.id.startswith(OF_HOLDING) for each in self.stops
        )

    @property
    def rank(self) -> tuple[float, ...]:
        cuts = len(self.route.plan.setups[-1].operations)
        return (self.wrong, *self.far, -cuts, self.told.one_part_s)

    @property
    def why_not(self) -> Missed:
        """What it was held in, and the first that stops it so."""
        first = next(iter(self.stops), None)
        why = Said(first.message, first.values) if first is not None else SLOWER
        return Missed(self.held, why)


def onwards(route: Route, machines: Sequence[Machine], bench: Bench) -> Tried | None:
    """The first setup that brings the part further and is not stopped, else the best of those that
    do; None where none does.
    """
    facts = bench.walk(route.plan)
    best, now = None, how_far(facts, bench.memo)
    for up in sides_first(facts, bench.memo)[:MOST_SIDES]:
        for machine in machines:
            found = _on(route, machine, up, bench)
            if found is None or found.far >= now:
                continue
            if not found.wrong:
                return _with_reasons(found, now)
            if best is None or found.rank < best.rank:
                best = found
    return _with_reasons(best, now) if best is not None else None


def _with_reasons(found: Tried, now: tuple[int, int]) -> Tried:
    """Its setup's reasons to those of the route."""
    setup = found.route.plan.setups[-1]
    side = {"side": Shown(SIDE_WORDS[setup.stations[-1].orientation.up])}
    places = {"done": Shown(str(now[1] - found.far[1])), "left": Shown(str(now[1]))}
    up = Said(COMES_OUT if found.far[1] else ALL_COMES_OUT[now[1] > 1], side | places)
    if found.far[1] >= now[1]:
        up = Said("With its {side} up, what is left is roughed.", side)
    held = found.held
    if not found.stops:
        held = Said(f"{held.text}: nothing stops it so.", held.values)
    item = getattr(setup.stations[-1].holding, "item", "")
    step = Step(setup.id, (up, held), item, found.route.instead)
    steps = (*found.route.steps, step)
    return replace(found, route=replace(found.route, steps=steps, instead=()))


def _on(route: Route, machine: Machine, up: Direction, bench: Bench) -> Tried | None:
    """Held in what stops it least. What is still stopped then goes."""
    tried = list[Tried]()
    best: Tried | None = None
    for offer, plan in ways_to_hold(route.plan, machine, up, bench):
        found = _cut(replace(route, plan=plan), Said(offer.label, offer.values), bench)
        better = found is not None and (best is None or found.rank < best.rank)
        tried += [found] if found is not None else []
        best = found if better else best
        in_chuck = plan.stations[-1].in_chuck is not None
        enough = best is not None and not best.held_badly and not (better and in_chuck)
        if len(tried) == (MOST_IN_CHUCK if in_chuck else MOST_HELD) or enough:
            break
    if best is None:
        return None
    others = {fill(each.held.text, each.held.values): each.why_not for each in tried}
    others.pop(fill(best.held.text, best.held.values))
    for _ in range(AGAIN):
        less = without_stops(best.route, best.stops, bench) if best.wrong else None
        if less is None:
            break
        again = _cut(less, best.held, bench)
        if again is None:
            return None
        best = again
    return replace(best, route=replace(best.route, instead=tuple(others.values())))


def _cut(route: Route, held: Said, bench: Bench) -> Tried | None:
    """Cut with what is offered, and mended; None where nothing is cut."""
    done = without_air(cut(route, bench), bench)
    if not done.plan.setups[-1].operations:
        return None
    told = bench.evaluate(done.plan)
    found = Tried(done, told, held, how_far(bench.walk(done.plan), bench.memo))
    if not found.stops or (len(found.stops) > MOST_MENDED and found.held_badly):
        return found
    done, told = mended(done, told, bench)
    return Tried(done, told, held, how_far(bench.walk(done.plan), bench.memo))


def ways_to_hold(
    plan: Plan, machine: Machine, up: Direction, bench: Bench
) -> Iterator[tuple[Proposal, Plan]]:
    """With a further setup, its part in what takes it there: one of each thing first, then the
    other ways round.
    """
    try:
        begun = _with_setup(plan, machine, up, bench.walk(plan))
        facts = bench.walk(begun) if begun is not None else None
    except MachiningError:
        return
    if begun is None or facts is None:
        return
    seen = facts.stations[-1]
    found = list[tuple[Proposal, Plan]]()
    for offer in takes_it(seen, facts):
        try:
            after = apply(begun, offer.edits)
            known = bench.walk(after).stations[-1].unknown.get("hold")
        except MachiningError:
            continue
        if not known:
            found += [(offer, each) for each in (after, *_less_deep(after))]
    if isinstance(seen.place, Table) and seen.place.rotaries:
        found.sort(key=lambda each: _width(each[1], bench.library))
    yield from _one_of_each(found)


def _width(plan: Plan, library: Library) -> float:
    """Of the jaws of a vise (mm): the narrower, the more room a tool has beside it."""
    vised = plan.stations[-1].in_vise
    vise = library.vises.get(vised.vise) if vised is not None else None
    return vise.jaw_width_mm if vise is not None else inf


def _one_of_each(found: Sequence[tuple[Proposal, Plan]]) -> Iterator[tuple[Proposal, Plan]]:
    """One of each kind first, then what else there is of it, then the other ways round; what
    only rests on something comes last.
    """
    rows, known = defaultdict[int, list[tuple[Proposal, Plan]]](list), Counter[str]()
    for each in found:
        held = each[1].stations[-1].holding
        kind, item = getattr(held, "kind", ""), f"{getattr(held, 'item', '')} of it"
        known[item] += 1
        known[kind] += known[item] == 1
        late = len(found) * ((known[item] > 1) + 2 * (kind in LAST))
        rows[late + (known[kind] if known[item] == 1 else known[item])].append(each)
    for number in sorted(rows):
        yield from rows[number]


def _less_deep(plan: Plan) -> Iterator[Plan]:
    """With less of it in a chuck's jaws, so that more can be turned."""
    held = plan.stations[-1].in_chuck
    if held is None:
        return
    for share in LESS_DEEP:
        grip = round(share * held.grip_mm, 1)
        change = Change(on=f"station:{plan.stations[-1].id}", fields={"holding.grip_mm": grip})
        yield apply(plan, [change])


def _with_setup(plan: Plan, machine: Machine, up: Direction, facts: PlanFacts) -> Plan | None:
    """A further setup with a side up, its part held in nothing yet; None where the machine has no
    room for it.
    """
    known = {*(each.id for each in plan.setups), *(each.id for each in plan.stations)}
    k = next(n for n in count(1) if not {f"s{n}", f"st{n}"} & known)
    last = plan.stations[-1] if plan.stations else None
    x, y, z = np.abs(orientation(up, 0)) @ np.array(blank_size(facts, plan.stock))
    if not fits(machine, (float(x), float(y), float(z))):
        return None
    used = {each.work_offset for each in plan.stations}
    codes = machine.work_offsets or ("G54",)
    station = Station(
        id=f"st{k}",
        orientation=Orientation(up=up),
        work_offset=next((each for each in codes if each not in used), codes[-1]),
        at=on_tombstone(machine),
    )
    if last is not None:
        station = station.model_copy(update={"takes": last.id, "zero": in_the_middle("part")})
    return apply(
        plan, [AddSetup(setup=Setup(id=f"s{k}", machine=machine.key, stations=(station,)))]
    )
