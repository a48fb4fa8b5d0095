"""What every action shares: who may do it, and that it is written down."""

from __future__ import annotations

import json
from hashlib import sha256
from typing import Any

from shop.accounts.models import User
from shop.base.models import Entry
from shop.base.problems import Refused

WORDS = {
    "plan": "change plans",
    "library": "change the library",
    "release": "release plans",
    "rules": "change what the shop allows",
    "record": "read the record",
}


def require(user: User, right: str) -> None:
    """Raises Refused with 403 where the user's role lacks a right: plan, library, release, rules or
    record.
    """
    if right not in user.rights:
        raise Refused(f"The role {user.role} may not {WORDS[right]}.", status=403)


def did(
    user: User | None, what: str, on: str, before: str = "", after: str = "", **about: Any
) -> None:
    """Write a line of the record, in the transaction of what was done: it stands where
    that stands.
    """
    Entry.objects.create(by=user, what=what, on=on[:120], before=before, after=after, about=about)


def hash_of(value: Any) -> str:
    """SHA-256 of plain values, the same for the same content."""
    return sha256(
        json.dumps(value, sort_keys=True, separators=(",", ":"), default=str).encode()
    ).hexdigest()
