"""Sign-in, jobs, part, library, release and floor: what is there, what is not, what is refused."""

from __future__ import annotations

import json
import re
from pathlib import Path
from urllib.parse import urlencode

from playwright.sync_api import expect

from .conftest import PASSWORDS, answered, copy_of_demo

PARTS = Path(__file__).parent.parent / "parts"
STATED = json.loads((Path(__file__).parent.parent / "vectors" / "calculators.json").read_text())


def test_signing_in_wrong_and_right(browser, base_url):
    context = browser.new_context(base_url=base_url)
    page = context.new_page()
    page.goto("/jobs/TW-118/setups")
    page.wait_for_url("**/sign-in?next=**")
    page.get_by_label("Name").fill("planner")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_have_text("Name and password don't match.")
    expect(page.get_by_label("Name")).to_have_value("planner")
    page.get_by_label("Password").fill(PASSWORDS["planner"])
    page.keyboard.press("Enter")
    page.wait_for_url("**/jobs")
    page.get_by_role("button", name=re.compile("planner", re.IGNORECASE)).click()
    page.get_by_role("menuitem", name="Sign out").click()
    page.wait_for_url("**/sign-in")
    context.close()


def test_jobs_are_found_and_opened_by_keyboard(sign_in):
    page = sign_in("planner").page
    expect(page.get_by_role("link", name="TW-118", exact=True)).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type("mooring")
    expect(page.get_by_role("link", name="TW-204")).to_be_visible()
    expect(page.get_by_role("link", name="TW-118", exact=True)).to_have_count(0)
    page.get_by_label("Find a job").fill("unobtainium")
    expect(page.get_by_text("No job is called “unobtainium”")).to_be_visible()
    page.get_by_label("Find a job").fill("TW-1")
    page.get_by_role("link", name="TW-118", exact=True).focus()
    page.keyboard.press("Enter")
    page.wait_for_url("**/jobs/TW-118/setups")


def test_a_number_that_is_taken_keeps_what_was_typed(sign_in):
    page = sign_in("planner").page
    expect(page.get_by_role("button", name=re.compile("^New job"))).to_be_visible()
    page.keyboard.press("n")
    page.get_by_label("Number").fill("TW-118")
    page.get_by_label("Title").fill("Another block")
    page.get_by_role("button", name="Make the job").click()
    expect(page.get_by_role("alert")).to_have_text("number: there is a job TW-118 already.")
    expect(page.get_by_label("Title")).to_have_value("Another block")


def test_what_is_not_there_says_so(sign_in):
    page = sign_in("planner").page
    page.goto("/jobs/NOPE/setups")
    expect(page.get_by_text("There is no job NOPE.")).to_be_visible()
    page.goto("/nowhere")
    expect(page.get_by_text("There is no such page")).to_be_visible()
    page.goto("/library/tools/nothing")
    expect(page.get_by_text("It is not in the library")).to_be_visible()


def test_a_bad_file_leaves_the_part_as_it_was(sign_in, tmp_path):
    planner = sign_in("planner")
    copy_of_demo(planner, "F-1")
    page = planner.page
    page.goto("/jobs/F-1/part")
    expect(page.get_by_text("From TW-118-B.step")).to_be_visible()
    cut = tmp_path / "cut.step"
    cut.write_bytes((PARTS / "hinge-plate.step").read_bytes()[:5000])
    page.get_by_label("STEP file", exact=True).set_input_files(cut)
    expect(page.get_by_role("alert")).to_contain_text("cut off")
    expect(page.get_by_role("alert")).to_contain_text("The part stays as it was.")
    page.get_by_label("STEP file", exact=True).set_input_files(PARTS / "two-blocks.step")
    expect(page.get_by_role("alert")).to_contain_text("holds 2 solids")
    page.get_by_role("button", name=re.compile("^Solid 2: 20")).click()
    expect(page.get_by_text("From two-blocks.step")).to_be_visible()
    expect(page.get_by_text("done 20 × 30 × 10")).to_be_visible()


def test_a_part_that_lies_askew_is_laid_straight(sign_in):
    planner = sign_in("planner")
    planner.api("POST", "/jobs", number="A-1", title="Bracket")
    page = planner.page
    page.goto("/jobs/A-1/part")
    page.get_by_label("STEP file", exact=True).set_input_files(PARTS / "askew-bracket.step")
    expect(page.get_by_text("Turned by 17° from how its file has it")).to_be_visible()
    expect(page.get_by_text("done 96 × 60 × 24")).to_be_visible()
    found = page.get_by_role("table").filter(has_text="Reached from")
    for row in ("2 × Counterbore", "Window", "Slanted face", "1 × 45°", "top, right, left, back"):
        expect(found).to_contain_text(row)
    page.get_by_role("button", name="Leave it as in the file").click()
    expect(page.get_by_text("Turned by 17°")).to_be_hidden()
    turned = re.compile(r"done 109\.3\d* × 85\.4\d* × 24")  # 96·cos 17° + 60·sin 17°, and so on
    expect(page.get_by_text(turned)).to_be_visible()


