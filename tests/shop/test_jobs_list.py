"""The list of jobs: as many queries for a thousand as for one, by page, by column, by state, and
what waits for whom.
"""

from __future__ import annotations

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from machining.plan.document import Plan as Document
from shop.jobs import documents
from shop.jobs.models import Answer, Job, Plan, PlanRevision
from tests.core import build

from .conftest import put_plan


def many(user, count: int) -> None:
    """Jobs with a first draft each, as ``create`` leaves them, in a few statements."""
    row = documents.store(Document(material="c45", quantity=5))
    jobs = Job.objects.bulk_create(
        Job(number=f"N-{k:04d}", title=f"Part {k % 7}", made_by=user) for k in range(count)
    )
    plans = Plan.objects.bulk_create(
        Plan(job=job, material="c45", quantity=k % 90 + 1) for k, job in enumerate(jobs)
    )
    heads = PlanRevision.objects.bulk_create(
        PlanRevision(plan=plan, number=1, document=row, kind="import", state=1, by=user)
        for plan in plans
    )
    for plan, head in zip(plans, heads, strict=True):
        plan.head = head
    Plan.objects.bulk_update(plans, ["head"], batch_size=200)


def queries(caller, path: str = "/jobs") -> int:
    with CaptureQueriesContext(connection) as seen:
        caller.get(path)
    return len(seen)


def test_a_thousand_jobs_ask_no_more_than_one(planner):
    many(planner.user, 1)
    one = queries(planner)
    Job.objects.filter(number="N-0000").update(number="old")
    many(planner.user, 1000)
    assert queries(planner) == one
    with CaptureQueriesContext(connection) as seen:
        answer = planner.get("/jobs")
    assert (answer["all"], len(answer["jobs"])) == (1001, 50)
    assert sum('"jobs_plan"' in each["sql"] for each in seen) == 1


def test_pages_sort_and_search_are_the_database_s_work(planner):
    many(planner.user, 120)
    last = planner.get("/jobs?page=2")
    assert (last["all"], [job["number"] for job in last["jobs"]][-1], len(last["jobs"])) == (
        120,
        "N-0119",
        20,
    )
    assert [job["quantity"] for job in planner.get("/jobs?sort=quantity&down=true")["jobs"]][
        :2
    ] == [90, 89]
    assert [job["number"] for job in planner.get("/jobs?find=n-0007 part")["jobs"]] == ["N-0007"]
    assert planner.get("/jobs?find=C45 0003")["all"] == 1  # by the material's name
    assert planner.get("/jobs?find=nothing")["jobs"] == []
    assert planner.get("/jobs?page=40")["jobs"] == [] and planner.get("/jobs?page=40")["all"] == 120
    assert planner.get("/jobs?sort=colour", 422)["problems"][0]["field"] == "sort"


@pytest.fixture
def shop_full(planner, approver):
    """A job in each state."""
    put_plan(planner, build.plan(setups=()), "A-empty")
    put_plan(planner, build.changed(build.whole(), "tool:t3", stick_out_mm=8.0), "B-stops")
    put_plan(planner, build.changed(build.whole(), "operation:rough", rpm=4000.0), "C-waits")
    put_plan(planner, build.plan(build.FACE.model_copy(update={"tool": ""})), "D-open")
    released = put_plan(planner, build.whole(), "E-released")
    changed = put_plan(planner, build.whole().model_copy(update={"quantity": 7}), "F-changed")
    for plan in (released, changed):
        approver.post(f"/plans/{plan.pk}/releases", {"revision": 2}, 201)
    planner.post(
        f"/plans/{changed.pk}/edits",
        {"revision": 2, "edits": [{"do": "change", "on": "plan", "fields": {"quantity": 8}}]},
    )
    for job in Job.objects.all():
        planner.get(f"/plans/{job.plans.get().pk}")


def states(caller, state: str = "") -> dict[str, str]:
    return {job["number"][0]: job["state"] for job in caller.get(f"/jobs?state={state}")["jobs"]}


def test_every_job_says_where_it_stands_and_for_whom_it_waits(
    planner, approver, operator, shop_full
):
    assert states(planner) == {
        "A": "empty",
        "B": "stops",
        "C": "waits",
        "D": "open",
        "E": "released",
        "F": "waits",
    }
    assert states(planner, "yours") == {"A": "empty", "B": "stops", "D": "open"}
    assert states(approver, "yours") == {"C": "waits", "F": "waits"}
    assert states(operator, "yours") == {}
    assert list(states(planner, "changed")) == ["F"]
    rows = {job["number"][0]: job for job in planner.get("/jobs?sort=state")["jobs"]}
    assert [
        rows["B"]["stops"],
        rows["C"]["looks"],
        rows["D"]["unknown"],
        rows["F"]["released"],
        rows["F"]["changed"],
        rows["E"]["changed"],
    ] == [2, 1, 1, 1, True, False]
    assert list(rows) == ["A", "B", "D", "C", "F", "E"]
    of_d = Plan.objects.get(job__number__startswith="D").head.document_id
    Answer.objects.filter(document_id=of_d).delete()
    d = next(j for j in planner.get("/jobs")["jobs"] if j["number"].startswith("D"))
    assert (d["state"], d["answered"]) == ("open", False)  # nothing is said of what nobody asked


def test_a_corrected_title_is_a_change_that_may_be_released(planner, approver, shop_full):
    plan = Plan.objects.get(job__number="E-released")
    assert (
        "Nothing has changed since release 1."
        in approver.get(f"/plans/{plan.pk}/review")["against"]
    )
    planner.patch("/jobs/E-released", {"title": "Its right title"})
    assert states(planner)["E"] == "waits"
    assert approver.get(f"/plans/{plan.pk}/review")["against"] == []
    approver.post(f"/plans/{plan.pk}/releases", {"revision": 2}, 201)
    assert states(planner)["E"] == "released"


def test_a_library_item_changed_under_a_plan_shows_in_the_list(planner, shop_full):
    item = next(
        i
        for i in planner.get("/library")["items"]
        if i["key"] == "end-mill-12-z3" and i["kind"] == "tools"
    )
    planner.put(
        "/library/tools/end-mill-12-z3",
        {"data": {**item["data"], "note": "reground"}, "revision": item["revision"]},
    )
    rows = {job["number"][0]: job["library_changed"] for job in planner.get("/jobs")["jobs"]}
    assert (rows["A"], rows["E"]) == (True, True)
    assert planner.get("/jobs/E-released")["affected"] == ["end mill 12 z3"]
