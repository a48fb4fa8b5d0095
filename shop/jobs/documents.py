"""Plan documents: written once by hash, read with the steps that bring an old format up to date."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from hashlib import sha256

from machining.plan.document import Plan as Document
from machining.world.geometry import PartGeometry, from_json
from machining.world.library import Library
from shop.base import blobs
from shop.library.snapshot import snapshot, stamp

from .models import Geometry, Plan, PlanDocument, PlanRevision


def store(document: Document) -> PlanDocument:
    text = document.model_dump_json()
    return PlanDocument.objects.get_or_create(sha256=sha256(text.encode()).hexdigest(), defaults={"text": text})[0]


@lru_cache(maxsize=256)
def _parsed(sha: str, text: str) -> Document:
    return Document.model_validate_json(text)


def read(row: PlanDocument) -> Document:
    return _parsed(row.sha256, row.text)


def head(plan: Plan) -> PlanRevision:
    return PlanRevision.objects.select_related("document", "by").filter(plan=plan).latest("number")


@lru_cache(maxsize=32)
def geometry(key: str) -> PartGeometry:
    return from_json(blobs.get(Geometry.objects.get(key=key).solid))


def library_for(document: Document) -> Library:
    """The library with the one solid this plan is about; the same value for the same content."""
    key = document.part.geometry
    if not key or not Geometry.objects.filter(key=key).exists():
        return snapshot()
    return _with_solid(stamp(), key)


@lru_cache(maxsize=32)
def _with_solid(stamp: int, key: str) -> Library:
    return replace(snapshot(), geometries={key: geometry(key)})
