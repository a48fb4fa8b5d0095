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
from ..review import is_same, review, sentence_of
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
    last, at, job = looked.newest, timezone.now(), Job.objects.get(pk=plan.job_id)
    number = (last.number if last else 0) + 1
    code = "".join(secrets.choice(ALPHABET) for _ in range(10))
    kept = [
        {"finding": f["key"], "sentence": sentence_of(f), "words": f["kept"]} for f in looked.kept
    ]
    accepted = [
        {"finding": key, "note": row.note, "by": row.by.username}
        for key, row in sorted(looked.accepted.items())
    ]
    sheets = json.loads(
        evaluation.ask(
            evaluation.Subject(
                looked.document, looked.head.document_id, looked.document.model_dump_json(), plan.pk
            ),
            "sheets",
            notes=notes_of(accepted, kept),
        )
    )
    sealed = record(
        looked.document,
        documents.library_for(looked.document),
        looked.evaluation,
        {"number": job.number, "title": job.title, "revision": job.revision, "remark": job.remark},
        {
            "number": number,
            "draft": looked.head.number,
            "by": user.username,
            "at": at.isoformat(timespec="seconds"),
            "code": code,
            "note": note,
            "replaces": last.number if last else None,
        },
        accepted,
        kept,
        sheets,
    )
    sha = blobs.put(sealed)
    try:
        with transaction.atomic():
            newest = plan.releases.order_by("-number").select_related("revision").first()
            if (newest.pk if newest else None) != (last.pk if last else None):
                raise Refused(
                    (
                        "Somebody released this plan at the same moment."
                        if newest and is_same(newest, looked.head, job)
                        else "The plan was released meanwhile; look at it again."
                    ),
                    status=409,
                )
            if documents.head(plan).pk != looked.head.pk:
                raise Refused(
                    "The plan was changed at the same moment; look at it again.", status=409
                )
            made = Release.objects.create(
                plan=plan,
                number=number,
                code=code,
                revision=looked.head,
                sha256=sha,
                setups=len(looked.document.setups),
                note=note,
                by=user,
                at=at,
                title=job.title,
                revision_letter=job.revision,
            )
            ask_for_sheets(made, user)
            did(
                user,
                "plan released",
                f"plan:{plan.pk}",
                last.sha256 if last else "",
                sha,
                job=job.number,
                number=number,
            )
    except IntegrityError as problem:
        raise Refused("Somebody released this plan at the same moment.", status=409) from problem
    return made
