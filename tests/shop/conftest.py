from __future__ import annotations

import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from django.test import Client

from machining import cli
from machining.data import seed
from machining.exchange.plan_json import KINDS
from machining.plan.document import Plan as Document
from machining.plan.edit import SetPart
from machining.world.settings import Settings
from machining.world.upgrades import format_of
from shop.accounts.models import User
from shop.jobs import documents, evaluation, tasks
from shop.jobs.actions.create import create
from shop.jobs.actions.revise import edit_document
from shop.jobs.models import Plan
from shop.library import snapshot as snapshots
from shop.library.actions.put import bump
from shop.library.models import Item
from shop.releases import review
from tests.core import build

PARTS = Path(__file__).parent.parent / "parts"


class Caller:
    """A signed-in person at the API: JSON in, JSON out."""

    def __init__(self, user: User | None) -> None:
        self.user = user
        self.client = Client()
        if user is not None:
            self.client.force_login(user)

    def call(self, method: str, path: str, body: Any = None) -> Any:
        data = (
            {"data": json.dumps(body), "content_type": "application/json"}
            if body is not None
            else {}
        )
        return getattr(self.client, method)(f"/api{path}", **data)

    def get(self, path: str, status: int = 200) -> Any:
        return _checked(self.call("get", path), status)

    def post(self, path: str, body: Any = None, status: int = 200) -> Any:
        return _checked(self.call("post", path, body if body is not None else {}), status)

    def put(self, path: str, body: Any, status: int = 200) -> Any:
        return _checked(self.call("put", path, body), status)

    def patch(self, path: str, body: Any, status: int = 200) -> Any:
        return _checked(self.call("patch", path, body), status)

    def delete(self, path: str, status: int = 204) -> Any:
        return _checked(self.call("delete", path), status)


def _checked(answer: Any, status: int) -> Any:
    assert answer.status_code == status, f"{answer.status_code}: {answer.content[:500]!r}"
    return json.loads(answer.content) if answer.content else None


def person(name: str, role: str) -> Caller:
    return Caller(User.objects.create(username=name, role=role))


@pytest.fixture(autouse=True)
def _patience(monkeypatch):
    """No test depends on how busy the machine is: a request waits for its answer."""
    monkeypatch.setattr(evaluation, "PATIENCE_S", 300.0)
    monkeypatch.setattr(snapshots, "_kept", None)  # another test's library had the same stamp


@pytest.fixture
def library(db):
    known = seed()
    for kind in KINDS:
        Item.objects.bulk_create(
            Item(
                kind=kind,
                key=key,
                format=format_of(kind),
                data=record.model_dump(mode="json"),
            )
            for key, record in getattr(known, kind).items()
        )
    settings = Settings().model_dump(mode="json")
    Item.objects.create(kind="settings", key="shop", format=format_of("settings"), data=settings)
    bump()
    return known


@pytest.fixture
def planner(library):
    return person("planner", "planner")


@pytest.fixture
def approver(library):
    return person("approver", "approver")


@pytest.fixture
def administrator(library):
    return person("administrator", "administrator")


@pytest.fixture
def operator(library):
    return person("operator", "operator")


def put_plan(caller: Caller, document: Document, number: str = "J-1") -> Plan:
    """A job whose plan is this document."""
    plan = create(
        caller.user, number, f"Part {number}", "A", material="en-aw-6082", quantity=5
    ).plans.get()
    edit_document(caller.user, plan, documents.head(plan), document, [SetPart(part=document.part)])
    return plan


def subject_of(plan: Plan) -> evaluation.Subject:
    """The newest document of a plan, as it is asked about."""
    head = documents.head(plan)
    document = documents.read(head.document)
    return evaluation.Subject(document, head.document_id, document.model_dump_json(), plan.pk)


@pytest.fixture
def unfinished_too(monkeypatch):
    """What leaves metal over the part is released too: for what stands on the sheet of some odd
    operations.
    """
    monkeypatch.setattr(review, "not_finished", lambda left: [])


@pytest.fixture
def plan(planner) -> Plan:
    """The plain part, planned without a finding; its head is revision 2."""
    return put_plan(planner, build.good())


@pytest.fixture
def finished(planner) -> Plan:
    """A plain part that its plan finishes, in two setups; its head is revision 2."""
    return put_plan(planner, build.whole())


def alike(told: Any, other: Any) -> list[str]:
    """Where two answers differ by more than the last digits of a figure, by their names."""
    return list(_apart(told, other, ""))


def _apart(told: Any, other: Any, at: str) -> Iterator[str]:
    if isinstance(told, float | int) and isinstance(other, float | int):
        if told != pytest.approx(other, rel=1e-6, abs=1e-9):
            yield f"{at}: {told} and {other}"
    elif isinstance(told, dict) and isinstance(other, dict):
        for key in sorted({*told, *other}):
            yield from _apart(told.get(key), other.get(key), f"{at}.{key}")
    elif isinstance(told, list) and isinstance(other, list) and len(told) == len(other):
        for k, (one, two) in enumerate(zip(told, other, strict=True)):
            yield from _apart(one, two, f"{at}[{k}]")
    elif told != other:
        yield f"{at}: {told} and {other}"


@pytest.fixture
def read_here(monkeypatch, capsys):
    """What the reader is told, in this process: it takes a while to begin one of its own."""

    def followed(command, report):
        assert command[:3] == [sys.executable, "-m", "machining.cli"]
        cli.main(command[3:])
        lines = capsys.readouterr().out.splitlines()
        return json.loads([line for line in lines if line.startswith("{")][-1])

    monkeypatch.setattr(tasks, "_followed", followed)
