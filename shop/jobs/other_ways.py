"""What others would do otherwise of a whole plan, with its numbers."""

from __future__ import annotations

from typing import Any

from ninja import Router, Schema

from shop.accounts.signed_in import SignedIn
from shop.base.problems import RowId
from shop.tasks.api import TaskOut, bare

from .actions import long, other_ways
from .api import plan_of
from .held_schemas import SentenceOut

router = Router(tags=["plans"])


class WayFiguresOut(Schema):
    """``at_once_s`` is the batch where several machines work at the same time, null where there is
    one; ``known`` the cost as far as it is known, ``whole`` whether that is all of it.
    """

    machines: list[str]
    setups: int
    one_part_s: float
    batch_s: float
    at_once_s: float | None
    known: float
    whole: bool


class OtherWayOut(Schema):
    """A way as a plan of its own; ``why`` says of one that does not go what stops it first, and
    then it has no edits.
    """

    said: SentenceOut
    figures: WayFiguresOut | None
    why: SentenceOut | None
    looks: list[SentenceOut]
    edits: list[dict[str, Any]]


class OtherWaysOut(Schema):
    """Worked out by the worker: ``now`` is the plan itself, ``stale`` where it was changed since
    that began.
    """

    task: TaskOut | None
    stale: bool
    now: WayFiguresOut | None
    rows: list[OtherWayOut]


@router.get("/plans/{id}/other-ways", response=OtherWaysOut)
def read_other_ways(request: SignedIn, id: RowId) -> dict[str, Any]:
    """One machine or two, indexed or in several setups: what the worker found of them, as far as it
    is.
    """
    plan = plan_of(id)
    task = long.last(plan, other_ways.KIND)
    result = task.result if task is not None else {}
    return {
        "task": bare(task) if task is not None else None,
        "stale": task is not None and long.stale(task, plan),
        "now": result.get("now"),
        "rows": result.get("rows", []),
    }


@router.post("/plans/{id}/other-ways", response={202: TaskOut})
def ask_for_other_ways(request: SignedIn, id: RowId) -> tuple[int, dict[str, Any]]:
    """Have each be worked out as a plan of its own."""
    return 202, bare(other_ways.start(request.user, plan_of(id)))
