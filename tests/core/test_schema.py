"""The plan's published schema is the plan's."""

from __future__ import annotations

import importlib
import json
import pkgutil
from collections.abc import Iterator
from pathlib import Path

from annotated_types import Ge, Le

import machining
from machining.plan.document import Plan
from machining.world.record import Record

FILE = Path(__file__).parent.parent.parent / "docs" / "plan.schema.json"


def test_the_published_schema_is_fresh():
    """Made anew by: python -m machining.cli schema > docs/plan.schema.json"""
    assert json.loads(FILE.read_text()) == Plan.model_json_schema()


def records(of: type[Record] = Record) -> Iterator[type[Record]]:
    for each in of.__subclasses__():
        yield each
        yield from records(each)


def test_no_limit_of_a_field_hides_behind_a_wider_one():
    """Of two limits of one number the later wins: a field says its own, or its type's."""
    for each in pkgutil.walk_packages(machining.__path__, "machining."):
        importlib.import_module(each.name)
    twice = [
        (record.__name__, name)
        for record in records()
        for name, field in record.model_fields.items()
        if sum(isinstance(limit, Ge) for limit in field.metadata) > 1
        or sum(isinstance(limit, Le) for limit in field.metadata) > 1
    ]
    assert twice == []
