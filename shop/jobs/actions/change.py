"""Change a job's own fields: title, revision letter, due date, remark."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import F

from shop.accounts.models import User
from shop.base.actions import did, hash_of, require
from shop.base.models import Entry
from shop.base.names import line_of_text
from shop.base.problems import Refused

from ..models import Job

MOST = {"title": 120, "revision": 10, "remark": 500}


def change(user: User, job: Job, seen: int | None, fields: dict[str, Any]) -> None:
    """Write only these fields. Raises Refused with 409 where somebody changed one of them after
    revision ``seen`` of the job.
    """
    require(user, "plan")
    wanted = {
        name: value if name == "due" else line_of_text(name, (value or "").strip(), MOST[name])
        for name, value in fields.items()
    }
    if "title" in wanted and not wanted["title"]:
        raise Refused("title: a job needs a title.", "title", fields["title"])
    with transaction.atomic():
        now = Job.objects.select_for_update().get(pk=job.pk)
        if seen is not None and seen != now.touched:
            _refuse_what_met(now, seen, wanted)
        before = {name: getattr(now, name) for name in wanted}
        if before == wanted:
            return
        Job.objects.filter(pk=job.pk).update(touched=F("touched") + 1, **wanted)
        did(
            user,
            "job changed",
            f"job:{job.number}",
            hash_of(before),
            hash_of(wanted),
            fields=sorted(wanted),
            touched=now.touched + 1,
        )


def _refuse_what_met(job: Job, seen: int, wanted: dict[str, Any]) -> None:
    """Two people may write different fields; the same field is for the one who saw the other's."""
    since = [
        each
        for each in Entry.objects.filter(what="job changed", on=f"job:{job.number}")
        if each.about["touched"] > seen
    ]
    for entry in since:
        both = sorted(set(entry.about["fields"]) & wanted.keys())
        if both:
            name = both[0]
            raise Refused(
                f"{entry.by or 'Somebody'} changed {name} meanwhile; it is now"
                f" {str(getattr(job, name))[:80]!r}.",
                name,
                wanted[name],
                status=409,
            )
