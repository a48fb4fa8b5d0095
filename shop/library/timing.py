"""Timing a machine: what is run at it, the program of that, and the values that fit its times."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from ninja import Router, Schema
from pydantic import Field

from machining.exchange.timing_program import Ways, program
from machining.motion.measured import Fitted, Run, Timed, Values, fit, names_of, runs_for
from machining.motion.timing import Drive
from machining.quantities.errors import Missing
from machining.world.capability import Rig, usual_rig
from machining.world.carrier import TimedRun
from shop.accounts.signed_in import SignedIn
from shop.base.actions import require
from shop.base.problems import Refused

from .actions.put import put
from .models import Item
from .snapshot import snapshot

router = Router(tags=["library"])


class RunOut(Schema):
    """One run: in words, how often it is done without a pause, what is expected of it and, if it
    was timed before, what it took.
    """

    id: str
    what: str
    repeats: int
    expected_s: float
    seconds: float | None


class HasOut(Schema):
    """A value of the machine's record that a watch can tell."""

    name: str
    now: float


class TimingOut(Schema):
    """Where the machine ``turns_work`` its program comes in two manners."""

    name: str
    revision: int
    turns_work: bool
    runs: list[RunOut]
    values: list[HasOut]


class TimeIn(Schema):
    run: str = Field(max_length=60)
    seconds: float


class FitIn(Schema):
    times: list[TimeIn] = Field(max_length=40)


class ValueOut(Schema):
    """A value of the machine before and as it fits, with its spread (one standard deviation, as a
    share), and whether the runs told anything of it.
    """

    name: str
    before: float
    fitted: float
    spread: float
    told: bool


class FitOut(Schema):
    """``alike`` are pairs of values that the times can't tell apart, ``off`` by how much (s) each
    run is off with what fits.
    """

    values: list[ValueOut]
    alike: list[tuple[str, str]]
    off: dict[str, float]


class TakeIn(FitIn):
    names: list[str] = Field(max_length=40)
    revision: int = Field(ge=0, le=2**31 - 1)
    source: str = Field(min_length=3, max_length=500)


class TakenOut(Schema):
    revision: int


def _rig(key: str) -> Rig:
    machine = snapshot().machines.get(key)
    rig = usual_rig(machine) if machine is not None else None
    if rig is None:
        raise Refused("There is no such machine in the library.", "key", key, status=404)
    return rig


def _fitted(rig: Rig, body: FitIn) -> tuple[Fitted, tuple[Run, ...]]:
    runs = runs_for(rig)
    timed = [Timed(each.run, each.seconds) for each in body.times]
    return fit(Values.of(rig), timed, runs, Drive.of(rig)), runs


@router.get("/library/machines/{key}/timing", response=TimingOut)
def timing(request: SignedIn, key: str) -> dict[str, Any]:
    """What is run at a machine to time it."""
    rig = _rig(key)
    values, drive = Values.of(rig), Drive.of(rig)
    before = {each.run: each.seconds for each in rig.machine.timed}
    return {
        "name": rig.machine.name,
        "revision": Item.objects.get(kind="machines", key=key).revision,
        "turns_work": rig.spindle.turns == "work",
        "runs": [
            {
                "id": run.id,
                "what": run.what,
                "repeats": run.repeats,
                "expected_s": run.seconds(values, drive),
                "seconds": before.get(run.id),
            }
            for run in runs_for(rig)
        ],
        "values": [{"name": each, "now": getattr(values, each)} for each in names_of(rig)],
    }


@router.get("/library/machines/{key}/timing.nc", response={200: None})
def timing_program(request: SignedIn, key: str, ways: Ways = "g91") -> HttpResponse:
    """The program that runs them, each after a stop; ``ways`` is how a lathe's control is told a
    way from where it is.
    """
    rig = _rig(key)
    text = program(rig, runs_for(rig), ways)
    answer = HttpResponse(text, content_type="text/plain; charset=us-ascii")
    answer["Content-Disposition"] = f'attachment; filename="times-{rig.machine.key}.nc"'
    return answer


@router.post("/library/machines/{key}/timing/fit", response=FitOut)
def fit_times(request: SignedIn, key: str, payload: FitIn) -> dict[str, Any]:
    """The values that fit the times; stores nothing."""
    rig = _rig(key)
    found, _ = _fitted(rig, payload)
    before, fitted = dict(Values.of(rig).items()), dict(found.values.items())
    return {
        "values": [
            {
                "name": name,
                "before": before[name],
                "fitted": fitted[name],
                "spread": found.spread[name],
                "told": name in found.told,
            }
            for name in names_of(rig)
        ],
        "alike": found.alike,
        "off": found.off,
    }


@router.post("/library/machines/{key}/timing/take", response=TakenOut)
def take_times(request: SignedIn, key: str, payload: TakeIn) -> dict[str, int]:
    """Those of the values that are named, into the machine's record, with the runs."""
    require(request.user, "library")
    rig = _rig(key)
    unknown = set(payload.names) - set(names_of(rig))
    if unknown:
        raise Missing("Value", sorted(unknown)[0])
    found, runs = _fitted(rig, payload)
    repeats = {each.id: each.repeats for each in runs}
    timed = tuple(
        TimedRun(run=each.run, repeats=repeats[each.run], seconds=each.seconds)
        for each in payload.times
    )
    machine = found.values.on(rig, frozenset(payload.names), payload.source, timed)
    stored = put(request.user, "machines", key, machine.model_dump(mode="json"), payload.revision)
    return {"revision": stored.revision}
