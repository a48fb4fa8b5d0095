"""A part clamped on a pallet: built, pushed off, mended, its clamps changed, released."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from .conftest import answered, copy_of_demo


def opened(planner, number):
    """A copy of the plate on its pallet, with what holds it shown; its plan, panel and clamps."""
    plan = copy_of_demo(planner, number, of="TW-226")
    planner.page.goto(f"/jobs/{number}/setups?op=v10")
    planner.page.get_by_role("button", name="Hold", exact=True).click()
    held = planner.page.get_by_role("region", name="Drawing")
    return plan, held, held.get_by_role("table", name="Clamps")


def test_what_is_too_loose_is_tightened_and_the_sheet_names_the_change(sign_in):
    planner, approver = sign_in("planner"), sign_in("approver")
    page, (plan, _, _) = planner.page, opened(planner, "CL-1")
    page.goto("/jobs/CL-1/setups?op=v40")
    page.get_by_role("button", name=re.compile("^Tighten its clamps to")).first.click()
    expect(page.get_by_text("0 will not work")).to_be_visible()
    page.goto("/jobs/CL-1/setups?op=v30")
    change = page.get_by_role("group", name="Clamps after it")
    expect(change.get_by_text("Stop, change clamps")).to_be_visible()
    expect(change.get_by_text("Take off clamp 1 at its left, in the middle.")).to_be_visible()

    answered(planner, plan)
    revision = planner.api("GET", f"/plans/{plan}")["revision"]
    first = approver.api("POST", f"/plans/{plan}/releases", revision=revision)["releases"][0]
    sheet = approver.page
    sheet.goto(f"/s/{first['code']}/1")
    expect(sheet.get_by_text("Change clamps.")).to_be_visible()
    expect(sheet.get_by_text("Take off clamp 1 at its left, in the middle.")).to_be_visible()
    expect(sheet.get_by_text(re.compile("Put on clamp 3, M6 screw.* at its left"))).to_be_visible()
    expect(sheet.get_by_role("img", name=re.compile("^Clamps after the change"))).to_be_visible()


def test_a_screw_beside_the_pallet_pushes_it_off_and_is_moved_into_it(sign_in):
    planner = sign_in("planner")
    page, (plan, held, clamps) = planner.page, opened(planner, "CL-3")
    motions = held.get_by_role("table", name="Motions")
    expect(motions.get_by_text("dowels 1, 2").first).to_be_visible()
    expect(held.get_by_text("Pallet 220 × 150 sits in its vise.")).to_be_visible()
    held.get_by_role("button", name="Take out dowel 3").click()
    expect(motions.get_by_text("free")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(motions.get_by_text("free")).to_have_count(0)

    # one more, at the edge, screwed into what holds the pallet, and as tight as the others
    beside = {"clamp": "edge-m6", "at_mm": 25.0, "torque_nm": 8.0, "over_mm": 0.0}
    _with_a_seventh(planner, plan, {"id": "c7", "side": "+x", "fixed_in": "base", **beside})
    page.reload()
    page.get_by_role("button", name="Hold", exact=True).click()
    seventh = clamps.get_by_role("group", name="Clamp 7")
    seventh.get_by_role("button", name=re.compile("^Screwed into")).click()
    page.get_by_role("option", name="what holds the base").click()
    pushed = held.get_by_text("Clamped, Pallet 220 × 150 slides towards −X", exact=False)
    expect(pushed).to_be_visible()
    page.get_by_role("button", name="Screw its clamps into Pallet 220 × 150").first.click()
    expect(pushed).to_have_count(0)
    held.get_by_role("button", name="Take out clamp 7").click()
    expect(seventh).to_have_count(0)
    held.get_by_role("button", name="Add a clamp").click()
    expect(seventh.get_by_role("button", name="Clamp 7: M6 strap, short")).to_be_visible()


def _with_a_seventh(planner, plan, clamp):
    answer = planner.api("GET", f"/plans/{plan}")
    every = answer["plan"]["setups"][0]["stations"][0]["holding"]["clamps"]
    tight = [{**each, "torque_nm": 8.0} for each in every]
    fields = {"holding.clamps": [*tight, clamp]}
    edits = [{"do": "change", "on": "station:st1", "fields": fields}]
    planner.api("POST", f"/plans/{plan}/edits", revision=answer["revision"], edits=edits)


def test_clamps_that_are_on_for_a_part_of_the_cycle_are_set_where_they_are(sign_in):
    planner = sign_in("planner")
    page, (plan, _, clamps) = planner.page, opened(planner, "CL-2")
    second = clamps.get_by_role("group", name="Clamp 2")
    expect(second.get_by_role("button", name="to: 30")).to_be_visible()
    second.get_by_role("button", name="to: 30").click()
    page.get_by_role("option", name="20", exact=True).click()
    expect(second.get_by_role("button", name="to: 20")).to_be_visible()
    setup = planner.api("GET", f"/plans/{plan}")["plan"]["setups"][0]
    after = {op["id"]: op["clamps_after"] for op in setup["operations"]}
    assert after["v20"] == {"on": [], "off": ["c2"]}
    assert after["v30"] == {"on": ["c3", "c4", "c5", "c6"], "off": ["c1"]}


def test_a_clamp_is_carried_along_its_side_by_keys_and_by_mouse(sign_in):
    planner = sign_in("planner")
    page, (plan, held, _) = planner.page, opened(planner, "CL-5")

    def at():
        told = planner.api("GET", f"/plans/{plan}")["plan"]["setups"][0]["stations"][0]
        return told["holding"]["clamps"][0]["at_mm"]

    slide = held.get_by_role("slider", name="clamp 1 along the left")
    expect(slide).to_have_attribute("aria-valuenow", "0")
    slide.focus()
    with page.expect_response(re.compile("/edits$")):
        page.keyboard.press("Shift+ArrowUp")
        expect(slide).to_have_attribute("aria-valuetext", "10.0 mm from the middle")
    assert at() == 10.0
    box = slide.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2.0, box["y"] + box["height"] / 2.0)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2.0, box["y"] + box["height"] / 2.0 + 30.0, steps=4)
    with page.expect_response(re.compile("/edits$")):
        page.mouse.up()
    assert at() < 10.0


def test_a_plate_is_built_into_a_vise_pushed_off_mended_changed_in_the_cycle_and_released(sign_in):
    """From a bare pallet to its sheet: side, order and torque of the change stand there."""
    planner, approver = sign_in("planner"), sign_in("approver")
    page, (plan, held, clamps) = planner.page, opened(planner, "CL-6")
    answer = planner.api("GET", f"/plans/{plan}")
    built = answer["plan"]["setups"][0]["stations"][0]["holding"]
    bare = {"holding.vise": None, "holding.clamps": built["clamps"][2:]}
    edits = [{"do": "change", "on": "station:st1", "fields": bare}]
    planner.api("POST", f"/plans/{plan}/edits", revision=answer["revision"], edits=edits)
    page.reload()
    page.get_by_role("button", name="Hold", exact=True).click()

    _built(page, held, clamps)
    _pushed_off_and_mended(planner, plan, held, built)
    _changed_sooner_and_back(page, clamps)
    _on_its_sheet(planner, approver, plan)


def _built(page, held, clamps):
    """Into a vise, with a clamp from beside that pushes it off its dowels."""
    expect(held.get_by_text("its bolts are not reckoned")).to_be_visible()
    held.get_by_role("button", name=re.compile("^held in")).click()
    page.get_by_role("option", name="125 vise", exact=True).click()
    expect(held.get_by_text("its bolts are not reckoned")).to_have_count(0)
    held.get_by_role("button", name="Add a clamp").click()
    fifth = clamps.get_by_role("group", name="Clamp 5")
    expect(fifth.get_by_role("button", name="Clamp 5: M6 edge clamp")).to_be_visible()
    expect(held.get_by_text("Clamped, it slides towards −Y", exact=False)).to_be_visible()
    motions = held.get_by_role("table", name="Motions")
    expect(motions.get_by_text("dowels 1, 2").first).to_be_visible()


def _pushed_off_and_mended(planner, plan, held, built):
    """As it was, with all its clamps and one more that is screwed into what holds the pallet."""
    page = planner.page
    revision = planner.api("GET", f"/plans/{plan}")["revision"]
    edge = {"id": "c7", "side": "+x", "fixed_in": "under", "clamp": "edge-m6", "at_mm": 25.0}
    tight = [{**each, "torque_nm": 8.0} for each in built["clamps"]]
    fields = {
        "holding.vise": built["vise"],
        "holding.clamps": [*tight, {**edge, "torque_nm": 8.0, "over_mm": 0.0}],
    }
    edits = [{"do": "change", "on": "station:st1", "fields": fields}]
    planner.api("POST", f"/plans/{plan}/edits", revision=revision, edits=edits)
    page.reload()
    page.get_by_role("button", name="Hold", exact=True).click()
    pushed = held.get_by_text("Clamped, Pallet 220 × 150 slides towards −X", exact=False)
    expect(pushed).to_be_visible()
    page.get_by_role("button", name="Screw its clamps into Pallet 220 × 150").first.click()
    expect(pushed).to_have_count(0)
    held.get_by_role("button", name="Take out clamp 7").click()


def _changed_sooner_and_back(page, clamps):
    """A strap comes off one operation sooner, and stays on as long as it did again."""
    second = clamps.get_by_role("group", name="Clamp 2")
    second.get_by_role("button", name="to: 30").click()
    page.get_by_role("option", name="20", exact=True).click()
    second.get_by_role("button", name="to: 20").click()
    page.get_by_role("option", name="30", exact=True).click()
    expect(second.get_by_role("button", name="to: 30")).to_be_visible()
    expect(page.get_by_text("0 will not work")).to_be_visible()


def _on_its_sheet(planner, approver, plan):
    answered(planner, plan)
    revision = planner.api("GET", f"/plans/{plan}")["revision"]
    first = approver.api("POST", f"/plans/{plan}/releases", revision=revision)["releases"][0]
    sheet = approver.page
    sheet.goto(f"/s/{first['code']}/1")
    expect(sheet.get_by_text("Change clamps.")).to_be_visible()
    expect(sheet.get_by_text("Take off clamp 1 at its left, in the middle.")).to_be_visible()
    put_on = sheet.get_by_text(re.compile("Put on clamp [3-6], M6 screw.* at its .*8.0 N·m"))
    expect(put_on.first).to_be_visible()
    numbers = [int(re.search(r"clamp (\d)", text)[1]) for text in put_on.all_inner_texts()]
    assert numbers == sorted(numbers) and len(numbers) >= 1
