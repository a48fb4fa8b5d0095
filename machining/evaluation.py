"""The answer to a plan, as plain values ready to be sent, stored and compared."""

from __future__ import annotations

from dataclasses import asdict, dataclass, field
from typing import Any, Literal

from machining.facts.gauges import Gauge
from machining.facts.index import TurnedTo
from machining.facts.ledger import Event
from machining.facts.left import Left
from machining.facts.tables import Table
from machining.findings.finding import Finding
from machining.plan.proposal import Proposal
from machining.quantities.computed import FORMULAS, Computed, as_json
from machining.quantities.said import Said, Shown

ENGINE = "29"
State = Literal["fine", "look", "stop", "unknown", "working"]


@dataclass(frozen=True, slots=True)
class Answer:
    """One question's answer for one operation; ``reason`` says why it is unknown."""

    state: State
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Worked:
    """A figure listed by its name, without a limit; ``id`` is its own name in the operation."""

    id: str
    name: str
    figure: str
    value: float
    quantity: str


@dataclass(slots=True)
class OperationResult:
    """``table`` is pass by pass: words and quantity of each column, then the rows.
    ``cutting_speed_m_min`` is what the spindle keeps at the edge, ``feed_per_rev_mm`` a turned
    operation's feed, ``tool_axis`` where a tilted tool points; None elsewhere. ``spindle`` is what
    turns for it, in its ``spindle_range``; ``ranges`` are those it has, if several. It is cut
    ``times`` a cycle, at every position of its station; the other times are of one of them, but
    ``change_s``, all its tool changes of a cycle. ``turned`` is what is turned to its tool, None
    where nothing is.
    """

    id: str
    number: int
    station: str
    times: int
    kind: str
    title: str
    turned: TurnedTo | None
    detail: str
    sizes: dict[str, float]
    tool_number: int | None
    tool_name: str
    spindle: str
    spindle_range: str
    ranges: list[str]
    rpm: float | None
    feed_mm_min: float | None
    cutting_speed_m_min: float | None
    feed_per_rev_mm: float | None
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
    answers: dict[str, Answer]
    gauges: list[Gauge]
    worked: list[Worked]
    table: Table | None
    removed_mm3: float
    stock_key: str
    tool_at: list[float] | None
    tool_axis: list[float] | None
    clamps: list[int]
    change: list[Said]


@dataclass(slots=True)
class StationResult:
    """``held`` is what holds the part and how hard, ``takes`` what of the library goes on the
    machine, ``turns_to`` the sides it turns to the tool and where its axes stand, ``turns_on`` the
    part's axis about which. ``pose`` is the 3x4 matrix from part to setup frame, row by row; sizes
    are as loaded. ``zero`` is where it is, ``picked`` how it is found. Of several positions
    ``stands`` is the matrix of each to the table's frame; ``on`` the tombstone they stand on.
    """

    id: str
    up: str
    handling: str
    zero: list[Said]
    picked: list[Said]
    positions: int
    pose: list[float]
    stock_low: list[float]
    stock_high: list[float]
    part_low: list[float]
    part_high: list[float]
    bodies: list[dict[str, Any]]
    held: dict[str, Any] | None
    takes: list[dict[str, str]]
    turns_to: list[dict[str, str]]
    turns_on: str
    flip: dict[str, Any] | None
    parallels_mm: float | None
    parallels_to_make: bool
    stock_key: str
    unknown: dict[str, str]
    stands: list[list[float]]
    on: dict[str, Any] | None


@dataclass(slots=True)
class SetupResult:
    """Times are of one cycle, door shut to door open, in which ``parts`` parts leave it; ``events``
    are all that happens in it, ``by_hand_s`` what of it somebody attends to. ``turns`` is for a
    machine that turns the work.
    """

    id: str
    number: int
    turns: bool
    stations: list[StationResult]
    operations: list[OperationResult]
    cutting_s: float
    changes_s: float
    by_hand_s: float
    cycle_s: float
    events: list[Event]
    parts: int
    tools: int


