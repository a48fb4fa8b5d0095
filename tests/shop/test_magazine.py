"""Tools of a job that stay in a machine: who may leave them there, and what that changes."""

from __future__ import annotations

from tests.core.build import good

from .conftest import put_plan


def there(person):
    item = next(i for i in person.get("/library")["items"] if i["key"] == "heron")
    return item["data"]["standing"]


def test_a_job_s_tools_stay_and_are_built_no_more(planner, operator):
    plan = put_plan(planner, good()).pk
    place = f"/plans/{plan}/magazine"
    [before] = planner.get(f"{place}?machine=heron")
    assert before["there"] == 0 and before["put_in"] > 0
    built = planner.get(f"/plans/{plan}")["evaluation"]["build_s"]
    told = planner.post(place, {"machine": "heron", "stay": True})
    assert told == {"stay": before["put_in"]}
    assert len(there(planner)) == before["put_in"] and {each["of"] for each in there(planner)}
    [after] = planner.get(f"{place}?machine=heron")
    assert (after["there"], after["put_in"]) == (before["put_in"], 0)
    assert all(row["there"] for row in after["pockets"] if row["tool"])
    assert planner.get(f"/plans/{plan}")["evaluation"]["build_s"] < built
    refused = operator.post(place, {"machine": "heron", "stay": False}, 403)
    assert refused["sentence"]
    planner.post(place, {"machine": "heron", "stay": False})
    assert there(planner) == []


def test_a_machine_that_is_not_there_has_no_magazine(planner):
    plan = put_plan(planner, good()).pk
    assert planner.get(f"/plans/{plan}/magazine?machine=nobody", 422)["sentence"]
    refused = planner.post(f"/plans/{plan}/magazine", {"machine": "nobody", "stay": True}, 404)
    assert refused["problems"][0]["field"] == "machine"
