"""Plans: read, edit, undo, preview, their solids, export and import."""

from __future__ import annotations

import json
from typing import Any
from uuid import uuid4

from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from machining.evaluation import to_plain
from machining.exchange import glb, plan_json, tool_csv
from machining.facts.choices import finish_choices, hole_choices, rough_choices, slope_choices
from machining.facts.offers import offers
from machining.facts.route import geometry_of, walk
from machining.facts.stock import two_skins
from machining.facts.turn_ways import turn_choices
from machining.facts.what_if import sensitivity, what_if
from machining.plan.apply import apply
from machining.quantities.errors import MachiningError
from shop.base.problems import Refused

from . import documents, evaluation
from .actions import revise
from .api import plan_of
from .choices import ways
from .models import Plan, PlanRevision
from .schemas import ChoiceOut, EditsIn, OfferOut, PlanOut, PreviewIn, PreviewOut, RevisionIn, WhatIfIn, WhatIfOut

router = Router(tags=["plans"])
LOOK_BACK = 6  # a drawing may still ask for what an edit has just replaced


def _answer(plan: Plan, head: PlanRevision) -> HttpResponse:
    """The plan with its evaluation, written as bytes once; ``evaluation`` is null where it is not ready in a moment."""
    document = documents.read(head.document)
    library = documents.library_for(document)
    answered = evaluation.in_time(head.document_id, document, library)
    meta = {
        "id": plan.pk, "revision": head.number, "at": head.at.isoformat(), "by": head.by.username, "can_undo": revise.can_undo(plan, head), "can_redo": bool(head.redo),
        "plan": document.model_dump(mode="json"), "features": _features(document, library),
    }
    body = json.dumps(meta, separators=(",", ":"), ensure_ascii=False).encode()
    return HttpResponse(body[:-1] + b',"evaluation":' + (answered or b"null") + b"}", content_type="application/json")


def _features(document: Any, library: Any) -> list[dict[str, Any]]:
    try:
        geometry = geometry_of(document, library, evaluation.MEMO)
    except MachiningError:
        return []
    return [f.model_dump(mode="json", exclude={"loops"}) for f in geometry.features]


@router.get("/plans/{id}", response=PlanOut)
def read(request: HttpRequest, id: int):
    plan = plan_of(id)
    return _answer(plan, documents.head(plan))


@router.post("/plans/{id}/edits", response=PlanOut)
def edit(request: HttpRequest, id: int, payload: EditsIn):
    plan = plan_of(id)
    return _answer(plan, revise.edit(request.user, plan, payload.revision, payload.edits))


@router.post("/plans/{id}/undo", response=PlanOut)
def undo(request: HttpRequest, id: int, payload: RevisionIn):
    plan = plan_of(id)
    return _answer(plan, revise.undo(request.user, plan, payload.revision))


@router.post("/plans/{id}/redo", response=PlanOut)
def redo(request: HttpRequest, id: int, payload: RevisionIn):
    plan = plan_of(id)
    return _answer(plan, revise.redo(request.user, plan, payload.revision))


@router.post("/plans/{id}/preview", response=PreviewOut)
def preview(request: HttpRequest, id: int, payload: PreviewIn):
    """Stores nothing."""
    plan = plan_of(id)
    head = documents.head(plan)
    document = documents.read(head.document)
    library = documents.library_for(document)
    before = evaluation.answer(head.document_id, document, library)
    after = evaluation.evaluate_now(apply(document, payload.edits), library)
    known = {f.key for f in before.findings}
    then = {f.key for f in after.findings}
    return {
        "one_part_s": (before.one_part_s, after.one_part_s), "gone": sorted(known - then),
        "come": [f for f in to_plain(after)["findings"] if f["key"] not in known],
        "stops": (before.count("stop"), after.count("stop")), "looks": (before.count("look"), after.count("look")),
        "figures": {name: tuple(found.value if (found := e.figures.get(name)) else None for e in (before, after)) for name in payload.figures},
    }


@router.post("/plans/{id}/what-if", response=WhatIfOut)
def ask_what_if(request: HttpRequest, id: int, payload: WhatIfIn):
    """A figure with other inputs, and how it answers to ten per cent more of each; the plan stays as it is."""
    head = documents.head(plan_of(id))
    document = documents.read(head.document)
    figures = evaluation.answer(head.document_id, document, documents.library_for(document)).figures
    values = what_if(figures, payload.figure, {(each.name, each.origin): each.value for each in payload.changed})
    return {"values": values, "sensitivity": [{"name": name, "origin": origin, "value": factor} for (name, origin), factor in sensitivity(figures, payload.figure).items()]}


