"""Freeze a plan as the next release. Its sheets are drawn by the worker and can be drawn again."""

from __future__ import annotations

import secrets

from django.db import IntegrityError, transaction
from django.utils import timezone

from shop.accounts.models import User
from shop.base import blobs
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.jobs import documents
from shop.jobs.models import Plan
from shop.tasks.models import Task

from ..freeze import record
from ..models import Release
from ..review import review

ALPHABET = "23456789abcdefghjkmnpqrstuvwxyz"


def release(user: User, plan: Plan, seen: int, note: str = "") -> Release:
    """Raises Refused with the first reason against it, or with 409 where the plan was changed after it was looked at."""
    require(user, "release")
    looked = review(user, plan)
    if looked.head.number != seen:
        raise Refused(f"{looked.head.by.username} changed the plan after you looked at it.", status=409)
    if looked.against:
        raise Refused(looked.against[0], against=looked.against)
    last = plan.releases.order_by("-number").first()
    number, at = (last.number if last else 0) + 1, timezone.now()
    code = "".join(secrets.choice(ALPHABET) for _ in range(10))
    job = plan.job
    sealed = record(
        looked.document, documents.library_for(looked.document), looked.evaluation,
        {"number": job.number, "title": job.title, "revision": job.revision, "remark": job.remark},
        {"number": number, "draft": looked.head.number, "by": user.username, "at": at.isoformat(timespec="seconds"), "code": code, "note": note, "replaces": last.number if last else None},
        [{"finding": key, "note": row.note, "by": row.by.username} for key, row in sorted(looked.accepted.items())],
    )
    sha = blobs.put(sealed)
    try:
        with transaction.atomic():
            made = Release.objects.create(plan=plan, number=number, code=code, revision=looked.head, sha256=sha, setups=len(looked.document.setups), note=note, by=user, at=at)
            Task.objects.create(kind="draw-sheets", made_by=user, about={"release": made.pk})
    except IntegrityError as problem:
        raise Refused("Somebody released this plan at the same moment.", status=409) from problem
    did(user, "release", job=job.number, number=number)
    return made
