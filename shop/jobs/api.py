from __future__ import annotations

from datetime import date, datetime

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Schema
from ninja.files import UploadedFile

from shop.base import blobs
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.library.models import Item
from shop.tasks.api import TaskOut
from shop.tasks.models import Task

from . import documents
from .actions.create import create
from .actions.upload import start, upload
from .models import Geometry, Job, Plan

router = Router(tags=["jobs"])


class JobOut(Schema):
    id: int
    number: str
    title: str
    revision: str
    due: date | None
    remark: str
    plan: int
    draft: int
    changed_at: datetime
    changed_by: str
    material: str
    quantity: int
    has_part: bool
    setups: int
    released: int | None
    affected: list[str]


class JobIn(Schema):
    number: str
    title: str
    revision: str = ""
    due: date | None = None
    remark: str = ""
    material: str = ""
    quantity: int = 1


class JobChange(Schema):
    title: str | None = None
    revision: str | None = None
    due: date | None = None
    remark: str | None = None


def _out(job: Job) -> dict[str, object]:
    plan = job.plans.first()
    assert plan is not None
    head = documents.head(plan)
    document = documents.read(head.document)
    release = plan.releases.order_by("-number").first()
    return {
        "id": job.pk, "number": job.number, "title": job.title, "revision": job.revision, "due": job.due, "remark": job.remark, "plan": plan.pk, "draft": head.number,
        "changed_at": head.at, "changed_by": head.by.username, "material": document.material, "quantity": document.quantity,
        "has_part": bool(document.part.geometry or document.part.typed or document.setups), "setups": len(document.setups),
        "released": release.number if release else None, "affected": _affected(plan, head.at),
    }


def _affected(plan: Plan, since: datetime) -> list[str]:
    """Names of library items the plan stands on that were changed after its last draft."""
    used = {(use.kind, use.key) for use in plan.uses.all()}
    changed = Item.objects.filter(changed_at__gt=since, revision__gt=1)
    return [str(item.data.get("name", item.key)) for item in changed if (item.kind, item.key) in used]


def job_of(number: str) -> Job:
    job = Job.objects.filter(number=number).first()
    if job is None:
        raise Refused(f"There is no job {number}.", status=404)
    return job


def plan_of(id: int) -> Plan:
    plan = Plan.objects.select_related("job").filter(pk=id).first()
    if plan is None:
        raise Refused("This plan doesn't exist.", status=404)
    return plan


@router.get("/jobs", response=list[JobOut])
def list_jobs(request: HttpRequest):
    return [_out(job) for job in Job.objects.all()]


@router.post("/jobs", response={201: JobOut})
def create_job(request: HttpRequest, payload: JobIn):
    return 201, _out(create(request.user, **payload.dict()))


@router.get("/jobs/{number}", response=JobOut)
def read_job(request: HttpRequest, number: str):
    return _out(job_of(number))


@router.patch("/jobs/{number}", response=JobOut)
def change_job(request: HttpRequest, number: str, payload: JobChange):
    require(request.user, "plan")
    job = job_of(number)
    for name, value in payload.dict(exclude_unset=True).items():
        if name == "title" and not (value or "").strip():
            raise Refused("title: a job needs a title.", "title", value)
        setattr(job, name, value if name == "due" else (value or ""))
    job.save()
    did(request.user, "job change", number=number)
    return _out(job)


@router.post("/plans/{id}/step", response={202: TaskOut})
def upload_step(request: HttpRequest, id: int, file: UploadedFile = File(...)):
    return 202, upload(request.user, plan_of(id), file)


class Choice(Schema):
    solid: int


@router.post("/tasks/{id}/solid", response={202: TaskOut})
def choose_solid(request: HttpRequest, id: int, payload: Choice):
    """After a file with several solids: read this one (counted from 0)."""
    require(request.user, "plan")
    task = Task.objects.filter(pk=id, kind="read-step").first()
    if task is None or not 0 <= payload.solid < len(task.result.get("sizes", [])):
        raise Refused(f"solid is {payload.solid + 1}; the file has no such solid.", "solid", payload.solid + 1)
    return 202, start(request.user, plan_of(task.about["plan"]), task.about["step"], task.about["name"], payload.solid)


@router.get("/geometries/{key}.glb", response={200: None})
def mesh(request: HttpRequest, key: str):
    found = Geometry.objects.filter(key=key).first()
    if found is None:
        raise Refused("This solid doesn't exist.", status=404)
    answer = HttpResponse(blobs.get(found.mesh), content_type="model/gltf-binary")
    answer["Cache-Control"] = "private, max-age=31536000, immutable"
    return answer
