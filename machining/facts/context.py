"""What is known about a setup and an operation while a plan is evaluated."""

from __future__ import annotations

import logging
from collections.abc import Callable
from dataclasses import dataclass, field

from shapely.geometry.base import BaseGeometry

from machining.geometry.regions import Region
from machining.geometry.solids import Solid
from machining.motion.path import Path, PathTime
from machining.placing.zero import Lie
from machining.plan.document import LoadedTool, Plan, Setup
from machining.plan.operation import Operation
from machining.quantities.computed import Computed, Given, Value, work_out
from machining.quantities.errors import MachiningError, OutOfRange
from machining.world.geometry import PartGeometry
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.material import CuttingData, Material
from machining.world.tool import Assembly, Holder, Tool
from machining.world.workholding import Chuck, Vise

from .place import Work

log = logging.getLogger("machining")
QUESTIONS = ("hold", "reach", "travel", "cut", "size")


@dataclass(frozen=True, slots=True)
class Jaw:
    """A jaw as a box in the setup frame: its rectangle and the height of its top."""

    region: BaseGeometry
    top: float
    bottom: float
    fixed: bool


@dataclass
class SetupFacts:
    """``planned`` is the setup as the plan states it; what follows is what was found about it."""

    planned: Setup
    number: int
    machine: Machine | None
    vise: Vise | None
    chuck: Chuck | None
    lie: Lie
    part_outline: BaseGeometry
    stock_key: str
    stock_start: Solid
    blank_sides: frozenset[str]
    jaws: tuple[Jaw, ...] = ()
    figures: dict[str, Computed] = field(default_factory=dict)
    unknown: dict[str, str] = field(default_factory=dict)
    operations: list[OperationFacts] = field(default_factory=list)
    stock_end_key: str = ""
    jaws_key: tuple[object, ...] = ()
    grip_diameter: float = 0.0
    key: str = ""

    @property
    def seat_mm(self) -> float:
        """How high above the table the stock's bottom stands; on the table itself where no vise is
        known.
        """
        held = self.planned.in_vise
        return (
            self.vise.bed_height_mm + self.vise.jaw_height_mm - held.grip_depth_mm
            if self.vise is not None and held is not None
            else 0.0
        )

    def work_out(self, fn: Callable[..., float], name: str, /, **inputs: Value) -> Computed:
        self.figures[name] = figure = work_out(fn, f"{self.planned.id}.{name}", **inputs)
        return figure


@dataclass
class OperationFacts:
    """``stock_before`` and ``stock_after`` are in the setup frame, their sections what they sweep
    when turned, for turned operations; ``unknown`` says why a question has no answer.
    """

    operation: Operation
    number: int
    setup: SetupFacts
    loaded: LoadedTool | None
    assembly: Assembly | None
    tool: Tool | None
    holder: Holder | None
    data: CuttingData | None
    work: Work | None = None
    work_problem: MachiningError | None = None
    stock_before: Solid | None = None
    stock_after: Solid | None = None
    section_before: Region | None = None
    section_after: Region | None = None
    key_before: str = ""
    key_after: str = ""
    path: Path | None = None
    path_key: str = ""
    trace_key: str = ""
    time: PathTime | None = None
    change_s: float = 0.0
    figures: dict[str, Computed] = field(default_factory=dict)
    unknown: dict[str, str] = field(default_factory=dict)
    notes: dict[str, float | str] = field(default_factory=dict)

    def work_out(self, fn: Callable[..., float], name: str, /, **inputs: Value) -> Computed:
        self.figures[name] = figure = work_out(fn, f"{self.operation.id}.{name}", **inputs)
        return figure

    def value(self, name: str) -> float | None:
        figure = self.figures.get(name)
        return None if figure is None else figure.value

    def needs(self, *names: str) -> bool:
        return all(name in self.figures for name in names)

    def of_tool(self, field_name: str) -> Given:
        value = getattr(self.tool, field_name)
        if value is None:
            raise OutOfRange(
                field_name, "missing", f"given for {self.tool.name if self.tool else 'the tool'}"
            )
        return Given(float(value), f"tool:T{self.loaded.number if self.loaded else '?'}")

    def of_machine(self, value: float) -> Given:
        return Given(value, f"machine:{self.setup.machine.name if self.setup.machine else '?'}")


@dataclass
class PlanFacts:
    plan: Plan
    library: Library
    geometry: PartGeometry
    material: Material | None
    setups: list[SetupFacts] = field(default_factory=list)
    key: str = ""

    def shop(self, name: str) -> Given:
        return Given(float(getattr(self.library.settings, name)), f"shop.{name}")

    def of_material(self, name: str) -> Given:
        assert self.material is not None
        return Given(float(getattr(self.material, name)), f"material:{self.material.name}")

    def operations(self) -> list[OperationFacts]:
        return [op for setup in self.setups for op in setup.operations]


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


def guarded(facts: SetupFacts | OperationFacts, question: str, fill: Callable[[], None]) -> None:
    """Run one question's facts; what can't be worked out becomes 'unknown' with the
    sentence why.
    """
    try:
        fill()
    except MachiningError as problem:
        facts.unknown.setdefault(question, str(problem))
