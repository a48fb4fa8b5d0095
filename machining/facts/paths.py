"""The time an operation's nominal path takes."""

from __future__ import annotations

from dataclasses import replace

from machining.cutting import speeds
from machining.motion import cycle
from machining.motion.path import PathTime, time_of
from machining.motion.timing import Drive
from machining.quantities.computed import Given

from .context import PlanFacts, Ready
from .kinds import kind_of


def timed(op: Ready, facts: PlanFacts) -> None:
    """Fill the operation's time from its path, feed and machine; figures link_feed and
    reached_feed.
    """
    feed = op.value("centre_feed") or op.figures["feed"].value
    links = any(leg.kind == "link" for leg in op.path.legs)
    if links:
        op.work_out(
            speeds.link_feed,
            "link_feed",
            machine_max=op.of_machine(op.machine.max_feed_mm_min),
            share=facts.shop("link_share"),
        )
    op.time = time_at(op, feed, facts)
    if op.time.sideways_s > 0:
        op.work_out(
            speeds.reached_feed,
            "reached_feed",
            path=Given(op.time.sideways_mm, "path"),
            time=Given(op.time.sideways_s, "path and machine"),
        )
    dwell = kind_of(op.operation).dwell_s
    if dwell is not None:
        op.time = replace(op.time, dwell_s=op.time.dwell_s + dwell(op) * len(op.work.holes))


def settled(op: Ready, facts: PlanFacts) -> None:
    """Figures spindle_start and settle; the latter is waited in the operation."""
    spindle = op.rig.whole_spindle
    op.work_out(
        cycle.spindle_start,
        "spindle_start",
        rpm=op.figures["rpm"],
        max_rpm=op.of_machine(spindle.max_rpm),
        base_rpm=op.of_machine(spindle.base_rpm),
        start=op.of_machine(spindle.start_s),
    )
    if op.path.settles:
        waits = op.work_out(
            cycle.times_each,
            "settle",
            count=Given(float(op.path.settles), "path"),
            each=facts.shop("settle_s"),
        )
        op.time = replace(op.time, dwell_s=op.time.dwell_s + waits.value)


def time_at(op: Ready, feed: float, facts: PlanFacts) -> PathTime:
    """What the operation's path takes at a feed (mm/min), all else as planned; no machine goes
    faster than it can.
    """
    feed = min(feed, op.machine.max_feed_mm_min)
    at_feed = kind_of(op.operation).straight_down(op.work)
    down = feed if at_feed else feed * facts.library.settings.plunge_share
    drive, link = Drive.of(op.rig), op.value("link_feed")
    key = ("path time", op.path_key, feed, down, drive, link)
    return op.before.memo.get(key, lambda: time_of(op.path, feed, down, drive, link))
