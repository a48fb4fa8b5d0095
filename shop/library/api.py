from __future__ import annotations

from collections import defaultdict
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from machining.evaluation import formulas
from machining.quantities import display
from machining.quantities.entry import drill_sizes
from machining.quantities.units import QUANTITIES
from machining.world.settings import Settings
from shop.base.problems import Refused
from shop.jobs.models import PlanUse

from .actions.put import MODELS, put
from .actions.remove import remove
from .models import Item

router = Router(tags=["library"])


class ItemOut(Schema):
    kind: str
    key: str
    data: dict[str, Any]
    revision: int
    changed_at: str
    used_by: list[str]


class LibraryOut(Schema):
    items: list[ItemOut]


class ItemIn(Schema):
    data: dict[str, Any]
    revision: int = 0


class WordsOut(Schema):
    """What the interface needs to show figures: digits, units as typed, and every formula's words."""

    display: dict[str, Any]
    units: dict[str, Any]
    formulas: dict[str, Any]
    schemas: dict[str, Any]
    drills: dict[str, float]


def _used() -> dict[tuple[str, str], list[str]]:
    used: dict[tuple[str, str], set[str]] = defaultdict(set)
    for kind, key, number in PlanUse.objects.values_list("kind", "key", "plan__job__number"):
        used[(kind, key)].add(number)
    return {place: sorted(numbers) for place, numbers in used.items()}


def _out(item: Item, used: dict[tuple[str, str], list[str]]) -> dict[str, Any]:
    return {
        "kind": item.kind, "key": item.key, "data": item.data, "revision": item.revision,
        "changed_at": item.changed_at.isoformat(), "used_by": used.get((item.kind, item.key), []),
    }


@router.get("/library", response=LibraryOut)
def everything(request: HttpRequest):
    used = _used()
    items = [_out(item, used) for item in Item.objects.all()]
    if not any(item["kind"] == "settings" for item in items):
        items.append({"kind": "settings", "key": "shop", "data": Settings().model_dump(mode="json"), "revision": 0, "changed_at": "", "used_by": []})
    return {"items": items}


@router.put("/library/{kind}/{key}", response=ItemOut)
def put_item(request: HttpRequest, kind: str, key: str, payload: ItemIn):
    return _out(put(request.user, kind, key, payload.data, payload.revision), _used())


@router.delete("/library/{kind}/{key}", response={204: None})
def remove_item(request: HttpRequest, kind: str, key: str):
    if kind == "settings":
        raise Refused("The shop's settings stay.", status=409)
    remove(request.user, kind, key)
    return 204, None


@router.get("/words", auth=None, response=WordsOut)
def words(request: HttpRequest):
    return {
        "display": display.table(), "units": {name: {"base": base, "units": units} for name, (base, units) in QUANTITIES.items()},
        "formulas": formulas(), "schemas": {kind: model.model_json_schema() for kind, model in MODELS.items()}, "drills": drill_sizes(),
    }
