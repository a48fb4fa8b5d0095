"""A part turned by pointing, a side hole by index, eight parts on a tombstone, one dragged out of
travel and back, offsets taken away, a bore read in two setups.
"""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from .conftest import copy_of_demo
from .test_workspace import until


def test_a_tombstone_is_loaded_its_sides_indexed_and_its_offsets_taken(sign_in):
    planner = sign_in("planner")
    plan, page = copy_of_demo(planner, "TS-1", of="TW-311"), planner.page

    def planned() -> dict:
        head = planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()
        return head["plan"]["setups"][0]

    page.goto("/jobs/TS-1/setups?setup=s1")
    all_stand_in_the_stage(page)
    page.get_by_role("button", name="Read a point").click()
    point_at(page, "the right face")
    page.get_by_role("button", name="Turn its right side up").click()
    until(page, lambda: planned()["stations"][0]["orientation"]["up"] == "+x")
    page.get_by_role("button", name="undo").click()
    until(page, lambda: planned()["stations"][0]["orientation"]["up"] == "+z")

    page.goto("/jobs/TS-1/setups?setup=s1&op=c60")
    page.get_by_label("Side: right side, B90").click()
    page.get_by_role("option", name="as it stands").click()
    expect(page.get_by_role("button", name="1 will not work")).to_be_visible()
    page.get_by_role("button", name="Read a point").click()
    point_at(page, "hole Ø8.5 in the right side at 0, 27")
    page.get_by_role("button", name="Turn its right side to the tool for operation 70").click()
    expect(page.get_by_label("Side: right side, B90")).to_be_visible()

    page.get_by_role("button", name="Load", exact=True).click()
    faces = page.get_by_role("group", name="Tombstone, four faces")
    expect(faces.get_by_role("button")).to_have_count(24)
    page.get_by_label("Parts").fill("8")
    page.get_by_label("Parts").press("Enter")
    expect(faces.get_by_role("button")).to_have_count(8)
    last = faces.get_by_role("button", name=re.compile("^Position 8, .* face 4"))
    carried_up(page, last)
    stop = page.get_by_text("Y runs out by", exact=False).first
    expect(stop).to_be_visible()
    stop.locator("xpath=..").get_by_role("button", name="what would mend it").click()
    page.get_by_role("button", name="Carry it to where Y goes").first.click()
    expect(page.get_by_text("Y runs out by", exact=False)).to_have_count(0)

    with page.expect_download() as taken:
        page.get_by_role("link", name="as a block for its control").click()
    block = taken.value.path().read_text()
    assert "G10 L2 P1" in block and "B90." in block and "B-90." in block
    read_in_both(page)


def carried_up(page: Page, position: Locator) -> None:
    """By mouse, far past the end of Y."""
    box = position.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for far in (60, 140, 240):
        page.mouse.move(x, y - far, steps=3)
    page.mouse.up()


def read_in_both(page: Page) -> None:
    """A bore is read in the setup it is drilled in, and in one that is turned over."""
    page.get_by_role("button", name="Add a setup, turned over").click()
    page.get_by_role("button", name="Setup 1", exact=True).click()
    page.get_by_role("button", name="Iso", exact=True).click()
    point_at(page, "hole Ø8.5 in the right side at 0, 27")
    panel = page.get_by_role("region", name="Read a point")
    expect(panel.get_by_text("axis of the hole of 8.500 mm")).to_be_visible()
    for setup in ("Setup 1", "Setup 2"):
        expect(panel.get_by_role("row").filter(has_text=setup).first).to_be_visible()


def all_stand_in_the_stage(page: Page) -> None:
    """In few calls of few triangles, and nothing is drawn while nothing moves; then one alone."""

    def drawn() -> dict[str, int]:
        told = page.evaluate("({...document.querySelector('canvas')?.dataset})")
        return {name: int(told.get(name, 0)) for name in ("frame", "calls", "triangles")}

    def rests() -> bool:
        before = drawn()
        page.wait_for_timeout(800)
        return before["frame"] > 0 and drawn() == before

    every = page.get_by_role("button", name="All 24 parts")
    expect(every).to_have_attribute("aria-pressed", "true")
    until(page, lambda: drawn()["triangles"] > 1000 and rests())
    whole = drawn()
    assert whole["calls"] <= 60 and whole["triangles"] <= 300_000
    every.click()
    until(page, lambda: drawn()["triangles"] < whole["triangles"] / 4 and rests())


def point_at(page: Page, place: str | re.Pattern) -> None:
    panel = page.get_by_role("region", name="Read a point")
    panel.get_by_role("button", name="Point: choose one").click()
    page.get_by_role("option", name=place).first.click()
