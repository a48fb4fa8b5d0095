"""Other ways to cut an operation: worked out, ready to send, and true once taken."""

from __future__ import annotations

import pytest

from machining.plan.edit import Change
from shop.jobs import documents
from shop.jobs.actions.revise import edit as revise
from tests.core import build

from .conftest import put_plan


@pytest.fixture
def small(planner):
    """The plain part on Dunlin, its outside roughed at full depth as if the spindle
    were Heron's.
    """
    plan = put_plan(planner, build.on_machine(build.good(), "dunlin"))
    head = documents.head(plan)
    revise(
        planner.user,
        plan,
        head.number,
        [
            Change(
                on="operation:rough",
                fields={
                    "step_down_mm": 20.0,
                    "step_over_mm": 4.0,
                    "rpm": 8000.0,
                    "feed_mm_min": 3000.0,
                },
            )
        ],
    )
    return plan


def ways(caller, plan, operation="rough", status=200):
    return caller.get(f"/plans/{plan.pk}/operations/{operation}/choices", status)


def test_a_full_depth_rough_stalls_and_the_search_offers_what_does_not(planner, small):
    now, *others = ways(planner, small)
    assert now["name"] == "as it is now"
    assert now["stops"] >= 1
    assert now["power_kw"] > now["power_limit_kw"]
    fits = [way for way in others if way["edits"]]
    assert {way["name"] for way in fits} >= {"full depth, light width", "shallow, wide"}
    for way in fits:
        assert way["power_kw"] <= 0.85 * way["power_limit_kw"] * 1.001
        assert way["torque_nm"] <= 0.85 * way["torque_limit_nm"] * 1.001
        assert way["stops"] == 0 or way["name"].startswith("high feed")
        assert way["limits"]
    head = documents.head(small)
    taken = planner.post(
        f"/plans/{small.pk}/edits", {"revision": head.number, "edits": fits[0]["edits"]}
    )
    op = next(
        op
        for setup in taken["evaluation"]["setups"]
        for op in setup["operations"]
        if op["id"] == "rough"
    )
    assert op["time_s"] == pytest.approx(fits[0]["time_s"])
    assert not [
        f
        for f in taken["evaluation"]["findings"]
        if f["operation"] == "rough" and f["id"].startswith("cut.") and f["severity"] == "stop"
    ]


def test_what_is_no_roughing_cut_has_no_schools(planner, plan):
    assert ways(planner, plan, "tap") == []
    assert "Operation 'nix' doesn't exist" in ways(planner, plan, "nix", 404)["sentence"]


def test_speeds_and_feeds_come_in_the_shop_s_steps(planner, small):
    for way in ways(planner, small)[1:]:
        if way["edits"]:
            fields = way["edits"][-1]["fields"]
            assert fields["rpm"] % 10 == 0
            assert fields["feed_mm_min"] % 10 == 0


def test_what_if_leaves_the_plan_alone(planner, plan):
    before = planner.get(f"/plans/{plan.pk}")
    figures = before["evaluation"]["figures"]
    answer = planner.post(f"/plans/{plan.pk}/what-if", {"figure": "rough.power"})
    assert answer["values"]["rough.power"] == pytest.approx(figures["rough.power"][0])
    width = next(leaf for leaf in answer["sensitivity"] if leaf["name"] == "width")
    assert 1.0 < width["value"] < 1.1
    changed = planner.post(
        f"/plans/{plan.pk}/what-if",
        {
            "figure": "rough.power",
            "changed": [{"name": "width", "origin": width["origin"], "value": 3.0}],
        },
    )
    assert changed["values"]["rough.power"] > answer["values"]["rough.power"]
    assert planner.get(f"/plans/{plan.pk}")["revision"] == before["revision"]
    wide = planner.post(
        f"/plans/{plan.pk}/what-if",
        {
            "figure": "rough.power",
            "changed": [{"name": "width", "origin": width["origin"], "value": 99.0}],
        },
        422,
    )
    assert "width is 99" in wide["sentence"]
    assert (
        "doesn't exist"
        in planner.post(f"/plans/{plan.pk}/what-if", {"figure": "rough.wind"}, 422)["sentence"]
    )


def test_the_ways_to_a_finish_come_with_size_and_marks(planner, plan):
    found = planner.get(f"/plans/{plan.pk}/operations/outside/choices")
    assert found[0]["name"] == "as it is now" and len(found) == 9
    assert all(
        way["push_off_mm"] > 0 and way["roughness_um"] > 0 and way["time_s"] > 0 for way in found
    )
    narrower = next(way for way in found if way["name"] == "a narrower last cut")
    assert narrower["push_off_mm"] < found[0]["push_off_mm"]
    spring = next(way for way in found if "size smaller" in way["name"])
    assert spring["push_off_mm"] < found[0]["push_off_mm"] and spring["time_s"] > found[0]["time_s"]


def test_the_ways_to_a_hole_say_what_they_cost_and_why_not(planner, plan):
    found = ways(planner, plan, "drill")
    can, cannot = [way for way in found if way["edits"]], [way for way in found if way["because"]]
    assert (
        found[0]["name"] == "as it is now"
        and "mill on a helix" in {way["name"] for way in can}
        and cannot
    )
    for way in can:
        assert way["time_s"] > 0 and way["pockets"] >= 0 and way["limits"]
    assert all("{" not in way["because"] or way["values"] for way in cannot)
