"""Thin walls and bars: what an operation cuts on, what carries them then, and how far they bend."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from shapely import contains_xy

from machining.cutting.forces import force_on_wall, peak_side_force
from machining.geometry.columns import Columns
from machining.geometry.frames import Vector
from machining.geometry.mesh import Mesh
from machining.geometry.thickness import WAYS, Flags, Ints, Wall, along, grids_over, walls
from machining.holding.plate import gives
from machining.holding.wall import wall_bends
from machining.quantities.computed import Given
from machining.world.stock.base import Corners

from .context import PlanFacts, Ready
from .observed import PressedThin, Thin
from .pressed import on_wall, presses_thin
from .state import State

PRESSED_AT = 2.0  # the same of what is pressed
LOOKED_AT = 4.0  # times its thickness from what carries it: less is no wall
LEAST_FAR_MM = 1.5
MOST_KEPT = 7000  # cells of walls, no more than their solid takes
MOST_TRIED = 12  # places of a cut on a wall that are looked at, the farthest
BY_DEPTH: dict[str, Callable[..., float]] = {
    "wall_force": force_on_wall,
    "side_force": peak_side_force,
    "worst_side_force": peak_side_force,
}
SAME_MM, BESIDE_MM = 0.03, 0.2
ALONG = 0.7  # of a direction's length
BEHIND = frozenset(
    ("parallel", "pallet", "fixture", "stop", "dowel", "bed", "step", "angle", "chuck", "nose")
)


def look(op: Ready, facts: PlanFacts) -> None:
    """What of its stock is thin where it cuts, the worst first; figure wall_bends of the worst that
    is slender, or of that.
    """
    if op.turns or op.before is op.after:
        return
    found = cut_on(op, op.before, op.after, facts)
    op.seen = replace(op.seen, thin=found, pressed=pressed_on(op, facts))
    worst = next((e for e in found if is_slender(e, facts)), found[0] if found else None)
    if worst is not None and worst.force_n is not None:
        origin = f"plate {worst.thick_mm:.2f} mm thick, held where it meets thicker material"
        op.work_out(
            wall_bends,
            "wall_bends",
            force=Given(worst.force_n, "worn edge"),
            gives=Given(1000.0 * worst.gives, origin),
        )


def is_slender(thin: Thin, facts: PlanFacts) -> bool:
    """Is it worth a look: slender, and bent by more than the shop allows or by nobody knows how
    much, or twice as slender?
    """
    settings = facts.library.settings
    if thin.ratio < settings.wall_ratio:
        return False
    bends = thin.bends_mm
    return bends is None or bends > settings.wall_bends_mm or thin.ratio >= 2 * settings.wall_ratio


class Standing(NamedTuple):
    """A wall as it stands, which of its cells (n,) lie on what holds the part, and whether it is
    cut.
    """

    thin: Thin
    wall: Wall
    held: Flags
    cut: bool


def cut_on(op: Ready, before: State, after: State, facts: PlanFacts) -> tuple[Thin, ...]:
    """The walls of a state that the operation cuts on where it takes it there from another."""
    found = [each.thin for each in standing(op, before, after, facts) if each.cut]
    return tuple(sorted(found, key=lambda each: (-(each.bends_mm or 0.0), -each.ratio)))


def standing(op: Ready, before: State, after: State, facts: PlanFacts) -> Iterator[Standing]:
    """All that is thin of a state with what holds the part in an operation, cut or not."""
    was = dict[int, Columns]()
    for wall in _walls(after, facts, LOOKED_AT):
        held = _held(op, wall)
        if not (wall.carries.any() or held.any()):
            continue
        if wall.axis not in was:
            was[wall.axis] = along(_of_part(before), wall.axis, wall.grid)
        sides, edges = _cut(wall, was[wall.axis])
        cut = bool((sides | edges).any())
        if not cut:
            sides = ~sides
        if (thin := _thin(op, wall, held, sides, edges, facts)) is not None:
            yield Standing(thin, wall, held, cut)


def box_of(thin: Thin, state: State, facts: PlanFacts) -> Corners:
    """The corners (mm, of the part) of a wall of a state with what may lie beside it: one that has
    nothing there is not another for it.
    """
    for wall in _walls(state, facts, LOOKED_AT):
        middles = wall.middles()
        if wall.axis == thin.axis and (middles == thin.at).all(axis=1).any():
            around = 2.0 * wall.grid.cell + float(wall.thick.max())
            low, high = wall.faces()
            return low.min(axis=0) - around, high.max(axis=0) + around
    return np.full(3, -np.inf), np.full(3, np.inf)


def pressed_on(op: Ready, facts: PlanFacts) -> PressedThin | None:
    """What is bent most of what clamps press on, as the operation leaves it."""
    if not presses_thin(op, _of_part(op.after)):
        return None
    found = [
        on_wall(op, wall, _held(op, wall, BEHIND), facts)
        for wall in _walls(op.after, facts, PRESSED_AT)
    ]
    return max((e for e in found if e is not None), key=lambda e: e.bends_mm, default=None)


def _walls(state: State, facts: PlanFacts, slender: float) -> list[Wall]:
    """Those of a state, whoever cuts on it; large ones nobody keeps."""
    key = ("walls", state.key, facts.blank.state.key, slender)
    kept = state.memo.peek(key)
    if isinstance(kept, list):
        return kept
    grids = grids_over(facts.blank.low, facts.blank.high)
    found = walls(_of_part(state), grids, slender)
    if sum(len(each.at) for each in found) <= MOST_KEPT:
        state.memo.put(key, found)
    return found


def _of_part(state: State) -> Mesh:
    """In part coordinates."""
    mesh = state.mesh()
    return mesh if state.lie is None else mesh.posed(state.lie.pose.inverse())


def _cut(wall: Wall, columns: Columns) -> tuple[Flags, Flags]:
    """Which of its cells were thicker before, in ``columns`` along its axis, and which had material
    at an edge that is free now.
    """
    tops, lows = (np.asarray(each, dtype=float) for each in (columns.tops, columns.lows))
    was_low, was_high = _run(wall, wall.at, tops, lows)
    sides: Flags = (was_high > wall.high + SAME_MM) | (was_low < wall.low - SAME_MM)
    edges = np.zeros(len(wall.at), dtype=bool)
    for way in range(4):
        open_now = (wall.beside[:, way] < 0) & ~wall.carries[:, way]
        beside = wall.at + WAYS[way]
        inside = ((beside >= 0) & (beside < tops.shape[:2])).all(axis=1)
        low, high = _run(wall, np.where(inside[:, None], beside, 0), tops, lows)
        edges |= open_now & inside & (high > low)
    return sides, edges


def _run(wall: Wall, at: Ints, tops: Vector, lows: Vector) -> tuple[Vector, Vector]:
    """From where to where there was material at places, of what meets the wall's cells."""
    top, low = tops[at[:, 0], at[:, 1]], lows[at[:, 0], at[:, 1]]
    meets = np.minimum(top, wall.high[:, None]) - np.maximum(low, wall.low[:, None]) > SAME_MM
    return (
        np.where(meets, low, np.inf).min(axis=1),
        np.where(meets, top, -np.inf).max(axis=1),
    )


