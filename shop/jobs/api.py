from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal

from django.http import HttpResponse
from ninja import File, Query, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from machining.quantities.errors import brief
from shop.accounts.signed_in import SignedIn
from shop.base import blobs
from shop.base.actions import require
from shop.base.problems import Refused, RowId
from shop.tasks.api import TaskOut
from shop.tasks.models import Task

from . import documents, listing
from .actions.change import change
from .actions.create import create
from .actions.upload import Use, start, upload
from .models import Geometry, Job, Plan

router = Router(tags=["jobs"])
Find = Annotated[str, Query(max_length=200)]
Asked = Literal["", "yours", "changed", "unreadable", "empty", "stops", "open", "waits", "released"]
Page = Annotated[int, Query(ge=0, le=100_000)]
Most = Annotated[int, Query(ge=1, le=200)]


class JobRow(Schema):
    """``state`` is where the first plan stands; ``changed`` says that it differs from the newest
    release.
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


def job_of(number: str) -> Job:
    job = Job.objects.filter(number=number).first()
    if job is None:
        raise Refused(f"There is no job {brief(number)}.", "number", number, status=404)
    return job


def plan_of(id: int) -> Plan:
    plan = Plan.objects.select_related("job").filter(pk=id).first() if abs(id) < 2**63 else None
    if plan is None:
        raise Refused("This plan doesn't exist.", status=404)
    return plan


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


@router.post("/plans/{id}/step", response={202: TaskOut})
def upload_step(
    request: SignedIn, id: RowId, file: File[UploadedFile], use: Use = "part"
) -> tuple[int, Task]:
    return 202, upload(request.user, plan_of(id), file, use)


class Choice(Schema):
    solid: int = Field(ge=0, le=100_000)


@router.post("/tasks/{id}/solid", response={202: TaskOut})
def choose_solid(request: SignedIn, id: RowId, payload: Choice) -> tuple[int, Task]:
    """After a file with several solids: read this one (counted from 0)."""
    require(request.user, "plan")
    task = Task.objects.filter(pk=id, kind="read-step").first() if abs(id) < 2**63 else None
    if task is None or not payload.solid < len(task.result.get("sizes", [])):
        raise Refused(
            f"solid is {payload.solid + 1}; the file has no such solid.", "solid", payload.solid + 1
        )
    return 202, start(
        request.user,
        plan_of(task.about["plan"]),
        task.about["step"],
        task.about["name"],
        payload.solid,
        task.about.get("use", "part"),
    )


@router.get("/geometries/{key}.glb", response={200: None})
def mesh(request: SignedIn, key: str) -> HttpResponse:
    found = Geometry.objects.filter(key=key).first()
    if found is None:
        raise Refused("This solid doesn't exist.", status=404)
    answer = HttpResponse(blobs.get(found.mesh), content_type="model/gltf-binary")
    answer["Cache-Control"] = "private, max-age=31536000, immutable"
    return answer
