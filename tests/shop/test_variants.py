"""Several plans of one job: copied, compared, one chosen, one released after the other."""

from __future__ import annotations

import pytest

from shop.base.models import Entry
from shop.jobs.models import Job, Plan
from shop.releases.models import Release

COARSER = {"do": "change", "on": "operation:rough", "fields": {"step_down_mm": 6.0}}


@pytest.fixture
def plan(finished):
    return finished


def copied(caller, plan, name="Coarser", edits=(), status=201):
    return caller.post(f"/plans/{plan.pk}/copies", {"name": name, "edits": list(edits)}, status)


def test_a_copy_is_a_plan_of_its_own(planner, plan):
    made = copied(planner, plan, edits=[COARSER])
    assert (made["chosen"], made["copied"], made["draft"]) == (False, plan.pk, 1)
    mine = planner.get(f"/plans/{plan.pk}")["plan"]["setups"][0]["operations"]
    other = planner.get(f"/plans/{made['plan']}")["plan"]["setups"][0]["operations"]
    assert {op["step_down_mm"] for op in mine if op["id"] == "rough"} != {6.0}
    assert {op["step_down_mm"] for op in other if op["id"] == "rough"} == {6.0}
    listed = planner.get("/jobs/J-1/variants")
    assert [(e["name"], e["chosen"]) for e in listed] == [("Plan", True), ("Coarser", False)]
    assert planner.get("/jobs/J-1")["plan"] == plan.pk


def test_a_name_is_given_once_and_never_empty(planner, operator, plan):
    copied(planner, plan)
    assert copied(planner, plan, "coarser ", status=409)["problems"][0]["field"] == "name"
    assert copied(planner, plan, "  ", status=422)["problems"][0]["field"] == "name"
    copied(planner, plan, "x" * 61, status=422)
    copied(operator, plan, "Other", status=403)
    bad = {"do": "change", "on": "operation:nothing", "fields": {"step_down_mm": 6.0}}
    copied(planner, plan, "Other", [bad], status=422)
    assert Plan.objects.count() == 2


def test_a_note_says_why_a_plan_is_kept(planner, plan):
    made = copied(planner, plan)
    told = planner.patch(
        f"/plans/{made['plan']}/variant", {"name": "One pass", "note": "as in May"}
    )
    assert (told["name"], told["note"]) == ("One pass", "as in May")
    planner.patch(f"/plans/{made['plan']}/variant", {"name": "Plan"}, 409)
    assert planner.get("/jobs/J-1/variants")[1]["name"] == "One pass"


def test_two_plans_are_compared_as_they_are_now(planner, operator, plan):
    made = copied(planner, plan, edits=[COARSER])
    told = operator.get(f"/plans/{plan.pk}/compare/{made['plan']}")
    assert [each["text"] for each in told["differences"]] == ["{what} {now} instead of {was}"]
    mine, other = told["sides"]
    assert mine["batch_s"] == planner.get(f"/plans/{plan.pk}")["evaluation"]["batch_s"]
    assert other["one_part_s"] != mine["one_part_s"]
    operator.get(f"/plans/{plan.pk}/compare/987654", 404)


def test_an_earlier_draft_stands_beside_the_plan_as_it_is(planner, plan):
    first = planner.get(f"/plans/{plan.pk}")
    planner.post(f"/plans/{plan.pk}/edits", {"revision": first["revision"], "edits": [COARSER]})
    then = planner.get(f"/plans/{plan.pk}/compare/{plan.pk}?draft={first['revision']}")
    assert [each["text"] for each in then["differences"]] == ["{what} {now} instead of {was}"]
    mine, other = (side["one_part_s"] for side in then["sides"])
    assert other == first["evaluation"]["one_part_s"] and mine != other
    same = planner.get(f"/plans/{plan.pk}/compare/{plan.pk}?draft={first['revision'] + 1}")
    assert same["differences"] == []
    refused = planner.get(f"/plans/{plan.pk}/compare/{plan.pk}?draft=99", 404)
    assert "from 1 to" in refused["problems"][0]["sentence"]


def test_a_job_goes_by_the_plan_that_was_chosen_with_its_reason(planner, operator, plan):
    made = copied(planner, plan, edits=[COARSER])
    refused = planner.post(f"/plans/{made['plan']}/choose", {"note": " "}, 422)
    assert refused["problems"][0]["field"] == "note"
    operator.post(f"/plans/{made['plan']}/choose", {"note": "faster"}, 403)
    listed = planner.post(f"/plans/{made['plan']}/choose", {"note": "two minutes less"})
    assert [each["chosen"] for each in listed] == [False, True]
    assert listed[1]["note"] == "two minutes less"
    assert planner.get("/jobs/J-1")["plan"] == made["plan"]
    assert planner.get("/jobs")["jobs"][0]["plan"] == made["plan"]
    assert Entry.objects.filter(what="plan chosen").get().about["name"] == "Coarser"
    assert Job.objects.get().touched == 2


def released(approver, plan, revision, status=201):
    return approver.post(f"/plans/{plan}/releases", {"revision": revision, "note": ""}, status)


def test_only_the_chosen_plan_is_released_and_numbers_count_on(planner, approver, operator, plan):
    made = copied(planner, plan, "Two chucks")
    refused = released(approver, made["plan"], 1, 422)
    assert "choose this one first" in refused["sentence"]
    first = released(approver, plan.pk, 2)["releases"]
    assert [each["number"] for each in first] == [1]
    note = {"do": "change", "on": "setup:s1", "fields": {"note": "the other way"}}
    planner.post(f"/plans/{made['plan']}/edits", {"revision": 1, "edits": [note]})
    planner.post(f"/plans/{made['plan']}/choose", {"note": "holds better"})
    assert planner.get("/jobs/J-1")["changed"]
    second = released(approver, made["plan"], 2)["releases"]
    assert [(each["number"], each["current"]) for each in second] == [(2, True), (1, False)]
    assert [(row["job"], row["number"]) for row in operator.get("/floor")] == [("J-1", 2)]
    assert Release.objects.get(number=1).replaced_by.number == 2
    row = planner.get("/jobs/J-1")
    assert (row["released"], row["state"], row["changed"]) == (2, "released", False)
