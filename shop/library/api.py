from __future__ import annotations

from typing import Any, Literal

from django.http import HttpResponse
from ninja import File, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from machining.ask import forms
from machining.cutting.data import constants
from machining.evaluation import formulas
from machining.exchange.tool_library_csv import Line, write
from machining.quantities import display
from machining.quantities.entry import drill_sizes
from machining.quantities.units import QUANTITIES
from machining.world.settings import Settings
from machining.world.upgrades import item_up_to_date
from shop.accounts.signed_in import SignedIn
from shop.base.actions import require
from shop.base.problems import Refused

from .actions.import_tools import import_tools, preview
from .actions.put import TABLES, put
from .actions.remove import remove
from .models import Item
from .snapshot import problem_of, snapshot
from .uses import Used, used

MOST_BYTES = 2_000_000
router = Router(tags=["library"])


class ItemOut(Schema):
    kind: str
    key: str
    data: dict[str, Any]
    revision: int
    changed_at: str
    used_by: list[str]
    problem: str


class LibraryOut(Schema):
    items: list[ItemOut]


class ItemIn(Schema):
    data: dict[str, Any]
    revision: int = Field(0, ge=0, le=2**31 - 1)


class FieldChangeOut(Schema):
    field: str
    before: Any = None
    after: Any = None


class LineOut(Schema):
    """One line of a table of tools: ``does`` is new, changed, same or wrong."""

    number: int
    key: str
    name: str
    does: str
    changes: list[FieldChangeOut]
    problem: str
    field: str


class TypedOut(Schema):
    name: str
    label: str
    quantity: str
    empty: str
    instead_of: str


class OptionOut(Schema):
    value: str
    label: str


class PickedOut(Schema):
    name: str
    label: str
    options: list[OptionOut]


class FormOut(Schema):
    """What is asked of a place or a kind of operation, in order."""

    typed: list[TypedOut]
    picked: list[PickedOut]


class KindOut(FormOut):
    name: str
    feeds: list[str]
    keeps_speed: bool
    places: list[str]
    ways: str
    shown: Literal["", "cuts", "schools", "sizes", "holes"]
    bench: Literal["", "hole-methods", "slope-methods"]


class BlankOut(FormOut):
    name: str
    sides: list[OptionOut]


class WordsOut(Schema):
    """What the interface needs to show figures and to ask for values: digits, units as typed, every
    formula's words, the forms of operations and of places.
    """

    display: dict[str, Any]
    units: dict[str, Any]
    formulas: dict[str, Any]
    schemas: dict[str, Any]
    drills: dict[str, float]
    stiffness: dict[str, float]
    kinds: dict[str, KindOut]
    places: dict[str, FormOut]
    holdings: dict[str, FormOut]
    blanks: dict[str, BlankOut]


def _out(item: Item, known: Used) -> dict[str, Any]:
    return {
        "kind": item.kind,
        "key": item.key,
        "data": item_up_to_date(item.kind, item.format, item.data),
        "revision": item.revision,
        "changed_at": item.changed_at.isoformat(),
        "used_by": known.get((item.kind, item.key), []),
        "problem": problem_of(item),
    }


@router.get("/library", response=LibraryOut)
def everything(request: SignedIn) -> dict[str, Any]:
    known = used()
    items = [_out(item, known) for item in Item.objects.all()]
    if not any(item["kind"] == "settings" for item in items):
        items.append(
            {
                "kind": "settings",
                "key": "shop",
                "data": Settings().model_dump(mode="json"),
                "revision": 0,
                "changed_at": "",
                "used_by": [],
                "problem": "",
            }
        )
    return {"items": items}


@router.get("/library/tools.csv", response={200: None})
def export_tools(request: SignedIn) -> HttpResponse:
    answer = HttpResponse(write(snapshot().tools), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="tools.csv"'
    return answer


@router.post("/library/tools.csv/preview", response=list[LineOut])
def preview_tools(request: SignedIn, file: File[UploadedFile]) -> list[dict[str, Any]]:
    """What each line would change; stores nothing."""
    require(request.user, "library")
    return [_line(line) for line in preview(_small(file))]


@router.post("/library/tools.csv", response=list[LineOut])
def take_tools(request: SignedIn, file: File[UploadedFile]) -> list[dict[str, Any]]:
    """All lines or none."""
    return [_line(line) for line in import_tools(request.user, _small(file))]


def _small(file: UploadedFile) -> bytes:
    if (file.size or 0) > MOST_BYTES:
        raise Refused(
            f"The file has {(file.size or 0) / 1e6:.1f} MB; a table of up to {MOST_BYTES / 1e6:.0f}"
            " MB can be read.",
            "file",
        )
    return file.read()


def _line(line: Line) -> dict[str, Any]:
    changes = [
        {"field": field, "before": before, "after": after} for field, before, after in line.changes
    ]
    return {
        "number": line.number,
        "key": line.key,
        "name": line.name,
        "does": line.does,
        "changes": changes,
        "problem": line.problem,
        "field": line.field,
    }


@router.put("/library/{kind}/{key}", response=ItemOut)
def put_item(request: SignedIn, kind: str, key: str, payload: ItemIn) -> dict[str, Any]:
    return _out(put(request.user, kind, key, payload.data, payload.revision), used())


@router.delete("/library/{kind}/{key}", response={204: None})
def remove_item(request: SignedIn, kind: str, key: str) -> tuple[int, None]:
    if kind == "settings":
        raise Refused("The shop's settings stay.", status=409)
    remove(request.user, kind, key)
    return 204, None


@router.get("/words", auth=None, response=WordsOut)
def words(request: SignedIn) -> dict[str, Any]:
    return {
        "display": display.table(),
        "units": {
            name: {"base": base, "units": units} for name, (base, units) in QUANTITIES.items()
        },
        "formulas": formulas(),
        "schemas": {kind: table.json_schema() for kind, table in TABLES.items()},
        "drills": drill_sizes(),
        "stiffness": constants()["modulus_gpa"],
        "kinds": forms.kinds(),
        "places": forms.places(),
        "holdings": forms.held(),
        "blanks": forms.blanks(),
    }