def test_a_size_says_what_it_is_measured_from_and_edges_what_becomes_of_them(sign_in):
    planner = sign_in("planner")
    plan, page = copy_of_demo(planner, "E-1"), planner.page
    page.goto("/jobs/E-1/part")

    def choose(label: str, option: str) -> None:
        page.get_by_label(label).click()
        page.get_by_role("option", name=option, exact=True).click()

    choose("Measured from a face or hole is: one more size", "Pin holes 6 H7")
    choose("from: which?", "the right face")
    expect(page.get_by_text("Pin holes 6 H7 from the right face")).to_be_visible()
    adds_up = page.get_by_role("region", name="What adds up")
    adds_up.get_by_role("button", name="of 3 things").click()
    expect(adds_up.get_by_text("the next part against the stop in setup 2")).to_be_visible()
    expect(adds_up.get_by_role("img", name="how it adds up")).to_be_visible()
    choose("Edges nobody breaks are: what the shop does", "broken on the machine")
    expect(page.get_by_role("group", name="size.edges")).to_be_visible()
    choose("Sharp stay those of: no place", "pocket 18 deep")
    expect(page.get_by_role("button", name="pocket 18 deep need not stay sharp")).to_be_visible()
    part = planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()["plan"]["part"]
    assert part["edges"] == "machine" and len(part["sharp"]) == 1
    assert [row["id"] for row in part["requirements"] if row["datum"]] == ["pins", "place"]


def test_a_block_with_typed_features(sign_in):
    planner = sign_in("planner")
    planner.api("POST", "/jobs", number="B-1", title="Block")
    page = planner.page
    page.goto("/jobs/B-1/part")
    page.get_by_label("Z", exact=True).fill("1 in")
    page.get_by_label("Z", exact=True).press("Enter")
    expect(page.get_by_text("done 100 × 60 × 25.4")).to_be_visible()
    page.get_by_role("button", name="Add a hole").click()
    page.get_by_label("diameter").fill("#7")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("cell", name="Through hole")).to_be_visible()
    expect(page.get_by_text("Ø 5.105")).to_be_visible()
    page.get_by_role("button", name="Add a pocket").click()
    page.get_by_label("depth").fill("deep")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("depth: “deep” is not understood")
    page.get_by_label("depth").fill("6")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("cell", name="Pocket", exact=True)).to_be_visible()


def test_a_tool_is_changed_and_what_stands_on_it_is_protected(sign_in):
    page = sign_in("planner").page
    page.goto("/library/assemblies/reamer-10")
    expect(page.get_by_role("img", name=re.compile("reamer 10 H7 in"))).to_be_visible()
    page.get_by_label("Stick out").fill("2.5 in")
    page.get_by_label("Stick out").press("Enter")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_label("Stick out")).to_have_value("63.5")
    page.goto("/library/machines/heron")
    expect(page.get_by_text("Used by")).to_be_visible()
    page.get_by_role("button", name="Remove from the library").click()
    expect(page.get_by_role("alert")).to_contain_text("it can't be removed")
    page.goto("/library/tools/end-mill-6-z3")
    page.get_by_label("Flute length").fill("99")
    page.get_by_label("Flute length").press("Enter")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("it must be up to the overall length, 57")
    expect(page.get_by_label("Flute length")).to_have_value("99")


def test_a_table_of_tools_is_looked_at_and_taken_whole(sign_in):
    planner = sign_in("planner")
    page = planner.page
    page.goto("/library/tools")
    choose = page.get_by_label("Table of tools")
    bad = b"key,DC,on_hand\nreamer-10,10,4\ndrill-8-5,-1,6\n"
    choose.set_input_files({"name": "tools.csv", "mimeType": "text/csv", "buffer": bad})
    seen = page.get_by_role("region", name="What the table would change")
    expect(seen).to_contain_text("1 changed, 0 as they are, 1 wrong")
    expect(seen.get_by_role("button", name="Take them all")).to_be_disabled()
    choose.set_input_files(
        {"name": "tools.csv", "mimeType": "text/csv", "buffer": bad.replace(b",-1,", b",8.5,")}
    )
    expect(seen).to_contain_text("2 changed")
    seen.get_by_role("button", name="Take them all").click()
    expect(page.get_by_text("0 new and 2 changed tools are in the library.")).to_be_visible()
    expect(
        page.get_by_role("row").filter(has_text="reamer 10 H7").get_by_role("cell").nth(7)
    ).to_have_text("4")


