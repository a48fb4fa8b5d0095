"""What is known about a setup and an operation while a plan is evaluated."""

from __future__ import annotations

import logging
from collections.abc import Callable
from dataclasses import dataclass, field, fields, replace
from typing import Any, Generic

import numpy as np
from shapely.geometry.base import BaseGeometry
from typing_extensions import TypeVar

from machining.geometry.frames import Direction, Vector
from machining.motion.path import Path, PathTime
from machining.motion.paths.cleared import Level
from machining.placing.zero import Lie
from machining.plan.at import Faces
from machining.plan.base import OperationBase
from machining.plan.document import LoadedTool, Plan, Setup, Station
from machining.plan.operation import Operation
from machining.quantities.computed import Computed, Given, Value, work_out
from machining.quantities.errors import MachiningError, OutOfRange
from machining.removal.found import Found
from machining.removal.gouge import Compared
from machining.removal.turned_loads import FoundTurned
from machining.world.capability import Rig
from machining.world.gear import HeldBy
from machining.world.geometry import PartGeometry
from machining.world.library import Library
from machining.world.machine import Machine, Plate, SpindleNose, Table, Tombstone
from machining.world.material import CuttingData, Material
from machining.world.tool import Holder, Tool

from .blank import BlankFacts
from .observed import Kit, Meets, Seen
from .place import Work
from .stand import Stand
from .state import State

log = logging.getLogger("machining")
QUESTIONS = ("hold", "reach", "travel", "cut", "size")


@dataclass(frozen=True, slots=True)
class Crossed:
    """Two positions (from 0) of stations that take the same room, the earlier one first."""

    here: StationFacts
    position: int
    there: StationFacts
    other: int


@dataclass
class SetupFacts:
    """``planned`` is the setup as the plan states it; ``operations`` are those of all its
    stations, in their order; ``crossed`` are pairs of positions on one table that take the same
    room.
    """

    planned: Setup
    number: int
    machine: Machine | None
    stations: list[StationFacts] = field(default_factory=list)
    operations: list[OperationFacts] = field(default_factory=list)
    figures: dict[str, Computed] = field(default_factory=dict)
    crossed: list[Crossed] = field(default_factory=list)
    shown: dict[str, Any] = field(default_factory=dict)  # what is made of these facts, by name

    @property
    def id(self) -> str:
        return self.planned.id

    def work_out(self, fn: Callable[..., float], name: str, /, **inputs: Value) -> Computed:
        self.figures[name] = figure = work_out(fn, f"{self.id}.{name}", **inputs)
        return figure

    @property
    def on(self) -> str:
        """What an edit of its own fields names."""
        return f"setup:{self.planned.id}"

    @property
    def first(self) -> StationFacts:
        return self.stations[0]


def base_of(
    place: Table | SpindleNose | None, on: Tombstone | None, plate: Plate | None = None
) -> Vector:
    """The middle of a tombstone's face that is turned to the tool, or of a plate's top, from the
    middle of the table's top (mm); without one, that.
    """
    if on is not None and isinstance(place, Table):
        return np.array(place.face_middle(on))
    return np.array([0.0, 0.0, plate.thick_mm if plate is not None else 0.0])


