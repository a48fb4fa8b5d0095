from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest
from ninja import Router, Schema

from shop.jobs.api import plan_of
from shop.jobs.models import Plan

from .actions.accept import accept
from .actions.release import release
from .models import Release
from .review import review

router = Router(tags=["releases"])


class AcceptedOut(Schema):
    finding: str
    note: str
    by: str
    at: datetime


class ReleaseOut(Schema):
    number: int
    code: str
    draft: int
    sha256: str
    note: str
    by: str
    at: datetime
    current: bool
    setups: int
    sheets: list[int]


class ReviewOut(Schema):
    revision: int
    accepted: list[AcceptedOut]
    against: list[str]
    releases: list[ReleaseOut]


class AcceptIn(Schema):
    finding: str
    note: str


class ReleaseIn(Schema):
    revision: int
    note: str = ""


def _release(row: Release, newest: int) -> dict[str, object]:
    return {
        "number": row.number, "code": row.code, "draft": row.revision.number, "sha256": row.sha256, "note": row.note, "by": row.by.username, "at": row.at,
        "current": row.number == newest, "setups": row.setups, "sheets": [sheet.setup for sheet in row.sheets.all()],
    }


def _review(request: HttpRequest, plan: Plan) -> dict[str, object]:
    looked = review(request.user, plan)
    rows = list(plan.releases.select_related("by", "revision").prefetch_related("sheets").order_by("-number"))
    return {
        "revision": looked.head.number, "against": looked.against,
        "accepted": [{"finding": key, "note": row.note, "by": row.by.username, "at": row.at} for key, row in looked.accepted.items()],
        "releases": [_release(row, rows[0].number) for row in rows],
    }


@router.get("/plans/{id}/review", response=ReviewOut)
def read_review(request: HttpRequest, id: int):
    return _review(request, plan_of(id))


@router.post("/plans/{id}/acceptances", response=ReviewOut)
def accept_finding(request: HttpRequest, id: int, payload: AcceptIn):
    plan = plan_of(id)
    accept(request.user, plan, payload.finding, payload.note)
    return _review(request, plan)


@router.post("/plans/{id}/releases", response={201: ReviewOut})
def release_plan(request: HttpRequest, id: int, payload: ReleaseIn):
    plan = plan_of(id)
    release(request.user, plan, payload.revision, payload.note)
    return 201, _review(request, plan)


class FloorOut(Schema):
    """What an operator can pick: the newest release of each job."""

    job: str
    title: str
    number: int
    code: str
    at: datetime
    sheets: list[int]


@router.get("/floor", response=list[FloorOut])
def floor(request: HttpRequest):
    newest: dict[int, Release] = {}
    for row in Release.objects.select_related("plan__job").prefetch_related("sheets").order_by("number"):
        newest[row.plan_id] = row
    return [
        {"job": r.plan.job.number, "title": r.plan.job.title, "number": r.number, "code": r.code, "at": r.at, "sheets": [s.setup for s in r.sheets.all()]}
        for r in sorted(newest.values(), key=lambda r: r.at, reverse=True)
    ]
