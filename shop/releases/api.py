from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpResponse
from ninja import Router, Schema
from pydantic import Field

from shop.accounts.signed_in import SignedIn
from shop.base import blobs
from shop.base.actions import did, require
from shop.base.names import file_name
from shop.base.problems import Refused, RowId
from shop.jobs.api import plan_of
from shop.jobs.models import Plan

from .actions.accept import accept
from .actions.draw import draw_again
from .actions.release import release
from .drawing import Drawing, drawings_of
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
    drawing: Drawing


class KeptOut(Schema):
    """A finding to look at that the planner leaves as it is, with his words."""

    finding: str
    words: str


class ReviewOut(Schema):
    """``working``: the answers are not there yet; ask again. ``stale``: what the newest release
    stands on and has changed in the library since.
    """

    revision: int
    working: bool
    kept: list[KeptOut]
    accepted: list[AcceptedOut]
    against: list[str]
    stale: list[str]
    releases: list[ReleaseOut]


class AcceptIn(Schema):
    """``seen`` are the finding's values as they were shown to the approver."""

    finding: str = Field(max_length=200)
    note: str = Field(max_length=1000)
    seen: dict[str, float | str] = Field(max_length=40)


class ReleaseIn(Schema):
    revision: int = Field(ge=0, le=2**31 - 1)
    note: str = Field("", max_length=1000)


def _release(row: Release, newest: int, drawing: Drawing) -> dict[str, object]:
    return {
        "number": row.number,
        "code": row.code,
        "draft": row.revision.number,
        "sha256": row.sha256,
        "note": row.note,
        "by": row.by.username,
        "at": row.at,
        "current": row.number == newest,
        "setups": row.setups,
        "sheets": [sheet.setup for sheet in row.sheets.all()],
        "drawing": drawing,
    }


def _review(request: SignedIn, plan: Plan) -> dict[str, object]:
    looked = review(request.user, plan, patient=False)
    rows = list(
        Release.of_job(plan)
        .select_related("by", "revision")
        .prefetch_related("sheets")
        .order_by("-number")
    )
    drawn = drawings_of(rows)
    return {
        "revision": looked.head.number,
        "working": looked.evaluation is None,
        "kept": [{"finding": f["key"], "words": f["kept"]} for f in looked.kept],
        "against": looked.against,
        "stale": looked.stale,
        "accepted": [
            {"finding": key, "note": row.note, "by": row.by.username, "at": row.at}
            for key, row in looked.accepted.items()
        ],
        "releases": [_release(row, rows[0].number, drawn[row.pk]) for row in rows],
    }


@router.get("/plans/{id}/review", response=ReviewOut)
def read_review(request: SignedIn, id: RowId) -> dict[str, object]:
    return _review(request, plan_of(id))


@router.post("/plans/{id}/acceptances", response=ReviewOut)
def accept_finding(request: SignedIn, id: RowId, payload: AcceptIn) -> dict[str, object]:
    plan = plan_of(id)
    accept(request.user, plan, payload.finding, payload.note, payload.seen)
    return _review(request, plan)


@router.post("/plans/{id}/releases", response={201: ReviewOut})
def release_plan(request: SignedIn, id: RowId, payload: ReleaseIn) -> tuple[int, dict[str, object]]:
    plan = plan_of(id)
    release(request.user, plan, payload.revision, payload.note)
    return 201, _review(request, plan)


@router.post("/releases/{code}/sheets", response={202: None})
def draw_sheets_again(request: SignedIn, code: str) -> tuple[int, None]:
    """Have what is missing or damaged of a release's sheets drawn again from its record."""
    draw_again(request.user, _by_code(code))
    return 202, None


@router.get("/releases/{code}/record.json", response={200: None})
def download_record(request: SignedIn, code: str) -> HttpResponse:
    """The sealed record, for an approver to keep and to check: ``fabrotax verify RECORD.json``."""
    require(request.user, "record")
    release = _by_code(code)
    try:
        content = blobs.get_checked(release.sha256)
    except blobs.Spoiled as problem:
        did(None, "file spoiled", f"release:{code}", before=problem.name)
        raise Refused(f"{problem} It is not given out.", status=500) from problem
    answer = HttpResponse(content, content_type="application/json")
    answer["Content-Disposition"] = (
        "attachment;"
        f' filename="{file_name(release.plan.job.number, "release", release.number)}.record.json"'
    )
    return answer


def _by_code(code: str) -> Release:
    release = Release.objects.select_related("plan__job").filter(code=code).first()
    if release is None:
        raise Refused("There is no such release.", status=404)
    return release


class FloorOut(Schema):
    """What an operator can pick: the newest release of each job."""

    job: str
    title: str
    number: int
    code: str
    at: datetime
    setups: int
    sheets: list[int]
    drawing: Drawing


@router.get("/floor", response=list[FloorOut])
def floor(request: SignedIn) -> list[dict[str, Any]]:
    newest: dict[int, Release] = {}
    for row in (
        Release.objects.select_related("plan__job").prefetch_related("sheets").order_by("number")
    ):
        newest[row.plan.job_id] = row
    drawn = drawings_of(newest.values())
    return [
        {
            "job": r.plan.job.number,
            "title": r.plan.job.title,
            "number": r.number,
            "code": r.code,
            "at": r.at,
            "setups": r.setups,
            "sheets": [s.setup for s in r.sheets.all()],
            "drawing": drawn[r.pk],
        }
        for r in sorted(newest.values(), key=lambda r: r.at, reverse=True)
    ]