@dataclass
class StationFacts:
    """``planned`` is the station as the plan states it; what follows is what was found about it.
    ``item`` is the library's record of what holds the part, ``seat_mm`` how high above the table,
    a ``plate`` on it or a ``tombstone``'s face the stock's bottom stands. ``blank_sides`` are the
    directions in which the stock still shows the blank's own surface: of the machine, and which
    side of the part that is. ``place`` is where in the machine it is, None where that is not known.
    ``key`` is equal for stations whose operations are answered alike, ``anywhere_key`` for those
    that may stand elsewhere on their table.
    """

    setup: SetupFacts
    planned: Station
    geometry: PartGeometry
    item: HeldBy | None
    lie: Lie
    part_outline: BaseGeometry
    arrives: State
    blank_sides: dict[Direction, Direction]
    place: Table | SpindleNose | None = None
    tombstone: Tombstone | None = None
    plate: Plate | None = None
    seat_mm: float = 0.0
    most_rpm: float = 1e6  # of what turns with the part
    stand: Stand = Stand()
    figures: dict[str, Computed] = field(default_factory=dict)
    unknown: dict[str, str] = field(default_factory=dict)
    operations: list[OperationFacts] = field(default_factory=list)
    key: str = ""
    anywhere_key: str = ""

    @property
    def id(self) -> str:
        return self.planned.id

    @property
    def on(self) -> str:
        """What an edit of its own fields names."""
        return f"station:{self.planned.id}"

    @property
    def work(self) -> list[Operation]:
        """Its operations as the plan states them."""
        return [op for op in self.setup.planned.operations if self._is_mine(op)]

    def _is_mine(self, op: Operation) -> bool:
        return self.setup.planned.station_of(op) is self.planned

    def during(self, stand: Stand) -> StationFacts:
        """With what stands there at a moment."""
        return self if stand is self.stand else replace(self, stand=stand)

    @property
    def number(self) -> int:
        return self.setup.number

    @property
    def machine(self) -> Machine | None:
        return self.setup.machine

    @property
    def turns(self) -> bool:
        """Is it before a spindle that turns the part?"""
        return isinstance(self.place, SpindleNose)

    def on_place(self, point: Vector, position: int) -> Vector:
        """A point of its frame (mm) at one of its positions: from the middle of the table and from
        its top, before a spindle that turns the part from its axis. On a tombstone, with its face
        turned to the tool.
        """
        middle = (self.lie.stock_low[:2] + self.lie.stock_high[:2]) / 2.0
        across = point[:2] if self.turns else point[:2] - middle + self.planned.spots[position]
        stands = np.array([*across, point[2] - self.lie.stock_low[2] + self.seat_mm])
        return stands + self.base

    @property
    def base(self) -> Vector:
        """What it stands on, from the middle of the table's top (mm)."""
        return base_of(self.place, self.tombstone, self.plate)

    def turned_deg(self, position: int) -> float:
        """The turn of the table that brings the face to the tool which a position is on."""
        at, on = self.planned.at, self.tombstone
        if on is None or not isinstance(at, Faces):
            return 0.0
        return on.turned_deg(at.face_of[position])

    def put_in_kg(self, facts: PlanFacts) -> float | None:
        """What its part weighs as it is put in, kg; None while no material is chosen."""
        of = facts.material
        return None if of is None else self.arrives.volume() * of.density_kg_dm3 / 1e6

    @property
    def leaves(self) -> State:
        """The stock after its last operation."""
        return self.operations[-1].after if self.operations else self.arrives

    def work_out(self, fn: Callable[..., float], name: str, /, **inputs: Value) -> Computed:
        self.figures[name] = figure = work_out(fn, f"{self._figures_of}.{name}", **inputs)
        return figure

    @property
    def _figures_of(self) -> str:
        """Whose figures they are: the setup's, where it has no other station."""
        return self.setup.id if len(self.setup.planned.stations) == 1 else self.id


K = TypeVar("K", bound=OperationBase, default=Operation, covariant=True)


@dataclass(kw_only=True, eq=False)
class OperationFacts(Generic[K]):
    """What is known of any operation. ``before`` and ``after`` are the stock in its station,
    ``turns`` says whether that turns; ``unknown`` says why a question has no answer. One that
    ``waits`` stands as it did before the last edit. ``key`` is equal for equal facts of its own.
    """

    operation: K
    station: StationFacts
    before: State
    after: State
    key: str = ""
    turns: bool = False
    waits: bool = False
    aimed: Lie | None = None
    number: int = 0
    loaded: LoadedTool | None = None
    kit: Kit | None = None
    rig: Rig | None = None
    data: CuttingData | None = None
    work: Work | None = None
    work_problem: MachiningError | None = None
    metal: tuple[Level, ...] = ()
    path: Path = Path()
    path_key: str = ""
    trace_key: str = ""
    found: Found | None = None
    found_turned: FoundTurned | None = None
    compared: Compared | None = None
    time: PathTime = PathTime()
    seen: Seen = Seen()
    meets: Meets | None = None
    figures: dict[str, Computed] = field(default_factory=dict)
    unknown: dict[str, str] = field(default_factory=dict)
    shown: dict[str, Any] = field(default_factory=dict)  # what is made of these facts, by name

    @property
    def id(self) -> str:
        return self.operation.id

    @property
    def setup(self) -> SetupFacts:
        return self.station.setup

    @property
    def lie(self) -> Lie:
        """How the part lies for it: as at its station, or with its aim turned to the tool."""
        return self.aimed or self.station.lie

    @property
    def stand(self) -> Stand:
        """What stands round its part while it is cut."""
        return self.station.stand.during.get(self.operation.id, self.station.stand)

    @property
    def highest(self) -> float:
        """Of the stock and of what lies on it, where it is cut from above (mm)."""
        lying = () if self.aimed is not None else self.stand.of("clamp", "heel")
        return max([float(self.lie.stock_high[2]), *(body.top for body in lying)])

    @property
    def on(self) -> str:
        """What an edit of this operation's own fields names."""
        return f"operation:{self.operation.id}"

    def value(self, name: str) -> float | None:
        figure = self.figures.get(name)
        return None if figure is None else figure.value

    def needs(self, *names: str) -> bool:
        return all(name in self.figures for name in names)


