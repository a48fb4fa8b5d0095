"""What the worker does before anybody asks, and who of its processes is asked next."""

from __future__ import annotations

import pytest

from shop.jobs.actions import ready
from shop.jobs.reckoners import Reckoner
from shop.library.models import Item
from shop.tasks.actions.work import run_one
from shop.tasks.models import Task
from tests.core.build import whole
from tests.core.test_savings import apart

from .conftest import put_plan

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(autouse=True)
def nobody_kept():
    ready.drop()
    yield
    ready.drop()


def savings_of(plan):
    return f"/plans/{plan.pk}/savings/all"


def change(planner, plan, quantity=7):
    revision = planner.get(f"/plans/{plan.pk}")["revision"]
    edit = {"do": "change", "on": "plan", "fields": {"quantity": quantity}}
    planner.post(f"/plans/{plan.pk}/edits", {"revision": revision, "edits": [edit]})


@pytest.mark.parametrize("lost", [False, True])
def test_a_process_that_was_made_ready_answers_the_next_question(planner, lost):
    """One that is lost meanwhile has another in its place."""
    plan = put_plan(planner, apart())
    ready.make_ready()
    ready.make_ready()
    (made,) = ready._ready
    if lost:
        made.process.kill()
        made.process.wait()
    planner.post(savings_of(plan), {}, 202)
    assert run_one(long=True)
    assert planner.get(savings_of(plan))["task"]["state"] == "done"
    assert ready._ready == [] and (ready._knows[plan.pk] is made) != lost


def test_who_answered_of_a_plan_answers_of_it_again_and_of_no_other(planner):
    plan, other = put_plan(planner, apart()), put_plan(planner, whole(), "J-2")
    planner.post(savings_of(plan), {}, 202)
    assert run_one(long=True)
    first = ready._knows[plan.pk]
    change(planner, plan)
    planner.post(savings_of(plan), {}, 202)
    assert run_one(long=True) and ready._knows == {plan.pk: first}
    planner.post(savings_of(other), {}, 202)
    assert run_one(long=True)
    assert list(ready._knows) == [other.pk] and first.process.poll() is not None


def test_who_has_little_memory_left_is_not_kept(planner, monkeypatch):
    plan = put_plan(planner, apart())
    monkeypatch.setattr(ready, "KEPT_SHARE", 0.01)
    planner.post(savings_of(plan), {}, 202)
    assert run_one(long=True) and ready._knows == {}
    assert planner.get(savings_of(plan))["rows"]


def test_all_is_tried_before_anybody_asks_once_for_a_plan_as_it_is(planner, operator):
    plan = put_plan(planner, apart())
    place = savings_of(plan)
    operator.post(f"{place}/expected", {}, 403)
    for _ in range(2):
        planner.post(f"{place}/expected", {}, 204)
    assert run_one(long=True) and not run_one(long=True)
    told = planner.get(place)
    assert told["rows"] and told["untried"] == 0 and told["task"]["state"] == "done"
    planner.post(f"{place}/expected", {}, 204)
    assert not run_one(long=True)
    change(planner, plan)
    planner.post(f"{place}/expected", {}, 204)
    assert run_one(long=True) and not planner.get(place)["stale"]
    assert Task.objects.filter(kind="savings").count() == 1  # nobody looks at what was before
    change(planner, plan, 10)  # as it was at first
    assert planner.get(place)["stale"]
    planner.post(f"{place}/expected", {}, 204)
    assert run_one(long=True) and not planner.get(place)["stale"]


def test_what_the_shop_has_belongs_to_what_was_tried(planner):
    plan = put_plan(planner, apart())
    planner.post(savings_of(plan), {}, 202)
    assert run_one(long=True) and not planner.get(savings_of(plan))["stale"]
    tool = Item.objects.filter(kind="tools").first()
    changed = {"data": {**tool.data, "name": "Another"}, "revision": tool.revision}
    planner.put(f"/library/tools/{tool.key}", changed)
    assert planner.get(savings_of(plan))["stale"]
    planner.post(f"{savings_of(plan)}/expected", {}, 204)
    assert run_one(long=True) and not planner.get(savings_of(plan))["stale"]


def heard_once(waits):
    """Whoever asks is first told that it goes on."""

    def told(reckoner, within_s):
        if reckoner._hear is None or getattr(reckoner, "went_on", False):
            return waits(reckoner, within_s)
        reckoner.went_on = True
        reckoner._hear(None)
        return False

    return told


def test_what_nobody_asked_makes_way_and_keeps_what_it_found_out(planner, monkeypatch):
    other, plan = put_plan(planner, apart()), put_plan(planner, whole(), "J-2")
    monkeypatch.setattr(Reckoner, "_is_told", heard_once(Reckoner._is_told))
    planner.post(f"{savings_of(plan)}/expected", {}, 204)
    planner.post(savings_of(other), {}, 202)
    assert run_one(long=True) and list(ready._knows) == [plan.pk]
    left = planner.get(savings_of(plan))
    assert left["task"]["state"] == "cancelled"
    assert run_one(long=True)
    assert planner.get(savings_of(other))["task"]["state"] == "done"
    planner.post(f"{savings_of(plan)}/expected", {}, 204)  # it was not stopped by anybody
    assert run_one(long=True) and planner.get(savings_of(plan))["untried"] == 0


def test_what_was_begun_unasked_and_is_asked_then_makes_no_way(planner, monkeypatch):
    other, plan = put_plan(planner, apart()), put_plan(planner, whole(), "J-2")
    monkeypatch.setattr(Reckoner, "_is_told", heard_once(Reckoner._is_told))
    planner.post(f"{savings_of(plan)}/expected", {}, 204)
    unasked = Task.objects.get()
    assert planner.post(savings_of(plan), {}, 202)["id"] == unasked.pk
    planner.post(savings_of(other), {}, 202)
    assert run_one(long=True)
    assert planner.get(savings_of(plan))["task"]["state"] == "done"


def test_what_was_stopped_is_not_begun_again_unasked(planner):
    plan = put_plan(planner, apart())
    planner.post(f"{savings_of(plan)}/expected", {}, 204)
    task = planner.get(savings_of(plan))["task"]["id"]
    planner.post(f"/tasks/{task}/cancel", {})
    assert not run_one(long=True)
    planner.post(f"{savings_of(plan)}/expected", {}, 204)
    assert not run_one(long=True)
    planner.post(savings_of(plan), {}, 202)
    assert run_one(long=True) and planner.get(savings_of(plan))["untried"] == 0