def test_the_bench_answers_in_both_units_and_gives_it_to_an_operation(sign_in):
    planner = sign_in("planner")
    page = planner.page
    copy_of_demo(planner, "P-20")
    page.goto("/bench")
    page.get_by_label("What do you want to know?").fill("stall")
    page.get_by_role("link", name=re.compile("^Will this cut stall the spindle")).click()
    for row in STATED:
        if row["name"] in ("milling-load", "chip-thinning", "wear-offset"):
            page.goto(f"/bench/{row['name']}?" + urlencode(row["inputs"]))
            results = page.get_by_role("table", name="Results")
            for value in row["results"].values():
                if isinstance(value, float) and value > 0:
                    expect(results).to_contain_text(f"{value:.4g}")
    page.goto(
        "/bench/milling-speeds?diameter_mm=12&flutes=3&cutting_speed_m_min=350&feed_per_tooth_mm=0.12&for=P-20.a20"
    )
    results = page.get_by_role("table", name="Results")
    expect(results).to_contain_text("9284 rpm")
    diameter = page.get_by_label("Diameter", exact=True)
    diameter.fill("1/2in")
    diameter.press("Enter")
    expect(results).to_contain_text("8772 rpm")
    expect(page).to_have_url(re.compile("diameter_mm=12.7"))
    diameter.fill("-3")
    diameter.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("diameter_mm is -3; it must be over 0.")
    diameter.fill("12")
    diameter.press("Enter")
    page.get_by_role("button", name="Use speed and feed in operation 20").click()
    expect(page.get_by_text("It is in the plan.")).to_be_visible()
    page.get_by_role("link", name="Back to P-20, operation 20").click()
    expect(page.get_by_label("Speed", exact=True)).to_have_value(re.compile("^9284"))


def test_a_plan_goes_out_as_a_file_and_comes_in_again(sign_in, tmp_path):
    planner = sign_in("planner")
    planner.api("POST", "/jobs", number="I-1", title="Taken over")
    page = planner.page
    page.goto("/jobs/TW-118/part")
    with page.expect_download() as going:
        page.get_by_role("link", name="Export the plan").click()
    file = tmp_path / "plan.json"
    going.value.save_as(file)
    page.goto("/jobs/I-1/part")
    page.get_by_label("Plan file").set_input_files(
        {"name": "plan.json", "mimeType": "application/json", "buffer": b"{}"}
    )
    expect(page.get_by_role("alert")).to_contain_text("no plan")
    page.get_by_label("Plan file").set_input_files(file)
    expect(page.get_by_text("From TW-118-B.step")).to_be_visible()
    page.get_by_role("link", name=re.compile("^Setups")).click()
    expect(page.get_by_role("button", name=re.compile("^Finish pocket")).first).to_be_visible()


def test_an_operator_reads_only(sign_in):
    operator = sign_in("operator")
    page = operator.page
    row = page.get_by_role("listitem").filter(has_text="TW-118")
    box = row.get_by_role("link", name="Setup 1").bounding_box()
    assert box is not None
    assert box["height"] >= 48
    row.get_by_role("link", name="Setup 2", exact=True).click()
    expect(page.get_by_role("heading", name="Setup 2 of 2")).to_be_visible()
    page.goto("/jobs")
    expect(page.get_by_role("link", name="TW-118", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("New job"))).to_have_count(0)
    page.goto("/library/tools/reamer-6")
    expect(page.get_by_role("heading", name="reamer 6 H7")).to_be_visible()
    expect(page.get_by_role("button", name="Save")).to_have_count(0)


