"""Work out, when a server starts, the plans people were last at: nobody opens the first plan of the
day cold.
"""

from __future__ import annotations

from threading import Thread

from django.db import DatabaseError, close_old_connections

from shop.base.problems import Refused
from shop.jobs import documents, evaluation
from shop.jobs.models import Plan

PLANS = 4


def warm(plans: int = PLANS) -> int:
    """Ask for the answers of the plans changed last, the newest first; how many were worked out.
    What was too large once is not tried again.
    """
    done = 0
    for plan in (
        Plan.objects.exclude(head__document__answer__too_large=True)
        .select_related("head__document")
        .order_by("-head__at")[:plans]
    ):
        head = plan.head
        if head is None:
            continue
        try:
            document = documents.read(head.document)
            evaluation.answer(
                evaluation.Subject(document, head.document_id, document.model_dump_json(), plan.pk)
            )
            done += 1
        except Refused:
            continue  # the page will say it
    return done


def look_at_all() -> int:
    """Read every plan's newest document, as a new version of the program does once; how many can't
    be read.
    """
    bad = 0
    for plan in (
        Plan.objects.select_related("head__document").order_by("-head__at").iterator(chunk_size=20)
    ):
        head = plan.head
        if head is None:
            continue
        try:
            documents.read(head.document)
            said = ""
        except documents.Unreadable as problem:
            said, bad = problem.sentence, bad + 1
        if said != plan.unread:
            Plan.objects.filter(pk=plan.pk).update(unread=said)
    return bad


def warm_aside() -> None:
    def run() -> None:
        try:
            warm()
            look_at_all()
        except DatabaseError:
            pass  # a home without tables yet; the next start warms it
        finally:
            close_old_connections()

    Thread(target=run, name="warm", daemon=True).start()
