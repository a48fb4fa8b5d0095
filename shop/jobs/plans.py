"""Plans: read, edit, undo, preview, their solids, export and import."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Annotated, Any, Literal

from django.http import HttpResponse
from ninja import File, Query, Router
from ninja.files import UploadedFile

from machining.exchange import plan_json, tool_csv
from machining.facts.pace import name_of
from machining.plan.edit import Edit
from machining.plan.trade import TradeEdit
from shop.accounts.signed_in import SignedIn
from shop.base.names import file_name
from shop.base.problems import Refused, RowId

from . import documents, evaluation
from .actions import revise
from .api import plan_of
from .cut_schemas import AlongOut, PlaceOut, StandingOut
from .load_schemas import HowManyOut, LoadOut, MeasuredIn, MeasuredOut
from .models import Plan, PlanRevision
from .read_schemas import ReadIn, ReadOut
from .reckoners import LONGEST_S
from .schemas import (
    ChoiceOut,
    EditsIn,
    FixesOut,
    OfferOut,
    PlanOut,
    PreviewIn,
    PreviewOut,
    RevisionIn,
    ToolOut,
    WhatIfIn,
    WhatIfOut,
)
from .zero_schemas import ChainOut, PlaceWayOut, ZeroAxisOut

router = Router(tags=["plans"])
MOST_OF = 0.6  # of the longest a question may take, for what is asked for in full
LOOK_BACK = 6  # a drawing may still ask for what an edit has just replaced


def _subject(plan: Plan, revision: PlanRevision) -> evaluation.Subject:
    document = documents.read(revision.document)
    return evaluation.Subject(document, revision.document_id, document.model_dump_json(), plan.pk)


def now(id: int) -> evaluation.Subject:
    """A plan as it is now, to ask about."""
    plan = plan_of(id)
    return _subject(plan, documents.head(plan))


def written(content: bytes) -> HttpResponse:
    """An answer that the core has written already."""
    return HttpResponse(content, content_type="application/json")


def _answer(plan: Plan, head: PlanRevision, edited: bool = False) -> HttpResponse:
    """The plan with its evaluation, written as bytes once; ``evaluation`` is null where it is not
    ready in a moment. Where it was just edited, some of it may still be *working*.
    """
    try:
        subject = _subject(plan, head)
    except documents.Unreadable as problem:
        Plan.objects.filter(pk=plan.pk).update(unread=problem.sentence)
        problem.more |= {"head": head.number, "can_undo": revise.can_undo(plan, head)}
        raise
    answered = evaluation.in_time(subject, _before(plan, head) if edited else "")
    meta = {
        "id": plan.pk,
        "revision": head.number,
        "at": head.at.isoformat(),
        "by": head.by.username,
        "can_undo": revise.can_undo(plan, head),
        "can_redo": bool(head.redo),
        "plan": subject.document.model_dump(mode="json"),
    }
    body = json.dumps(meta, separators=(",", ":"), ensure_ascii=False).encode()[:-1]
    told = answered or {"features": b"[]", "evaluation": b"null"}
    return written(
        body + b',"features":' + told["features"] + b',"evaluation":' + told["evaluation"] + b"}"
    )


def _before(plan: Plan, head: PlanRevision) -> str:
    """The name of the plan before its newest revision, "" where it can't be read."""
    row = PlanRevision.objects.select_related("document").get(plan=plan, number=head.number - 1)
    try:
        return name_of(documents.read(row.document))
    except documents.Unreadable:
        return ""


@router.get("/plans/{id}", response=PlanOut)
def read(request: SignedIn, id: RowId) -> HttpResponse:
    plan = plan_of(id)
    return _answer(plan, documents.head(plan))


@router.post("/plans/{id}/edits", response=PlanOut)
def edit(request: SignedIn, id: RowId, payload: EditsIn) -> HttpResponse:
    plan = plan_of(id)
    edits = _structural(plan, payload)
    return _answer(plan, revise.edit(request.user, plan, payload.revision, edits), edited=True)


def _structural(plan: Plan, payload: EditsIn | PreviewIn) -> Sequence[Edit]:
    """What a planner's edits come to on the newest revision; where they were made on another, they
    are refused for that before anything is stored.
    """
    plain = [each.model_dump(mode="json") for each in payload.edits]
    if any(isinstance(each, TradeEdit) for each in payload.edits):
        plain = json.loads(evaluation.ask(now(plan.pk), "meant", edits=plain))
    return revise.EDITS.validate_python(plain)


@router.post("/plans/{id}/undo", response=PlanOut)
def undo(request: SignedIn, id: RowId, payload: RevisionIn) -> HttpResponse:
    plan = plan_of(id)
    return _answer(plan, revise.undo(request.user, plan, payload.revision), edited=True)


@router.post("/plans/{id}/redo", response=PlanOut)
def redo(request: SignedIn, id: RowId, payload: RevisionIn) -> HttpResponse:
    plan = plan_of(id)
    return _answer(plan, revise.redo(request.user, plan, payload.revision), edited=True)


