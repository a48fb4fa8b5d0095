"""Undercuts: a slanted flank under an edge, taken in passes, entered and left outside the part."""

from __future__ import annotations

from dataclasses import replace
from math import radians, tan

from shapely import LinearRing, LineString, Polygon, box
from shapely.geometry.polygon import orient

from machining.cutting import entry, pointed
from machining.geometry.regions import disc
from machining.geometry.solids import Solid, joined, section, swept
from machining.motion.path import Path
from machining.motion.paths import lines
from machining.plan.operation import Undercut
from machining.quantities.computed import Given
from machining.quantities.errors import OutOfRange
from machining.world.tool import Tool

from .. import forces, wording
from ..context import OperationFacts, PlanFacts, Ready
from ..place import Line, Work
from ..tables import Table, steps_of
from ..wording import Named
from .base import Ground, Kind, Unsuited, cone_of, half_angle, heights

CLEAR_MM = 1.0  # room past the edge beyond the tool's own radius


def widths(operation: Undercut) -> list[float]:
    """Width (mm) reached after each pass."""
    return pointed.undercut_widths(operation.width_mm, operation.passes, operation.equal)


def beside(
    line: tuple[tuple[float, float], ...], side: str, away: float
) -> list[tuple[float, float]]:
    """The corners of a line moved to its left or right, mm; a closed one stays closed."""
    if len(line) > 3 and line[0] == line[-1] and Polygon(line).is_valid:
        return _round_closed(line, side, away)
    moved = LineString(line).offset_curve(away if side == "left" else -away, join_style="mitre")
    return [(float(x), float(y)) for x, y in moved.coords]


def _round_closed(
    line: tuple[tuple[float, float], ...], side: str, away: float
) -> list[tuple[float, float]]:
    """Raises OutOfRange where nothing is left of it, or it falls apart."""
    inside = LinearRing(line).is_ccw == (side == "left")
    moved = Polygon(line).buffer(-away if inside else away, join_style="mitre")
    if not isinstance(moved, Polygon) or moved.is_empty:
        raise OutOfRange("tool diameter", 2.0 * away, "small enough to go round inside the line")
    ring = orient(moved, 1.0 if LinearRing(line).is_ccw else -1.0).exterior
    return [(float(x), float(y)) for x, y in ring.coords]


def longer(corners: list[tuple[float, float]], by: float) -> list[tuple[float, float]]:
    """The line drawn on past both its ends, mm."""
    return [_past(corners[1], corners[0], by), *corners[1:-1], _past(corners[-2], corners[-1], by)]


def _past(before: tuple[float, float], end: tuple[float, float], by: float) -> tuple[float, float]:
    across, along = end[0] - before[0], end[1] - before[1]
    length = (across * across + along * along) ** 0.5
    return end[0] + across / length * by, end[1] + along / length * by


def out_to(line: tuple[tuple[float, float], ...], op: Ready) -> list[tuple[float, float]]:
    """The line with its ends drawn out to the edges of the stock as it lies."""
    low, high = op.lie.stock_low, op.lie.stock_high
    corners = [(float(x), float(y)) for x, y in line]
    reach = float(high[0] - low[0] + high[1] - low[1])
    stock = box(float(low[0]), float(low[1]), float(high[0]), float(high[1]))

    def to_edge(before: tuple[float, float], end: tuple[float, float]) -> tuple[float, float]:
        inside = LineString([before, _past(before, end, reach)]).intersection(stock)
        if inside.is_empty:
            return end
        far = max(
            inside.coords, key=lambda spot: (spot[0] - before[0]) ** 2 + (spot[1] - before[1]) ** 2
        )
        return float(far[0]), float(far[1])

    return [to_edge(corners[1], corners[0]), *corners[1:-1], to_edge(corners[-2], corners[-1])]


def run_past(operation: Undercut, tool: Tool | None) -> float:
    if operation.past_mm is not None:
        return operation.past_mm
    return (tool.diameter_mm / 2.0 if tool else 0.0) + CLEAR_MM


def _work(operation: Undercut, ground: Ground) -> Work:
    on, tool = operation.on, ground.tool
    assert on.kind == "lines"
    floor, radius = (
        on.top_mm - operation.depth_mm,
        tool.diameter_mm / 2.0 if tool else operation.width_mm,
    )
    found: list[Line] = []
    for line in on.at_mm:
        for width in widths(operation):
            corners = longer(beside(line, on.tool_side, radius - width), run_past(operation, tool))
            found.append(tuple((x, y, floor) for x, y in corners))
    return Work(lines=tuple(found), top=on.top_mm, floor=floor, wall_height=operation.depth_mm)