def _thin(
    op: Ready, wall: Wall, held: Flags, sides: Flags, edges: Flags, facts: PlanFacts
) -> Thin | None:
    """How it stands, and bends where it is cut on a side or an edge; None where it is no wall with
    what holds the part there.
    """
    far, ratio = wall.far(held), wall.ratio(held)
    if ratio < LOOKED_AT or float(far.max()) < LEAST_FAR_MM:
        return None
    tried, by = list[int](), list[str]()
    for which, on_edge in ((sides, False), (edges, True)):
        places = np.flatnonzero(which)
        farthest = places[np.argsort(-far[places], kind="stable")][:MOST_TRIED].tolist()
        tried += farthest
        by += [_pushed_by(op, wall.axis, on_edge)] * len(farthest)
    modulus = facts.material.modulus_gpa if facts.material is not None else None
    pushed = [_pushes(op, each, facts) for each in by]
    each = gives(wall, modulus or 1.0, np.array(tried), held)
    worst = int(np.argmax(each * [1.0 if force is None else force for force in pushed]))
    at, most = wall.middles()[tried[worst]], float(far.max())
    if modulus is None or not np.isfinite(each[worst]):
        return Thin(wall.axis, wall.mean_mm, ratio, most, at, 0.0)
    give = float(each[worst])
    return Thin(wall.axis, wall.mean_mm, ratio, most, at, give, pushed[worst], by[worst])


def _held(op: Ready, wall: Wall, roles: frozenset[str] | None = None) -> Flags:
    """Which of its cells lie on something that holds the part, on either side; of some roles."""
    lie = op.station.stand.lie or op.station.lie
    bodies = op.stand.upright or op.stand.bodies
    held = np.zeros(len(wall.at), dtype=bool)
    on_table = op.seen.held is not None and any(
        each.body == "table" for each in op.seen.held.contacts.every
    )
    for face, way in zip(wall.faces(), (-1.0, 1.0), strict=True):
        out = lie.pose.rotation[:, wall.axis] * way
        points = lie.pose.apply(face) + BESIDE_MM * out
        if on_table and out[2] < -ALONG:
            held |= points[:, 2] < float(lie.stock_low[2])
        for body in bodies:
            if roles is not None and body.role not in roles:
                continue
            high = (points[:, 2] >= body.bottom) & (points[:, 2] <= body.top)
            if high.any():
                held |= high & contains_xy(body.region, points[:, 0], points[:, 1])
    return held


def _pushed_by(op: Ready, axis: int, on_edge: bool) -> str:
    """The figure of what an edge pushes with along an axis of the part: a wall that it makes it
    pushes square to it. What cuts on its own axis alone pushes nothing aside.
    """
    worst = "worst_" if "worst_side_force" in op.figures else ""
    if f"{worst}side_force" not in op.figures:
        return "thrust" if _along_tool(op, axis) else ""
    if _along_tool(op, axis):
        return f"{worst}axial_force"
    return "wall_force" if "wall_force" in op.figures and not on_edge else f"{worst}side_force"


def _pushes(op: Ready, by: str, facts: PlanFacts) -> float | None:
    """That of a worn edge (N), None where nobody knows."""
    if by not in op.figures:
        return 0.0 if not by and "cutting_torque" in op.figures else None
    return facts.shop("wear_factor").value * op.figures[by].value


def _along_tool(op: Ready, axis: int) -> bool:
    return bool(abs(op.lie.pose.rotation[2, axis]) > ALONG)


def bent_at(op: Ready, thin: Thin, depth: float, facts: PlanFacts) -> float | None:
    """How far (mm) the same cut would bend it at another depth; None where its force is not that of
    an edge's side.
    """
    force_of = BY_DEPTH.get(thin.by)
    if force_of is None:
        return None
    figure = op.figures[thin.by]
    given = {each.name: each.value for each in figure.inputs}
    return thin.gives * facts.shop("wear_factor").value * force_of(**{**given, "depth": depth})


def gives_aside(op: Ready) -> float:
    """How far (mm) 1 N moves what it cuts on where a side force bends that most, 0 where nothing
    is thin.
    """
    return max((e.gives for e in op.seen.thin if not _along_tool(op, e.axis)), default=0.0)