@dataclass(slots=True)
class Evaluation:
    """``figures`` is one flat table; findings and gauges refer to it by id. ``part_low`` is the
    part's lowest corner in its own coordinates. ``stock_lacks`` says what of the part can't come
    out of the blank, ``stock_round`` about which of its axes the blank turns, ``stock_over`` how
    much more may stand on its sides where they have none of their own, ``in_blank`` names the
    features it already has. While it is ``working`` some operations, and with them the
    sums, stand as they did before the last edit.
    """

    setups: list[SetupResult] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    figures: dict[str, Computed] = field(default_factory=dict)
    part_size: tuple[float, float, float] = (0.0, 0.0, 0.0)
    part_low: tuple[float, float, float] = (0.0, 0.0, 0.0)
    stock_size: tuple[float, float, float] = (0.0, 0.0, 0.0)
    stock_words: Said = Said()
    stock_lacks: Said | None = None
    stock_round: int | None = None
    stock_over: dict[str, float] = field(default_factory=dict)
    in_blank: list[str] = field(default_factory=list)
    part_volume_mm3: float = 0.0
    part_mass_kg: float | None = None
    stock_mass_kg: float | None = None
    cutting_s: float = 0.0
    changes_s: float = 0.0
    handling_s: float = 0.0
    by_hand_s: float = 0.0
    build_s: float = 0.0
    one_part_s: float = 0.0
    batch_s: float = 0.0
    problem: str = ""
    working: bool = False
    left: list[Left] = field(default_factory=list)

    @property
    def left_mm3(self) -> float:
        """What stands over the part after its last setup."""
        return sum(each.volume for each in self.left)

    @property
    def open(self) -> list[Finding]:
        """Findings that nobody has decided to keep."""
        return [f for f in self.findings if not f.kept]

    def count(self, severity: str) -> int:
        return sum(f.severity == severity for f in self.open)

    @property
    def unknown(self) -> int:
        """How many operations have a question without an answer."""
        return sum(
            any(each.state in ("unknown", "working") for each in op.answers.values())
            for setup in self.setups
            for op in setup.operations
        )

    @property
    def ready(self) -> bool:
        """Nothing stops, nothing is unknown or still being worked out, nothing is left to cut."""
        answers = [a.state for s in self.setups for o in s.operations for a in o.answers.values()]
        return (
            not self.problem
            and bool(answers)
            and not {"stop", "unknown", "working"} & set(answers)
            and self.count("stop") == 0
            and not self.left
        )


def to_plain(evaluation: Evaluation) -> dict[str, Any]:
    """Dicts and lists only; figures are [value, formula, [[name, value, origin], ...]] by id."""
    figures = {id: figure.plain for id, figure in evaluation.figures.items()}
    return {**_but_figures(evaluation), "figures": figures}


def _but_figures(evaluation: Evaluation) -> dict[str, Any]:
    return {
        "engine": ENGINE,
        "setups": [_setup(s) for s in evaluation.setups],
        "findings": [_finding(f) for f in evaluation.findings],
        **{name: getattr(evaluation, name) for name in _TOTALS},
        "stock_words": plain_said(evaluation.stock_words),
        "stock_lacks": plain_said(evaluation.stock_lacks) if evaluation.stock_lacks else None,
        "left": [_left(each) for each in evaluation.left],
        "left_mm3": evaluation.left_mm3,
        "ready": evaluation.ready,
    }


_TOTALS = (
    "part_size",
    "part_low",
    "stock_size",
    "stock_round",
    "stock_over",
    "in_blank",
    "part_volume_mm3",
    "part_mass_kg",
    "stock_mass_kg",
    "cutting_s",
    "changes_s",
    "handling_s",
    "by_hand_s",
    "build_s",
    "one_part_s",
    "batch_s",
    "problem",
    "working",
)
_SETUP_FIELDS = tuple(
    name for name in SetupResult.__slots__ if name not in ("operations", "stations", "events")
)
_STATION_FIELDS = tuple(name for name in StationResult.__slots__ if name not in ("zero", "picked"))
_OPERATION_FIELDS = tuple(
    name
    for name in OperationResult.__slots__
    if name not in ("answers", "gauges", "worked", "table", "turned", "change")
)
_GAUGE_FIELDS = Gauge.__slots__


