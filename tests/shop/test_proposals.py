"""Whole plans proposed by the worker: asked for once, kept, told as far as they are, taken."""

from __future__ import annotations

import json
from types import SimpleNamespace

import pytest

from shop.base.models import Entry
from shop.jobs import documents
from shop.jobs.actions import long, ready
from shop.jobs.models import Plan
from shop.tasks.actions.work import claim, run_one
from shop.tasks.models import Task


@pytest.fixture
def plan(finished):
    return finished


def asked(caller, plan, status=202, **what):
    return caller.post(f"/plans/{plan.pk}/proposals", what, status)


def told(caller, plan):
    return caller.get(f"/plans/{plan.pk}/proposals")


@pytest.mark.django_db(transaction=True)
def test_they_are_worked_out_kept_and_taken_as_another_plan(planner, plan):
    assert told(planner, plan)["task"] is None
    task = asked(planner, plan, machines=["heron"], afresh=True)
    assert (task["kind"], task["state"]) == ("propose", "waiting")
    assert run_one(long=True)
    found = told(planner, plan)
    assert found["task"]["state"] == "done" and not found["stale"] and found["afresh"]
    (proposal, *_) = found["proposals"]
    assert proposal["whole"] and {each["machine"] for each in proposal["setups"]} == {"Heron"}
    edits = [*proposal["first"], *(e for each in proposal["setups"] for e in each["edits"])]
    made = planner.post(f"/plans/{plan.pk}/copies", {"name": "Proposed", "edits": edits}, 201)
    document = documents.read(documents.head(Plan.objects.get(pk=made["plan"])).document)
    assert len(document.setups) == len(proposal["setups"])
    assert {each.machine for each in document.setups} == {"heron"}


def test_what_goes_on_already_is_not_asked_for_twice(planner, plan):
    first = asked(planner, plan, machines=["petrel", "heron"])
    assert asked(planner, plan, machines=["heron", "petrel"])["id"] == first["id"]
    assert asked(planner, plan, machines=["heron"])["id"] != first["id"]
    assert Entry.objects.filter(what="proposals asked for").count() == 2
    planner.post(f"/tasks/{first['id']}/cancel", {}, 200)
    assert asked(planner, plan, machines=["heron", "petrel"])["id"] != first["id"]


def test_a_machine_the_shop_has_not_is_refused_by_name(planner, operator, plan):
    refused = asked(planner, plan, 422, machines=["heron", "ostrich"])
    assert refused["problems"][0]["field"] == "machines" and "ostrich" in refused["sentence"]
    asked(operator, plan, 403)
    assert not Task.objects.exists()
    assert told(operator, plan)["proposals"] == []


def test_after_an_edit_they_are_of_an_earlier_draft(planner, plan):
    task = Task.objects.get(pk=asked(planner, plan)["id"])
    planner.post(
        f"/plans/{plan.pk}/edits",
        {"revision": 2, "edits": [{"do": "change", "on": "plan", "fields": {"quantity": 7}}]},
    )
    found = told(planner, plan)
    assert (found["task"]["id"], found["stale"], found["draft"]) == (task.pk, True, 2)


NOTHING = {"text": "Nothing of the part could be begun on it.", "values": {}}
PLOVER = {"machine": "Plover", "why": NOTHING, "missed": []}


class Stub:
    """Answers at once: half of it first, then what it is told to say. Of its process nobody can
    tell anything.
    """

    process, most_bytes, heeds = SimpleNamespace(pid=-1), 0, True

    def __init__(self, says):
        self.says, self.ended, self.left = says, False, False

    def leave(self, left):
        self.left = left and self.heeds

    def ask(self, asked, hear):
        doing = {"text": "On {machine}", "values": {"machine": {"value": "Heron", "quantity": ""}}}
        hear((0.5, doing, {"proposals": [], "elsewhere": [PLOVER]}))
        hear(None)
        if self.left:
            raise long.Overtaken
        if isinstance(self.says, Exception):
            raise self.says
        return json.dumps(self.says).encode()

    def end(self):
        self.ended = True


def run_with(monkeypatch, stub):
    monkeypatch.setattr(ready, "Reckoner", lambda *_, **about: stub)
    assert run_one(long=True) and stub.ended


def test_what_it_has_so_far_stays_where_it_takes_too_long(monkeypatch, planner, plan):
    asked(planner, plan)
    run_with(monkeypatch, Stub(long.TooLarge("more than 300 s")))
    found = told(planner, plan)
    assert found["task"]["state"] == "failed" and "300 s" in found["task"]["message"]
    assert found["elsewhere"] == [PLOVER]


@pytest.mark.parametrize("heeds", [True, False])
def test_it_stops_where_somebody_asks_for_it(monkeypatch, planner, plan, heeds):
    """Who works on it leaves it, and is ended where it does not."""
    task = asked(planner, plan)
    monkeypatch.setattr(long, "LEAVES_S", 60.0 if heeds else -1.0)

    class Asked(Stub):
        def ask(self, asked, hear):
            Task.objects.filter(pk=task["id"]).update(cancel=True)
            return super().ask(asked, hear)

    monkeypatch.setattr(Stub, "heeds", heeds)
    run_with(monkeypatch, Asked({}))
    found = told(planner, plan)
    assert found["task"]["state"] == "cancelled" and found["elsewhere"] == [PLOVER]


def test_the_words_of_how_far_it_is(monkeypatch, planner, plan):
    task = asked(planner, plan)
    said = []

    class Looking(Stub):
        def ask(self, asked, hear):
            found = super().ask(asked, hear)
            said.append(Task.objects.get(pk=task["id"]))
            return found

    run_with(monkeypatch, Looking({"proposals": [], "elsewhere": []}))
    assert (said[0].progress, said[0].message, said[0].state) == (0.5, "On Heron", "working")
    assert said[0].result["elsewhere"] == [PLOVER]


def test_what_takes_long_is_done_beside_the_rest(planner, plan):
    asked(planner, plan)
    assert claim(long=False) is None
    quick = Task.objects.create(kind="read-step", made_by=planner.user)
    assert claim(long=False).pk == quick.pk
    assert claim(long=True).kind == "propose"
