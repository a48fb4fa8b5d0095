"""A slope cut by a tilted tool: which straight edges it has, where the table puts each, what tool
and machine make of it.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import atan2, degrees, hypot, inf, radians, tan

import numpy as np
from shapely import LineString

from machining.cutting import pointed
from machining.geometry.frames import Pose, Vector
from machining.geometry.solids import TopSurface, joined, posed, prism, to_mesh, top_surface
from machining.memo import Memo, digest
from machining.motion.path import Leg, Path
from machining.placing import envelope, rotary
from machining.plan.operation import Slope
from machining.plan.places import Drawn, Lines
from machining.quantities.computed import Given
from machining.world.capability import Tilting, tilting
from machining.world.tool import Tool

from . import stands_out
from .context import OperationFacts, PlanFacts, Ready
from .kinds.base import cone_of
from .paths import time_at
from .retract import retract_of

BEND_MM = 0.02  # so far a bend is off the straight pieces it is followed in
SQUARE_DEG, DOWN_MM = 90.0, 100.0  # of an edge at the bottom, and from how high it comes
MOST_PIECES = 150  # of an edge, each with a pose of its own
MANY = f"It has more than {MOST_PIECES} moves round bends, too many to follow through the stock."
ROUND_MM = 3.0  # moves shorter than this, corner after corner, follow a round


@dataclass(frozen=True, slots=True)
class Run:
    """A straight edge: its ends in the setup frame and its direction, the outside on its right."""

    points: Vector
    along: tuple[float, float]

    @property
    def long(self) -> float:
        """In mm."""
        return float(np.linalg.norm(self.points[1] - self.points[0]))

    @property
    def heading(self) -> float:
        return degrees(atan2(self.along[1], self.along[0]))


def is_tilted(op: OperationFacts) -> bool:
    return isinstance(op.operation, Slope) and op.operation.axes != "upright"


def edge_half_angle(tool: Tool) -> float:
    """The cutting edge's angle from the tool's axis: an end mill's bottom stands square to it."""
    return cone_of(tool)[0] / 2.0 if tool.kind == "chamfer_mill" else 90.0


def _edge_middle(tool: Tool) -> Vector:
    """From a tool's tip to the middle of its edge, on the side of the work (mm): it lies in the
    middle of the slope.
    """
    half = edge_half_angle(tool)
    if half == SQUARE_DEG:
        return np.zeros(3)
    tip = tool.tip_diameter_mm / 2.0
    away = (tip + tool.diameter_mm / 2.0) / 2.0
    return np.array([0.0, away, (away - tip) / tan(radians(half))])


def lean_of(op: Ready) -> float:
    assert isinstance(op.operation, Slope)
    return pointed.lean(op.operation.angle_deg, edge_half_angle(op.tool))


def runs(op: Ready) -> list[list[Run]]:
    """The straight edges of every line an operation follows."""
    kind = op.operation
    assert isinstance(kind, Slope)
    left = isinstance(kind.on, Lines | Drawn) and kind.on.tool_side == "left"
    found = []
    for line in op.work.lines:
        corners = np.array(line)[::-1] if left else np.array(line)
        if not isinstance(kind.on, Lines | Drawn) and not _counter_clockwise(corners):
            corners = corners[::-1]
        found.append(_straights(corners))
    return found


def _counter_clockwise(corners: Vector) -> bool:
    """With the part on the left of its way, as a contour runs that has its outside on the right."""
    x, y = corners[:, 0], corners[:, 1]
    return float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) > 0


def _straights(corners: Vector) -> list[Run]:
    made: list[Run] = []
    corners = np.array(LineString(corners).simplify(BEND_MM).coords)
    for a, b in zip(corners[:-1], corners[1:], strict=True):
        dx, dy = float(b[0] - a[0]), float(b[1] - a[1])
        long = hypot(dx, dy)
        if long > 1e-9:
            made.append(Run(np.array([a, b]), (dx / long, dy / long)))
    return made


def _turn(before: tuple[float, float], after: tuple[float, float]) -> float:
    cross, dot = (
        before[0] * after[1] - before[1] * after[0],
        before[0] * after[0] + before[1] * after[1],
    )
    return degrees(atan2(cross, dot))


def follows_rounds(edges: list[list[Run]]) -> bool:
    """Does any of its lines go round a bend in short moves, which no locked position follows?"""
    return any(run.long < ROUND_MM for line in edges for run in line)


