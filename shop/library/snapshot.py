"""The library as one frozen value, made anew only after a change."""

from __future__ import annotations

import logging
from datetime import date
from threading import Lock
from typing import Any

from pydantic import BaseModel, ValidationError

from machining.exchange.plan_json import KINDS
from machining.plan.refusal import first_problem
from machining.world.library import Library
from machining.world.settings import Settings
from machining.world.upgrades import item_up_to_date

from .models import Item, Stamp

log = logging.getLogger("fabrotax.library")
_kept: tuple[tuple[int, date], Library] | None = None
_lock = Lock()


def stamp() -> int:
    row = Stamp.objects.first()
    return row.number if row else 0


def record_of(item: Item) -> BaseModel:
    """An item as the core's record. Raises ValidationError for what this program can't read."""
    raw = item_up_to_date(item.kind, item.format, item.data)
    if item.kind == "settings":
        return Settings.model_validate(raw)
    record: BaseModel = KINDS[item.kind].validate_python(raw)
    return record


def problem_of(item: Item) -> str:
    """Why an item can't be read, as a sentence; empty where it can."""
    try:
        record_of(item)
    except (ValidationError, KeyError) as problem:
        return (
            f"It can't be read: {first_problem(problem)[2]}"
            if isinstance(problem, ValidationError)
            else f"This program knows no {item.kind}."
        )
    return ""


def snapshot() -> Library:
    """Everything a plan can refer to, but solids. An item that can't be read is left out; its own
    page says why.
    """
    global _kept
    now = (stamp(), date.today())
    with _lock:
        if _kept is not None and _kept[0] == now:
            return _kept[1]
    tables: dict[str, dict[str, Any]] = {kind: {} for kind in KINDS}
    settings = Settings()
    for item in Item.objects.all():
        try:
            record = record_of(item)
        except (ValidationError, KeyError):
            log.warning("%s can't be read", item)
            continue
        if isinstance(record, Settings):
            settings = record
        else:
            tables[item.kind][item.key] = record
    made = Library(**tables, settings=settings, today=now[1])
    with _lock:
        _kept = (now, made)
    return made
