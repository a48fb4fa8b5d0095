"""What can't be read is a sentence on that job or item alone; every other page goes on."""

from __future__ import annotations

import json

import pytest

from machining.plan.upgrades import FORMAT, up_to_date
from machining.world.upgrades import format_of
from shop.jobs import documents
from shop.jobs.actions.warm import look_at_all
from shop.jobs.models import Plan, PlanDocument, PlanRevision
from shop.library.actions.put import bump
from shop.library.models import Item
from shop.library.snapshot import snapshot
from shop.overview import listing
from tests.core import build
from tests.core.test_upgrades import FORMATS, SAMPLES

from .conftest import put_plan, subject_of


def spoil(plan: Plan, text: str) -> None:
    """Put a stored text behind the head of a plan, as an earlier or later program could have left
    it.
    """
    row = PlanDocument.objects.create(sha256=f"{plan.pk:064d}", text=text)
    PlanRevision.objects.filter(pk=documents.head(plan).pk).update(document=row)


@pytest.fixture
def broken(planner):
    plan = put_plan(planner, build.good(), "J-9")
    spoil(plan, json.dumps({**build.good().model_dump(mode="json"), "wobble": 1}))
    return plan


def test_a_plan_with_an_unknown_field_is_a_sentence_on_that_job_alone(planner, plan, broken):
    listed = {job["number"]: job for job in planner.get("/jobs")["jobs"]}
    assert set(listed) == {"J-1", "J-9"}
    answer = planner.get(f"/plans/{broken.pk}", 422)
    assert answer["sentence"].startswith(
        "This plan can't be read: Wobble is 1: there is no such field. Its document can be saved as"
        " it is"
    )
    assert (answer["unreadable"], answer["head"], answer["can_undo"]) == (True, 2, True)
    assert planner.get("/jobs/J-9")["unread"] == answer["sentence"]
    assert {job["number"]: job["state"] for job in planner.get("/jobs")["jobs"]}[
        "J-9"
    ] == "unreadable"
    assert planner.get(f"/plans/{plan.pk}")["evaluation"]["setups"]
    assert (
        json.loads(planner.call("get", f"/plans/{broken.pk}/document.json").content)["wobble"] == 1
    )
    assert planner.get(f"/plans/{broken.pk}/review", 422)["unreadable"] is True


def test_it_can_be_brought_back_by_undo(planner, broken):
    planner.get(f"/plans/{broken.pk}", 422)
    assert planner.post(f"/plans/{broken.pk}/undo", {"revision": 2})["revision"] == 3
    assert planner.get("/jobs/J-9")["unread"] == ""


@pytest.mark.parametrize(
    "text", ["{", "[]", "null", '{"setups": 7}', '{"format": 99}', "[" * 100_000]
)
def test_a_damaged_text_is_told_too(planner, plan, text):
    spoil(plan, text)
    assert "can't be read" in planner.get(f"/plans/{plan.pk}", 422)["sentence"]
    assert planner.get("/jobs")["jobs"][0]["number"] == "J-1"


def test_a_new_version_looks_at_every_plan_once(planner, plan, broken):
    assert look_at_all() == 1
    assert listing.one(broken.job)["unread"] and not listing.one(plan.job)["unread"]


@pytest.mark.parametrize("path", SAMPLES, ids=lambda path: path.stem)
def test_plans_of_earlier_formats_are_answered(planner, plan, path):
    raw = json.loads(path.read_text())
    raw["part"]["geometry"] = ""
    spoil(plan, json.dumps(raw))
    answer = planner.get(f"/plans/{plan.pk}")
    assert answer["plan"]["format"] == up_to_date(raw)["format"]
    assert answer["evaluation"]["setups"][0]["operations"]
    # old rows are never rewritten
    assert json.loads(PlanDocument.objects.get(pk=documents.head(plan).document_id).text) == raw
    assert subject_of(plan).document.format == FORMAT


def test_a_library_item_that_cant_be_read_is_told_at_that_item_alone(planner, plan):
    Item.objects.filter(kind="machines", key="dunlin").update(
        data={"key": "dunlin", "name": "Dunlin", "wobble": 1}
    )
    Item.objects.create(kind="rockets", key="one", data={})
    bump()
    assert "dunlin" not in snapshot().machines and "heron" in snapshot().machines
    items = {(item["kind"], item["key"]): item for item in planner.get("/library")["items"]}
    assert items["machines", "dunlin"]["problem"].startswith("It can't be read: ")
    assert items["rockets", "one"]["problem"] == "This program knows no rockets."
    assert items["machines", "heron"]["problem"] == ""
    assert planner.get(f"/plans/{plan.pk}")["evaluation"]["setups"]


def test_an_item_of_an_earlier_format_is_brought_up_to_date(planner):
    earlier = json.loads((FORMATS / "machines-2.json").read_text())
    Item.objects.filter(kind="machines", key="heron").update(
        data={**earlier["heron"], "coolant": ["flood", "oil drip"]}, format=1
    )
    bump()
    assert snapshot().machines["heron"].coolant == ("flood",)
    assert "Coolant was: oil drip." in snapshot().machines["heron"].source
    told = next(
        item
        for item in planner.get("/library")["items"]
        if (item["kind"], item["key"]) == ("machines", "heron")
    )
    assert told["problem"] == ""
    planner.put("/library/machines/heron", {"data": told["data"], "revision": told["revision"]})
    assert Item.objects.get(kind="machines", key="heron").format == format_of("machines")
