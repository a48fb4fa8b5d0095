"""reach.stops-short: at an open edge the tool's middle does not pass it, and a lip stays there; or
it passes, and is lifted while it still touches the work.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.lips import CLEAR_MM, End, ends, lips
from machining.geometry.solids import section
from machining.plan.edit import Change
from machining.plan.operation import Slot
from machining.plan.places import Lines, Rectangle
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, keep, of_operation

ID = "reach.stops-short"
LIP = "It stops short of the open edge: a lip {wide} wide and {high} high stays at X {x}, Y {y}."
LIPS = (
    "It stops short of the open edge: {count} lips stay, the largest {wide} wide and {high} high,"
    " at X {x}, Y {y}."
)
BY_HAND = "the lip is snapped off by hand, with gloves on: its edges are sharp"


def stops_short(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    found = lips(op, facts)
    if found:
        (x, y), most = found[0].at, found[0]
        values = {
            "wide": length(round(most.wide, 2)),
            "high": length(most.high),
            "x": length(round(x, 2)),
            "y": length(round(y, 2)),
            "count": Shown(float(len(found)), "count"),
        }
        fixes = (*_drawn_out(op), keep(op, ID, BY_HAND))
        yield of_operation(op, ID, "look", LIPS if len(found) > 1 else LIP, values, "", fixes)
    elif isinstance(op.operation, Slot) and isinstance(op.operation.on, Lines):
        yield from _in_contact(op)


def _in_contact(op: Ready) -> Iterator[Finding]:
    """A note: it is out of the stock by its middle, not by all of it."""
    if getattr(op.operation, "cuts", "") == "loops" or op.work.is_thin:
        return
    radius = op.tool.diameter_mm / 2.0
    near = [each for each in ends(op) if -radius + 1e-6 < each.ahead <= 0.0]
    if not near:
        return
    past = max(min(-each.ahead for each in near), 0.0)
    yield of_operation(
        op,
        ID,
        "note",
        "It ends {past} past the edge and is lifted while it touches the walls still: {need} past,"
        " all of it is out.",
        {"past": length(round(past, 2)), "need": length(radius + CLEAR_MM)},
        "",
        tuple(_drawn_out(op)),
    )


def _drawn_out(op: Ready) -> Iterator[Proposal]:
    on = op.operation.on
    if isinstance(on, Rectangle):
        fields = _wider(op, on)
        if fields:
            change = Change(on=op.on, fields=fields)
            yield Proposal("Draw the rectangle out past the edge", (change,), {})
    elif isinstance(on, Lines) and getattr(op.operation, "runs", "on") == "on":
        change = Change(on=op.on, fields={"on.at_mm": _longer(op, on)})
        yield Proposal("Draw the line out past the edge", (change,), {})


def _longer(op: Ready, on: Lines) -> tuple[tuple[tuple[float, float], ...], ...]:
    """Ends near an edge, on until all of the tool is out."""
    by = {
        (each.line, each.first): each.ahead + op.tool.diameter_mm / 2.0 + CLEAR_MM
        for each in ends(op)
        if _is_near(each, op.work.across / 2.0)
    }
    found = []
    for number, line in enumerate(on.at_mm):
        corners = [*line]
        for first, (end, before) in ((True, (0, 1)), (False, (-1, -2))):
            out = by.get((number, first), 0.0)
            if out > 0.0:
                corners[end] = _past(line[before], line[end], out)
        found.append(tuple(corners))
    return tuple(found)


def _is_near(end: End, half: float) -> bool:
    return end.ahead <= half + CLEAR_MM


def _past(before: tuple[float, float], end: tuple[float, float], by: float) -> tuple[float, float]:
    across, along = end[0] - before[0], end[1] - before[1]
    long = (across * across + along * along) ** 0.5
    return round(end[0] + across / long * by, 3), round(end[1] + along / long * by, 3)


def _wider(op: Ready, on: Rectangle) -> dict[str, float]:
    """Sides near an edge of the stock, out past it: a slot by all of the tool, an area by its
    middle.
    """
    middle_z = (op.work.floor + min(op.work.top, float(op.before.bounds()[1][2]))) / 2.0
    west, south, east, north = section(op.before.solid, middle_z).bounds
    radius = op.tool.diameter_mm / 2.0
    out = CLEAR_MM + radius * (2.0 if isinstance(op.operation, Slot) else 1.0)
    along_x = on.length_mm > on.width_mm
    fields = dict[str, float]()
    for at, size, low, high, is_long in (
        ("x_mm", "length_mm", west, east, along_x),
        ("y_mm", "width_mm", south, north, not along_x),
    ):
        if isinstance(op.operation, Slot) and not is_long:
            continue
        begin = getattr(on, at) - getattr(on, size) / 2.0
        end = getattr(on, at) + getattr(on, size) / 2.0
        new_begin = low - out if low - out < begin < low + CLEAR_MM else begin
        new_end = high + out if high - CLEAR_MM < end < high + out else end
        if (new_begin, new_end) != (begin, end):
            fields[f"on.{at}"] = round((new_begin + new_end) / 2.0, 3)
            fields[f"on.{size}"] = round(new_end - new_begin, 3)
    return fields
