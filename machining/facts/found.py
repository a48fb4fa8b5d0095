"""The cut as found: an operation's path carried through the stock that is there."""

from __future__ import annotations

from typing import Literal

import numpy as np

from machining.geometry.columns import Grid, columns_of
from machining.memo import Memo
from machining.plan.operation import Bore
from machining.plan.turned import PartOff, TurnGroove
from machining.removal.carry import carry, steps_of
from machining.removal.found import Found, Hardest
from machining.removal.loads import Loads, loads
from machining.removal.shape import Shape, shape_of
from machining.removal.trace import Trace, trace_of

from . import found_turned, tilted
from .context import OperationFacts, PlanFacts, Ready
from .kinds import kind_of

FINEST_MM, COARSEST_MM = 0.1, 0.5  # of the cells
OF_DIAMETER, OF_WIDTH = 24.0, 4.0  # cells across a tool, and across what it cuts


def can_be(op: Ready) -> bool:
    """Is its cut one that is carried through the stock: an upright tool that turns?"""
    kind = kind_of(op.operation)
    upright = not op.turns and not kind.turned and not tilted.is_tilted(op)
    return bool(op.path.legs) and upright and kind.carried


def look(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    """Fill what its path meets at its feed, where that is a question. Needs feed and chip."""
    if not can_be(op) or not op.needs("feed", "chip"):
        return
    cell = cell_for(op.tool.diameter_mm, _across(op))
    key = ("trace", op.path_key, op.before.key, op.tool, cell)
    trace = memo.get(key, lambda: _carried(op, cell))
    feed = op.value("centre_feed") or op.figures["feed"].value
    edge = kind_of(op.operation).section(op) is not None
    met = loads(trace, feed, op.tool.diameter_mm, edge)
    op.found = Found(trace, met, _hardest(trace, met, op, facts))


def _across(op: Ready) -> float | None:
    """How wide its cut is (mm): along an edge as wide as deep, at a mouth the ring it takes."""
    kind = kind_of(op.operation)
    section = kind.section(op)
    if section is not None:
        return section**0.5
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


def _carried(op: Ready, cell: float) -> Trace:
    shape = shape_for(op)
    columns = columns_of(op.before.mesh(), grid_under(op, shape, cell))
    steps = steps_of(op.path, columns.grid.cell, columns.top)
    return trace_of(carry(steps, shape, columns))


def grid_under(op: Ready, shape: Shape, cell: float) -> Grid:
    """Cells (mm) over what of its stock its path comes to."""
    (low, high), stock = op.path.bounds(), op.before.bounds()
    west = np.maximum(low[:2] - shape.radius, stock[0][:2])
    east = np.minimum(high[:2] + shape.radius, stock[1][:2])
    if not (west < east).all():  # it never comes to the stock, or there is none
        west = east = low[:2]
    return Grid.over(west, east, cell)


def _hardest(trace: Trace, met: Loads, op: Ready, facts: PlanFacts) -> Hardest | None:
    """Where the spindle has most to do: the section of the cut at the force its chip asks for. The
    way down on a ramp is not asked: its tool cuts with its bottom.
    """
    if not met.in_cut.any():
        return None
    mc = facts.material.mc if facts.material else 0.25
    asked = met.area * met.chip_share(op.tool.diameter_mm) ** -mc
    k = int(np.argmax(np.where(met.in_cut, asked, 0.0)))
    x, y, z = (float(v) for v in trace.steps.at[met.step[k]])
    return Hardest(float(met.area[k]), float(met.depth[k]), float(met.width[k]), (x, y, z))


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
    return op.found.largest_section * feed / 1000.0


def in_cut_s(op: OperationFacts) -> float | None:
    """How long (s) its path is in contact with metal: of each kind of move the share of its way."""
    if op.found_turned is not None:
        return op.found_turned.share_in_cut * op.time.cutting_s
    if op.found is None:
        return None
    time, (sideways, down) = op.time, op.found.shares_in_cut
    return time.sideways_s * sideways + (time.cutting_s - time.sideways_s - time.link_s) * down


def air_s(op: OperationFacts) -> float | None:
    """How long (s) it feeds in air, links apart."""
    cut = in_cut_s(op)
    return None if cut is None else max(op.time.cutting_s - op.time.link_s - cut, 0.0)
