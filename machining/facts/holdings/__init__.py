"""Kinds of holding: one descriptor each, one file a kind."""

from __future__ import annotations

from typing import Any

from machining.plan.holding import Held

from . import centres, chuck, clamped, collet, mandrel, pulled, vise
from .base import HeldWords, HoldingKind, Lying, Marks

KINDS: dict[str, HoldingKind[Any, Any]] = {
    "vise": vise.VISE,
    "chuck": chuck.CHUCK,
    "collet": collet.COLLET,
    "mandrel": mandrel.MANDREL,
    "centres": centres.CENTRES,
    "clamped": clamped.CLAMPED,
    "pulled": pulled.PULLED,
}


# of what kind a plan's holding is that has something of the library
FROM_LIBRARY = {**KINDS, "fixture": clamped.CLAMPED}


def kind_of(holding: Held) -> HoldingKind[Any, Any]:
    return KINDS[holding.kind]


__all__ = ["FROM_LIBRARY", "KINDS", "HeldWords", "HoldingKind", "Lying", "Marks", "kind_of"]
