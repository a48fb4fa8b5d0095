"""Figures against their limits, as the worksheet draws them. What joins a gauge to its figures is
declared here, once.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from machining.quantities.computed import FORMULAS, Computed

from .context import OperationFacts, PlanFacts
from .holdings import kind_of
from .size import tolerance_each_way


@dataclass(frozen=True, slots=True)
class Gauge:
    """A figure against its limit: it ``needs`` at least, or may go ``upto``. Limits are ids of
    figures or values.
    """

    id: str
    question: str
    name: str
    figure: str
    value: float
    quantity: str
    kind: Literal["needs", "upto"]
    limit: float
    limit_figure: str = ""


# question and words of each, in the order they are drawn
GAUGES: dict[str, tuple[str, str]] = {
    "grip": ("hold", "Grip"),
    "slip": ("hold", "Slip"),
    "wall": ("hold", "Wall bends"),
    "stick_out": ("reach", "Stick-out"),
    "travel_up": ("travel", "Z up"),
    "travel_down": ("travel", "Z down"),
    "travel_x": ("travel", "X"),
    "travel_y": ("travel", "Y"),
    "travel_z": ("travel", "Z"),
    "travel_swing": ("travel", "Swing"),
    "power": ("cut", "Spindle power"),
    "torque": ("cut", "Torque"),
    "push_off": ("size", "Push-off"),
}
TRAVELS = tuple(id for id, (question, _) in GAUGES.items() if question == "travel")
Limit = float | Computed | None


def gauges_of(op: OperationFacts, facts: PlanFacts) -> list[Gauge]:
    """Those whose figure and limit are known."""
    figures = op.figures
    settings = facts.library.settings
    found = [
        *_grip(op),
        *_gauge(
            "slip",
            figures.get("holding"),
            "needs",
            figures.get("holding_asked", settings.holding_factor),
        ),
    ]
    if any(each.ratio >= settings.wall_ratio for each in op.seen.thin):
        found += _gauge("wall", figures.get("wall_bends"), "upto", settings.wall_bends_mm)
    if op.loaded is not None:
        needed = figures.get("stick_out_needed")
        found += _gauge("stick_out", needed, "needs", needed, op.loaded.stick_out_mm)
    for name in TRAVELS:
        found += _gauge(name, figures.get(name), "needs", 0.0)
    worst = "worst_" if "worst_power" in figures else ""
    for name in ("power", "torque"):
        found += _gauge(name, figures.get(f"{worst}{name}"), "upto", figures.get(f"{name}_limit"))
    error = figures.get("size_error") or figures.get("push_off")
    found += _gauge("push_off", error, "upto", tolerance_each_way(op, facts)[0])
    left = getattr(op.operation, "leave_mm", 0.0)
    share = settings.rough_push_off_share * left if left > 0 else None
    return [*found, *_gauge("push_off", figures.get("rough_push_off"), "upto", share)]


def _grip(op: OperationFacts) -> Iterator[Gauge]:
    holding, needed = op.station.planned.holding, op.station.figures.get("grip_needed")
    if holding is not None:
        has = kind_of(holding).gripped_mm(holding)
        yield from _gauge("grip", needed, "needs", needed, has)


def _gauge(
    id: str,
    figure: Computed | None,
    kind: Literal["needs", "upto"],
    limit: Limit,
    value: float | None = None,
) -> Iterator[Gauge]:
    """``value`` where it is not the figure's own."""
    if figure is None or limit is None:
        return
    question, words = GAUGES[id]
    yield Gauge(
        id,
        question,
        words,
        figure.id,
        figure.value if value is None else value,
        FORMULAS[figure.formula].quantity,
        kind,
        float(limit),
        limit.id if isinstance(limit, Computed) else "",
    )