def plain_said(said: Said) -> dict[str, Any]:
    return {
        "text": said.text,
        "values": {
            name: {"value": each.value, "quantity": each.quantity}
            for name, each in said.values.items()
        },
    }


def _setup(setup: SetupResult) -> dict[str, Any]:
    return {
        **{name: getattr(setup, name) for name in _SETUP_FIELDS},
        "stations": [
            {
                **{name: getattr(each, name) for name in _STATION_FIELDS},
                "zero": [plain_said(said) for said in each.zero],
                "picked": [plain_said(said) for said in each.picked],
            }
            for each in setup.stations
        ],
        "operations": [_operation(o) for o in setup.operations],
        "events": [{name: getattr(each, name) for name in Event._fields} for each in setup.events],
    }


def _operation(op: OperationResult) -> dict[str, Any]:
    return {
        "turned": asdict(op.turned) if op.turned is not None else None,
        **{name: getattr(op, name) for name in _OPERATION_FIELDS},
        "answers": {
            question: {"state": a.state, "reason": a.reason} for question, a in op.answers.items()
        },
        "change": [plain_said(each) for each in op.change],
        "gauges": [{name: getattr(g, name) for name in _GAUGE_FIELDS} for g in op.gauges],
        "worked": [
            {name: getattr(w, name) for name in ("id", "name", "figure", "value", "quantity")}
            for w in op.worked
        ],
        "table": (
            None
            if op.table is None
            else {
                "columns": [
                    {"name": name, "quantity": quantity} for name, quantity in op.table.columns
                ],
                "rows": [list(row) for row in op.table.rows],
            }
        ),
    }


def _shown(values: dict[str, Shown]) -> dict[str, Any]:
    return {
        name: {"value": shown.value, "quantity": shown.quantity} for name, shown in values.items()
    }


def _left(left: Left) -> dict[str, Any]:
    return {
        "where": plain_said(left.where),
        "count": left.count,
        "volume_mm3": left.volume,
        "thick_mm": left.thick,
        "at": left.middles,
    }


def _finding(finding: Finding) -> dict[str, Any]:
    return {
        "id": finding.id,
        "key": finding.key,
        "question": finding.question,
        "severity": finding.severity,
        "setup": finding.setup,
        "station": finding.station,
        "operation": finding.operation,
        "message": finding.message,
        "values": _shown(finding.values),
        "why": finding.why,
        "kept": finding.kept,
        "place": finding.place,
        "named": finding.named,
        "fixes": [plain_fix(fix) for fix in finding.fixes],
    }


def plain_fix(fix: Proposal) -> dict[str, Any]:
    return {
        "label": fix.label,
        "values": _shown(fix.values),
        "edits": [edit.model_dump(mode="json") for edit in fix.edits],
    }


def to_bytes(evaluation: Evaluation) -> bytes:
    """``to_plain`` as JSON; what is most of it, the figures, each written once for all answers it
    stands in.
    """
    rest = as_json(_but_figures(evaluation))
    figures = ",".join(f"{as_json(id)}:{f.text}" for id, f in evaluation.figures.items())
    return f'{{"figures":{{{figures}}},{rest[1:]}'.encode()


def formulas() -> dict[str, dict[str, Any]]:
    """Every formula's words, by id, for the why panel."""
    return {
        f.id: {
            "unit": f.unit,
            "quantity": f.quantity,
            "symbols": f.symbols,
            "text": f.text,
            "source": f.source,
            "inputs": f.inputs,
        }
        for f in FORMULAS.values()
    }
