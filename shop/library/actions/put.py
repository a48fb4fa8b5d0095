"""Add or change an item of the library."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import F
from pydantic import BaseModel, TypeAdapter, ValidationError

from machining.exchange.plan_json import KINDS
from machining.plan.refusal import first_problem
from machining.world.settings import Settings
from machining.world.upgrades import format_of
from shop.accounts.models import User
from shop.base.actions import did, hash_of, require
from shop.base.problems import Refused

from ..models import Item, Stamp

TABLES: dict[str, TypeAdapter[Any]] = {**KINDS, "settings": TypeAdapter(Settings)}


def put(user: User, kind: str, key: str, data: dict[str, Any], seen: int) -> Item:
    """``seen`` is the revision the form was filled from, 0 for a new item. Raises Refused."""
    require(user, "library")
    record = _checked(kind, key, data)
    with transaction.atomic():
        item = Item.objects.filter(kind=kind, key=key).first()
        if isinstance(record, Settings):
            _may_loosen(user, item, record)
        before = hash_of(item.data) if item else ""
        if item is None and seen:
            raise Refused(f"{key} was removed by somebody else.", status=409)
        if item is not None and item.revision != seen:
            raise Refused(
                (
                    f"{item.changed_by or 'Somebody'} changed {key} meanwhile. Look at it again."
                    if seen
                    else f"The key {key} is taken."
                ),
                "key",
                key,
                status=409,
            )
        if item is None:
            item = Item(kind=kind, key=key, revision=0)
        item.data, item.format, item.changed_by = (
            record.model_dump(mode="json"),
            format_of(kind),
            user,
        )
        item.revision += 1
        item.save()
        bump()
        did(
            user,
            "settings changed" if kind == "settings" else "library item put",
            f"{kind}:{key}",
            before,
            hash_of(item.data),
            revision=item.revision,
        )
    return item


def _may_loosen(user: User, item: Item | None, wanted: Settings) -> None:
    """What loosens approval is not for those who approve. Raises Refused."""
    known = {**Settings().model_dump(mode="json"), **(item.data if item else {})}
    for name in sorted(Settings.RULES):
        if known[name] != getattr(wanted, name) and "rules" not in user.rights:
            raise Refused(
                f"{name} is a rule of the shop; an administrator changes it, not the role"
                f" {user.role}.",
                name,
                getattr(wanted, name),
                status=403,
            )


def _checked(kind: str, key: str, data: dict[str, Any]) -> BaseModel:
    table = TABLES.get(kind)
    if table is None:
        raise Refused(f"The library has no {kind!r}.", "kind", kind, status=404)
    if kind == "settings" and key != "shop":
        raise Refused("The shop has one set of settings, called 'shop'.", "key", key, status=404)
    if kind != "settings":
        data = {**data, "key": key}
    try:
        record: BaseModel = table.validate_python(data)
    except ValidationError as problem:
        field, value, sentence = first_problem(problem)
        raise Refused(sentence, field, value) from problem
    for field, other in (("tool", "tools"), ("holder", "holders")):
        if (
            kind == "assemblies"
            and not Item.objects.filter(kind=other, key=getattr(record, field)).exists()
        ):
            raise Refused(
                f"The library has no {field} {getattr(record, field)!r}.",
                field,
                getattr(record, field),
            )
    return record


def bump() -> None:
    if not Stamp.objects.update(number=F("number") + 1):
        Stamp.objects.create(number=1)
