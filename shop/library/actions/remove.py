"""Take an item out of the library, unless something stands on it."""

from __future__ import annotations

from django.db import transaction

from shop.accounts.models import User
from shop.base.actions import did, hash_of, require
from shop.base.problems import Refused

from ..models import Item
from ..uses import used
from .put import bump


def remove(user: User, kind: str, key: str) -> None:
    """Raises Refused where a plan or an assembly uses it."""
    require(user, "library")
    with transaction.atomic():
        item = Item.objects.filter(kind=kind, key=key).first()
        if item is None:
            raise Refused(f"{key} is not in the library.", status=404)
        jobs = used().get((kind, key), [])
        if jobs:
            raise Refused(
                f"{item.data.get('name', key)} is used by {', '.join(jobs)}; it can't be removed.",
                "key",
                key,
                status=409,
            )
        if kind in ("tools", "holders"):
            field = kind[:-1]
            named = sorted(
                a.key for a in Item.objects.filter(kind="assemblies") if a.data.get(field) == key
            )
            if named:
                raise Refused(
                    f"{item.data['name']} is part of the assembly {', '.join(named)}; remove that"
                    " first.",
                    "key",
                    key,
                    status=409,
                )
        item.delete()
        bump()
        did(user, "library item removed", f"{kind}:{key}", hash_of(item.data))
