"""Why a setup's operations come in their order, and which order takes less."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpResponse
from ninja import Router, Schema

from shop.accounts.signed_in import SignedIn
from shop.base.problems import RowId
from shop.tasks.api import TaskOut, bare

from . import evaluation
from .actions import long, order
from .api import plan_of
from .held_schemas import SentenceOut
from .plans import now, written

router = Router(tags=["plans"])


class ComesAfterOut(Schema):
    """Why operation ``then`` comes after ``first``; ``direct`` where no others say it already."""

    first: str
    then: str
    kind: Literal["stock", "place", "holding", "practice", "tried", "own"]
    said: SentenceOut
    direct: bool = True


class BetterOut(Schema):
    """An order that takes so many seconds between operations of a cycle: what one part and the
    batch take less with it, which operations are moved, and the edits.
    """

    order: list[str]
    seconds: float
    one_part_s: float
    batch_s: float
    moved: list[str]
    edits: list[dict[str, Any]]


class OrderFoundOut(Schema):
    """What lies between the operations of a cycle ``now``, in a ``short`` order that keeps the
    reasons, and at ``least`` in any (s), exactly that where it is ``proven``. ``better`` is null
    where none saves anything that was worked out whole; ``gave_up`` says that more might be.
    """

    now_s: float
    short_s: float
    least_s: float
    proven: bool
    gave_up: bool
    better: BetterOut | None


class PriceOut(Schema):
    """Seconds of a cycle between operations that a habit costs; all pins where none is named."""

    first: str
    then: str
    seconds: float


class SchoolOut(Schema):
    """The other side of what the trade disagrees about: what one part and the batch take more with
    it (s), stops and what is to be looked at that are new then, and the edits.
    """

    said: SentenceOut
    one_part_s: float
    batch_s: float
    stops: int
    looks: list[SentenceOut]
    edits: list[dict[str, Any]]


class OrderOut(Schema):
    """Why the operations of a setup come in their order, and a shorter one. A ``ring`` of reasons
    or pins that are ``stuck`` among them leave no order at all. ``further`` is how much of it the
    worker would still work out.
    """

    reasons: list[ComesAfterOut]
    ring: list[ComesAfterOut]
    none: bool
    stuck: list[str]
    tried: int
    found: OrderFoundOut | None
    prices: list[PriceOut]
    schools: list[SchoolOut]
    further: int


class OrderFurtherOut(Schema):
    """The same, worked out by the worker: ``found`` is null while there is nothing, ``stale`` where
    the plan was changed since it began.
    """

    task: TaskOut | None
    stale: bool
    found: OrderOut | None


@router.get("/plans/{id}/setups/{setup}/order", response=OrderOut)
def setup_order(request: SignedIn, id: RowId, setup: str) -> HttpResponse:
    """Why its operations come in this order, and which takes less and stops nothing."""
    return written(evaluation.ask(now(id), "order", setup=setup))


@router.get("/plans/{id}/setups/{setup}/order/further", response=OrderFurtherOut)
def order_further(request: SignedIn, id: RowId, setup: str) -> dict[str, Any]:
    """What the worker found of it last, as far as it is."""
    plan = plan_of(id)
    task = long.last(plan, order.KIND, setup=setup)
    return {
        "task": bare(task) if task is not None else None,
        "stale": task is not None and long.stale(task, plan),
        "found": (task.result or None) if task is not None else None,
    }


@router.post("/plans/{id}/setups/{setup}/order/further", response={202: TaskOut})
def ask_for_order_further(request: SignedIn, id: RowId, setup: str) -> tuple[int, dict[str, Any]]:
    """Have the worker search on, and work out what others would do otherwise."""
    return 202, bare(order.start(request.user, plan_of(id), setup))
