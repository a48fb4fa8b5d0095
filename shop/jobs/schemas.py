"""What the plan endpoints answer, for the generated client. The evaluation itself is sent as bytes
already written.
"""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from machining.plan.document import Plan as Document
from machining.plan.trade import AnyEdit

from .held_schemas import BodyOut, HeldOut, SentenceOut, ShownOut
from .side_schemas import CarrierOut, FlipOut, TurnedOut, TurnsToOut

MOST_EDITS, MOST_REVISION = 300, 2**31 - 1
State = Literal["fine", "look", "stop", "unknown", "working"]
Severity = Literal["stop", "look", "note"]


class AnswerOut(Schema):
    state: State
    reason: str


class GaugeOut(Schema):
    id: str
    question: str
    name: str
    figure: str
    value: float
    quantity: str
    kind: Literal["needs", "upto"]
    limit: float
    limit_figure: str


class WorkedOut(Schema):
    id: str
    name: str
    figure: str
    value: float
    quantity: str


class ColumnOut(Schema):
    name: str
    quantity: str


class TableOut(Schema):
    columns: list[ColumnOut]
    rows: list[list[float | None]]


class OperationOut(Schema):
    id: str
    number: int
    station: str
    times: int
    kind: str
    title: str
    turned: TurnedOut | None
    detail: str
    sizes: dict[str, float]
    tool_number: int | None
    tool_name: str
    spindle: str
    spindle_range: str = ""
    ranges: list[str] = []
    rpm: float | None
    feed_mm_min: float | None
    cutting_speed_m_min: float | None = None
    feed_per_rev_mm: float | None = None
    depth_mm: float | None
    width_mm: float | None
    found_depth_mm: float | None
    found_width_mm: float | None
    found_power_kw: float | None
    found_removal_cm3_min: float | None
    gouge_mm: float | None
    leaves_mm: float | None
    z_to_mm: float | None
    path_mm: float
    rapid_mm: float
    cutting_s: float
    in_cut_s: float | None
    air_s: float | None
    link_s: float
    rapid_s: float
    moving_s: float
    change_s: float
    time_s: float
    starts_s: float
    ends_s: float
    answers: dict[str, AnswerOut]
    gauges: list[GaugeOut]
    worked: list[WorkedOut]
    table: TableOut | None
    removed_mm3: float
    stock_key: str
    tool_at: list[float] | None
    tool_axis: list[float] | None = None
    clamps: list[int] = []
    change: list[SentenceOut] = []


class TakesOut(Schema):
    key: str
    name: str


class StationOut(Schema):
    id: str
    up: str
    handling: str
    zero: list[SentenceOut]
    picked: list[SentenceOut]
    positions: int
    pose: list[float]
    stock_low: list[float]
    stock_high: list[float]
    part_low: list[float]
    part_high: list[float]
    bodies: list[BodyOut]
    held: HeldOut | None
    takes: list[TakesOut]
    turns_to: list[TurnsToOut]
    turns_on: str
    flip: FlipOut | None
    parallels_mm: float | None
    parallels_to_make: bool = False
    stock_key: str
    unknown: dict[str, str]
    stands: list[list[float]] = []
    on: CarrierOut | None = None


class EventOut(Schema):
    kind: str
    carrier: str
    starts_s: float
    seconds: float
    operation: str
    position: int
    why: str


class SetupOut(Schema):
    id: str
    number: int
    turns: bool
    stations: list[StationOut]
    operations: list[OperationOut]
    cutting_s: float
    changes_s: float
    by_hand_s: float
    cycle_s: float
    events: list[EventOut]
    parts: int
    tools: int


class FixOut(Schema):
    label: str
    values: dict[str, ShownOut]
    edits: list[dict[str, Any]]


class FindingOut(Schema):
    """``place`` and ``named`` are what an edit keeps it by; without a setup it is about the whole
    plan.
    """

    id: str
    key: str
    question: str
    severity: Severity
    setup: str
    station: str
    operation: str
    message: str
    values: dict[str, ShownOut]
    why: str
    kept: str
    place: str
    named: str
    fixes: list[FixOut]


class LeftOut(Schema):
    """What still stands over the part after its last setup, in one kind of place; ``at`` are the
    middles of its pieces, in part coordinates.
    """

    where: SentenceOut
    count: int
    volume_mm3: float
    thick_mm: float
    at: list[list[float]]


