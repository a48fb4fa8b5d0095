"""Kinds of operation: one descriptor each, one file a family. Nothing else names kinds."""

from __future__ import annotations

from typing import Any

from machining.plan.operation import Operation

from . import (
    behind,
    chamfered,
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


__all__ = ["KINDS", "Ground", "Kind", "kind_of"]
