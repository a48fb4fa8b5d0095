"""A fixture of the shop: its file read, its seats and stops picked, a part put in it."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.core.fixtures import body
from tools.demo_parts import write

from .conftest import copy_of_demo


def test_a_fixture_is_read_from_its_file_picked_from_and_holds_a_part(sign_in, tmp_path):
    planner = sign_in("planner")
    page, path = planner.page, tmp_path / "rails.step"
    write(body(), path)
    page.goto("/library/holdings")
    page.get_by_role("link", name="A fixture from a STEP file").click()
    page.get_by_label("STEP file of the fixture").set_input_files(str(path))
    seats = page.get_by_role("group", name="Seats: the part lies on them")
    stops = page.get_by_role("group", name="Locators: the part is pushed against them")
    expect(stops.get_by_text("Pick a seat first")).to_be_visible()
    keep = page.get_by_role("button", name="Keep it")
    expect(keep).to_be_disabled()

    # one rail picked in the drawing, by keyboard the other in the list
    drawing = page.get_by_role("group", name="The fixture from above")
    drawing.get_by_role("button", name="26.0 mm high").first.click()
    expect(page.get_by_text("more lie as high as those")).to_be_visible()
    page.get_by_role("button", name="Pick them").click()
    expect(seats.get_by_role("checkbox", checked=True)).to_have_count(2)
    expect(stops.get_by_role("checkbox")).to_have_count(5)
    for place in range(3):
        stops.get_by_role("checkbox").nth(place).press("Space")
    expect(
        page.get_by_text("still open: a key, a name, where its friction is from")
    ).to_be_visible()
    page.get_by_label("Name", exact=True).fill("Rail fixture")
    page.get_by_label("Key", exact=True).fill("rails")
    page.get_by_label("Source", exact=True).fill("made up")
    keep.click()
    expect(page.get_by_role("heading", name="Rail fixture")).to_be_visible()
    expect(page.get_by_role("group", name="The fixture from above")).to_be_visible()

    plan = copy_of_demo(planner, "FX-1")
    revision = planner.api("GET", f"/plans/{plan}")["revision"]
    hold = {"do": "hold", "station": "st1", "item": "rails"}
    planner.api("POST", f"/plans/{plan}/edits", revision=revision, edits=[hold])
    page.goto("/jobs/FX-1/setups?op=a30")
    page.get_by_role("button", name="Hold", exact=True).click()
    expect(page.get_by_text("What bears stops all six motions.")).to_be_visible()
    expect(page.get_by_text("Rail fixture").first).to_be_visible()


def test_what_is_no_file_of_a_fixture_is_refused_and_nothing_is_kept(sign_in):
    page = sign_in("planner").page
    page.goto("/library/holdings/from-a-file")
    none = {"name": "none.step", "mimeType": "model/step", "buffer": b"no solid"}
    page.get_by_label("STEP file of the fixture").set_input_files(none)
    expect(page.get_by_role("alert")).to_contain_text("Nothing was kept.")
