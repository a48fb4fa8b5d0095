"""A machine is timed by the watch, and what fits is taken into its record."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from playwright.sync_api import expect

from machining.motion.measured import Values, runs_for
from machining.motion.timing import Drive
from machining.world.capability import usual_rig
from tests.core.build import LIBRARY

from .conftest import answered, copy_of_demo

RIG = usual_rig(LIBRARY.machines["dunlin"])
SLOW = replace(Values.of(RIG), acceleration_x=700.0, change_s=19.0)


def item_of(person):
    return next(i for i in person.api("GET", "/library")["items"] if i["key"] == "dunlin")


def test_times_of_a_watch_become_values_of_the_record(sign_in):
    planner = sign_in("planner")
    page = planner.page
    known = item_of(planner)
    page.goto("/library/machines/dunlin")
    page.get_by_role("link", name="Time it by the watch").click()
    expect(page.get_by_role("heading", name="How fast Dunlin moves")).to_be_visible()
    expect(page.get_by_text("From 4 runs on")).to_be_visible()
    with page.expect_download() as program:
        page.get_by_role("link", name="The program that runs them").click()
    assert program.value.suggested_filename == "times-dunlin.nc"
    like = Drive.of(RIG)
    for k, run in enumerate(runs_for(RIG), 1):
        box = page.get_by_label(f"Run {k} by the watch")
        box.fill(f"{run.seconds(SLOW, like):.1f}")
        box.press("Enter")
    values = page.get_by_role("region", name="Values that fit")
    row = values.get_by_role("row").filter(has_text="Acceleration X")
    expect(row.get_by_role("cell").nth(2)).to_have_text(re.compile("^(6[89]|7[012])"))
    page.reload()
    expect(page.get_by_label("Run 1 by the watch")).not_to_have_value("")
    values.get_by_label("Take Rapid X").uncheck()
    values.get_by_role("button", name=re.compile(r"^Take \d+ values into its record")).click()
    expect(page.get_by_role("heading", name="Dunlin", exact=True)).to_be_visible()
    item = item_of(planner)
    assert abs(item["data"]["carriers"][0]["acceleration"]["x"] - 700.0) < 30.0
    assert item["data"]["source"].startswith("timed by watch, ")
    planner.api(
        "PUT", "/library/machines/dunlin", data=known["data"], revision=item["revision"]
    )  # others use it as it was


def test_what_saves_most_is_taken_where_the_seconds_are_shown(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "TI-1")
    before = answered(planner, plan)["batch_s"]
    page.goto("/jobs/TI-1/setups")
    page.get_by_role("link", name="Time", exact=True).click()
    goes = page.get_by_role("region", name="Where the seconds go")
    longest = goes.get_by_role("row").nth(1)
    expect(longest).to_contain_text("Put in and taken out")
    goes.get_by_label("longest first").uncheck()
    expect(goes.get_by_role("row").nth(1)).to_contain_text("1/10")
    saves = page.get_by_role("region", name="What would save most")
    said = saves.get_by_role("listitem").first
    expect(said).to_contain_text("−")
    expect(saves.get_by_text("looking for more")).to_have_count(0)
    said.hover()  # so that it stays
    places = [f"/plans/{plan}/savings", f"/plans/{plan}/savings/all"]
    found = [row for place in places for row in planner.api("GET", place)["rows"]]
    with page.expect_request(lambda sent: sent.url.endswith("/edits")) as taken:
        said.get_by_role("button", name="Take it").click()
    expect(page.get_by_text("Draft 3")).to_be_visible()
    edits = taken.value.post_data_json["edits"]
    told = next(row["batch_s"] for row in found if row["edits"] == edits)
    assert told > 0
    assert before - answered(planner, plan)["batch_s"] == pytest.approx(told, rel=1e-6)
    page.keyboard.press("Control+z")
    expect(page.get_by_text("Draft 4")).to_be_visible()
    assert answered(planner, plan)["batch_s"] == pytest.approx(before)


def test_rows_stay_where_they_are_while_somebody_points_at_them(sign_in):
    """More is found meanwhile; no press may meet another row than was read."""
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "TI-2")
    answered(planner, plan)
    rows = planner.api("GET", f"/plans/{plan}/savings")["rows"]
    told = {"task": {"id": 1, "kind": "savings", "state": "working", "progress": 0.5}}
    told["task"] |= {"message": "5 of 9 tried", "result": {}}
    told |= {"stale": False, "rows": rows, "tried": 900, "untried": 4, "waiting": []}
    page.route("**/savings/all", lambda route: route.fulfill(json=told))
    page.goto("/jobs/TI-2/time")
    saves = page.get_by_role("region", name="What would save most")
    expect(saves.get_by_text("5 of 9 tried")).to_be_visible()
    read = saves.get_by_role("listitem").first.inner_text()
    saves.get_by_role("listitem").first.hover()
    told |= {"rows": rows[::-1], "tried": 901}
    expect(saves.get_by_text("More is known now")).to_be_visible()
    assert saves.get_by_role("listitem").first.inner_text() == read
    page.mouse.move(1, 1)
    expect(saves.get_by_text("More is known now")).to_have_count(0)
    assert saves.get_by_role("listitem").last.inner_text() == read


def test_why_an_operation_stands_where_it_does_and_a_shorter_order(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "OR-1", of="TW-520")
    before = answered(planner, plan)["one_part_s"]
    page.goto("/jobs/OR-1/setups")
    page.get_by_role("link", name="Order", exact=True).click()
    now = page.get_by_role("list", name="Operations as they come")
    expect(now.get_by_role("listitem")).to_have_count(9)
    now.get_by_role("button").filter(has_text="Thread").click()
    why = page.get_by_role("region", name="Why it stands there")
    expect(why).to_contain_text("Operation 60 turns what it threads.")
    why.get_by_label("Another operation").select_option("10")
    expect(why).to_contain_text("It would have to cut what operation 10 takes away.")
    why.get_by_label("Another operation").select_option("20")
    expect(why).to_contain_text("80 could come before 20")
    page.keyboard.press("Escape")
    now.get_by_role("button").filter(has_text="Thread").press("ArrowDown")
    expect(why).to_contain_text("It parts off: nothing is cut on the part after it.")
    shortest = page.get_by_role("region", name="The shortest order")
    expect(shortest).to_contain_text("20, 40 are moved")
    shortest.get_by_role("button", name="Take this order").click()
    expect(shortest).to_contain_text("None that keeps the reasons takes less.")
    assert before - answered(planner, plan)["one_part_s"] == pytest.approx(3.0, abs=0.2)
    now.get_by_role("button").filter(has_text="Part off").click()
    why.get_by_label("keeps its place").click()
    expect(now.get_by_text("keeps its place")).to_have_count(1)


def test_the_other_schools_of_an_order_come_one_by_one(sign_in):
    planner = sign_in("planner")
    page = planner.page
    copy_of_demo(planner, "OR-2", of="TW-204")
    page.goto("/jobs/OR-2/order")
    shortest = page.get_by_role("region", name="The shortest order")
    expect(shortest).to_contain_text("Or: Face last")
    expect(page.get_by_role("progressbar")).to_have_count(0)
    page.reload()
    expect(shortest).to_contain_text("Or: Face last")
    expect(page.get_by_role("progressbar")).to_have_count(0)
