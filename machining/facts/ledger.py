"""The ledger of a setup's cycle: every event in its order, on the carrier it happens on, and what
waits for what.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import cached_property, partial
from typing import Literal, NamedTuple, TypeAlias

import numpy as np

from machining.geometry.frames import Vector
from machining.motion.timing import Drive, rapid_time
from machining.quantities.computed import Computed
from machining.world.machine import Table
from machining.world.spindle import Spindle

from . import clamp_change, index
from .begins import First, begins_with
from .changes import Parts, change_of, changed_by
from .context import OperationFacts, PlanFacts, SetupFacts
from .once import once
from .times import cycles

Kind = Literal[
    "change",
    "start",
    "range",
    "move",
    "cut",
    "link",
    "rapid",
    "index",
    "wait",
    "settle",
    "stop",
    "pallet",
    "bar",
    "probe",
]
MOVES: frozenset[Kind] = frozenset({"move", "rapid", "index", "wait", "settle"})
BY_HAND: frozenset[Kind] = frozenset({"range", "stop"})
OF_MACHINE: frozenset[Kind] = frozenset({"pallet", "bar", "probe"})
At: TypeAlias = tuple[OperationFacts, int]  # at one of its station's positions
SAME_PLACES = 6  # decimals of a mm


class Event(NamedTuple):
    """What happens on a carrier from ``starts_s`` on: of an operation at a station's position, or
    of the machine where no operation is named. ``why`` is the figure that tells how long.
    """

    kind: Kind
    carrier: str
    starts_s: float
    seconds: float
    operation: str = ""
    position: int = 0
    why: str = ""

    @property
    def ends_s(self) -> float:
        return self.starts_s + self.seconds


@dataclass(eq=False)
class Ledger:
    """``events`` in the order they were written, and of which parts the first change to each
    operation's tool is made, where its machine's are known; not to be added to.
    """

    events: list[Event] = field(default_factory=list)
    changes: dict[str, Parts] = field(default_factory=dict)

    @cached_property
    def ends_s(self) -> float:
        return _end_of(self.events)

    @cached_property
    def _seconds(self) -> dict[Kind, float]:
        found = defaultdict[Kind, float](float)
        for each in self.events:
            found[each.kind] += each.seconds
        return found

    def of(self, *kinds: Kind) -> float:
        """Seconds of events of these kinds."""
        return sum(self._seconds.get(each, 0.0) for each in kinds)

    def count(self, kind: Kind) -> int:
        return sum(each.kind == kind for each in self.events)

    @cached_property
    def by_operation(self) -> dict[str, list[Event]]:
        """The events of each operation, at all its positions."""
        found = defaultdict[str, list[Event]](list)
        for each in self.events:
            found[each.operation].append(each)
        return found


def _end_of(events: list[Event]) -> float:
    return max((each.ends_s for each in events), default=0.0)


def in_order(setup: SetupFacts, filled: int | None = None) -> list[At]:
    """Every operation of a cycle at every position that is ``filled``, as it comes; None: at all
    of them.
    """
    places = [each.planned.positions for each in setup.stations]
    most = max(places) if filled is None else min(max(places), filled)
    every = [
        (op, k) for op in setup.operations for k in range(min(op.station.planned.positions, most))
    ]
    return every if setup.planned.order == "by tool" else sorted(every, key=lambda at: at[1])


def of_plan(facts: PlanFacts) -> dict[str, Ledger]:
    """The cycle of every setup, by its id."""
    return once(facts, "ledgers", lambda: {s.id: of_setup(s, facts) for s in facts.setups})


def of_setup(setup: SetupFacts, facts: PlanFacts, filled: int | None = None) -> Ledger:
    """The cycle of a setup, as it repeats, of all its positions or those that are ``filled``: the
    first operation finds tool and range of the last one where more than one cycle runs.
    """
    stations = setup.stations
    again = cycles(setup.planned, facts.plan.quantity) > 1
    first = [*begins_with(setup, facts)]
    origins = _origins(setup)
    if any(op.waits for op in setup.operations):
        return _written(setup, facts, again, first, origins, filled)
    key = (
        *("ledger", facts.key, setup.id, setup.planned.machine, setup.planned.order, again, filled),
        *((op.id, op.key, op.station.id, origins[op.id].tobytes()) for op in setup.operations),
        *changed_by(setup),
        *((each.id, *map(each.turned_deg, range(each.planned.positions))) for each in stations),
        *((figure.id, figure.value, parts) for _, figure, parts in first),
    )
    fresh = partial(_written, setup, facts, again, first, origins, filled)
    return stations[0].arrives.memo.get(key, fresh)


def between(setup: SetupFacts, facts: PlanFacts) -> Callable[[At | None, At], float]:
    """Asks what lies between two operations of a setup that follow each other, or before the first
    (s): change of tool and range, turn of an axis, the way over. Another carrier has its tool by
    then.
    """
    return _Writing(setup, facts, [], _origins(setup)).between


def _origins(setup: SetupFacts) -> dict[str, Vector]:
    """Where each operation's frame is at each position (n, 3), from the first of them, mm."""
    known, found = dict[tuple[str, str], Vector](), dict[str, Vector]()
    for op in setup.operations:
        seen_from = op.station.id, op.operation.aim or "" if op.aimed is not None else ""
        if seen_from not in known:
            known[seen_from] = index.origins(op)
        found[op.id] = known[seen_from]
    first = next((each[0] for each in found.values()), np.zeros(3))
    return {id: (each - first).round(SAME_PLACES) + 0.0 for id, each in found.items()}


