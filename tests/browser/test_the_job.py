"""The whole way of a part that is not the demo's: from its STEP file to the sheet at
the machine.
"""

from __future__ import annotations

import io
import re
from pathlib import Path

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from .conftest import answered

HINGE = Path(__file__).parent.parent / "parts" / "hinge-plate.step"


def set_field(page: Page, label: str, value: str, place: int = 0) -> None:
    box = page.get_by_label(label, exact=True).nth(place)
    box.fill(value)
    box.press("Enter")


def take(page: Page, group: str, label: str) -> None:
    """Choose what the adder offers, once no answer can move it any more."""
    expect(page.get_by_text("working out …")).to_have_count(0)
    (
        page.get_by_role("button", name="Add an operation").last.click()
        if not page.get_by_role("group", name="Add an operation").count()
        else None
    )
    adder = page.get_by_role("group", name="Add an operation")
    row = adder.locator("div.contents").filter(has_text=group).first
    # by keyboard: what moves as an answer comes in can't slip from under the pointer
    row.get_by_role("button", name=re.compile(f"^{label} ")).first.press("Enter")
    expect(page.get_by_role("group", name="Add an operation")).to_have_count(0)


def choose(page: Page, label: str, option: str) -> None:
    page.get_by_role("button", name=re.compile(f"^{label}: ")).last.click()
    page.get_by_role("option", name=option, exact=True).click()


def read_the_solid(page) -> None:
    page.get_by_role("button", name=re.compile("^New job")).click()
    page.get_by_label("Number").fill("HP-7")
    page.get_by_label("Title").fill("Hinge plate")
    page.get_by_label("Material").select_option(label="EN AW-6082")
    page.get_by_label("Quantity").fill("20")
    page.get_by_label("Solid, a STEP file").set_input_files(HINGE)
    page.get_by_role("button", name="Make the job").click()
    page.wait_for_url("**/jobs/HP-7/part")
    expect(page.get_by_text("From hinge-plate.step")).to_be_visible()
    expect(page.get_by_role("cell", name="2 × Through hole")).to_be_visible()
    for side, over in (
        ("left", "2"),
        ("right", "2mm"),
        ("front", "2"),
        ("back", "0.08in"),
        ("bottom", "6"),
        ("top", "1"),
    ):
        set_field(page, f"{side}: stands over the part", over)
        expect(page.get_by_text("saving …")).to_have_count(0)
    expect(page.get_by_text("Comes as 84 × 54.032 × 27.")).to_be_visible()


def plan_the_first(page) -> None:
    page.get_by_role("link", name=re.compile("^Setups")).click()
    page.get_by_role("button", name="Add the first setup").click()
    page.get_by_role("button", name=re.compile("^Setup 1")).click()
    choose(page, "Machine", "Heron")
    choose(page, "Held in", "125 vise")
    expect(page.get_by_text("Top up, 125 vise")).to_be_visible()
    set_field(page, "Grip", "1/4 in")
    for group, label in (
        ("Top", "Face"),
        ("Outside", "Rough"),
        ("Pocket", "Rough"),
        ("Pocket", "Finish walls"),
        ("Outside", "Finish"),
        ("2 ×", "Drill"),
        ("1 ×", "Drill"),
        ("1 ×", "Ream"),
    ):
        take(page, group, label)
    page.keyboard.press("Escape")
    expect(page.get_by_text("8 operations")).to_be_visible()


def make_a_finding_and_mend_it(page) -> None:
    page.get_by_role("button", name=re.compile("^Finish pocket")).click()
    set_field(page, "Stick-out", "5")
    stop = page.get_by_role("group", name="reach.stick-out-short")
    expect(stop).to_contain_text("its holder would touch")
    expect(stop.get_by_text(re.compile("time as now|more|less")).first).to_be_visible()
    stop.get_by_role("button", name=re.compile("^Set stick-out to")).click()
    expect(page.get_by_role("group", name="reach.stick-out-short")).to_have_count(0)
    page.keyboard.press("Escape")


def turn_it_over(page) -> None:
    page.get_by_role("button", name="Add a setup, turned over").click()
    page.get_by_role("button", name=re.compile("^Setup 2")).click()
    choose(page, "Held in", "125 vise")
    set_field(page, "Grip", "10")
    take(page, "Top", "Face")
    expect(page.get_by_text("Bottom up, 125 vise")).to_be_visible()


