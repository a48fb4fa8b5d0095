"""Parts that come off a bar: which, and how many a bar gives."""

from __future__ import annotations

from machining.motion.batch import bar_yield
from machining.motion.cycle import times_each
from machining.plan.document import BLANK
from machining.plan.turned import PartOff
from machining.quantities.computed import Computed, Given
from machining.quantities.errors import OutOfRange
from machining.world.machine import SpindleNose
from machining.world.stock.bar import Bar
from machining.world.workholding import Chuck

from .context import PlanFacts, StationFacts


def fed(station: StationFacts, facts: PlanFacts) -> int | None:
    """How many parts one bar gives, None where each blank is put in by hand: the machine feeds no
    bar, it does not pass through the chuck, or nothing parts the part off.
    """
    nose, stock = station.place, facts.blank.stock
    if (
        station.planned.takes != BLANK
        or not isinstance(nose, SpindleNose)
        or nose.bar_feed_s <= 0
        or not isinstance(stock, Bar)
        or not _passes(station)
    ):
        return None
    off = [op for op in station.operations if isinstance(op.operation, PartOff)]
    width = off[-1].kit.tool.insert_width_mm if off and off[-1].kit is not None else None
    if width is None:
        return None
    part = facts.geometry.size["xyz".index(stock.axis)]
    try:
        left = facts.library.settings.bar_end_mm
        return bar_yield(nose.longest_bar_mm, part, width, stock.high.over_mm, left)[1]
    except OutOfRange:
        return None  # longer than the bar: put in by hand


def bar_volume(station: StationFacts, facts: PlanFacts) -> float:
    """Of a whole bar of those it is fed from, mm³."""
    assert isinstance(station.place, SpindleNose)
    long = float(station.lie.stock_high[2] - station.lie.stock_low[2])
    return float(facts.blank.volume_mm3 / long * station.place.longest_bar_mm)


def _passes(station: StationFacts) -> bool:
    lie, item = station.lie, station.item
    widest = float(lie.stock_high[0] - lie.stock_low[0])
    return not isinstance(item, Chuck) or widest <= item.bore_mm


def bar_feed(station: StationFacts) -> Computed:
    """The figure bar_feed of a station that is fed."""
    assert isinstance(station.place, SpindleNose)
    machine = station.machine
    return station.work_out(
        times_each,
        "bar_feed",
        count=Given(1.0, "each part"),
        each=Given(station.place.bar_feed_s, f"machine:{machine.name if machine else ''}"),
    )
