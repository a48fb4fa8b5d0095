"""Kinds of operation: one descriptor each, one file a family. Nothing else names kinds."""

from __future__ import annotations

from typing import Any

from machining.plan.operation import Drill, Operation
from machining.world.material import Process
from machining.world.tool import TURNS_ON_AXIS, Tool

from . import (
    behind,
    chamfered,
    cut_outs,
    drilled,
    edges,
    engrave,
    milled_hole,
    mouths,
    pockets,
    sides,
    slots,
    threads,
    turned_contours,
    turned_grooves,
    turned_thread,
    undercut,
    walls,
)
from .base import Ground, Kind

KINDS: dict[str, Kind[Any]] = {
    **sides.KINDS,
    **pockets.KINDS,
    **slots.KINDS,
    **cut_outs.KINDS,
    **walls.KINDS,
    **drilled.KINDS,
    **chamfered.KINDS,
    **mouths.KINDS,
    **behind.KINDS,
    **milled_hole.KINDS,
    **threads.KINDS,
    **edges.KINDS,
    **undercut.KINDS,
    **engrave.KINDS,
    **turned_contours.KINDS,
    **turned_grooves.KINDS,
    **turned_thread.KINDS,
}


def kind_of(operation: Operation) -> Kind[Any]:
    return KINDS[operation.kind]


def goes_down_as_mill(operation: Operation, tool: Tool) -> bool:
    """Does a mill do what drills do: straight down, at a share of its feed sideways?"""
    return isinstance(operation, Drill) and tool.kind not in TURNS_ON_AXIS


def process_of(operation: Operation, tool: Tool) -> Process:
    """Whose cutting data it goes by."""
    return "rough" if goes_down_as_mill(operation, tool) else kind_of(operation).process


__all__ = ["KINDS", "Ground", "Kind", "goes_down_as_mill", "kind_of", "process_of"]
