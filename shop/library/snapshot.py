"""The library as one frozen value, made anew only after a change."""

from __future__ import annotations

from threading import Lock
from typing import Any

from machining.exchange.plan_json import KINDS
from machining.world.library import Library
from machining.world.settings import Settings

from .models import Item, Stamp

_kept: tuple[int, Library] | None = None
_lock = Lock()


def stamp() -> int:
    row = Stamp.objects.first()
    return row.number if row else 0


def snapshot() -> Library:
    """Everything a plan can refer to, but solids."""
    global _kept
    now = stamp()
    with _lock:
        if _kept is not None and _kept[0] == now:
            return _kept[1]
    tables: dict[str, dict[str, Any]] = {kind: {} for kind in KINDS}
    settings = Settings()
    for item in Item.objects.all():
        if item.kind == "settings":
            settings = Settings.model_validate(item.data)
        else:
            tables[item.kind][item.key] = KINDS[item.kind].model_validate(item.data)
    made = Library(**tables, settings=settings)
    with _lock:
        _kept = (now, made)
    return made