def _removed(operation: Undercut, work: Work, ground: Ground) -> Solid | None:
    tool = ground.tool
    if tool is None:
        return None
    alpha, radius = radians(cone_of(tool)[0] / 2.0), tool.diameter_mm / 2.0
    profile = [
        (0.0, radius),
        (tool.flute_length_mm, max(radius - tool.flute_length_mm * tan(alpha), 0.1)),
    ]
    last = work.lines[operation.passes - 1 :: operation.passes]
    return joined([swept(profile, line, 48) for line in last])


def _path(op: Ready, facts: PlanFacts) -> Path:
    near, retract = heights(op, facts)
    return lines.followed(op.work.lines, op.work.top + near, retract)


def _forces(op: Ready[Undercut], facts: PlanFacts) -> None:
    """The last pass has the longest edge in the cut: with equal steps it carries the most."""
    kind, tool = op.operation, op.tool
    op.seen = replace(op.seen, depth_mm=kind.depth_mm, width_mm=kind.width_mm)
    width, passes = Given(kind.width_mm), Given(float(kind.passes))
    step = op.work_out(
        pointed.equal_step if kind.equal == "step" else pointed.last_even_step,
        "last_step",
        width=width,
        passes=passes,
    )
    height = op.work_out(
        pointed.engaged_height,
        "engaged_height",
        reached=width,
        step=step,
        half_angle=half_angle(op),
    )
    op.work_out(pointed.flank_in_cut, "flank_in_cut", reached=width, half_angle=half_angle(op))
    op.work_out(
        entry.overrun,
        "overrun",
        radius=Given(tool.diameter_mm / 2.0, "half the tool"),
        clearance=Given(CLEAR_MM, "practice"),
    )
    forces.milled(op, facts, height, step)
    level = section(op.before.solid, op.work.floor + 0.01)
    ends = [spot for line in op.work.lines for spot in (line[0], line[-1])]
    radius = tool.diameter_mm / 2.0
    if any(disc(x, y, radius).intersection(level).area > 0.01 for x, y, _ in ends):
        op.seen = replace(op.seen, enters_inside=True)


def _unsuited(operation: Undercut, work: Work, tool: Tool) -> Unsuited | None:
    reached = tool.flute_length_mm * tan(radians(cone_of(tool)[0] / 2.0))
    if reached >= operation.width_mm - 1e-9:
        return None
    return "Its flank reaches {has} under an edge, not {wanted}.", {
        "has": reached,
        "wanted": operation.width_mm,
    }


def _section(op: Ready[Undercut]) -> float:
    """The largest of its passes."""
    alpha, reached = cone_of(op.tool)[0] / 2.0, widths(op.operation)
    return max(
        pointed.engaged_height(wide, step, alpha) * step
        for wide, step in zip(reached, steps_of(reached), strict=True)
    )


def _table(op: Ready[Undercut]) -> Table | None:
    if not op.path.legs:
        return None
    alpha, reached = cone_of(op.tool)[0] / 2.0, widths(op.operation)
    steps = steps_of(reached)
    area = [
        pointed.engaged_height(wide, step, alpha) * step
        for wide, step in zip(reached, steps, strict=True)
    ]
    rows = tuple(
        (float(k), wide, step, pointed.flank_in_cut(wide, alpha), taken / area[0])
        for k, (wide, step, taken) in enumerate(zip(reached, steps, area, strict=True), 1)
    )
    return Table(
        (
            ("Pass", "count"),
            ("Wide", "size"),
            ("Step", "size"),
            ("Edge in cut", "size"),
            ("Load", "factor"),
        ),
        rows,
    )


def _words(op: OperationFacts[Undercut], facts: PlanFacts) -> Named:
    passes = op.operation.passes
    return wording.named(
        op, f"{{w}} in {passes} passes" if passes > 1 else "{w}", {"w": op.operation.width_mm}
    )


KINDS = {
    "undercut": Kind(
        "rough",
        frozenset({"undercut_mill"}),
        _work,
        _path,
        _forces,
        _removed,
        table=_table,
        words=_words,
        unsuited=_unsuited,
        section=_section,
        carried=True,
        edge=True,
    ),
}
