from __future__ import annotations

from typing import Annotated, Any, Literal

from django.http import HttpResponse
from ninja import File, Query, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from machining.exchange.lines import MEET_MM
from machining.quantities.errors import brief
from shop.accounts.signed_in import SignedIn
from shop.base import blobs
from shop.base.actions import require
from shop.base.problems import Refused, RowId
from shop.tasks.api import TaskOut
from shop.tasks.models import Task

from .actions.upload import Use, lay_otherwise, start, upload
from .drawn import MOST_APART_MM, DrawnOut, read_drawn
from .fixtures import KIND as FIXTURE
from .fixtures import start_fixture, upload_fixture
from .models import Geometry, Job, Plan

router = Router(tags=["jobs"])


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


@router.post("/plans/{id}/step", response={202: TaskOut})
def upload_step(
    request: SignedIn, id: RowId, file: File[UploadedFile], use: Use = "part"
) -> tuple[int, Task]:
    return 202, upload(request.user, plan_of(id), file, use)


@router.post("/fixtures/step", response={202: TaskOut})
def upload_fixture_step(request: SignedIn, file: File[UploadedFile]) -> tuple[int, Task]:
    """Read a fixture's body; the task's result is what can be picked of it."""
    return 202, upload_fixture(request.user, file)


class Choice(Schema):
    solid: int = Field(ge=0, le=100_000)


@router.post("/tasks/{id}/solid", response={202: TaskOut})
def choose_solid(request: SignedIn, id: RowId, payload: Choice) -> tuple[int, Task]:
    """After a file with several solids: read this one (counted from 0)."""
    kinds = ("read-step", FIXTURE)
    task = Task.objects.filter(pk=id, kind__in=kinds).first() if abs(id) < 2**63 else None
    require(request.user, "library" if task and task.kind == FIXTURE else "plan")
    if task is None or not payload.solid < len(task.result.get("sizes", [])):
        raise Refused(
            f"solid is {payload.solid + 1}; the file has no such solid.", "solid", payload.solid + 1
        )
    if task.kind == FIXTURE:
        about = task.about
        return 202, start_fixture(request.user, about["step"], about["name"], payload.solid)
    return 202, start(
        request.user,
        plan_of(task.about["plan"]),
        task.about["step"],
        task.about["name"],
        payload.solid,
        task.about.get("use", "part"),
    )


class Laid(Schema):
    lay: Literal["straight", "file"] | Annotated[int, Field(ge=0, le=20_000)]


@router.post("/plans/{id}/lay", response={202: TaskOut})
def lay_part(request: SignedIn, id: RowId, payload: Laid) -> tuple[int, Task]:
    """Lay the part's solid another way: straight with the axes, as its file has it, or with one
    of its flat faces (a number) square to an axis.
    """
    return 202, lay_otherwise(request.user, plan_of(id), payload.lay)


@router.post("/lines", response=DrawnOut)
def read_lines(
    request: SignedIn,
    file: File[UploadedFile],
    meet_mm: Annotated[float, Query(ge=0, le=MOST_APART_MM)] = MEET_MM,
) -> dict[str, Any]:
    """Lines of a DXF or SVG file, joined where ends lie that near each other; stores nothing."""
    require(request.user, "plan")
    return read_drawn(file, meet_mm)


@router.get("/geometries/{key}.glb", response={200: None})
def mesh(request: SignedIn, key: str) -> HttpResponse:
    found = Geometry.objects.filter(key=key).first()
    if found is None:
        raise Refused("This solid doesn't exist.", status=404)
    answer = HttpResponse(blobs.get(found.mesh), content_type="model/gltf-binary")
    answer["Cache-Control"] = "private, max-age=31536000, immutable"
    return answer
