"""Pointing at the part: read where a place is, turn it, take the zero from it."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from .conftest import copy_of_demo
from .test_places import PARTS
from .test_workspace import until


def test_a_bore_is_read_in_both_setups_and_a_face_turned_up_by_pointing_at_it(sign_in):
    planner = sign_in("planner")
    plan, page = copy_of_demo(planner, "RP-1"), planner.page
    page.goto("/jobs/RP-1/setups")
    page.get_by_role("button", name="Setup 2", exact=True).click()
    page.get_by_role("button", name="Read a point").click()
    panel = page.get_by_role("region", name="Read a point")
    panel.get_by_role("button", name="Point: choose one").click()
    page.get_by_role("option", name=re.compile("hole Ø20 at")).click()
    expect(panel.get_by_text("axis of the hole of 20.000 mm")).to_be_visible()
    rows = [each.inner_text().split() for each in panel.get_by_role("row").all()]
    assert ["Setup", "1", "0.000", "0.000", "-18.000"] in rows  # the pocket's floor
    assert ["Setup", "2", "0.000", "0.000", "-14.000"] in rows
    stage = page.locator("canvas").bounding_box()
    assert stage is not None
    page.mouse.click(stage["x"] + 0.56 * stage["width"], stage["y"] + 0.45 * stage["height"])
    expect(panel.get_by_text("1 to 2:")).to_be_visible()
    panel.get_by_role("button", name="clear").click()
    expect(panel.get_by_role("row")).to_have_count(0)
    panel.get_by_role("button", name="Point: choose one").click()
    page.get_by_role("option", name="the right face").click()
    panel.get_by_role("button", name="Turn its right side up").click()

    def up() -> str:
        head = planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()
        return head["plan"]["setups"][1]["stations"][0]["orientation"]["up"]

    until(page, lambda: up() == "+x")
    expect(page.get_by_text("Right side up, 100 vise, soft jaws")).to_be_visible()


def test_a_slanted_face_is_pointed_at_and_the_part_raised_until_it_lies_level(sign_in):
    planner = sign_in("planner")
    planner.api("POST", "/jobs", number="RP-2", title="Bracket")
    page = planner.page
    page.goto("/jobs/RP-2/part")
    page.get_by_label("STEP file", exact=True).set_input_files(PARTS / "askew-bracket.step")
    expect(page.get_by_text("done 96 × 60 × 24")).to_be_visible()
    page.goto("/jobs/RP-2/setups")
    page.get_by_role("button", name="Add the first setup").click()
    page.get_by_role("button", name="Setup 1", exact=True).click()
    page.get_by_role("button", name="Read a point").click()
    panel = page.get_by_role("region", name="Read a point")
    panel.get_by_role("button", name="Point: choose one").click()
    page.get_by_role("option", name=re.compile("slanted face, 30° from its top")).click()
    panel.get_by_role("button", name="Raise its right end by 30.0°, so that it lies level").click()
    page.get_by_role("button", name="Read a point").click()
    expect(page.get_by_label("Raised", exact=True)).to_have_value("30")
    touched = page.get_by_role("group", name="hold.at-angle")
    touched.get_by_role("button", name="Grip 16.0 mm deep").click()
    expect(touched).to_have_count(0)
    page.get_by_label("set by").click()
    page.get_by_role("option", name="a sine bar").click()
    set_at = page.get_by_text("Held at an angle:")
    expect(set_at).to_contain_text("50.000 mm")
    page.get_by_role("button", name="Add an operation").click()
    expect(page.get_by_text("Face slanted by 30°")).to_be_visible()