@router.get("/plans/{id}/setups/{setup}/offers", response=list[OfferOut])
def setup_offers(request: HttpRequest, id: int, setup: str):
    """What could be cut next in a setup, as edits to send."""
    document = documents.read(documents.head(plan_of(id)).document)
    facts = walk(document, documents.library_for(document), evaluation.MEMO)
    seen = next((s for s in facts.setups if s.setup.id == setup), None)
    if seen is None:
        raise Refused(f"There is no setup {setup!r} in this plan.", "setup", setup, status=404)
    return [
        {"group": o.group, "label": o.label, "tool": o.tool, "edits": [e.model_dump(mode="json") for e in o.edits], "rare": o.rare} for o in offers(seen, facts, lambda: "o" + uuid4().hex[:10])
    ]


@router.get("/plans/{id}/operations/{operation}/choices", response=list[ChoiceOut])
def operation_choices(request: HttpRequest, id: int, operation: str):
    """How else an operation could be cut, each way with what it would bring, as edits to send. The first is how it is now."""
    head = documents.head(plan_of(id))
    document = documents.read(head.document)
    library = documents.library_for(document)
    facts = walk(document, library, evaluation.MEMO)
    op = next((each for each in facts.operations() if each.operation.id == operation), None)
    if op is None:
        raise Refused(f"There is no operation {operation!r} in this plan.", "operation", operation, status=404)
    found = rough_choices(op, facts) or finish_choices(op, facts) or hole_choices(op, facts) or turn_choices(op, facts) or slope_choices(op, facts)
    return ways(operation, found, evaluation.answer(head.document_id, document, library), document, library) if found else []


@router.get("/plans/{id}/part.glb", response={200: None})
def part_mesh(request: HttpRequest, id: int):
    document = documents.read(documents.head(plan_of(id)).document)
    return _glb(glb.write(geometry_of(document, documents.library_for(document), evaluation.MEMO).mesh))


@router.get("/plans/{id}/stock/{key}.glb", response={200: None})
def stock_mesh(request: HttpRequest, id: int, key: str):
    """The stock a setup starts from or an operation leaves, in the setup frame; sawn skin is face 0, cut skin face 1."""
    for revision in PlanRevision.objects.filter(plan=plan_of(id)).select_related("document").order_by("-number")[:LOOK_BACK]:
        document = documents.read(revision.document)
        facts = walk(document, documents.library_for(document), evaluation.MEMO)
        for setup in facts.setups:
            solids = {setup.stock_key: setup.stock_start, **{op.key_after: op.stock_after for op in setup.operations if op.stock_after is not None}}
            if key in solids:
                mesh = two_skins(solids[key], facts, setup.lie.pose)
                return _glb(evaluation.MEMO.get(("glb", key), lambda mesh=mesh: glb.write(mesh)))
    raise Refused("The plan has changed; this stock is gone.", status=404)


def _glb(content: bytes) -> HttpResponse:
    answer = HttpResponse(content, content_type="model/gltf-binary")
    answer["Cache-Control"] = "private, max-age=86400"
    return answer


@router.get("/plans/{id}/export.json", response={200: None})
def export(request: HttpRequest, id: int):
    plan = plan_of(id)
    document = documents.read(documents.head(plan).document)
    answer = HttpResponse(plan_json.write(document, documents.library_for(document)), content_type="application/json")
    answer["Content-Disposition"] = f'attachment; filename="{plan.job.number}.plan.json"'
    return answer


@router.get("/plans/{id}/tools.csv", response={200: None})
def tools(request: HttpRequest, id: int):
    plan = plan_of(id)
    document = documents.read(documents.head(plan).document)
    answer = HttpResponse(tool_csv.write(document, documents.library_for(document)), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{plan.job.number}.tools.csv"'
    return answer


@router.post("/plans/{id}/import", response=PlanOut)
def import_plan(request: HttpRequest, id: int, revision: int, file: UploadedFile = File(...)):
    """The file's plan becomes the next revision; what the library lacks is named and nothing is changed."""
    from .actions.import_plan import import_plan as take_in

    plan = plan_of(id)
    return _answer(plan, take_in(request.user, plan, revision, file.read()))
