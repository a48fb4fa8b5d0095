"""Propose a route: whole plans of different character for a part, each worked out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import groupby
from typing import Any, NamedTuple

from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Edit, RemoveSetup, UnloadTool
from machining.quantities.said import Said, Shown
from machining.ways.first_setup import with_usual_stock
from machining.world.capability import turns_work
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.stock import Block

from ..abreast import Helpers
from ..telling import Tell
from .characters import Found, characters
from .elsewhere import elsewhere
from .plain import told
from .planner import Planner
from .route import Bench, Route, stops_of
from .sides import unfinished

LOADS = Said("Loads, and the order of their operations")


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
    of those named), with reasons, figures, what could not be planned, and what came of the machines
    that none begins on. Once one is whole it is carried over to the others, and only where it does
    not go there they are planned anew. Setups that are there stay as they are, or go where it is
    planned ``afresh``. ``tell`` hears how far it is (share, words) and what is proposed so far; so
    many ``hands`` of this machine plan at the same time. Of setups that leave nothing to plan that
    alone is told. Raises OutOfRange for a part that nothing is known of.
    """
    begun = _begun(plan, library, afresh)
    bench = Bench(library, memo, taken=_ids(begun), kept=begun.setups)
    facts = bench.walk(begun)  # raises what it lacks
    if begun.setups and not unfinished(facts, memo):
        return {"proposals": [], "elsewhere": [], "nothing_left": True}
    before = bench.evaluate(begun)
    stopped = frozenset(each.key for each in stops_of(before))
    start = Route(begun, stopped=stopped, unknown=before.unknown)
    able = [each for each in library.machines.values() if not machines or each.key in machines]
    able.sort(key=lambda each: _rank(each, begun, library))
    planner = Planner(bench, plan, start, able)

    def done(task: _Task) -> Found | None:
        return _done(task, planner)

    with Helpers(done, hands, memo.go_on) as helpers:
        search = _Search(planner, helpers, tell)
        search.look_on_all()
        return search.made_better()


class _Task(NamedTuple):
    """On the machine of this ``turn``; ``found`` is the first whole one, or what is made better."""

    what: str
    turn: int
    found: Found | None = None


def _done(task: _Task, planner: Planner) -> Found | None:
    if task.what == "ahead":
        return planner.ahead(task.turn)
    if task.what == "better" and task.found is not None:
        return planner.better(task.turn, task.found)
    return planner.on(task.turn, task.found)


@dataclass(slots=True)
class _Search:
    """What was ``found`` by the turn of its machine, None where nothing could be begun; the turns
    that were ``skipped``; those made ``better``; and ``who`` of those that help knows most of a
    machine's turn.
    """

    planner: Planner
    helpers: Helpers[_Task, Found | None]
    tell: Tell
    found: dict[int, Found | None] = field(default_factory=dict)
    skipped: list[int] = field(default_factory=list)
    better: list[Found] | None = None
    who: dict[int, int] = field(default_factory=dict)
    share: float = 0.0

    def look_on_all(self) -> None:
        """One machine after the other until the part comes out of one, so many hands ahead; then
        those that turn the work, or do not, together.
        """
        plan, begins = self.planner.plan, self.planner.begins.plan
        turned, decided = begins.stock.TURNED, plan.stock != Block()
        library, able = self.planner.bench.library, self.planner.able
        for turns, of in groupby(range(len(able)), lambda turn: turns_work(able[turn])):
            rest = [*of]
            if decided and turns != turned and any(e.is_all(turned, library) for e in self.every):
                self.skipped += rest  # a bar is turned, and a block milled, where that goes
                continue
            while rest:
                ahead = [] if self.first else rest[: self.helpers.hands]
                if len(ahead) > 1:
                    self._asked([_Task("ahead", each) for each in ahead if each not in self.who])
                together = rest if self.first else rest[:1]
                self._look_on(together)
                rest = rest[len(together) :]

    def made_better(self) -> dict[str, Any]:
        """What is proposed in the end."""
        able = self.planner.able
        self.tell(len(able) / (len(able) + 1), LOADS, self.so_far())
        picked = characters(self.every, self.planner.bench.library)
        of = {id(found): turn for turn, found in self.found.items()}
        turns = [of[id(each)] for each in picked]
        came = self._asked([_Task("better", *each) for each in zip(turns, picked, strict=True)])
        self.found |= zip(turns, came, strict=True)
        self.better = [each for each in came if each is not None]
        return self.so_far()

    @property
    def every(self) -> list[Found]:
        return [each for each in self.found.values() if each is not None]

    @property
    def first(self) -> Found | None:
        """The first whole one."""
        return next((each for each in self.every if each.whole), None)

    def so_far(self) -> dict[str, Any]:
        planner = self.planner
        among = self.every if self.better is None else self.better
        picked = characters(among, planner.bench.library)
        rest = elsewhere(planner.able, self.found, picked, self.better or (), self.skipped)
        of = planner.plan, planner.begins.plan
        return {"proposals": told(picked, of, planner.bench), "elsewhere": [*rest]}

    def _look_on(self, turns: Sequence[int]) -> None:
        first = self.first
        came = self._asked([_Task("on", each, first) for each in turns])
        self.found |= zip(turns, came, strict=True)

    def _asked(self, tasks: Sequence[_Task]) -> list[Found | None]:
        """What came of each, by who knows its machine's turn where anybody does."""
        came = dict[int, Found | None]()

        def begun(k: int) -> _Task:
            if tasks[k].turn not in self.who:
                self._say(tasks[k].turn)
            return tasks[k]

        for k, who, one in self.helpers.do(
            begun, len(tasks), lambda k: self.who.get(tasks[k].turn)
        ):
            self.who[tasks[k].turn] = who
            came[k] = one
        return [came[k] for k in range(len(tasks))]

    def _say(self, turn: int) -> None:
        machine, many = self.planner.able[turn], len(self.planner.able) + 1
        self.share = max(self.share, turn / many)
        doing = Said("On {machine}", {"machine": Shown(machine.name)})
        self.tell(self.share, doing, self.so_far())


def _begun(plan: Plan, library: Library, afresh: bool) -> Plan:
    gone: list[Edit] = []
    if afresh:
        gone += [RemoveSetup(setup=each.id) for each in reversed(plan.setups)]
        gone += [UnloadTool(tool=each.id) for each in plan.tools]
    bare = apply(plan, gone)
    return apply(bare, with_usual_stock(bare, library.settings))


def _rank(machine: Machine, plan: Plan, library: Library) -> tuple[float, ...]:
    """Bars to lathes first, blocks to mills; the shop's first machine before the others."""
    turns = turns_work(machine) == plan.stock.TURNED
    return (not turns, machine.key != library.settings.first_machine)


def _ids(plan: Plan) -> frozenset[str]:
    return frozenset(
        [each.id for each in plan.tools]
        + [op.id for setup in plan.setups for op in setup.operations]
    )
