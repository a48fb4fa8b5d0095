"""Work out, when a server starts, the plans people were last at: nobody opens the first plan of the day cold."""

from __future__ import annotations

from threading import Thread

from django.db import DatabaseError, close_old_connections

from machining.quantities.errors import MachiningError
from shop.jobs import documents, evaluation
from shop.jobs.models import Plan, PlanRevision

PLANS = 4


def warm(plans: int = PLANS) -> int:
    """Ask for the answers of the plans changed last, the newest first; how many were worked out."""
    done, seen = 0, set()
    for plan in PlanRevision.objects.order_by("-at").values_list("plan", flat=True)[: plans * 50]:
        if plan in seen:
            continue
        seen.add(plan)
        head = documents.head(Plan.objects.get(pk=plan))
        document = documents.read(head.document)
        try:
            evaluation.answer(head.document_id, document, documents.library_for(document))
            done += 1
        except MachiningError:
            continue  # the page will say it
        if len(seen) == plans:
            break
    return done


def warm_aside() -> None:
    def run() -> None:
        try:
            warm()
        except DatabaseError:
            pass  # a home without tables yet; the next start warms it
        finally:
            close_old_connections()

    Thread(target=run, name="warm", daemon=True).start()
