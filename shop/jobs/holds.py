"""Which side first, how a station's part is held, where it is thin, and how else it could be put
in.
"""

from __future__ import annotations

from typing import Annotated

from django.http import HttpResponse
from ninja import Query, Router

from shop.accounts.signed_in import SignedIn
from shop.base.problems import RowId

from . import evaluation
from .hold_schemas import BeginningsOut, HoldOut, LastsOut, WallOut, WrongWayOut
from .plans import now, written

router = Router(tags=["plans"])
Share = Annotated[float, Query(ge=0.1, le=3.0)]


@router.get("/plans/{id}/stations/{station}/hold", response=HoldOut | None)
def station_hold(
    request: SignedIn,
    id: RowId,
    station: str,
    operation: str = "",
    force: Share = 1.0,
    friction: Share = 1.0,
) -> HttpResponse:
    """Where a station's part is touched, what each of its cuts asks, and all round of one; null
    while nobody knows how it is held. ``force`` and ``friction`` are shares of the planned ones to
    try.
    """
    station, operation = station[:80], operation[:80]
    plan = now(id)
    return written(
        evaluation.ask(
            plan,
            "hold",
            missing=404,
            station=station,
            operation=operation,
            force=force,
            friction=friction,
        )
    )


@router.get("/plans/{id}/operations/{operation}/thin", response=list[WallOut])
def operation_thin(request: SignedIn, id: RowId, operation: str) -> HttpResponse:
    """Where the stock is thin once an operation is done, those walls it cuts on first."""
    return written(evaluation.ask(now(id), "thin", missing=404, operation=operation[:80]))


@router.get("/plans/{id}/beginnings", response=BeginningsOut | None)
def plan_beginnings(request: SignedIn, id: RowId) -> HttpResponse:
    """Which side first: the ways to begin, each tried; null once there are setups, or where the
    part is turned.
    """
    return written(evaluation.ask(now(id), "beginnings"))


@router.get("/plans/{id}/stations/{station}/lasts", response=LastsOut | None)
def station_lasts(request: SignedIn, id: RowId, station: str) -> HttpResponse:
    """How likely a batch runs without a slip, and what that hangs on; null while nobody knows."""
    return written(evaluation.ask(now(id), "lasts", missing=404, station=station[:80]))


@router.get("/plans/{id}/stations/{station}/wrong-way", response=WrongWayOut | None)
def station_wrong_way(request: SignedIn, id: RowId, station: str) -> HttpResponse:
    """The other ways a station's part goes into what holds it, and what the cut would do to it;
    null while nobody knows.
    """
    return written(evaluation.ask(now(id), "wrong-way", missing=404, station=station[:80]))
