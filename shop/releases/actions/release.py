"""Freeze a plan as the next release. Its sheets are drawn by the worker and can be drawn again."""

from __future__ import annotations

import json
import secrets

from django.db import IntegrityError, transaction
from django.utils import timezone

from shop.accounts.models import User
from shop.base import blobs
from shop.base.actions import did, require
from shop.base.names import line_of_text
from shop.base.problems import Refused
from shop.jobs import documents, evaluation
from shop.jobs.models import Job, Plan

from ..freeze import record
from ..models import Release
from ..review import Review, is_same, review, sentence_of
from ..sheet import notes_of
from .draw import ask_for_sheets

ALPHABET = "23456789abcdefghjkmnpqrstuvwxyz"


def release(user: User, plan: Plan, seen: int, note: str = "") -> Release:
    """Raises Refused with the first reason against it, or with 409 where the plan was changed after
    it was looked at or somebody was faster.
    """
    require(user, "release")
    note = line_of_text("note", note.strip(), 300)
    looked = review(user, plan)
    if looked.head.number != seen:
        raise Refused(
            f"{looked.head.by.username} changed the plan after you looked at it.", status=409
        )
    if looked.against or looked.evaluation is None:
        raise Refused(looked.against[0], against=looked.against)
    made = Release(
        plan=plan,
        number=(looked.newest.number if looked.newest else 0) + 1,
        code="".join(secrets.choice(ALPHABET) for _ in range(10)),
        revision=looked.head,
        setups=len(looked.document.setups),
        note=note,
        by=user,
        at=timezone.now(),
    )
    job = Job.objects.get(pk=plan.job_id)
    made.title, made.revision_letter = job.title, job.revision
    made.sha256 = blobs.put(_sealed(made, looked, job))
    try:
        with transaction.atomic():
            _is_still(looked, plan, job)
            made.save()
            ask_for_sheets(made, user)
            did(
                user,
                "plan released",
                f"plan:{plan.pk}",
                looked.newest.sha256 if looked.newest else "",
                made.sha256,
                job=job.number,
                number=made.number,
            )
    except IntegrityError as problem:
        raise Refused("Somebody released this plan at the same moment.", status=409) from problem
    return made


def _sealed(made: Release, looked: Review, job: Job) -> bytes:
    """The record of a release, with what its sheets say."""
    kept = [
        {"finding": f["key"], "sentence": sentence_of(f), "words": f["kept"]} for f in looked.kept
    ]
    accepted = [
        {"finding": key, "note": row.note, "by": row.by.username}
        for key, row in sorted(looked.accepted.items())
    ]
    document = looked.document
    asked = evaluation.Subject(
        document, looked.head.document_id, document.model_dump_json(), made.plan_id
    )
    sheets = evaluation.ask(asked, "sheets", notes=notes_of(accepted, kept))
    return record(
        document,
        documents.library_for(document),
        looked.evaluation or {},
        {"number": job.number, "title": job.title, "revision": job.revision, "remark": job.remark},
        {
            "number": made.number,
            "draft": looked.head.number,
            "by": made.by.username,
            "at": made.at.isoformat(timespec="seconds"),
            "code": made.code,
            "note": made.note,
            "replaces": looked.newest.number if looked.newest else None,
        },
        accepted,
        kept,
        json.loads(sheets),
    )


def _is_still(looked: Review, plan: Plan, job: Job) -> None:
    """Raises Refused where plan or releases are no longer what was looked at."""
    newest = Release.of_job(plan).order_by("-number").select_related("revision").first()
    if newest != looked.newest:
        raise Refused(
            "Somebody released this plan at the same moment."
            if newest and is_same(newest, looked.head, job)
            else "The plan was released meanwhile; look at it again.",
            status=409,
        )
    if not Plan.objects.select_related("job").get(pk=plan.pk).is_chosen:
        raise Refused(
            "The job goes by another of its plans now; choose this one first.", status=409
        )
    if documents.head(plan).pk != looked.head.pk:
        raise Refused("The plan was changed at the same moment; look at it again.", status=409)
