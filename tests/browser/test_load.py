"""Many parts on a table: put there, carried out of the travel and back, offsets taken away."""

from __future__ import annotations

import csv
import io

from playwright.sync_api import expect

from .conftest import copy_of_demo


def test_a_load_is_put_on_the_table_carried_and_taken_back(sign_in):
    planner = sign_in("planner")
    page = planner.page
    copy_of_demo(planner, "L-1")
    page.goto("/jobs/L-1/setups")
    page.get_by_role("button", name="Load", exact=True).click()
    table = page.get_by_role("group", name="Table of Heron from above")
    expect(table.get_by_role("button")).to_have_count(1)
    page.get_by_label("Parts").fill("4")
    page.get_by_label("Parts").press("Enter")
    expect(table.get_by_role("button")).to_have_count(4)
    expect(page.get_by_text("beside the part", exact=False)).to_be_visible()
    expect(page.get_by_text("part by part", exact=False).first).to_be_visible()

    page.get_by_label("Zero: one for all", exact=True).click()
    page.get_by_role("option", name="one each").click()
    last = table.get_by_role("button", name="Position 4, G57")
    expect(last).to_be_visible()

    # an arrow key carries the row 10 mm and more; the mouse carries it past the end of X
    last.focus()
    last.press("Shift+ArrowRight")
    expect(table.get_by_role("button", name="Position 4, G57, at 242.5")).to_be_visible()
    box = last.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 + 40, box["y"] + 20, steps=4)
    page.mouse.move(box["x"] + box["width"] / 2 + 90, box["y"] + 20, steps=4)
    page.mouse.up()
    stop = page.get_by_text("X runs out by", exact=False).first
    expect(stop).to_be_visible()
    stop.locator("xpath=..").get_by_role("button", name="what would mend it").click()
    page.get_by_role("button", name="Carry it to where X goes").first.click()
    expect(page.get_by_text("X runs out by", exact=False)).to_have_count(0)

    with page.expect_download() as taken:
        page.get_by_role("link", name="as a block for its control").click()
    block = taken.value.path().read_text()
    assert block.count("G10 L2 P") == 4
    put_where_it_was_found(page)
    take_two_at_a_time(page)
    expect(table.get_by_role("button")).to_have_count(2)


def put_where_it_was_found(page) -> None:
    """What was found at the machine is held against the plan, and all of it put there."""
    with page.expect_download() as taken:
        page.get_by_role("link", name="Take as CSV").click()
    head, *rows = list(csv.DictReader(io.StringIO(taken.value.path().read_text())))
    rows[0]["x_mm"] = str(float(rows[0]["x_mm"]) + 0.2)
    text = io.StringIO()
    out = csv.DictWriter(text, list(head))
    out.writeheader()
    out.writerows([head, *rows])
    found = {"name": "found.csv", "mimeType": "text/csv", "buffer": text.getvalue().encode()}
    page.get_by_label("Compare with what was found").set_input_files([found])
    told = page.get_by_role("table", name="Found at the machine")
    expect(told.get_by_text("+0.200")).to_be_visible()
    page.get_by_role("button", name="Put all where they were found").click()
    expect(told).to_have_count(0)


def take_two_at_a_time(page) -> None:
    page.get_by_role("button", name="How many at a time?").click()
    expect(page.get_by_text("the least of those that go")).to_be_visible()
    page.get_by_role("button", name="2 at a time", exact=True).click()
    page.get_by_role("button", name="Load 2 at a time").click()
