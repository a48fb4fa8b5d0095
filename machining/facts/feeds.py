"""The feed the data give an edge, and what the blank may add to a cut."""

from __future__ import annotations

from math import radians, sin

from machining.cutting import engagement
from machining.world.material import CuttingData
from machining.world.tool import Tool

from .context import Ready

MAX_THINNING = 2.0
# what a chip grows by where a pass is a quarter wider than stated, as in the corners of a clearing
WIDER = 1.25**0.5


def start_chip(tool: Tool, data: CuttingData) -> float:
    """Feed per edge (mm) the data give a tool; a high-feed mill's slanted edge turns a thin chip
    into a long feed.

    No tool gets a thicker chip than its maker allows, whatever the material would take.
    """
    plain = data.chip_mm(tool.diameter_mm)
    if tool.max_chip_mm is not None:
        plain = min(plain, tool.max_chip_mm)
    return plain / sin(radians(tool.edge_angle_deg)) if tool.kind == "high_feed_mill" else plain


def chip_at(op: Ready, width: float) -> float:
    """Feed per tooth (mm) the material's data give this tool at a width of cut, opened up where the
    chip thins.
    """
    assert op.data is not None  # a width is only changed where the data gave its feed
    plain, diameter = start_chip(op.tool, op.data), op.tool.diameter_mm
    if width >= diameter / 2.0:
        return plain
    thin = thin_chip(op.tool, plain)
    return min(engagement.feed_for_chip(thin, width, diameter), MAX_THINNING * plain)


def thin_chip(tool: Tool, plain: float) -> float:
    """The chip (mm) that a feed is opened up for where the width is small: with room for passes
    that turn out wider.
    """
    return plain if tool.max_chip_mm is None else min(plain, tool.max_chip_mm / WIDER)


def blank_over(op: Ready) -> float:
    """How much more (mm) a cut can meet than its passes are laid out for, where the blank is at its
    largest.
    """
    return max(op.seen.blank_over_mm - getattr(op.operation, "over_mm", 0.0), 0.0)