@dataclass(kw_only=True, eq=False)
class Ready(OperationFacts[K]):
    """An operation with its tool on a machine at its work: what figures and rules are of."""

    loaded: LoadedTool
    kit: Kit
    work: Work
    rig: Rig

    @property
    def machine(self) -> Machine:
        return self.rig.machine

    @property
    def tool(self) -> Tool:
        return self.kit.tool

    @property
    def holder(self) -> Holder:
        return self.kit.holder

    @property
    def gauge_mm(self) -> float:
        """From its tip to the gauge line."""
        return self.loaded.stick_out_mm + self.holder.length_mm

    @property
    def tool_origin(self) -> str:
        return f"tool:T{self.loaded.number}"

    def work_out(self, fn: Callable[..., float], name: str, /, **inputs: Value) -> Computed:
        self.figures[name] = figure = work_out(fn, f"{self.operation.id}.{name}", **inputs)
        return figure

    def of_tool(self, field_name: str) -> Given:
        value = getattr(self.tool, field_name)
        if value is None:
            raise OutOfRange(field_name, "missing", f"given for {self.tool.name}")
        return Given(float(value), self.tool_origin)

    def of_machine(self, value: float) -> Given:
        return Given(value, f"machine:{self.machine.name}")


def ready(op: OperationFacts) -> Ready | None:
    """The same with nothing left open, None where tool, machine, place or work is not known."""
    if op.loaded is None or op.kit is None or op.work is None or op.rig is None:
        return None
    return Ready(**{each.name: getattr(op, each.name) for each in fields(OperationFacts)})


@dataclass
class PlanFacts:
    plan: Plan
    library: Library
    geometry: PartGeometry
    blank: BlankFacts
    material: Material | None
    setups: list[SetupFacts] = field(default_factory=list)
    every: list[OperationFacts] = field(default_factory=list)
    shown: dict[Any, Any] = field(default_factory=dict, init=False)  # see once.py
    key: str = ""

    def shop(self, name: str) -> Given:
        return Given(float(getattr(self.library.settings, name)), f"shop.{name}")

    @property
    def feed_step(self) -> Given:
        """The step feeds are offered in (mm/min), round in the plan's units."""
        step = self.library.settings.feed_step(self.plan.units)
        return Given(step, "shop.feed_step_mm_min")

    def of_material(self, name: str) -> Given:
        assert self.material is not None
        return Given(float(getattr(self.material, name)), f"material:{self.material.name}")

    def operations(self) -> list[OperationFacts]:
        """All of them once the plan was walked, setup by setup."""
        return self.every or [op for setup in self.setups for op in setup.operations]

    @property
    def stations(self) -> list[StationFacts]:
        return [station for setup in self.setups for station in setup.stations]

    def first_on_its_machine(self, setup: SetupFacts) -> bool:
        """Is it the first of the plan's setups on its machine, if that is known?"""
        on_it = (each for each in self.setups if each.machine is setup.machine)
        return setup.machine is not None and next(on_it) is setup

    def station(self, id: str) -> StationFacts:
        return next(each for each in self.stations if each.id == id)

    def ready(self) -> list[Ready]:
        return [op for op in self.operations() if isinstance(op, Ready)]


NOT_WORKED_OUT = "It could not be worked out; the log says where it stopped."


def given_up(op: OperationFacts, doing: str) -> None:
    """The last net under one operation: a fault of the program leaves its questions unknown, and a
    line in the log.
    """
    log.exception(
        "operation %s (%s) could not be worked out: %s", op.operation.id, op.operation.kind, doing
    )
    for question in QUESTIONS:
        op.unknown.setdefault(question, NOT_WORKED_OUT)


def guarded(facts: StationFacts | OperationFacts, question: str, fill: Callable[[], None]) -> None:
    """Run one question's facts; what can't be worked out becomes 'unknown' with the
    sentence why.
    """
    try:
        fill()
    except MachiningError as problem:
        facts.unknown.setdefault(question, str(problem))
