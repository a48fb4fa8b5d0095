"""Plan documents: written once by hash, read with the steps that bring an old format up to date."""

from __future__ import annotations

import json
import pickle
from dataclasses import replace
from functools import lru_cache
from hashlib import sha256

from pydantic import ValidationError

from machining.plan.document import Plan as Document
from machining.plan.refusal import first_problem
from machining.plan.upgrades import up_to_date
from machining.world.geometry import PartGeometry, from_json
from machining.world.library import Library
from shop.base import blobs
from shop.base.problems import Refused
from shop.library.snapshot import snapshot, stamp

from .models import Geometry, Plan, PlanDocument, PlanRevision


class Unreadable(Refused):
    """A stored document this program can't read; the others are none the worse for it."""

    def __init__(self, why: str) -> None:
        super().__init__(
            f"This plan can't be read: {why} Its document can be saved as it is, for whoever looks"
            " after the program.",
            status=422,
            unreadable=True,
        )


def store(document: Document) -> PlanDocument:
    text = document.model_dump_json()
    return PlanDocument.objects.get_or_create(
        sha256=sha256(text.encode()).hexdigest(), defaults={"text": text}
    )[0]


@lru_cache(maxsize=256)
def _parsed(sha: str, text: str) -> Document:
    try:
        return Document.model_validate(up_to_date(json.loads(text)))
    except ValidationError as problem:
        raise Unreadable(first_problem(problem)[2]) from problem
    except (ValueError, RecursionError) as problem:
        raise Unreadable("its text is damaged.") from problem


def read(row: PlanDocument) -> Document:
    """Raises Unreadable."""
    return _parsed(row.sha256, row.text)


def head(plan: Plan) -> PlanRevision:
    return PlanRevision.objects.select_related("document", "by").filter(plan=plan).latest("number")


def solid_bytes(key: str) -> bytes | None:
    """A stored solid, None where there is none of this name."""
    row = Geometry.objects.filter(key=key).first()
    return _blob(row.solid) if row else None


@lru_cache(maxsize=16)
def _blob(name: str) -> bytes:
    return blobs.get(name)


@lru_cache(maxsize=32)
def geometry(key: str) -> PartGeometry:
    return from_json(blobs.get(Geometry.objects.get(key=key).solid))


def library_for(document: Document) -> Library:
    """The library with the solids this plan is about; the same value for the same content."""
    keys = document.solids
    there = set(Geometry.objects.filter(key__in=keys).values_list("key", flat=True)) if keys else ()
    known = tuple(key for key in keys if key in there)
    return _with_solids(stamp(), known) if known else snapshot()


@lru_cache(maxsize=32)
def _with_solids(stamp: int, keys: tuple[str, ...]) -> Library:
    return replace(snapshot(), geometries={key: geometry(key) for key in keys})


def library_bytes() -> tuple[str, bytes]:
    """The library without solids, as it is sent to the processes that answer, and its key."""
    library = snapshot()
    return library.key, _pickled(library.key, id(library))


@lru_cache(maxsize=4)
def _pickled(key: str, identity: int) -> bytes:
    return pickle.dumps(snapshot(), protocol=pickle.HIGHEST_PROTOCOL)