def work_out(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    """Figures lean, index_time or waiting_time, stick-out and travel of every position. Needs path
    and stock.
    """
    tool, tables = op.tool, tilting(op.rig)
    assert isinstance(op.operation, Slope)
    op.work_out(
        pointed.lean,
        "lean",
        surface_angle=Given(op.operation.angle_deg),
        half_angle=Given(edge_half_angle(tool), op.tool_origin),
    )
    if tables is None or not op.path.legs:
        return
    edges = runs(op)
    straight = sum(len(line) for line in edges)
    op.seen = replace(op.seen, rounds=follows_rounds(edges), straight_edges=straight)
    _times(op, edges, tables)
    if straight > MOST_PIECES:
        op.unknown.update(dict.fromkeys(("cut", "reach", "travel"), MANY))
    else:
        _room(op, facts, edges, tables, memo)


def _times(op: Ready, edges: list[list[Run]], tables: Tilting) -> None:
    assert isinstance(op.operation, Slope)
    every = [run for line in edges for run in line]
    if op.operation.axes == "locked":
        lean, headings = abs(op.figures["lean"].value), [0.0, *(run.heading for run in every), 0.0]
        turns = [
            abs(rotary.half_turn(b - a)) for a, b in zip(headings[:-1], headings[1:], strict=True)
        ]
        tilts = [lean, *[0.0] * (len(every) - 1), lean]
        longest = [
            max(turn, tilt * tables.turn.speed_deg_s / tables.tilt.speed_deg_s)
            for turn, tilt in zip(turns, tilts, strict=True)
        ]
        op.work_out(
            rotary.index_time,
            "index_time",
            turned=Given(sum(longest), "path"),
            speed=op.of_machine(tables.turn.speed_deg_s),
            positions=Given(float(len(turns)), "edges, and back upright"),
            clamp=op.of_machine(max(tables.tilt.clamp_s, tables.turn.clamp_s)),
        )
        return
    feed = op.figures["feed"].value / 60.0
    excess = 0.0
    for line in edges:
        for before, after in zip(line[:-1], line[1:], strict=True):
            on_the_way = (
                tables.turn.speed_deg_s * after.long / feed if after.long < ROUND_MM else 0.0
            )
            excess += max(abs(_turn(before.along, after.along)) - on_the_way, 0.0)
    op.work_out(
        rotary.waiting_time,
        "waiting_time",
        turned=Given(excess, "corners of the path"),
        speed=op.of_machine(tables.turn.speed_deg_s),
    )


def _poses(op: Ready, edges: list[list[Run]], tables: Tilting) -> list[tuple[Run, Pose]]:
    """The table's pose for every edge, with the work standing in the middle of the table."""
    lie = op.lie
    centre = np.array(
        [
            (lie.stock_low[0] + lie.stock_high[0]) / 2.0,
            (lie.stock_low[1] + lie.stock_high[1]) / 2.0,
            float(lie.stock_low[2]) - op.station.seat_mm,
        ]
    )
    lean = lean_of(op)
    return [
        (run, rotary.tilted_pose(run.along, lean, centre, tables.tilt.above_mm))
        for line in edges
        for run in line
    ]


def _room(
    op: Ready,
    facts: PlanFacts,
    edges: list[list[Run]],
    tables: Tilting,
    memo: Memo,
) -> None:
    """Stick-out and travel at the position that asks most."""
    settings = facts.library.settings
    most_need, farthest_x, farthest_y, highest, lowest = -inf, 0.0, 0.0, -inf, inf
    section_of = (0.0, 0.0)
    for run, pose in _poses(op, edges, tables):
        tops = _tops(op, pose, memo)
        ends = pose.apply(run.points) - _edge_middle(op.tool)
        tip = float(ends[:, 2].mean())
        farthest_x, farthest_y = (
            max(farthest_x, float(np.abs(ends[:, 0]).max())),
            max(farthest_y, float(np.abs(ends[:, 1]).max())),
        )
        everything = tops.highest_within(LineString(ends[:, :2]).buffer(1e4)) or tip
        highest, lowest = max(highest, everything + retract_of(op.setup, facts)), min(lowest, tip)
        for radius, above in op.holder.wider_steps:
            top = tops.highest_within(
                LineString(ends[:, :2]).buffer(radius + settings.side_margin_mm)
            )
            if top is not None and top - tip - above > most_need:
                most_need, section_of = top - tip - above, (top - tip, above)
    if most_need > -inf:
        where = Given(section_of[0], "stock, jaws and path, tilted")
        stands_out.against(op, where, section_of[1], facts.shop("below_margin_mm"))
    _moves(op, tables, (farthest_x, farthest_y), highest, lowest)


def _moves(
    op: Ready, tables: Tilting, farthest: tuple[float, float], highest: float, lowest: float
) -> None:
    """Figures travel_x, travel_y, travel_up and travel_down, from how far the tip goes (mm)."""
    gauge = Given(op.loaded.stick_out_mm + op.holder.length_mm, f"tool:T{op.loaded.number}")
    for letter, far in zip("xy", farthest, strict=True):
        op.work_out(
            envelope.spare_sideways,
            f"travel_{letter}",
            travel=op.of_machine(getattr(op.rig.carrier.travel, letter)),
            farthest=Given(far, "path, tilted"),
        )
    table_top = Given(0.0, "the table's top")
    op.work_out(
        envelope.spare_above,
        "travel_up",
        nose_highest=op.of_machine(tables.table.nose_to_table_max_mm),
        seat=table_top,
        tip_highest=Given(highest, "stock and path, tilted"),
        tool_length=gauge,
    )
    op.work_out(
        envelope.spare_below,
        "travel_down",
        nose_lowest=op.of_machine(tables.table.nose_to_table_min_mm),
        seat=table_top,
        tip_lowest=Given(lowest, "path, tilted"),
        tool_length=gauge,
    )


def _tops(op: Ready, pose: Pose, memo: Memo) -> TopSurface:
    """What looks up of stock and jaws with the table at a pose."""
    turned = digest(pose.rotation.round(9).tolist(), pose.origin.round(6).tolist())

    def find() -> TopSurface:
        jaws = [prism(jaw.region, jaw.bottom, jaw.top) for jaw in op.stand.beside]
        return top_surface(to_mesh(posed(joined([op.after.solid, *jaws]), pose)))

    return memo.get(("tilted-surface", op.after.key, op.stand.key, turned), find)


def timed(op: Ready, facts: PlanFacts) -> None:
    """The time of a tilted cut: its way at feed, and what the table's positions or turning add."""
    assert isinstance(op.operation, Slope) and op.path is not None
    taken = time_at(op, op.figures["feed"].value, facts)
    op.time = replace(
        taken,
        dwell_s=taken.dwell_s + (op.value("index_time") or 0.0) + (op.value("waiting_time") or 0.0),
    )


def placed(op: Ready) -> list[tuple[Pose, Path]]:
    """How its table puts the work for each straight edge, and the tip's way along that, as it lies
    then; none where no table tilts. Round a bend, which only live axes follow, the tool stands in
    the work already where a piece begins.
    """
    tables, lines = tilting(op.rig), runs(op)
    if tables is None or sum(len(line) for line in lines) > MOST_PIECES:
        return []
    assert isinstance(op.operation, Slope)
    found, before, live = [], None, op.operation.axes == "live"
    for run, pose in _poses(op, lines, tables):
        ends = pose.apply(run.points) - _edge_middle(op.tool)
        cut, short = Leg("cut", ends), run.long < ROUND_MM
        goes_on = short and before is not None and np.allclose(before.points[1], run.points[0])
        over = ends[:1] + np.array([0.0, 0.0, DOWN_MM])
        down = Leg("plunge", np.concatenate([over, ends[:1]]))
        if live or not short:
            found.append((pose, Path((cut,) if goes_on else (down, cut))))
        before = run
    return found


def path_of(op: Ready, followed: Path) -> Path:
    """Locked, every straight edge is a cut of its own with its own way down and up; live, lines
    stay whole.
    """
    assert isinstance(op.operation, Slope)
    return (
        followed if op.operation.axes == "live" else Path(tuple(_apart(followed)), followed.dwell_s)
    )


def _apart(path: Path) -> list[Leg]:
    """Cuts broken at their corners, with a rapid up and down in between."""
    legs: list[Leg] = []
    top = max((float(leg.points[:, 2].max()) for leg in path.legs), default=0.0)
    for leg in path.legs:
        straight = _straights(leg.points) if leg.kind == "cut" else []
        if len(straight) < 2:
            legs.append(leg)
            continue
        for place, run in enumerate(straight):
            if place:
                corner = run.points[0]
                up = np.array([corner[0], corner[1], top])
                legs.append(Leg("rapid", np.array([corner, up, corner])))
            legs.append(Leg("cut", run.points))
    return legs
