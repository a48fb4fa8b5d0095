"""What would shorten a plan, and what it costs at which quantity."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from ninja import Router, Schema

from shop.accounts.signed_in import SignedIn
from shop.base.problems import RowId
from shop.tasks.api import TaskOut, bare

from . import evaluation
from .actions import long, save
from .api import plan_of
from .held_schemas import SentenceOut
from .plans import now, written

router = Router(tags=["plans"])
SOON_S = 1.5  # of the processor's time: what is not tried by then waits until it is asked for


class OfOneOut(Schema):
    """How much longer an operation takes (s) with the tool it would have."""

    operation: str
    number: int
    seconds: float


class BuysOut(Schema):
    """So many more of a tool than the shop has, of which some are ``missing`` before any is worn:
    what they cost and the days they take, null where nobody has said.
    """

    tool: str
    more: int
    missing: int
    cost: float | None
    days: int | None


class SavingOut(Schema):
    """A change that shortens the batch, ``of`` an operation or a setup: seconds that one part and
    the batch take less with it, what it brings to look at, and its edits. ``pays_from`` is the
    quantity from which on a tool that is loaded for it is worth it, ``each`` what operations take
    longer with another tool, ``cost`` what the batch costs less, null where nobody has said what
    its machines cost; ``within`` is what another row is of that does all of it and more. What it
    ``buys`` pays from ``buys_from`` parts on, null where it never does, a price is not known, or
    none is missing.
    """

    of: str
    setup: str
    said: SentenceOut
    because: SentenceOut
    one_part_s: float
    batch_s: float
    cost: float | None
    pays_from: int | None
    buys: list[BuysOut]
    buys_from: int | None
    looks: list[SentenceOut]
    each: list[OfOneOut]
    edits: list[dict[str, Any]]
    within: str


class WaitingOut(Schema):
    """A change that was not tried yet, ``of`` an operation or a setup: what it may save of the
    batch (s), null where nobody can tell before it is tried.
    """

    of: str
    setup: str
    said: SentenceOut
    batch_s: float | None


class SavingsOut(Schema):
    """``untried`` are how many changes would take longer than anybody waits unasked, ``waiting``
    those of them that may save most.
    """

    tried: int
    untried: int
    rows: list[SavingOut]
    waiting: list[WaitingOut]


class AllSavingsOut(SavingsOut):
    """The same, worked out by the worker: ``stale`` where the plan was changed since it began."""

    task: TaskOut | None
    stale: bool


class CostOut(Schema):
    """What of a batch costs how much, and how that comes about; null where nobody has said what it
    is made of.
    """

    name: str
    value: float | None
    said: SentenceOut


class AtOut(Schema):
    quantity: int
    batch_s: float
    known: float


class FlowRunOut(Schema):
    """When a setup's first cycle starts and its last one ends, and what it stands in between for
    want of parts, and for want of somebody (s).
    """

    setup: str
    machine: str
    starts_s: float
    ends_s: float
    waits_s: float
    alone_s: float


class AtOnceOut(Schema):
    """A batch over several machines that work at the same time, with so many ``people`` at them, or
    one at each; the ``bottleneck`` is the machine that is taken up longest.
    """

    ends_s: float
    people: int
    ends_with_enough_s: float
    bottleneck: str
    runs: list[FlowRunOut]


class ByHandOut(Schema):
    """What somebody does at a setup: of a cycle (s), and how many ``machines`` like it one keeps
    running; what stands there from the setup before; sizes that are measured, edges that
    wear out, tools nobody has said a life of; what the last load that is not full has, and what its
    empty places take, as it runs and at most (s).
    """

    setup: str
    each_s: float
    hand_s: float
    machines: int | None
    holdings_there: int
    tools_there: int
    holding_s: float
    sizes: int
    sizes_later: int
    edges: float
    edges_unknown: int
    last_load: int | None
    skipped_s: float
    would_skip_s: float


class NoDearerOut(Schema):
    """More parts, and what they cost in all."""

    quantity: int
    known: float


class QuantitiesOut(Schema):
    """``known`` is the cost of the batch as far as it is known, ``whole`` whether that is all of
    it; ``curve`` is the same at other quantities, ``at_once`` null where there is one machine,
    ``no_dearer`` how many more cost no more in all.
    """

    parts: list[CostOut]
    known: float
    whole: bool
    at_once: AtOnceOut | None
    setups: list[ByHandOut]
    curve: list[AtOut]
    no_dearer: NoDearerOut | None


@router.get("/plans/{id}/quantities", response=QuantitiesOut)
def plan_quantities(request: SignedIn, id: RowId) -> HttpResponse:
    """What the batch costs and of what, and what others of a tenth to ten times as many take."""
    return written(evaluation.ask(now(id), "quantities"))


@router.get("/plans/{id}/savings", response=SavingsOut)
def plan_savings(request: SignedIn, id: RowId) -> HttpResponse:
    """What would save most of the batch's time and stop nothing, as far as it is found soon."""
    return written(evaluation.ask(now(id), "savings", longest_s=SOON_S))


@router.get("/plans/{id}/savings/first", response=SavingsOut)
def first_of_savings(request: SignedIn, id: RowId) -> HttpResponse:
    """One of them, before all are looked for."""
    return written(evaluation.ask(now(id), "savings-first"))


@router.get("/plans/{id}/savings/all", response=AllSavingsOut)
def all_savings(request: SignedIn, id: RowId) -> dict[str, Any]:
    """What the worker found of it last, as far as it is."""
    plan = plan_of(id)
    task = long.last(plan, save.KIND)
    result = task.result if task is not None else {}
    return {
        "task": bare(task) if task is not None else None,
        "stale": task is not None and long.outdated(task, plan),
        "rows": [{"within": "", **row} for row in result.get("rows", [])],
        "tried": result.get("tried", 0),
        "untried": result.get("untried", 0),
        "waiting": result.get("waiting", []),
    }


@router.post("/plans/{id}/savings/all", response={202: TaskOut})
def ask_for_all_savings(request: SignedIn, id: RowId) -> tuple[int, dict[str, Any]]:
    """Have the worker try all of it."""
    return 202, bare(save.start(request.user, plan_of(id)))


@router.post("/plans/{id}/savings/all/expected", response={204: None})
def expect_all_savings(request: SignedIn, id: RowId) -> tuple[int, None]:
    """Have the worker try it before anybody asks, since somebody looks at what might be tried: it
    makes way for what is asked.
    """
    save.expect(request.user, plan_of(id))
    return 204, None
