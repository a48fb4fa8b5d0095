"""How else a turned operation could be cut, as ready edits: deep or shallow, grooved or turned
first, towards the chuck or away.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, floor, inf, radians, tan

from machining.facts import requirement
from machining.facts.at_hand import at_hand
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds.turned import stands_at
from machining.plan.edit import AddOperation, Change, Edit, MoveOperation
from machining.plan.turned import (
    Groove,
    Profile,
    TurnFace,
    TurnFinish,
    TurnGroove,
    TurnRough,
    TurnThread,
)
from machining.world.tool import Tool

from .choice import Choice, Question

SAME = 0.03
FINER = 0.7
LEAST_FEED_MM = 0.03
FIRST_DEPTH_MM = 1.5
_DEPTHS = Question("deep or shallow: each with the feed the spindle gives", "schools")
QUESTIONS = {
    "turn_face": _DEPTHS,
    "turn_rough": _DEPTHS,
    "turn_finish": Question(
        "a finer feed, another speed, once more: finish and time of each", "schools"
    ),
    "turn_groove": Question(
        "turned first or grooved whole; before the finish or after it", "schools"
    ),
    "turn_thread": Question("towards the chuck or away, more passes or fewer", "schools"),
}


def turn_choices(op: Ready, facts: PlanFacts) -> list[Choice]:
    """The schools of a turned operation with its tool; empty for what is no turning or has no
    answer yet.
    """
    if "cutting_power" not in op.figures:
        return []
    return list(_of(op, facts, f"T{op.loaded.number} {op.tool.name}"))


def _of(op: Ready, facts: PlanFacts, name: str) -> Iterator[Choice]:
    kind, tool, data = op.operation, op.tool, op.data
    on = f"operation:{kind.id}"
    if isinstance(kind, TurnRough | TurnFace):
        for words, depth in (
            ("deep, as much feed as the spindle gives", tool.cutting_depth_mm),
            ("shallow, all the feed the edge takes", _depth_at(op, facts, tool.max_chip_mm or 0.0)),
        ):
            found = _cut_at(op, facts, depth)
            if found is not None:
                yield Choice(
                    words,
                    (Change(on=on, fields={"depth_mm": found[0], "feed_per_rev_mm": found[1]}),),
                    tool=name,
                )
    if isinstance(kind, TurnFinish) and data is not None:
        finer = floor(1000.0 * FINER * op.figures["chip"].value) / 1000.0
        change = Change(on=on, fields={"feed_per_rev_mm": finer})
        yield Choice("a finer feed", (change,), tool=name, finer=True)
        for words, speed in (("faster", data.speed_high), ("slower", data.speed_low)):
            yield Choice(words, (Change(on=on, fields={"cutting_speed_m_min": speed}),), tool=name)
        change = Change(on=on, fields={"passes": kind.passes + 1})
        yield Choice("once more over it", (change,), tool=name, finer=True)
    if isinstance(kind, TurnGroove):
        if isinstance(kind.on, Groove) and (first := turned_first(op, facts)) is not None:
            yield Choice(
                "turned first, the rest grooved", first[0], tool=f"{first[1]}, then {name}"
            )
        yield from _around_the_finish(op, name)
    if isinstance(kind, TurnThread):
        other = "tail" if kind.towards == "chuck" else "chuck"
        yield Choice(
            "away from the chuck" if other == "tail" else "towards the chuck",
            (Change(on=on, fields={"towards": other}),),
            tool=name,
        )
        yield Choice(
            "half as many passes again, each lighter",
            (Change(on=on, fields={"passes": min(ceil(1.5 * kind.passes), 40)}),),
            tool=name,
            finer=True,
        )
        if kind.spring_passes:
            yield Choice(
                "without a spring pass", (Change(on=on, fields={"spring_passes": 0}),), tool=name
            )


def _around_the_finish(op: Ready, name: str) -> Iterator[Choice]:
    """Groove first, so that the finisher meets no full corner; or finish first, so that its edge
    runs without a break.
    """
    every = [each.operation.id for each in op.setup.operations]
    mine = every.index(op.operation.id)
    finishes = [
        k for k, each in enumerate(op.setup.operations) if isinstance(each.operation, TurnFinish)
    ]
    if not finishes:
        return
    words, index = (
        ("grooved before the finish: its corner is gone", finishes[0])
        if finishes[0] < mine
        else ("finished first: the finisher runs without a break", finishes[-1])
    )
    yield Choice(
        words,
        (MoveOperation(operation=op.operation.id, setup=op.setup.planned.id, index=index),),
        tool=name,
    )


def _room(op: Ready, facts: PlanFacts) -> tuple[float, float]:
    """What a cut may be, depth times feed^(1 − mc), from the one planned, for power, torque and
    what holds the part; and mc.
    """
    assert facts.material is not None
    share, mc = facts.library.settings.power_share, facts.material.mc
    now = (op.seen.depth_mm or 0.0) * op.figures["chip"].value ** (1.0 - mc)
    most = min(op.value(f"{name}_limit") or inf for name in ("power", "torque"))
    over = (
        max(
            (op.value(name) or 0.0) / (share * limit)
            for name in ("power", "torque")
            if (limit := op.value(f"{name}_limit"))
        )
        if most < inf
        else 0.0
    )
    held = op.value("holding")
    if held:
        over = max(over, requirement.asked(op, facts) / held)
    return (now / over if over > 0 else inf), mc


def _depth_at(op: Ready, facts: PlanFacts, feed: float) -> float:
    """The depth (mm) inside power and torque at a feed."""
    room, mc = _room(op, facts)
    return room / feed ** (1.0 - mc) if feed > 0 else 0.0


def _cut_at(op: Ready, facts: PlanFacts, wanted: float) -> tuple[float, float] | None:
    """Depth of equal passes no deeper than wanted, and the feed a turn at it; None where that is
    the cut as planned or none at all.
    """
    tool, work = op.tool, op.work
    inner, low, outer, high = (float(v) for v in work.turned.bounds)
    total = high - low if isinstance(op.operation, TurnFace) else outer - inner
    depth = min(wanted, tool.cutting_depth_mm, total)
    if depth <= 0:
        return None
    depth = total / ceil(total / depth - 1e-9)
    room, mc = _room(op, facts)
    feed = (
        floor(1000.0 * min(tool.max_chip_mm or inf, (room / depth) ** (1.0 / (1.0 - mc)))) / 1000.0
    )
    now = (op.seen.depth_mm or 0.0), op.figures["chip"].value
    if (
        feed < LEAST_FEED_MM
        or feed == inf
        or (abs(depth - now[0]) < SAME * now[0] and abs(feed - now[1]) < SAME * now[1])
    ):
        return None
    return ceil(1000.0 * depth) / 1000.0, feed


def turned_first(op: Ready, facts: PlanFacts) -> tuple[tuple[Edit, ...], str, float] | None:
    """Edits that turn a wide groove with a tool that gets down into it and groove what stays behind
    its first wall; its name; the rest's width (mm).

    A tool that follows contours down at an angle leaves a triangle behind the wall it comes from.
    None where no tool gets far enough.
    """
    kind, work = op.operation, op.work
    assert isinstance(kind, TurnGroove) and isinstance(kind.on, Groove) and work.turned is not None
    on, insert = kind.on, op.tool.insert_width_mm or 0.0
    outer = round(2.0 * stands_at(work.turned, on.z_mm - insert, on.z_mm), 3)
    deep = (outer - on.diameter_mm) / 2.0
    if deep <= 0:
        return None

    def behind(tool: Tool) -> float:
        return max(deep / tan(radians(tool.max_ramp_deg)) if tool.max_ramp_deg > 0 else inf, insert)

    def suits(tool: Tool) -> bool:
        return (
            tool.kind in ("turning_rough", "turning_finish")
            and behind(tool) <= on.width_mm - insert
        )

    found = at_hand(facts, op.setup.planned.machine, suits, lambda tool: -behind(tool))
    if found is None:
        return None
    tool = found.tool
    rest = round(behind(tool), 2)
    profile = Profile(
        at_mm=((on.z_mm, outer), (on.z_mm, on.diameter_mm), (on.z_mm - on.width_mm, on.diameter_mm))
    )
    first = TurnRough(
        id=f"{kind.id[:38]}turn",
        tool=found.loaded.id,
        on=profile,
        depth_mm=min(tool.cutting_depth_mm, FIRST_DEPTH_MM),
        leave_mm=0.0,
        leave_face_mm=0.0,
    )
    at = [each.id for each in op.setup.planned.operations].index(kind.id)
    edits: tuple[Edit, ...] = (
        *found.loads,
        AddOperation(setup=op.setup.planned.id, operation=first, index=at),
        Change(on=f"operation:{kind.id}", fields={"on.width_mm": rest}),
    )
    return edits, f"T{found.loaded.number} {tool.name}", rest