def _written(
    setup: SetupFacts,
    facts: PlanFacts,
    again: bool,
    first: list[First],
    origins: dict[str, Vector],
    filled: int | None = None,
) -> Ledger:
    """``again`` where a cycle comes after another one."""
    run = in_order(setup, filled)
    writing = _Writing(setup, facts, run if again else [], origins)
    for kind, figure, parts in first:
        writing.before(kind, figure, parts)
    for k, (op, position) in enumerate(run):
        writing.operation(op, position, run[k - 1] if k else None)
    writing.pallet()
    return Ledger(writing.events, writing.changes)


class _Writing:
    """What is known while a ledger is written: since when the work is free, and each carrier; what
    turns; which tool and range were there last.
    """

    def __init__(
        self, setup: SetupFacts, facts: PlanFacts, before: list[At], origins: dict[str, Vector]
    ) -> None:
        self.setup, self.facts, self.origins = setup, facts, origins
        self.events = list[Event]()
        self.at = self.began = 0.0  # its first operation begins when the bar is there
        self.free: dict[str, float] = {}
        self.turning: set[str] = set()
        self.tools: dict[str, str] = {}
        self.ranges: dict[str, str] = {}
        self.stands: dict[str, index.Angles] = {}  # the axes of each place
        # of a station's side, at a face
        self.angles: dict[tuple[str, str, float], index.Angles | None] = {}
        self.turns: dict[tuple[object, ...], tuple[index.Angles, float]] = {}
        self.own: dict[str, list[tuple[Kind, float, str]]] = {}
        self.ways: dict[tuple[str, str, bytes], float] = {}  # between operations so far apart
        # of each carrier: what it did last, where, and when its last change was done
        self.last: dict[str, At] = {}
        self.changed_at: dict[str, float] = {}
        self.changes: dict[str, Parts] = {}
        for op, position in before:
            self._leaves(op, position)
        if before:
            self._turn(*before[-1])

    def _leaves(self, op: OperationFacts, position: int) -> None:
        if op.rig is None:
            return
        self.last[op.rig.carrier.id] = op, position
        if op.loaded is not None:
            self.tools[op.rig.carrier.id] = op.loaded.id
        if op.seen.spindle_range is not None:
            self.ranges[op.rig.spindle.id] = op.seen.spindle_range

    def _add(self, kind: Kind, seconds: float, op: OperationFacts, position: int, why: str) -> None:
        """An event that the work waits for."""
        if seconds <= 0:
            return
        carrier = op.rig.carrier.id if op.rig is not None else ""
        self.events.append(Event(kind, carrier, self.at, seconds, op.id, position, why))
        self.at += seconds
        self.free[carrier] = self.at

    def operation(self, op: OperationFacts, position: int, before: At | None) -> None:
        self._comes(op, position, before)
        self._own(op, position)
        stop = clamp_change.stop_s(op, self.facts.library.settings)
        if stop is not None and not self._is_for_range(op):
            self._add("stop", stop, op, position, f"{self.setup.id}.stops")
            self.turning.clear()
        self._leaves(op, position)

    def _comes(self, op: OperationFacts, position: int, before: At | None) -> None:
        """All that has to be done until it cuts."""
        changed = self._change(op, position)
        if op.rig is not None:
            self._range(op, op.rig.spindle, position)
            self._start(op, op.rig.spindle, position)
        turned = self._turn(op, position)
        self._add("index", turned, op, position, _why_index(op))
        if before is not None and not changed and not turned:
            self._add("move", self._way_over(before, (op, position)), op, position, "")

    def between(self, before: At | None, after: At) -> float:
        """What it takes until an operation cuts, right after another or as the first of all (s)."""
        self.at, carrier = 0.0, ""
        for each in (self.free, self.turning, self.tools, self.ranges, self.stands, self.last):
            each.clear()
        self.events.clear()
        if before is not None:
            op = before[0]
            self._leaves(*before)
            self._turn(*before)
            if op.rig is not None:
                carrier = op.rig.carrier.id
                self.changed_at = {carrier: -op.time.total_s}
                if clamp_change.stop_s(op, self.facts.library.settings) is None:
                    self.turning.add(op.rig.spindle.id)
        self._comes(*after, before)
        elsewhere = [
            e for e in self.events if e.kind == "change" and carrier not in ("", e.carrier)
        ]
        return self.at - sum(each.seconds for each in elsewhere)

    def _turn(self, op: OperationFacts, position: int) -> float:
        """Bring a side or a face to the tool (s)."""
        place, side = op.station.place, op.operation.aim or "" if op.aimed is not None else ""
        at = (op.station.id, side, op.station.turned_deg(position))
        if at not in self.angles:
            self.angles[at] = index.angles(op, position)
        to = self.angles[at]
        if place is None or to is None or self.stands.get(place.id) == to:
            return 0.0
        before = self.stands.get(place.id, {})
        key = (place.id, *before.items(), "to", *to.items())
        if key not in self.turns:
            self.turns[key] = index.moved(place, before, to)
        self.stands[place.id], taken = self.turns[key]
        return taken

    def _way_over(self, before: At, after: At) -> float:
        """What the same tool takes from the end of one path to the start of the next (s)."""
        (last, there), (op, here) = before, after
        end, start = last.path.end, op.path.start
        if op.rig is None or end is None or start is None:
            return 0.0
        if last.rig is None or last.rig.carrier.id != op.rig.carrier.id:
            return 0.0
        by = self.origins[op.id][here] - self.origins[last.id][there]
        key = (last.id, op.id, by.tobytes())
        if key not in self.ways:
            self.ways[key] = rapid_time(end, start + by, Drive.of(op.rig))
        return self.ways[key]

    def _change(self, op: OperationFacts, position: int) -> bool:
        """A tool change; a carrier that is free changes while another cuts."""
        if op.rig is None or op.loaded is None:
            return False
        carrier = op.rig.carrier
        if self.tools.get(carrier.id) == op.loaded.id:
            return False
        starts = self.free.get(carrier.id, self.began)
        last, there = self.last.get(carrier.id, (None, 0))
        apart = self.origins[op.id][position]
        apart = apart - (self.origins[last.id][there] if last is not None else apart)
        since = starts - self.changed_at.get(carrier.id, 0.0)
        made, why = change_of(op, last, apart, since), why_change(self.setup, carrier.id)
        if made.parts is not None:
            why = f"{self.setup.id}.change_{op.id}"
            self.changes.setdefault(op.id, made.parts)
        self.events.append(Event("change", carrier.id, starts, made.seconds, op.id, position, why))
        ends = self.changed_at[carrier.id] = starts + made.seconds
        self.at = self.free[carrier.id] = max(self.at, ends)
        if op.rig.spindle.turns == "tool":
            self.turning.add(op.rig.spindle.id)  # from chip to chip it has started too
        return True

    def _range(self, op: OperationFacts, spindle: Spindle, position: int) -> None:
        now, last = op.seen.spindle_range, self.ranges.get(spindle.id)
        if now is not None and last is not None and now != last and spindle.range_change_s > 0:
            why = f"{self.setup.id}.range_changes"
            self._add("range", spindle.range_change_s, op, position, why)
            self.turning.discard(spindle.id)

    def _start(self, op: OperationFacts, spindle: Spindle, position: int) -> None:
        if spindle.id in self.turning or "spindle_start" not in op.figures:
            return
        why = op.figures["spindle_start"]
        self._add("start", why.value, op, position, why.id)
        self.turning.add(spindle.id)

    def _own(self, op: OperationFacts, position: int) -> None:
        """What it takes itself, the same at every position."""
        if op.id not in self.own:
            self.own[op.id] = [each for each in _events_of(op) if each[1] > 0]
        for kind, seconds, why in self.own[op.id]:
            self._add(kind, seconds, op, position, why)

    def _is_for_range(self, op: OperationFacts) -> bool:
        """Is the stop after it the one in which a range is changed by hand?"""
        then = next((each for each in self.setup.operations if each.number > op.number), None)
        if op.rig is None or then is None:
            return False
        return (
            op.rig.spindle.range_change_s > 0
            and then.rig is not None
            and then.rig.spindle.id == op.rig.spindle.id
            and then.seen.spindle_range is not None
            and then.seen.spindle_range != op.seen.spindle_range
        )

    def before(self, kind: Kind, figure: Computed, parts: int) -> None:
        seconds = parts * figure.value
        self.events.append(Event(kind, "", self.at, seconds, "", 0, figure.id))
        self.at += seconds
        self.began = self.at

    def pallet(self) -> None:
        machine = self.setup.machine
        for table in machine.places if machine is not None and self.events else ():
            if isinstance(table, Table) and table.pallets > 1:
                why = f"{self.setup.id}.pallet_change"
                event = Event("pallet", "", _end_of(self.events), table.pallet_change_s, why=why)
                self.events.append(event)


def _events_of(op: OperationFacts) -> Iterator[tuple[Kind, float, str]]:
    """What an operation takes itself, with the figure that says why."""
    settle = op.figures.get("settle")
    edges = op.figures.get("index_time") if op.aimed is None else None
    turned, settled = edges.value if edges else 0.0, settle.value if settle else 0.0
    yield "index", turned, edges.id if edges else ""
    yield "rapid", op.time.rapid_s, ""
    yield "cut", op.time.cutting_s - op.time.link_s, ""
    yield "link", op.time.link_s, ""
    waits = op.figures.get("speed_waits")
    yield "wait", op.time.dwell_s - turned - settled, waits.id if waits else ""
    yield "settle", settled, settle.id if settle else ""


def _why_index(op: OperationFacts) -> str:
    figure = op.figures.get("index_time") if op.aimed is not None else None
    return figure.id if figure is not None else ""


def why_change(setup: SetupFacts, carrier: str) -> str:
    first = setup.machine.carriers[0].id if setup.machine is not None else carrier
    return f"{setup.id}.changes" if carrier == first else f"{setup.id}.changes_{carrier}"
