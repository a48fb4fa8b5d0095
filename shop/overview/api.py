"""Jobs as a list and one by one: where their plans stand, and what is released of them."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal

from ninja import Query, Router, Schema
from pydantic import Field

from shop.accounts.signed_in import SignedIn
from shop.jobs import documents
from shop.jobs.actions.change import change
from shop.jobs.actions.create import create
from shop.jobs.api import job_of
from shop.jobs.models import Job, Plan

from . import listing

router = Router(tags=["jobs"])
Find = Annotated[str, Query(max_length=200)]
Asked = Literal["", "yours", "changed", "unreadable", "empty", "stops", "open", "waits", "released"]
Page = Annotated[int, Query(ge=0, le=100_000)]
Most = Annotated[int, Query(ge=1, le=200)]


class JobRow(Schema):
    """``state`` is where the plan stands that it goes by; ``changed`` says that it differs from the
    newest release.
    """

    id: int
    number: str
    title: str
    revision: str
    due: date | None
    remark: str
    touched: int
    plan: int
    draft: int
    changed_at: datetime
    changed_by: str
    material: str
    quantity: int
    has_part: bool
    setups: int
    state: listing.State
    answered: bool
    stops: int
    looks: int
    unknown: int
    problem: str
    unread: str
    released: int | None
    changed: bool
    library_changed: bool


class JobOut(JobRow):
    affected: list[str]


class JobsOut(Schema):
    """One page; ``all`` is how many match."""

    all: int
    page: int
    jobs: list[JobRow]


class JobIn(Schema):
    number: str = Field(max_length=200)
    title: str = Field(max_length=400)
    revision: str = Field("", max_length=100)
    due: date | None = None
    remark: str = Field("", max_length=2000)
    material: str = Field("", max_length=80)
    quantity: int = Field(1, ge=1, le=1_000_000)


class JobChange(Schema):
    """Only the fields sent are written; ``touched`` is the job's revision they were typed over."""

    title: str | None = Field(None, max_length=400)
    revision: str | None = Field(None, max_length=100)
    due: date | None = None
    remark: str | None = Field(None, max_length=2000)
    touched: int | None = None


def _out(job: Job) -> dict[str, object]:
    row = listing.one(job)
    if not row["unread"]:
        row["unread"] = _unread(row["plan"])
    return {**row, "affected": listing.affected(row)}


def _unread(plan: int) -> str:
    """Try to read the head's document; why it can't be read is kept for the list."""
    try:
        documents.read(documents.head(Plan.objects.get(pk=plan)).document)
    except documents.Unreadable as problem:
        Plan.objects.filter(pk=plan).update(unread=problem.sentence)
        return problem.sentence
    return ""


@router.get("/jobs", response=JobsOut)
def list_jobs(
    request: SignedIn,
    find: Find = "",
    state: Asked = "",
    sort: listing.Sort = "number",
    down: bool = False,
    page: Page = 0,
    most: Most = listing.PAGE,
) -> dict[str, Any]:
    """``state`` may be one of the list's states, ``changed`` (since its release) or ``yours`` (what
    waits for your role).
    """
    total, rows = listing.page_of(request.user, find, state, sort, down, page, most)
    return {"all": total, "page": page, "jobs": [listing.out(row) for row in rows]}


@router.post("/jobs", response={201: JobOut})
def create_job(request: SignedIn, payload: JobIn) -> tuple[int, dict[str, object]]:
    return 201, _out(create(request.user, **payload.dict()))


@router.get("/jobs/{number}", response=JobOut)
def read_job(request: SignedIn, number: str) -> dict[str, object]:
    return _out(job_of(number))


@router.patch("/jobs/{number}", response=JobOut)
def change_job(request: SignedIn, number: str, payload: JobChange) -> dict[str, object]:
    job = job_of(number)
    change(
        request.user, job, payload.touched, payload.dict(exclude_unset=True, exclude={"touched"})
    )
    return _out(job_of(number))
