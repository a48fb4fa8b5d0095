"""Add or change an item of the library."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import F
from pydantic import BaseModel, ValidationError

from machining.exchange.plan_json import KINDS
from machining.plan.apply import first_problem
from machining.world.settings import Settings
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.problems import Refused

from ..models import Item, Stamp

MODELS: dict[str, type[BaseModel]] = {**KINDS, "settings": Settings}


def put(user: User, kind: str, key: str, data: dict[str, Any], seen: int) -> Item:
    """``seen`` is the revision the form was filled from, 0 for a new item. Raises Refused."""
    require(user, "library")
    record = _checked(kind, key, data)
    with transaction.atomic():
        item = Item.objects.filter(kind=kind, key=key).first()
        if item is None and seen:
            raise Refused(f"{key} was removed by somebody else.", status=409)
        if item is not None and item.revision != seen:
            raise Refused(f"{item.changed_by or 'Somebody'} changed {key} meanwhile. Look at it again." if seen else f"The key {key} is taken.", "key", key, status=409)
        if item is None:
            item = Item(kind=kind, key=key, revision=0)
        item.data, item.changed_by = record.model_dump(mode="json"), user
        item.revision += 1
        item.save()
        bump()
    did(user, "library put", kind=kind, key=key)
    return item


def _checked(kind: str, key: str, data: dict[str, Any]) -> BaseModel:
    model = MODELS.get(kind)
    if model is None:
        raise Refused(f"The library has no {kind!r}.", "kind", kind, status=404)
    if "key" in model.model_fields:
        data = {**data, "key": key}
    try:
        record = model.model_validate(data)
    except ValidationError as problem:
        field, value, sentence = first_problem(problem)
        raise Refused(sentence, field, value) from problem
    for field, other in (("tool", "tools"), ("holder", "holders")):
        if kind == "assemblies" and not Item.objects.filter(kind=other, key=getattr(record, field)).exists():
            raise Refused(f"The library has no {field} {getattr(record, field)!r}.", field, getattr(record, field))
    return record


def bump() -> None:
    if not Stamp.objects.update(number=F("number") + 1):
        Stamp.objects.create(number=1)
