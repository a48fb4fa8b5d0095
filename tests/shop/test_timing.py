"""A machine timed: its runs, their program, what fits, and who may take that into its record."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.motion.measured import Values, runs_for
from machining.motion.timing import Drive
from machining.world.capability import usual_rig
from shop.jobs import times
from shop.tasks.actions.work import run_one
from tests.core.build import LIBRARY, whole
from tests.core.test_savings import apart

from .conftest import put_plan

RIG = usual_rig(LIBRARY.machines["heron"])
HERON = "/library/machines/heron/timing"
SLOW = replace(Values.of(RIG), acceleration_x=2000.0, change_s=6.0, rapid_z=18000.0)


def by_watch():
    like = Drive.of(RIG)
    return [{"run": e.id, "seconds": round(e.seconds(SLOW, like), 1)} for e in runs_for(RIG)]


def test_what_is_run_is_told_with_what_is_expected(planner):
    told = planner.get(HERON)
    assert not told["turns_work"] and told["name"] == "Heron"
    first = told["runs"][0]
    assert first["id"] == "x-long" and first["expected_s"] > 15 and first["seconds"] is None
    program = planner.client.get(f"/api{HERON}.nc")
    assert program.status_code == 200 and b"M30" in program.content
    assert 'filename="times-heron.nc"' in program["Content-Disposition"]


def test_times_are_fitted_and_taken_with_the_runs(planner):
    told = planner.post(f"{HERON}/fit", {"times": by_watch()})
    fitted = {each["name"]: each for each in told["values"]}
    assert abs(fitted["change_s"]["fitted"] - 6.0) < 0.1 and fitted["change_s"]["told"]
    assert fitted["change_s"]["before"] == 4.5
    body = {
        "times": by_watch(),
        "names": ["acceleration_x", "change_s"],
        "revision": planner.get(HERON)["revision"],
        "source": "timed by watch, 15 runs",
    }
    planner.post(f"{HERON}/take", body)
    item = next(i for i in planner.get("/library")["items"] if i["key"] == "heron")
    carrier = item["data"]["carriers"][0]
    assert abs(carrier["acceleration"]["x"] - 2000) < 60 and carrier["rapid"]["z"] == 24000
    assert item["data"]["source"] == "timed by watch, 15 runs"
    again = planner.get(HERON)
    assert again["runs"][0]["seconds"] == by_watch()[0]["seconds"]
    old = planner.post(f"{HERON}/take", body, 409)
    assert "meanwhile" in old["problems"][0]["sentence"]


def test_what_can_not_be_fitted_or_taken_is_refused(planner, operator):
    few = planner.post(f"{HERON}/fit", {"times": by_watch()[:2]}, 422)
    assert "at least 4" in few["sentence"]
    none = planner.post(f"{HERON}/fit", {"times": [{"run": "x-long", "seconds": 0}] * 4}, 422)
    assert "time of x-long" in none["sentence"]
    planner.get("/library/machines/nothing/timing", 404)
    body = {"times": by_watch(), "names": ["nothing"], "revision": 1, "source": "by watch"}
    assert "nothing" in planner.post(f"{HERON}/take", body, 422)["sentence"]
    operator.post(f"{HERON}/take", {**body, "names": []}, 403)
    lathe = "/api/library/machines/plover/timing.nc"
    assert b"\nG0 U" in planner.client.get(lathe, {"ways": "uvw"}).content
    assert planner.client.get(lathe, {"ways": "guessed"}).status_code == 422
    assert b" DEG " in planner.client.get("/api/library/machines/curlew/timing.nc").content


def test_what_saves_is_answered_with_edits_that_can_be_sent(planner, monkeypatch):
    monkeypatch.setattr(times, "SOON_S", 60.0)
    plan = put_plan(planner, apart())
    first = planner.get(f"/plans/{plan.id}/savings/first")
    told = planner.get(f"/plans/{plan.id}/savings")
    assert told["tried"] >= len(first["rows"]) == 1
    row = next(each for each in told["rows"] if each["of"] == "s1/order")
    sent = planner.post(f"/plans/{plan.id}/edits", {"revision": 2, "edits": row["edits"]})
    assert sent["revision"] == 3
    planner.get("/plans/987654/savings", 404)


def test_an_order_is_told_with_its_reasons_and_taken(planner, operator):
    plan = put_plan(planner, apart())
    told = operator.get(f"/plans/{plan.id}/setups/s1/order")
    assert {"first": "pocket", "then": "again"} in [
        {"first": each["first"], "then": each["then"]} for each in told["reasons"]
    ]
    better = told["found"]["better"]
    assert better["one_part_s"] > 0 and told["ring"] == [] and told["stuck"] == []
    planner.post(f"/plans/{plan.id}/edits", {"revision": 2, "edits": better["edits"]})
    assert planner.get(f"/plans/{plan.id}/setups/s1/order")["found"]["better"] is None
    planner.get(f"/plans/{plan.id}/setups/s9/order", 422)


@pytest.mark.django_db(transaction=True)
def test_all_that_would_save_is_tried_by_the_worker_and_told_meanwhile(planner, operator):
    plan = put_plan(planner, apart())
    place = f"/plans/{plan.pk}/savings/all"
    assert planner.get(place)["task"] is None
    soon = planner.get(f"/plans/{plan.pk}/savings")
    operator.post(place, {}, 403)
    task = planner.post(place, {}, 202)
    assert task["state"] == "waiting" and planner.post(place, {}, 202)["id"] == task["id"]
    assert run_one(long=True)
    found = planner.get(place)
    assert found["task"]["state"] == "done" and found["untried"] == 0 and not found["stale"]
    assert found["tried"] >= soon["tried"]
    saved = {row["of"]: row["batch_s"] for row in found["rows"]}
    assert soon["rows"] and all(saved[row["of"]] >= row["batch_s"] for row in soon["rows"])
    change = {"do": "change", "on": "plan", "fields": {"quantity": 7}}
    revision = planner.get(f"/plans/{plan.pk}")["revision"]
    planner.post(f"/plans/{plan.pk}/edits", {"revision": revision, "edits": [change]})
    assert planner.get(place)["stale"]


@pytest.mark.django_db(transaction=True)
def test_an_order_is_searched_on_by_the_worker_with_its_other_schools(planner, operator):
    plan = put_plan(planner, apart())
    place = f"/plans/{plan.pk}/setups/s1/order"
    assert planner.get(f"{place}/further") == {"task": None, "stale": False, "found": None}
    soon = planner.get(place)
    assert soon["further"] > 0 and soon["schools"] == []
    operator.post(f"{place}/further", {}, 403)
    assert planner.post(f"/plans/{plan.pk}/setups/s9/order/further", {}, 422)["problems"]
    task = planner.post(f"{place}/further", {}, 202)
    assert planner.post(f"{place}/further", {}, 202)["id"] == task["id"]
    assert run_one(long=True)
    told = planner.get(f"{place}/further")
    assert told["task"]["state"] == "done" and not told["stale"]
    schools = told["found"]["schools"]
    assert schools and told["found"] == {**soon, "further": 0, "schools": schools}


@pytest.mark.django_db(transaction=True)
def test_what_was_asked_of_the_plan_as_it_was_is_stopped(planner):
    plan = put_plan(planner, apart())
    place = f"/plans/{plan.pk}/setups/s1/order/further"
    old = planner.post(place, {}, 202)["id"]
    change = {"do": "change", "on": "plan", "fields": {"quantity": 7}}
    planner.post(f"/plans/{plan.pk}/edits", {"revision": 2, "edits": [change]})
    assert planner.get(place)["stale"]
    new = planner.post(place, {}, 202)["id"]
    assert new != old
    states = {id: planner.get(f"/tasks/{id}")["state"] for id in (old, new)}
    assert states == {old: "cancelled", new: "waiting"}


@pytest.mark.django_db(transaction=True)
def test_other_ways_of_a_plan_are_worked_out_and_put_beside(planner, operator):
    plan = put_plan(planner, whole())
    place = f"/plans/{plan.pk}/other-ways"
    assert planner.get(place) == {"task": None, "stale": False, "now": None, "rows": []}
    operator.post(place, {}, 403)
    planner.post(place, {}, 202)
    assert run_one(long=True)
    told = planner.get(place)
    assert told["task"]["state"] == "done" and told["now"]["machines"] == ["Heron"]
    row = next(each for each in told["rows"] if each["edits"])
    body = {"name": "on two", "edits": row["edits"]}
    made = planner.post(f"/plans/{plan.pk}/copies", body, 201)
    there = planner.get(f"/plans/{made['plan']}")["plan"]
    assert len({each["machine"] for each in there["setups"]}) == 2