@router.post("/plans/{id}/preview", response=PreviewOut)
def preview(request: SignedIn, id: RowId, payload: PreviewIn) -> HttpResponse:
    """Stores nothing."""
    edits = [each.model_dump(mode="json") for each in _structural(plan_of(id), payload)]
    return written(evaluation.ask(now(id), "preview", edits=edits, figures=payload.figures))


@router.get("/plans/{id}/fixes", response=FixesOut)
def fixes(
    request: SignedIn,
    id: RowId,
    finding: Annotated[str, Query(max_length=200)],
    all: Annotated[bool, Query()] = False,
) -> HttpResponse:
    """The fixes of a finding that were tried and settle it without stopping anything else, the
    cheapest first: those found soon, or all.
    """
    about: dict[str, Any] = {
        "finding": finding[:200],
        **({"longest_s": MOST_OF * LONGEST_S} if all else {}),
    }
    return written(evaluation.ask(now(id), "fixes", missing=404, **about))


@router.post("/plans/{id}/what-if", response=WhatIfOut)
def ask_what_if(request: SignedIn, id: RowId, payload: WhatIfIn) -> HttpResponse:
    """A figure with other inputs, and how it answers to ten per cent more of each; the plan stays
    as it is.
    """
    return written(
        evaluation.ask(
            now(id),
            "what-if",
            figure=payload.figure,
            changed=[(each.name, each.origin, each.value) for each in payload.changed],
        )
    )


@router.post("/plans/{id}/read", response=ReadOut)
def read_points(request: SignedIn, id: RowId, payload: ReadIn) -> HttpResponse:
    """One point or two as they stand in a station: what they are, where in every station and for
    every position, what lies between. The plan stays as it is.
    """
    points = [each.feature or (each.at, each.looks) for each in payload.points]
    return written(
        evaluation.ask(
            now(id),
            "read",
            missing=404,
            points=points,
            station=payload.station,
            near_mm=payload.near_mm,
        )
    )


@router.get("/plans/{id}/setups/{setup}/offers", response=list[OfferOut])
def setup_offers(request: SignedIn, id: RowId, setup: str, station: str = "") -> HttpResponse:
    """What could be cut next in a setup, at its first station where none is named, as edits to
    send.
    """
    return written(
        evaluation.ask(now(id), "offers", missing=404, setup=setup[:80], station=station[:80])
    )


@router.get("/plans/{id}/setups/{setup}/load", response=LoadOut | None)
def setup_load(request: SignedIn, id: RowId, setup: str) -> HttpResponse:
    """How a setup's parts stand on the table, seen from above, with the offset of every position;
    null where they stand on none.
    """
    return written(evaluation.ask(now(id), "load", missing=404, setup=setup[:80]))


@router.get("/plans/{id}/setups/{setup}/how-many", response=list[HowManyOut])
def setup_how_many(request: SignedIn, id: RowId, setup: str) -> HttpResponse:
    """What a part takes with more or fewer of them in the machine at a time."""
    return written(evaluation.ask(now(id), "how-many", missing=404, setup=setup[:80]))


@router.post("/plans/{id}/setups/{setup}/measured", response=list[MeasuredOut])
def setup_measured(request: SignedIn, id: RowId, setup: str, payload: MeasuredIn) -> HttpResponse:
    """What was found at the machine against the plan; the plan stays as it is."""
    return written(
        evaluation.ask(now(id), "measured", missing=404, setup=setup[:80], text=payload.text)
    )


@router.get("/plans/{id}/stations/{station}/place-ways", response=list[PlaceWayOut])
def station_place_ways(request: SignedIn, id: RowId, station: str) -> HttpResponse:
    """Other places of a station's zero, its sides together or apart, each worked out."""
    return written(evaluation.ask(now(id), "place-ways", missing=404, station=station[:80]))


@router.get("/plans/{id}/stations/{station}/zero", response=list[ZeroAxisOut])
def station_zero(request: SignedIn, id: RowId, station: str) -> HttpResponse:
    """What each axis of a station's zero could be taken from, and how it is picked up."""
    return written(evaluation.ask(now(id), "zero", missing=404, station=station[:80]))


@router.get("/plans/{id}/setups/{setup}/offsets.{kind}", response={200: None})
def setup_offsets(
    request: SignedIn,
    id: RowId,
    setup: str,
    kind: Literal["csv", "nc"],
    units: Literal["metric", "inch"] = "metric",
) -> HttpResponse:
    """The offset table of a setup: CSV in mm and degrees, or the block its control takes."""
    plan, write = plan_of(id), "csv" if kind == "csv" else units
    text = evaluation.ask(now(id), "offsets", missing=404, setup=setup[:80], write=write)
    name = f"{file_name(plan.job.number)}.offsets.{kind}"
    return _download(text, "text/csv; charset=utf-8" if kind == "csv" else "text/plain", name)


