from __future__ import annotations

from typing import Any

from ninja import Router, Schema

from shop.accounts.signed_in import SignedIn
from shop.base.actions import require
from shop.base.problems import Refused, RowId

from .models import Task

router = Router(tags=["tasks"])


class TaskOut(Schema):
    id: int
    kind: str
    state: str
    progress: float
    message: str
    result: dict[str, Any]


def bare(task: Task) -> dict[str, Any]:
    """Without its result, which is told beside it."""
    return {
        "id": task.pk,
        "kind": task.kind,
        "state": task.state,
        "progress": task.progress,
        "message": task.message,
        "result": {},
    }


def _task(id: int) -> Task:
    task = Task.objects.filter(pk=id).first() if abs(id) < 2**63 else None
    if task is None:
        raise Refused("This task doesn't exist.", status=404)
    return task


@router.get("/tasks/{id}", response=TaskOut)
def read(request: SignedIn, id: RowId) -> Task:
    return _task(id)


@router.post("/tasks/{id}/cancel", response=TaskOut)
def cancel(request: SignedIn, id: RowId) -> Task:
    known = Task.objects.filter(pk=id, kind="read-fixture") if abs(id) < 2**63 else None
    require(request.user, "library" if known is not None and known.exists() else "plan")
    task = _task(id)
    if task.kind in ("draw-sheets", "draw-paper"):
        raise Refused(
            "The sheets of a release are drawn to the end: the floor waits for them.", status=409
        )
    Task.objects.filter(pk=id, state="waiting").update(
        state="cancelled", message="Stopped on request."
    )
    Task.objects.filter(pk=id).update(cancel=True)
    return _task(id)
