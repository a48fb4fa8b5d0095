"""What a part is cut from: its form, its sides, and what is missing or there already."""

from __future__ import annotations

from playwright.sync_api import expect

from .conftest import answered, copy_of_demo
from .test_the_job import HINGE, choose, set_field


def test_a_part_is_cut_from_another_form_of_stock(sign_in):
    planner = sign_in("planner")
    page = planner.page
    copy_of_demo(planner, "BL-1")
    page.goto("/jobs/BL-1/part")
    expect(page.get_by_text("Comes as 102 × 70 × 36.")).to_be_visible()
    set_field(page, "top: and up to this much more", "0.3")
    choose(page, "Form", "plate")
    expect(page.get_by_label("Rolled up to this much over")).to_have_value("0.3")
    # what stood over each side, and how much more may stand on top, are kept
    expect(page.get_by_label("top: and up to this much more")).to_have_value("0.3")
    expect(page.get_by_text("Comes as 102 × 70 × 36.")).to_be_visible()
    choose(page, "Form", "round bar")
    expect(page.get_by_label("Ø", exact=True)).to_have_value("74")
    set_field(page, "Ø", "50")
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("out of this blank")
    alert.get_by_role("button", name="As large as it needs").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    choose(page, "Form", "tube")
    expect(page.get_by_role("alert")).to_contain_text("the part is not open along X")
    choose(page, "Form", "square bar")
    expect(page.get_by_text("Comes as square 64 × 102.")).to_be_visible()
    choose(page, "Axis", "Z")
    expect(page.get_by_role("alert")).to_contain_text("most on its")


def test_a_blank_comes_from_a_file_with_what_it_already_has(sign_in):
    """The finished part itself as its blank: nothing of it is missing, all of it is there."""
    planner = sign_in("planner")
    page = planner.page
    planner.api("POST", "/jobs", number="BL-2", title="Cast")
    page.goto("/jobs/BL-2/part")
    page.get_by_label("STEP file", exact=True).set_input_files(HINGE)
    expect(page.get_by_text("hinge-plate.step")).to_have_count(1)
    page.get_by_label("STEP file of the blank").set_input_files(HINGE)
    expect(page.get_by_text("hinge-plate.step")).to_have_count(2)
    expect(page.get_by_role("button", name="Form: shape from a file")).to_be_visible()
    expect(page.get_by_text("of the part’s features in it already")).to_be_visible()
    expect(page.get_by_role("cell", name="in the blank already")).to_have_count(3)
    set_field(page, "Its zero at Z", "-4")
    expect(page.get_by_role("alert")).to_contain_text("most on its top")
    page.get_by_label("STEP file of the blank").set_input_files(
        {"name": "no.step", "mimeType": "text/plain", "buffer": b"nothing"}
    )
    expect(page.get_by_text("The blank stays as it was.")).to_be_visible()


def test_what_is_done_to_it_elsewhere_is_told_where_it_is_cut_again(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "EL-1")
    page.goto("/jobs/EL-1/part")
    choose(page, "Elsewhere it is also", "hardened")
    choose(page, "after", "setup 1")
    choose(page, "on", "the back face")
    page.get_by_label("By whom, how").fill("for two hours")
    page.get_by_label("By whom, how").press("Enter")
    page.get_by_role("button", name="Not on the back face").click()
    expect(page.get_by_role("button", name="on: all of it")).to_be_visible()
    page.reload()
    expect(page.get_by_label("By whom, how")).to_have_value("for two hours")
    found = answered(planner, plan)["findings"]
    assert "route.outside-order" in {each["id"] for each in found}
    page.get_by_role("button", name="Take out", exact=True).click()
    expect(page.get_by_role("button", name="Elsewhere it is also: nothing")).to_be_visible()