def cut_what_still_stands(page) -> None:
    """The jaws held what the first setup could not reach: it says so, and is cut from below."""
    page.get_by_role("button", name=re.compile("not finished")).click()
    panel = page.get_by_role("heading", name="Still stands after the last setup")
    expect(page.get_by_text(re.compile(r"^◌ \d+(\.\d+)? mm$")).first).to_be_visible()
    expect(panel).to_be_visible()
    expect(page.get_by_role("cell", name="on its sides")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Rough in setup 2 with")).first.click()
    for group, label in (("Outside", "Finish"), ("Edges", "Break edges")):
        take(page, group, label)
    expect(page.get_by_text(re.compile("not finished"))).to_have_count(0)


def test_from_step_file_to_sheet(sign_in):
    planner = sign_in("planner")
    page = planner.page
    read_the_solid(page)
    plan_the_first(page)
    make_a_finding_and_mend_it(page)
    turn_it_over(page)
    cut_what_still_stands(page)
    settle(page)
    plan = planner.api("GET", "/jobs/HP-7")["plan"]
    answered(planner, plan)
    screen = planner.api("GET", f"/plans/{plan}")
    assert [f["id"] for f in screen["evaluation"]["findings"] if f["severity"] == "stop"] == []
    every_place_is_done(page)

    approver = sign_in("approver")
    release(approver.page)
    operator = sign_in("operator")
    page = operator.page
    page.get_by_role("listitem").filter(has_text="HP-7").get_by_role("link", name="Setup 1").click()
    expect(page.get_by_role("heading", name="Setup 1 of 2")).to_be_visible()
    check_sheets(operator, screen)


def every_place_is_done(page: Page) -> None:
    """The part says of each of its places what roughs and finishes it, and that nothing is left."""
    page.get_by_role("link", name="Part").click()
    table = page.get_by_role("table", name="How far each place is")
    expect(table.get_by_role("row")).not_to_have_count(1)
    expect(table.get_by_text(re.compile("^(not yet|roughed)$"))).to_have_count(0)
    expect(table.get_by_text(re.compile("^(finished|checked)$")).first).to_be_visible()
    expect(page.get_by_label("how far it is")).to_be_checked()


def settle(page: Page) -> None:
    """Mend what is still red by what is offered, as a planner would."""
    for _ in range(8):
        page.keyboard.press("Escape")
        if page.get_by_text("Stop", exact=True).count() == 0:
            return
        page.get_by_text("Stop", exact=True).first.locator("xpath=..").get_by_role("button").click()
        page.locator(
            "button.press", has_text=re.compile(r"^(Set|Load|Use|Step|Feed|Grip|Tighten|Cut|Move)")
        ).first.click()
        expect(page.get_by_text("saving …")).to_have_count(0)


def release(page: Page) -> None:
    page.goto("/jobs/HP-7/release")
    expect(page.get_by_role("heading", name="Release 1 from draft")).to_be_visible()
    while page.get_by_label("Why it may stay as it is").count():
        before = page.get_by_label("Why it may stay as it is").count()
        page.get_by_label("Why it may stay as it is").first.fill("Looked at on the first part.")
        page.get_by_role("button", name="Accept").first.click()
        expect(page.get_by_label("Why it may stay as it is")).to_have_count(before - 1)
    expect(page.get_by_text("Nothing stands against it")).to_be_visible()
    page.get_by_role("button", name="Release 1").click()
    expect(page.get_by_role("link", name="Setup 2", exact=True)).to_be_visible()


def clock(seconds: float) -> str:
    whole = int(seconds + 0.5)
    return f"{whole // 60}:{whole % 60:02d}"


def printed_sheet(operator, path: str):
    """The file, drawn while one waits."""
    for _ in range(200):
        printed = operator.context.request.get(f"{operator.url}{path}")
        if printed.status != 202:
            return printed
        operator.page.wait_for_timeout(200)
    raise AssertionError("it is still being drawn")


def check_sheets(operator, screen: dict) -> None:
    code = operator.page.url.split("/s/")[1].split("/")[0]
    for setup in screen["evaluation"]["setups"]:
        printed = printed_sheet(operator, f"/s/{code}/{setup['number']}.pdf")
        assert printed.headers["content-type"] == "application/pdf"
        text = "\n".join(
            page.extract_text() for page in PdfReader(io.BytesIO(printed.body())).pages
        )
        planned = next(s for s in screen["plan"]["setups"] if s["id"] == setup["id"])
        assert planned["stations"][0]["work_offset"] in text
        for each in setup["stations"][0]["zero"]:
            assert each["text"] in text.replace("\n", " ")
        for op in setup["operations"]:
            assert f"T{op['tool_number']}" in text
            assert op["tool_name"] in text
            assert clock(op["time_s"]) in text
        assert clock(setup["cycle_s"]) in text
    on_screen = operator.page.locator("main").inner_text()
    assert "Release 1" in on_screen
    assert "The machine maker's manual" in on_screen
