"""A machine's magazine against a plan, and tools of a job that stay in it."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpResponse
from ninja import Query, Router, Schema

from machining.ask.magazine import staying
from shop.accounts.signed_in import SignedIn
from shop.base.problems import Refused, RowId
from shop.library.actions.put import put
from shop.library.models import Item
from shop.library.snapshot import snapshot

from . import documents, evaluation
from .api import plan_of
from .plans import now, written

router = Router(tags=["plans"])


class InPocketOut(Schema):
    number: int
    name: str
    of: str


class PocketOut(Schema):
    """What the plan puts there, and what stays there; ``there`` where that is the same."""

    pocket: int
    tool: InPocketOut | None
    stays: InPocketOut | None
    there: bool


class MagazineOut(Schema):
    """The pockets of a carrier: how many of the plan's tools are there already, are to be put in,
    how many pockets stay free, and how many tools that stay have to come out.
    """

    carrier: str
    pockets: list[PocketOut]
    there: int
    put_in: int
    free: int
    come_out: int


class StayIn(Schema):
    machine: str
    stay: bool


class StayOut(Schema):
    """How many tools stay in the machine for the job now."""

    stay: int


@router.get("/plans/{id}/magazine", response=list[MagazineOut])
def plan_magazine(request: SignedIn, id: RowId, machine: Annotated[str, Query()]) -> HttpResponse:
    """Which pockets of a machine the plan needs, and what stays in them."""
    return written(evaluation.ask(now(id), "magazine", machine=machine))


@router.post("/plans/{id}/magazine", response=StayOut)
def keep_tools(request: SignedIn, id: RowId, payload: StayIn) -> dict[str, int]:
    """The plan's tools stay in a machine for its job, or are taken out of the machine's record."""
    plan, machine = plan_of(id), snapshot().machines.get(payload.machine)
    item = Item.objects.filter(kind="machines", key=payload.machine).first()
    if machine is None or item is None:
        raise Refused(
            f"The shop has no machine {payload.machine!r}.", "machine", payload.machine, status=404
        )
    document = documents.read(documents.head(plan).document)
    kept = staying(document, machine, plan.job.number, payload.stay)
    put(request.user, "machines", machine.key, kept.model_dump(mode="json"), item.revision)
    return {"stay": sum(each.of == plan.job.number for each in kept.standing)}
