"""The cut as found: an operation's path carried through the stock that is there."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import numpy as np

from machining.geometry.columns import Grid, columns_of
from machining.geometry.frames import Pose
from machining.geometry.mesh import Mesh
from machining.geometry.solids import Solid, posed, to_mesh
from machining.memo import Memo
from machining.motion.path import Path
from machining.plan.operation import Bore, Tap
from machining.plan.turned import PartOff, TurnGroove
from machining.removal.found import AtFeed, Found, met_in
from machining.removal.loads import AS_DEEP, down_section
from machining.removal.near import near
from machining.removal.shape import Shape, shape_of
from machining.removal.trace import Trace, joined, trace_of
from machining.world.stock.base import Corners

from . import found_turned, tilted
from .context import OperationFacts, PlanFacts, Ready
from .kinds import kind_of
from .place import Work

FINEST_MM, COARSEST_MM = 0.1, 0.5  # of the cells
USUAL_MC = 0.25  # of a material nobody chose
OF_DIAMETER, OF_WIDTH = 24.0, 4.0  # cells across a tool, and across what it cuts


def can_be(op: Ready) -> bool:
    """Is its cut one that is carried through the stock: an upright tool that turns?"""
    kind = kind_of(op.operation)
    stands = not op.turns and not kind.turned and kind.carried and bool(op.path.legs)
    return stands and (not tilted.is_tilted(op) or bool(tilted.placed(op)))


def look(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    """Fill what its path meets at its feed, where that is a question. Needs feed and chip."""
    if not can_be(op) or not op.needs("feed", "chip"):
        return
    cell = cell_for(op.tool.diameter_mm, _across(op))
    key = ("trace", op.path_key, op.before.key, op.tool, cell)
    trace = memo.get(key, lambda: _carried(op, cell))
    edge_feed = op.figures["feed"].value
    feed = op.value("centre_feed") or edge_feed
    kind = kind_of(op.operation)
    flank = None if kind.section(op) is None else kind.infeed(op) or AS_DEEP
    going = AtFeed(feed, op.tool.diameter_mm, flank, feed / edge_feed)
    mc = facts.material.mc if facts.material else USUAL_MC
    op.found = Found(trace, going, met_in(going.loads(trace), trace, going.diameter, mc))


def _across(op: Ready) -> float | None:
    """How wide its cut is (mm): along an edge as wide as deep, at a mouth the ring it takes."""
    kind = kind_of(op.operation)
    section = kind.section(op)
    if section is not None:
        return kind.infeed(op) or section**0.5
    if not kind.edge:
        return kind.width(op)
    mouth = getattr(op.operation, "mouth_diameter_mm", 0.0)
    return max((mouth - op.work.hole_diameter) / 2.0, 0.0) or op.work.hole_depth


def cell_for(diameter: float, width: float | None) -> float:
    """How fine the stock has to be looked at for a cut, mm."""
    fine = diameter / OF_DIAMETER
    if width:
        fine = min(fine, width / OF_WIDTH)
    return float(np.clip(fine, FINEST_MM, COARSEST_MM))


def shape_for(op: Ready) -> Shape:
    """What its tool sweeps: of one that bores, as it is set."""
    return shape_of(op.tool, op.work.hole_diameter if isinstance(op.operation, Bore) else None)


def ways(op: Ready) -> list[tuple[Pose | None, Path]]:
    """Its path, or each piece of it with the pose of a table that tilts the work for it."""
    return [*tilted.placed(op)] if tilted.is_tilted(op) else [(None, op.path)]


def _carried(op: Ready, cell: float) -> Trace:
    shape = shape_for(op)
    if not tilted.is_tilted(op):
        return _through(op.before.mesh(), op.path, shape, cell)
    found = []
    for pose, path, stock in _piece_by_piece(op, shape):
        there = _through(to_mesh(posed(stock, pose)), path, shape, cell)
        found.append(there.moved(pose.inverse()))
    return joined(found)


def _piece_by_piece(op: Ready, shape: Shape) -> Iterator[tuple[Pose, Path, Solid]]:
    """Where the table puts the work for each piece of a tilted cut, the tip's way there, and what
    those before it left, in the setup frame.
    """
    stock = op.before.solid
    for pose, path in tilted.placed(op):
        stock.num_tri()  # worked out now, else again and again
        yield pose, path, stock
        stock = stock - posed(shape.along(path.legs[-1].points), pose.inverse())


def _through(stock: Mesh, path: Path, shape: Shape, cell: float) -> Trace:
    grid = grid_under(path, stock.bounds(), shape, cell)
    columns = columns_of(stock, grid, near(path, shape, grid, float(stock.bounds()[1][2])))
    return trace_of(path, shape, columns)


def grid_under(path: Path, stock: Corners, shape: Shape, cell: float) -> Grid:
    """Cells (mm) over what of a stock between two corners a path comes to."""
    low, high = path.bounds()
    west = np.maximum(low[:2] - shape.radius, stock[0][:2])
    east = np.minimum(high[:2] + shape.radius, stock[1][:2])
    if not (west < east).all():  # it never comes to the stock, or there is none
        west = east = low[:2]
    return Grid.over(west, east, cell)


def hardest_of(op: OperationFacts, name: Literal["depth", "width"]) -> float | None:
    """Depth or width (mm) where its path meets most; None where it was not carried, or is all in
    air. A turned cut has the depth that is square to its way, the width of a blade.
    """
    if op.found_turned is not None:
        blade = isinstance(op.operation, TurnGroove | PartOff)
        return found_turned.depth_mm(op) if blade == (name == "width") else None
    if op.found is None or op.found.hardest is None:
        return None
    hardest = op.found.hardest
    return hardest.depth if name == "depth" else hardest.width


def removal(op: OperationFacts) -> float | None:
    """The most (cm³/min) it takes over a tenth of a second."""
    feed = op.value("feed")
    if op.found_turned is not None:
        return op.found_turned.removal
    if op.found is None or feed is None:
        return None
    down = down_section(op.found.trace, feed) if kind_of(op.operation).on_axis else 0.0
    return max(op.found.met.largest_section, down) * feed / 1000.0


def in_cut_s(op: OperationFacts) -> float | None:
    """How long (s) its path is in contact with metal: of each kind of move the share of its way."""
    if op.found_turned is not None:
        return op.found_turned.share_in_cut * op.time.cutting_s
    if op.found is None:
        share = _share_in_holes(op)
        return None if share is None else share * op.time.cutting_s
    time, (sideways, down) = op.time, op.found.shares_in_cut
    return time.sideways_s * sideways + (time.cutting_s - time.sideways_s - time.link_s) * down


def _share_in_holes(op: OperationFacts) -> float | None:
    """Of the way of a tap, which is not carried, what it goes in its holes."""
    if not isinstance(op.operation, Tap) or op.work is None or not op.path.legs:
        return None
    work, key = op.work, ("share in holes", op.path_key)
    return op.before.memo.get(key, lambda: _inside(op.path, work))


def _inside(path: Path, work: Work) -> float | None:
    mouths = {(round(x, 3), round(y, 3)): mouth for x, y, mouth, _ in work.holes}
    axes, heights = np.array(list(mouths)), np.array(list(mouths.values()))
    way = inside = 0.0
    for leg in path.legs:
        if leg.kind not in ("plunge", "cut"):
            continue
        ends, moves = leg.points, np.linalg.norm(np.diff(leg.points, axis=0), axis=1)
        away = np.linalg.norm(ends[:, None, :2] - axes[None], axis=2)
        over = ends[:, 2] - heights[away.argmin(axis=1)]
        top = np.maximum(over[:-1], over[1:])
        low = np.minimum(over[:-1], over[1:])
        share = np.where(top > low, -np.minimum(low, 0.0) / np.maximum(top - low, 1e-9), low < 0)
        way += float(moves.sum())
        inside += float((moves * np.clip(share, 0.0, 1.0)).sum())
    return inside / way if way > 0 else None


def air_s(op: OperationFacts) -> float | None:
    """How long (s) it feeds in air, links apart."""
    cut = in_cut_s(op)
    return None if cut is None else max(op.time.cutting_s - op.time.link_s - cut, 0.0)
