"""Several plans of one job, side by side."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import datetime
from typing import Annotated, Any

from django.http import HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from machining.plan.trade import AnyEdit
from shop.accounts.signed_in import SignedIn
from shop.base.problems import Refused, RowId

from . import documents, evaluation
from .actions import revise, variants
from .api import job_of, plan_of
from .held_schemas import SentenceOut
from .models import Job, Plan, PlanRevision
from .plans import now, written
from .times import BuysOut

router = Router(tags=["plans"])


class VariantOut(Schema):
    """``chosen`` is the plan that its job goes by; ``copied`` the one it was made from."""

    plan: int
    name: str
    note: str
    chosen: bool
    copied: int | None
    draft: int
    changed_at: datetime
    changed_by: str
    setups: int
    answered: bool
    stops: int
    looks: int
    unknown: int
    ready: bool


class CopyIn(Schema):
    """With edits made to it, or carried over to a machine."""

    name: str = Field(max_length=200)
    machine: str = Field("", max_length=80)
    edits: list[AnyEdit] = Field([], max_length=200)


class DescribeIn(Schema):
    name: str | None = Field(None, max_length=200)
    note: str | None = Field(None, max_length=1000)


class ChooseIn(Schema):
    note: str = Field(max_length=1000)


class SideOut(Schema):
    """What a plan asks for: counts, what of its tools is bought, and seconds of one part and of the
    batch; what its first run takes longer, what is not answered, what stops it and what is to be
    looked at.
    """

    machines: list[str]
    setups: int
    operations: int
    tools: int
    special: int
    buys: list[BuysOut]
    elsewhere: int
    one_part_s: float
    batch_s: float
    by_hand_s: float
    build_s: float
    prove_out_s: float
    stops: int
    looks: int
    unknown: int
    left_mm3: float
    known: float
    whole: bool


class BothAtOut(Schema):
    quantity: int
    batch_s: list[float]
    known: list[float]


class FromOut(Schema):
    """From so many parts on the side (0 or 1) that is behind for one part is ahead."""

    side: int
    quantity: int


class CompareOut(Schema):
    """Two plans on the same terms, and what is otherwise in the second one."""

    sides: list[SideOut]
    differences: list[SentenceOut]
    problem: str
    curve: list[BothAtOut]
    sooner_from: FromOut | None
    cheaper_from: FromOut | None


def _out(plan: Plan) -> dict[str, Any]:
    head = plan.head
    answer = getattr(head.document, "answer", None) if head is not None else None
    return {
        "plan": plan.pk,
        "name": plan.name,
        "note": plan.note,
        "chosen": plan.is_chosen,
        "copied": plan.copied_id,
        "draft": head.number if head is not None else 0,
        "changed_at": head.at if head is not None else plan.made_at,
        "changed_by": head.by.username if head is not None else "",
        "setups": plan.setups,
        "answered": answer is not None,
        "stops": answer.stops if answer else 0,
        "looks": answer.looks if answer else 0,
        "unknown": answer.open if answer else 0,
        "ready": bool(answer and answer.ready),
    }


def _all(job: Job) -> list[dict[str, Any]]:
    found = Plan.objects.filter(job=job).select_related("job", "head__by", "head__document__answer")
    return [_out(each) for each in found.order_by("pk")]


def _one(id: int) -> dict[str, Any]:
    every = Plan.objects.select_related("job", "head__by", "head__document__answer")
    return _out(every.get(pk=id))


@router.get("/jobs/{number}/variants", response=list[VariantOut])
def list_variants(request: SignedIn, number: str) -> list[dict[str, Any]]:
    """All plans of a job, the first one first."""
    return _all(job_of(number))


@router.post("/plans/{id}/copies", response={201: VariantOut})
def copy_plan(request: SignedIn, id: RowId, payload: CopyIn) -> tuple[int, dict[str, Any]]:
    """Another plan of the same job. On another machine each cut has the tool it has now, and what
    that machine can't do is taken down.
    """
    plan = plan_of(id)
    plain = [each.model_dump(mode="json") for each in payload.edits]
    meant = json.loads(evaluation.ask(now(id), "meant", edits=plain)) if plain else []
    if payload.machine:
        there = evaluation.ask(now(id), "carry-over", machine=payload.machine)
        meant = [*meant, *json.loads(there)["edits"]]
    made = variants.copy(request.user, plan, payload.name, revise.EDITS.validate_python(meant))
    return 201, _one(made.pk)


@router.patch("/plans/{id}/variant", response=VariantOut)
def describe_plan(request: SignedIn, id: RowId, payload: DescribeIn) -> dict[str, Any]:
    """Its name among the job's plans, and a note why it is kept or set aside."""
    variants.describe(request.user, plan_of(id), payload.name, payload.note)
    return _one(id)


@router.post("/plans/{id}/choose", response=list[VariantOut])
def choose_plan(request: SignedIn, id: RowId, payload: ChooseIn) -> list[dict[str, Any]]:
    """The job goes by this plan from now on; the others are kept."""
    plan = plan_of(id)
    variants.choose(request.user, plan, payload.note)
    return _all(plan.job)


@router.get("/plans/{id}/compare/{other}", response=CompareOut)
def compare_plans(
    request: SignedIn,
    id: RowId,
    other: RowId,
    draft: Annotated[int | None, Query(ge=1, le=2**31 - 1)] = None,
) -> HttpResponse:
    """What another plan, or an earlier ``draft`` of any, has otherwise than this one, and what that
    brings.
    """
    plan = plan_of(other)
    head = documents.head(plan)
    if draft is not None and draft != head.number:
        head = _draft(plan, draft, head.number)
    second = documents.read(head.document)
    subject = replace(now(id), beside=second)
    return written(evaluation.ask(subject, "compare", other=second.model_dump(mode="json")))


def _draft(plan: Plan, number: int, newest: int) -> PlanRevision:
    found = plan.revisions.filter(number=number).select_related("document").first()
    if found is None:
        raise Refused(
            f"draft is {number}; it must be from 1 to {newest}.", "draft", number, status=404
        )
    return found