class EvaluationOut(Schema):
    """``figures``: id -> [value, formula id, [[input, value, origin], ...]]."""

    engine: str
    setups: list[SetupOut]
    findings: list[FindingOut]
    figures: dict[str, list[Any]]
    part_size: list[float]
    part_low: list[float]
    stock_size: list[float]
    stock_words: SentenceOut
    stock_lacks: SentenceOut | None
    stock_round: int | None
    stock_over: dict[str, float]
    in_blank: list[str]
    part_volume_mm3: float
    part_mass_kg: float | None
    stock_mass_kg: float | None
    cutting_s: float
    changes_s: float
    handling_s: float
    by_hand_s: float
    build_s: float
    one_part_s: float
    batch_s: float
    problem: str
    working: bool = False
    left: list[LeftOut]
    left_mm3: float
    ready: bool


class PlanOut(Schema):
    """``evaluation`` is null while it is being worked out, or says that some of it still is; ask
    again.
    """

    id: int
    revision: int
    at: datetime
    by: str
    can_undo: bool
    can_redo: bool
    plan: Document
    features: list[dict[str, Any]]
    evaluation: EvaluationOut | None


class OfferOut(Schema):
    """``lacks`` says which tool the shop lacks for it, where none fits and that is known."""

    group: str
    label: str
    tool: str
    edits: list[dict[str, Any]]
    rare: bool
    lacks: SentenceOut | None


class ToolOut(Schema):
    """``number`` is that of a tool in the machine, null for one that ``edits`` load first;
    ``why_not`` is empty where it suits.
    """

    assembly: str
    name: str
    number: int | None
    why_not: str
    values: dict[str, ShownOut]
    edits: list[dict[str, Any]]


class TriedFixOut(FixOut):
    """``one_part_s`` is what it does to the time of one part, ``looks`` are findings to look at
    that it brings.
    """

    one_part_s: float
    looks: list[str]


class FixesOut(Schema):
    """``untried`` are how many would take longer than anybody waits unasked."""

    tried: int
    untried: int
    fixes: list[TriedFixOut]


class EditsIn(Schema):
    revision: int = Field(ge=0, le=MOST_REVISION)
    edits: list[AnyEdit] = Field(min_length=1, max_length=MOST_EDITS)


class RevisionIn(Schema):
    revision: int = Field(ge=0, le=MOST_REVISION)


class PreviewOut(Schema):
    """What edits would change: seconds before and after, findings that go and come, named figures
    before and after.
    """

    one_part_s: list[float]
    gone: list[str]
    come: list[FindingOut]
    stops: list[int]
    looks: list[int]
    figures: dict[str, list[float | None]]


class LeafSchema(Schema):
    """An input that is no figure itself: its name, where it came from, a value."""

    name: str = Field(max_length=80)
    origin: str = Field(max_length=200)
    value: float = Field(allow_inf_nan=False)


class WhatIfIn(Schema):
    figure: str = Field(max_length=120)
    changed: list[LeafSchema] = Field([], max_length=60)


class WhatIfOut(Schema):
    values: dict[str, float]
    sensitivity: list[LeafSchema]


class ChoiceOut(Schema):
    """A way of cutting an operation. ``one_part_s`` is the change of the whole part's time,
    ``stops`` are this operation's after it, ``brings`` the change of the plan's; power and torque
    are those where the blank is at its largest.
    """

    name: str
    tool: str
    because: str
    values: dict[str, ShownOut]
    pockets: int | None
    edits: list[dict[str, Any]]
    limits: list[str]
    diameter_mm: float | None = None
    depth_mm: float | None = None
    width_mm: float | None = None
    rpm: float | None = None
    feed_mm_min: float | None = None
    feed_per_rev_mm: float | None = None
    cutting_speed_m_min: float | None = None
    removal_cm3_min: float | None = None
    power_kw: float | None = None
    power_limit_kw: float | None = None
    torque_nm: float | None = None
    torque_limit_nm: float | None = None
    push_off_mm: float | None = None
    roughness_um: float | None = None
    holding: float | None = None
    life_min: float | None = None
    time_s: float | None = None
    one_part_s: float | None = None
    stops: int = 0
    brings: int = 0


class PreviewIn(Schema):
    revision: int = Field(ge=0, le=MOST_REVISION)
    edits: list[AnyEdit] = Field(min_length=1, max_length=MOST_EDITS)
    figures: list[Annotated[str, Field(max_length=120)]] = Field([], max_length=60)
