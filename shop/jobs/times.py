"""What would shorten a plan, and what it costs at which quantity."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpResponse
from ninja import Query, Router, Schema

from shop.accounts.signed_in import SignedIn
from shop.base.problems import RowId

from . import evaluation
from .held_schemas import SentenceOut
from .plans import MOST_OF, now, written
from .reckoners import LONGEST_S

router = Router(tags=["plans"])
SOON_S = 2.0  # of the processor's time: what is not tried by then waits until it is asked for


class SavingOut(Schema):
    """A change that shortens the batch, ``of`` an operation or a setup: seconds that one part and
    the batch take less with it, what it brings to look at, and its edits.
    """

    of: str
    setup: str
    said: SentenceOut
    because: SentenceOut
    one_part_s: float
    batch_s: float
    looks: list[SentenceOut]
    edits: list[dict[str, Any]]


class SavingsOut(Schema):
    """``untried`` are how many changes would take longer than anybody waits unasked."""

    tried: int
    untried: int
    rows: list[SavingOut]


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


class QuantitiesOut(Schema):
    """``known`` is the cost of the batch as far as it is known, ``whole`` whether that is all of
    it; ``curve`` is the same at other quantities.
    """

    parts: list[CostOut]
    known: float
    whole: bool
    curve: list[AtOut]


@router.get("/plans/{id}/quantities", response=QuantitiesOut)
def plan_quantities(request: SignedIn, id: RowId) -> HttpResponse:
    """What the batch costs and of what, and what others of a tenth to ten times as many take."""
    return written(evaluation.ask(now(id), "quantities"))


@router.get("/plans/{id}/savings", response=SavingsOut)
def plan_savings(
    request: SignedIn, id: RowId, all: Annotated[bool, Query()] = False
) -> HttpResponse:
    """What would save most of the batch's time and stop nothing: found soon, or all that is tried
    in the longest a question may take.
    """
    longest = MOST_OF * LONGEST_S if all else SOON_S
    return written(evaluation.ask(now(id), "savings", longest_s=longest))
