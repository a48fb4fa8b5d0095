"""What holds a part: looked at, let loose, and tightened until every cut is stood."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from .conftest import copy_of_demo


def test_a_loose_vise_is_seen_to_slip_and_tightened(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "H-1")
    page.goto("/jobs/H-1/setups?op=a20")
    page.get_by_role("button", name="Hold", exact=True).click()
    held = page.get_by_role("region", name="Drawing")
    expect(held.get_by_role("img", name="what holds it")).to_be_visible()
    expect(held.get_by_role("img", name="stood ×2.7 where it is weakest")).to_be_visible()
    expect(held.get_by_text("it can slide along X")).to_be_visible()
    expect(held.get_by_text("Clamps and weight seat it.")).to_be_visible()

    # a drill pushes along its axis: nothing goes all round
    held.get_by_role("button", name="Drill").first.press("Enter")
    expect(page).to_have_url(re.compile("op=a60$"))
    expect(held.get_by_text("It pushes along its axis and twists")).to_be_visible()

    revision = planner.api("GET", f"/plans/{plan}")["revision"]
    loose = {"do": "change", "on": "station:st1", "fields": {"holding.torque_nm": 12.0}}
    planner.api("POST", f"/plans/{plan}/edits", revision=revision, edits=[loose])
    page.goto("/jobs/H-1/setups?op=a20")
    page.get_by_role("button", name="Hold", exact=True).click()
    expect(page.get_by_text("towards −Y with the tool at X", exact=False).first).to_be_visible()
    page.get_by_role("button", name="Tighten to 29.0 N·m").first.click()
    expect(page.get_by_text("towards −Y with the tool at X", exact=False)).to_have_count(0)
    expect(held.get_by_role("img", name="stood ×2.0 where it is weakest")).to_be_visible()


def test_a_thin_bar_is_lowered_before_the_windows_beside_it_are_cut(sign_in):
    planner = sign_in("planner")
    page = planner.page
    copy_of_demo(planner, "H-2", of="TW-233")
    page.goto("/jobs/H-2/setups?op=r40")
    page.get_by_role("button", name="Hold", exact=True).click()
    thin = page.get_by_role("region", name="Thin places")
    expect(thin.get_by_role("img", name="thin place 1: how thick it is")).to_be_visible()
    expect(thin.get_by_text("its thickness")).to_be_visible()
    gone = page.get_by_text("What carried the wall it cuts on is gone", exact=False)
    expect(gone.first).to_be_visible()
    page.get_by_role("button", name="Move operation 30 after it").click()
    expect(gone).to_have_count(0)
    expect(thin).to_have_count(0)
    wrong = page.get_by_role("region", name="Put in wrong")
    expect(wrong.get_by_text("No other way of putting it in does it harm.")).to_be_visible()


def test_a_plan_begins_with_the_side_that_was_tried_best(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "H-3")
    now = planner.api("GET", f"/plans/{plan}")
    gone = [{"do": "remove_setup", "setup": each["id"]} for each in now["plan"]["setups"]]
    planner.api("POST", f"/plans/{plan}/edits", revision=now["revision"], edits=gone)
    page.goto("/jobs/H-3/setups")
    first = page.get_by_role("region", name="Which side first")
    expect(first.get_by_role("img", name="the part with its bottom up")).to_be_visible()
    expect(first.get_by_text("features, 4 of 5 the drawing asks for")).to_be_visible()
    first.get_by_role("button", name="Begin with the bottom up").press("Enter")
    lies = page.get_by_role("region", name="Operations").get_by_text("Bottom up")
    expect(lies.first).to_be_visible()
    expect(first).to_have_count(0)


def test_soft_jaws_get_their_spacer_and_force_is_tried(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "H-4", of="TW-276")
    page.goto("/jobs/H-4/setups?op=b80")
    page.get_by_role("button", name=re.compile("^Close them on Ø52")).first.click()
    expect(page.get_by_text("0 will not work")).to_be_visible()
    held = planner.api("GET", f"/plans/{plan}")["plan"]["setups"][1]["stations"][0]["holding"]
    assert (held["bored_mm"], held["spacer_mm"], held["left_mm"]) == (60.0, 52.0, 2.8)

    page.get_by_role("button", name="Hold", exact=True).click()
    tried = page.get_by_role("region", name="What if")
    tried.get_by_label("Force").fill("0.4")
    expect(tried.get_by_text("cuts are stood less than is asked.")).to_be_visible()
    tried.get_by_role("button", name="As planned").click()
    expect(tried.get_by_role("status")).to_have_count(0)
    tried.get_by_label("Force").fill("0.9")
    expect(tried.get_by_text("Every cut is stood as often as is asked.")).to_be_visible()
    tried.get_by_role("button", name="Close each jaw with 10800 N").click()
    expect(tried.get_by_role("status")).to_have_count(0)
    now = planner.api("GET", f"/plans/{plan}")["plan"]["setups"][1]["stations"][0]["holding"]
    assert now["force_per_jaw_n"] == 10800.0

    page.goto("/jobs/H-4/setups?setup=s2")
    first = page.get_by_text("Nobody says that this holding has held a part", exact=False)
    expect(first.first).to_be_visible()
    page.get_by_role("button", name="It has held parts as it is planned here").first.click()
    expect(first).to_have_count(0)