@router.get("/plans/{id}/operations/{operation}/along", response=AlongOut | None)
def operation_along(request: SignedIn, id: RowId, operation: str) -> HttpResponse:
    """What an operation asks of the spindle along its way; null where that is not known."""
    return written(evaluation.ask(now(id), "along", missing=404, operation=operation[:80]))


@router.get("/plans/{id}/coverage", response=list[PlaceOut])
def plan_coverage(request: SignedIn, id: RowId) -> HttpResponse:
    """How far each place of the part is, and which operations cut it."""
    return written(evaluation.ask(now(id), "coverage"))


@router.get("/plans/{id}/chains", response=list[ChainOut])
def plan_chains(request: SignedIn, id: RowId) -> HttpResponse:
    """What adds up over the distances of the drawing whose ends are not made at once."""
    return written(evaluation.ask(now(id), "chains"))


@router.get("/plans/{id}/standing", response=list[StandingOut])
def plan_standing(request: SignedIn, id: RowId) -> HttpResponse:
    """What still stands after the last setup, place by place, with what would cut it."""
    return written(evaluation.ask(now(id), "standing"))


@router.get("/plans/{id}/operations/{operation}/tools", response=list[ToolOut])
def operation_tools(request: SignedIn, id: RowId, operation: str) -> HttpResponse:
    """The tools an operation can be given, those that suit first; of the others why they don't."""
    return written(evaluation.ask(now(id), "tools", missing=404, operation=operation[:80]))


@router.get("/plans/{id}/operations/{operation}/choices", response=list[ChoiceOut])
def operation_choices(request: SignedIn, id: RowId, operation: str) -> HttpResponse:
    """How else an operation could be cut, each way with what it would bring, as edits to send. The
    first is how it is now.
    """
    return written(evaluation.ask(now(id), "ways", missing=404, operation=operation[:80]))


@router.get("/plans/{id}/part.glb", response={200: None})
def part_mesh(request: SignedIn, id: RowId) -> HttpResponse:
    return _glb(evaluation.ask(now(id), "part"))


@router.get("/plans/{id}/stock/{key}.glb", response={200: None})
def stock_mesh(request: SignedIn, id: RowId, key: str) -> HttpResponse:
    """The stock a setup starts from or an operation leaves, in the setup frame; sawn skin is face
    0, cut skin face 1.
    """
    plan = plan_of(id)
    for revision in (
        PlanRevision.objects.filter(plan=plan)
        .select_related("document")
        .order_by("-number")[:LOOK_BACK]
    ):
        try:
            return _glb(
                evaluation.ask(_subject(plan, revision), "stock", missing=404, key=key[:80])
            )
        except Refused as problem:
            if problem.status != 404:
                raise
    raise Refused("The plan has changed; this stock is gone.", status=404)


def _glb(content: bytes) -> HttpResponse:
    answer = HttpResponse(content, content_type="model/gltf-binary")
    answer["Cache-Control"] = "private, max-age=86400"
    return answer


def _download(content: bytes, kind: str, name: str) -> HttpResponse:
    answer = HttpResponse(content, content_type=kind)
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@router.get("/plans/{id}/export.json", response={200: None})
def export(request: SignedIn, id: RowId) -> HttpResponse:
    plan = plan_of(id)
    document = documents.read(documents.head(plan).document)
    return _download(
        plan_json.write(document, documents.library_for(document)),
        "application/json",
        f"{file_name(plan.job.number)}.plan.json",
    )


@router.get("/plans/{id}/document.json", response={200: None})
def stored(request: SignedIn, id: RowId) -> HttpResponse:
    """The newest document as it is stored, for the case that this program can't read it."""
    plan = plan_of(id)
    return _download(
        documents.head(plan).document.text.encode(),
        "application/json",
        f"{file_name(plan.job.number)}.document.json",
    )


@router.get("/plans/{id}/tools.csv", response={200: None})
def tools(request: SignedIn, id: RowId) -> HttpResponse:
    plan = plan_of(id)
    document = documents.read(documents.head(plan).document)
    return _download(
        tool_csv.write(document, documents.library_for(document)).encode(),
        "text/csv; charset=utf-8",
        f"{file_name(plan.job.number)}.tools.csv",
    )


@router.post("/plans/{id}/import", response=PlanOut)
def import_plan(
    request: SignedIn,
    id: RowId,
    revision: Annotated[int, Query(ge=0, le=2**31 - 1)],
    file: File[UploadedFile],
) -> HttpResponse:
    """The file's plan becomes the next revision; what the library lacks is named and nothing is
    changed.
    """
    from .actions.import_plan import MOST_BYTES
    from .actions.import_plan import import_plan as take_in

    plan = plan_of(id)
    if (file.size or 0) > MOST_BYTES:
        raise Refused(
            f"The file has {(file.size or 0) / 1e6:.1f} MB; a plan of up to {MOST_BYTES / 1e6:.0f}"
            " MB can be read.",
            "file",
            file.name,
        )
    return _answer(plan, take_in(request.user, plan, revision, file.read()))
