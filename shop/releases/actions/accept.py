"""Accept a finding to look at, in writing."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from shop.accounts.models import User
from shop.base.actions import did, hash_of, require
from shop.base.names import line_of_text
from shop.base.problems import Refused
from shop.jobs.models import Plan

from ..models import Acceptance
from ..review import review, sentence_of

SAME = 1e-9


def accept(
    user: User, plan: Plan, finding: str, note: str, seen: dict[str, float | str] | None
) -> Acceptance:
    """``seen`` are the finding's values as they were shown. Raises Refused for a stop, for a
    finding that isn't there or reads otherwise now, and without a reason.
    """
    require(user, "release")
    note = line_of_text("note", note.strip(), 300)
    if len(note) < 3:
        raise Refused("note: write why this may stay as it is.", "note", note)
    found = next((f for f in review(user, plan).findings if f["key"] == finding), None)
    if found is None:
        raise Refused("This finding is gone; the plan has changed.", "finding", finding, status=409)
    if found["severity"] == "stop":
        raise Refused(
            "What will not work as planned can't be accepted; change the plan.", "finding", finding
        )
    if found["kept"]:
        raise Refused(
            "The planner keeps this finding with words of his own; it stands in the review"
            " already.",
            "finding",
            finding,
        )
    if seen is not None and not _as_seen(found, seen):
        raise Refused(
            f"It has changed since you looked: you saw {_values(seen)}; now it reads"
            f" “{sentence_of(found)}”",
            "seen",
            finding,
            status=409,
        )
    with transaction.atomic():
        row = Acceptance.objects.create(
            plan=plan, finding=finding, seen=sentence_of(found), note=note, by=user
        )
        did(
            user,
            "finding accepted",
            f"plan:{plan.pk}",
            after=hash_of([finding, row.seen, note]),
            finding=finding,
            seen=row.seen,
        )
    return row


def _as_seen(found: dict[str, Any], seen: dict[str, float | str]) -> bool:
    now = {name: shown["value"] for name, shown in found["values"].items()}
    if now.keys() != seen.keys():
        return False
    return all(
        a == b
        or (
            isinstance(a, float | int)
            and isinstance(b, float | int)
            and abs(a - b) <= SAME * max(1.0, abs(a))
        )
        for a, b in ((now[name], seen[name]) for name in now)
    )


def _values(seen: dict[str, float | str]) -> str:
    return ", ".join(
        f"{name} {value:g}" if isinstance(value, float | int) else f"{name} {value[:40]}"
        for name, value in list(seen.items())[:8]
    )
