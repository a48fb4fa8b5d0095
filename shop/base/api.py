"""The record of who did what, for those who approve."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.db.models import Q
from ninja import Query, Router, Schema

from shop.accounts.signed_in import SignedIn

from .actions import require
from .models import Entry

router = Router(tags=["record"])
PAGE = 50


class EntryOut(Schema):
    """``before`` and ``after`` are the hashes of what was changed."""

    id: int
    at: datetime
    by: str
    what: str
    on: str
    before: str
    after: str
    about: dict[str, Any]


class RecordOut(Schema):
    all: int
    page: int
    entries: list[EntryOut]
    whats: list[str]


@router.get("/record", response=RecordOut)
def record(
    request: SignedIn,
    find: Annotated[str, Query(max_length=120)] = "",
    what: Annotated[str, Query(max_length=40)] = "",
    page: Annotated[int, Query(ge=0, le=100_000)] = 0,
) -> dict[str, Any]:
    """Newest first. ``find`` looks in names and subjects, ``what`` takes one kind of act."""
    require(request.user, "record")
    rows = Entry.objects.select_related("by")
    for word in find.split()[:6]:
        rows = rows.filter(
            Q(on__icontains=word) | Q(by__username__icontains=word) | Q(what__icontains=word)
        )
    if what:
        rows = rows.filter(what=what)
    listed = rows[page * PAGE : (page + 1) * PAGE]
    return {
        "all": rows.count(),
        "page": page,
        "whats": sorted(Entry.objects.order_by().values_list("what", flat=True).distinct()),
        "entries": [
            {
                "id": e.pk,
                "at": e.at,
                "by": e.by.username if e.by else "the program",
                "what": e.what,
                "on": e.on,
                "before": e.before,
                "after": e.after,
                "about": e.about,
            }
            for e in listed
        ],
    }
