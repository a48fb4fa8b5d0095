"""Two plans of a job on two machines: which is cheaper from when on, one chosen, the other kept."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from .conftest import answered, copy_of_demo


def test_two_machines_side_by_side_and_one_chosen(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "CM-1")
    page.goto("/jobs/CM-1/setups")
    page.get_by_role("link", name="Compare", exact=True).click()
    expect(page.get_by_text("This job has one plan.")).to_be_visible()
    copy = page.get_by_role("form", name="Copy this plan")
    copy.get_by_label("Its name").fill("On Curlew")
    copy.get_by_label("On").select_option(label="Curlew")
    copy.get_by_role("button", name="Copy").click()
    page.wait_for_url("**/jobs/CM-1/of/**")
    both = page.get_by_role("region", name="Side by side")
    expect(both.get_by_role("list", name="Differences")).to_contain_text(
        "machine Heron instead of Curlew"
    )
    expect(both).to_contain_text("On Curlew is sooner at every quantity.")
    expect(both).to_contain_text(re.compile(r"From \d+ parts on On Curlew is cheaper"))
    other = int(page.url.split("/of/")[1].split("/")[0])
    one, two = (answered(planner, each)["one_part_s"] for each in (other, plan))
    assert one < two
    plans = page.get_by_role("region", name="Plans of this job")
    plans.get_by_role("button", name="Choose this plan").click()
    expect(plans.get_by_role("alert")).to_contain_text("say why")
    plans.get_by_label("Why it is kept").fill("Heron is booked until May")
    plans.get_by_role("button", name="Choose this plan").click()
    page.wait_for_url("**/jobs/CM-1/compare")
    assert planner.api("GET", "/jobs/CM-1")["plan"] == other
    page.get_by_role("link", name="Plan", exact=True).click()
    page.wait_for_url(f"**/jobs/CM-1/of/{plan}/compare")
    expect(page.get_by_text("Plan, not the job’s own")).to_be_visible()
    plans.get_by_label("Why it is kept").fill("cheaper for a few")
    plans.get_by_role("button", name="Keep it so").click()
    expect(plans.get_by_role("listitem").filter(has_text="cheaper for a few")).to_have_count(1)
    page.get_by_role("link", name="Release").click()
    expect(page.get_by_text("choose this one first")).to_be_visible()
    told = {each["name"]: each["note"] for each in planner.api("GET", "/jobs/CM-1/variants")}
    assert told == {"Plan": "cheaper for a few", "On Curlew": "Heron is booked until May"}


def test_the_other_way_is_worked_out_and_put_beside(sign_in):
    planner = sign_in("planner")
    page = planner.page
    copy_of_demo(planner, "CM-2", of="TW-276")
    page.goto("/jobs/CM-2/compare")
    ways = page.get_by_role("region", name="The other way")
    ways.get_by_role("button", name="Work them out").click()
    row = ways.get_by_role("row").filter(has_text="On two machines: setup 2 on Gannet")
    row.get_by_role("button", name="Put beside").click()
    both = page.get_by_role("region", name="Side by side")
    expect(both.get_by_role("list", name="Differences")).to_contain_text(
        "Setup 2: machine Gannet instead of Plover"
    )
    page.reload()
    expect(row).to_be_visible()