def test_stops_keep_a_plan_from_its_release(sign_in):
    page = sign_in("approver").page
    page.goto("/jobs/TW-118/release")
    expect(page.get_by_text("1 finding will not work as planned.")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Release 2$"))).to_be_disabled()
    expect(page.get_by_role("article", name="reach.stick-out-short")).to_contain_text(
        "Setup 1, operation 40"
    )
    page.get_by_role("article", name="reach.stick-out-short").get_by_role("link").click()
    page.wait_for_url("**/setups?op=a40")


def values(person, plan: int, name: str) -> dict:
    """Of a finding, as they are shown."""
    for _ in range(100):
        told = person.context.request.get(f"{person.url}/api/plans/{plan}").json()["evaluation"]
        if told:
            return {
                key: shown["value"]
                for key, shown in next(
                    each["values"] for each in told["findings"] if each["key"] == name
                ).items()
            }
        person.page.wait_for_timeout(100)
    raise AssertionError("it was never worked out")


def test_an_old_sheet_says_that_it_is_replaced(sign_in):
    planner, approver, operator = sign_in("planner"), sign_in("approver"), sign_in("operator")
    plan = copy_of_demo(planner, "R-1")
    planner.api(
        "POST",
        f"/plans/{plan}/edits",
        revision=2,
        edits=[{"do": "change", "on": "tool:t6", "fields": {"stick_out_mm": 30}}],
    )
    approver.api(
        "POST",
        f"/plans/{plan}/acceptances",
        finding="cut.power-at-worst-stock@a20",
        note="first blank is measured",
        seen=values(approver, plan, "cut.power-at-worst-stock@a20"),
    )
    answered(planner, plan)
    first = approver.api("POST", f"/plans/{plan}/releases", revision=3)["releases"][0]
    page = approver.page
    page.goto("/jobs/R-1/release")
    expect(page.get_by_text("Nothing has changed since release 1.")).to_be_visible()
    expect(page.get_by_role("link", name="Setup 2", exact=True)).to_be_visible()
    sheet = operator.page
    sheet.goto(f"/s/{first['code']}/1")
    expect(sheet.get_by_role("heading", name="Setup 1 of 2")).to_be_visible()
    expect(sheet.get_by_role("alert")).to_have_count(0)
    planner.api(
        "POST",
        f"/plans/{plan}/edits",
        revision=3,
        edits=[{"do": "change", "on": "operation:a50", "fields": {"passes": 1}}],
    )
    answered(planner, plan)
    approver.api("POST", f"/plans/{plan}/releases", revision=4, note="one pass outside")
    page.reload()
    expect(page.get_by_text("replaced", exact=True)).to_be_visible()
    expect(
        page.get_by_role("complementary")
        .get_by_role("article")
        .first.get_by_role("link", name="Setup 2", exact=True)
    ).to_be_visible()
    sheet.reload()
    expect(sheet.get_by_role("alert")).to_contain_text("Do not work from this sheet.")
    sheet.get_by_role("link", name="Open release 2").click()
    expect(sheet.get_by_text("Release 2").first).to_be_visible()
    expect(sheet.get_by_text("one pass outside")).to_be_visible()
    expect(sheet.get_by_role("alert")).to_have_count(0)


def test_a_machine_is_entered_part_by_part(sign_in):
    """Its spindles, carriers and places: added, filled, refused with the field, taken out again."""
    page = sign_in("administrator").page
    page.goto("/library/machines/new?like=gannet")
    page.get_by_label("Name", exact=True).first.fill("Gannet 2")
    page.get_by_placeholder("short-name-8").fill("gannet-2")
    carriers = page.get_by_role("region", name="Carriers")
    carriers.get_by_role("textbox", name="Drives").nth(1).fill("nobody")
    page.get_by_role("button", name="Save").click()
    told = page.get_by_role("alert")
    expect(told).to_contain_text("'nobody' of lower")
    expect(told).to_contain_text("a spindle that turns the tool: driven, or empty")
    carriers.get_by_role("button", name="Take out lower").click()
    places = page.get_by_role("region", name="Places")
    places.get_by_role("button", name="Add a place: table").click()
    expect(places.get_by_label("Id", exact=True).nth(2)).to_have_value("table")
    places.get_by_role("button", name="Take out table").click()
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("heading", name="Gannet 2")).to_be_visible()
    expect(page.get_by_role("button", name="Take out lower")).to_have_count(0)
    expect(page.get_by_label("Spindle", exact=True).first).to_have_value("main")


def test_the_totals_of_the_rail_open_what_they_are_made_of(sign_in):
    page = sign_in("planner").page
    page.goto("/jobs/TW-118/setups")
    page.get_by_role("button", name="48 off, why").click()
    opened = page.get_by_role("heading", name="48 off")
    expect(opened).to_be_visible()
    expect(page.get_by_text("loading every part")).to_be_visible()
    page.keyboard.press("Escape")
    expect(opened).to_have_count(0)
    page.get_by_role("button", name="Cycle of setup 1, why").click()
    expect(page.get_by_text("range changes and programmed stops")).to_be_visible()
