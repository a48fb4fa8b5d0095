"""The Setups place by keyboard and mouse, in both units, with others at the same plan, without a
line.
"""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from .conftest import copy_of_demo


def open_plan(person, number: str):
    plan = copy_of_demo(person, number)
    person.page.goto(f"/jobs/{number}/setups")
    expect(person.page.get_by_role("button", name=re.compile("^Face top")).first).to_be_visible()
    return plan


def until(page, holds) -> None:
    """Wait for what the server is told by a key or a drag, however busy the machine is."""
    for _ in range(1800):
        if holds():
            return
        page.wait_for_timeout(100)
    raise AssertionError("it never came to hold")


def order(person, plan: int) -> list[str]:
    got = person.context.request.get(f"{person.url}/api/plans/{plan}").json()
    return [op["id"] for op in got["plan"]["setups"][0]["operations"]]


def test_by_keyboard_alone(sign_in):
    planner = sign_in("planner")
    plan = open_plan(planner, "K-1")
    page = planner.page
    page.keyboard.press(".")  # the first finding, at operation 20
    expect(page).to_have_url(re.compile("op=a20"))
    page.keyboard.press(".")
    expect(page).to_have_url(re.compile("op=a40"))
    expect(page.get_by_role("group", name="reach.stick-out-short")).to_be_visible()
    page.keyboard.press("]")
    expect(page).to_have_url(re.compile("op=a50"))
    page.keyboard.press("Alt+ArrowUp")
    until(page, lambda: order(planner, plan)[3:5] == ["a50", "a40"])
    page.keyboard.press("Control+z")
    until(page, lambda: order(planner, plan)[3:5] == ["a40", "a50"])
    page.keyboard.press("Control+Shift+z")
    until(page, lambda: order(planner, plan)[3:5] == ["a50", "a40"])
    page.reload()
    expect(page.get_by_role("button", name=re.compile("^Face top")).first).to_be_visible()
    expect(page).to_have_url(re.compile("op=a50"))  # what is selected survives
    page.keyboard.press("Control+z")  # and so does undo
    until(page, lambda: order(planner, plan)[3:5] == ["a40", "a50"])
    page.keyboard.press("d")
    until(page, lambda: len(order(planner, plan)) == 11)
    page.keyboard.press("Delete")
    until(page, lambda: "a50" not in order(planner, plan))


def test_one_question_is_asked_of_all(sign_in):
    planner = sign_in("planner")
    open_plan(planner, "K-2")
    page = planner.page
    page.keyboard.press("2")
    expect(page.get_by_text("Asking: Reach")).to_be_visible()
    expect(page.get_by_text("With the blank sawn")).to_have_count(0)
    page.keyboard.press("2")
    expect(page.get_by_text("With the blank sawn")).to_be_visible()


def test_dragging_reorders(sign_in):
    planner = sign_in("planner")
    plan = open_plan(planner, "K-3")
    page = planner.page
    source, target = (
        page.get_by_label("drag operation 60").first,
        page.get_by_label("drag operation 50").first,
    )
    source.hover()
    page.mouse.down()
    there = target.bounding_box()
    assert there is not None
    page.mouse.move(there["x"] + 5, there["y"] + 20, steps=4)
    page.mouse.move(there["x"] + 5, there["y"] + 2, steps=8)
    page.wait_for_timeout(150)
    page.mouse.up()
    until(page, lambda: order(planner, plan)[4:6] == ["a60", "a50"])


def test_a_value_is_typed_understood_refused_and_kept(sign_in):
    planner = sign_in("planner")
    open_plan(planner, "K-4")
    page = planner.page
    page.get_by_role("button", name=re.compile("^Finish pocket")).first.click()
    box = page.get_by_label("Stick-out", exact=True)
    box.fill("1-1/8 in")
    expect(page.get_by_text("understood as 28.575 mm")).to_be_visible()
    box.press("Enter")
    expect(page.get_by_role("group", name="reach.stick-out-short")).to_have_count(0)
    expect(box).to_have_value("28.575")
    box.fill("banana")
    box.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="“banana” is not understood")).to_be_visible()
    expect(box).to_have_value("banana")
    box.press("Escape")
    expect(box).to_have_value("28.575")
    box.fill("-4")
    box.press("Enter")
    expect(
        page.get_by_role("alert").filter(has_text="it must be at least 0.001").first
    ).to_be_visible()
    expect(box).to_have_value("-4")


def test_both_units_say_the_same(sign_in):
    planner = sign_in("planner")
    open_plan(planner, "K-5")
    page = planner.page
    page.get_by_role("button", name=re.compile("^Finish pocket")).first.click()
    expect(page.get_by_label("Stick-out", exact=True)).to_have_value("18")
    page.get_by_role("button", name="in", exact=True).click()
    expect(page.get_by_label("Stick-out", exact=True)).to_have_value("0.70866")
    expect(page.get_by_role("group", name="reach.stick-out-short")).to_contain_text(
        "T6 stands out 0.709 in and needs 0.787 in"
    )
    page.get_by_label("Stick-out", exact=True).fill("1")
    page.get_by_label("Stick-out", exact=True).press("Enter")
    expect(page.get_by_role("group", name="reach.stick-out-short")).to_have_count(0)
    page.get_by_role("button", name="mm", exact=True).click()
    expect(page.get_by_label("Stick-out", exact=True)).to_have_value("25.4")


def test_why_opens_down_to_what_was_given(sign_in):
    planner = sign_in("planner")
    open_plan(planner, "K-6")
    page = planner.page
    page.get_by_role("button", name=re.compile("^Rough outside")).first.click()
    row = page.locator("div.grid").filter(has=page.get_by_text("Spindle power", exact=True)).last
    row.get_by_role("button", name="why").click()
    expect(page.get_by_text("Pm = Pc/η").first).to_be_visible()
    page.locator("table").get_by_role("button", name="why").first.click()
    expect(page.get_by_text("Pc = ap·ae·vf·kc/(60·10⁶)").first).to_be_visible()
    expect(page.get_by_text("Source: Altintas", exact=False).first).to_be_visible()
    page.get_by_role("button", name="What if?").click()
    width = page.get_by_label("what if width").first
    width.fill("3")
    width.press("Enter")
    expect(page.get_by_text(re.compile(r"^would be \d")).first).to_be_visible()
    expect(page.get_by_text(re.compile("10 % more: ")).first).to_be_visible()
    expect(page.get_by_text("Draft 2")).to_be_visible()  # the plan is as it was


def test_a_small_machine_stalls_and_the_search_knows_a_cut_that_does_not(sign_in):
    planner = sign_in("planner")
    plan = open_plan(planner, "K-13")
    page = planner.page
    page.get_by_role("button", name=re.compile("^Setup 1")).click()
    page.get_by_role("button", name=re.compile("^Machine: ")).last.click()
    page.get_by_role("option", name="Dunlin", exact=True).click()

    def planned() -> dict:
        got = planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()
        return got["plan"]["setups"][0]

    until(page, lambda: planned()["machine"] == "dunlin")
    page.goto("/jobs/K-13/setups?setup=s1&op=a20")
    page.get_by_role("button", name=re.compile("^Tool: ")).click()
    page.get_by_role("option", name=re.compile("^end mill 12 z3")).click()
    stalls = page.get_by_role("group", name=re.compile(r"^cut\.(power|torque)"))
    expect(stalls).to_contain_text("Will not work.")
    rail = page.get_by_role("button", name=re.compile("^Operation 20 ")).first.get_attribute(
        "aria-label"
    )
    page.get_by_role("button", name="What else would do?").click()
    ways = page.get_by_role("group", name="Other ways to cut it")
    expect(
        ways.get_by_role("columnheader", name=re.compile("full depth, light width"))
    ).to_be_visible()
    expect(ways.get_by_role("columnheader", name=re.compile("shallow, wide"))).to_be_visible()
    ways.get_by_role("button", name="Take it").first.click()
    expect(stalls).to_have_count(0)

    def answered() -> dict | None:
        got = planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()
        return got["evaluation"]  # none while it is worked out

    until(page, lambda: answered() is not None)
    got = answered() or {}
    op = got["setups"][0]["operations"][1]
    assert got["figures"]["a20.worst_power"][0] <= 0.86 * got["figures"]["a20.power_limit"][0]
    assert (
        page.get_by_role("button", name=re.compile("^Operation 20 ")).first.get_attribute(
            "aria-label"
        )
        != rail
    )
    assert op["answers"]["cut"]["state"] != "stop"


def test_bar_work_is_held_in_a_chuck_and_turned(sign_in):
    """The relief that a grooving tool clears is turned first; too light a grip lets the drill slip;
    a contour is typed by its corners.
    """
    planner = sign_in("planner")
    plan, page = copy_of_demo(planner, "K-20", "TW-520"), planner.page
    page.goto("/jobs/K-20/setups?op=g50")
    expect(page.get_by_role("group", name="cut.groove-as-rougher")).to_be_visible()
    page.get_by_role("button", name="What else would do?").click()
    ways = page.get_by_role("group", name="Other ways to cut it")
    expect(ways.get_by_role("row")).to_have_count(4)
    ways.get_by_role("button", name="Take: turned first, the rest grooved").click()
    expect(page.get_by_role("group", name="cut.groove-as-rougher")).to_have_count(0)
    until(page, lambda: order(planner, plan)[4:6] == ["g50turn", "g50"])
    page.get_by_role("button", name="Setup 1").first.click()
    expect(page.get_by_text("X on the spindle’s axis", exact=True)).to_be_visible()
    force = page.get_by_label("Each jaw")
    force.fill("8 kN")
    force.press("Enter")
    expect(page.get_by_text("The jaws stand").first).to_be_visible()
    page.get_by_role("button", name=re.compile("^Rough turn")).first.click()
    contour = page.get_by_label("Contour Z, Ø; …")
    contour.fill("0, 30; 5, 30")
    contour.press("Enter")
    expect(page.get_by_text("a contour runs towards the chuck").first).to_be_visible()
    contour.fill("0, 30; -34, 30; -36, 48; -46, 48")
    contour.press("Enter")
    until(
        page,
        lambda: (
            planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()["plan"]["setups"][
                0
            ]["operations"][2]["on"]["at_mm"][2]
            == [-36, 48]
        ),
    )
    page.get_by_label("Speed", exact=True).fill("500 ft/min")
    page.get_by_label("Speed", exact=True).press("Enter")
    expect(page.get_by_label("Speed", exact=True)).to_have_value("152.4")


def add(page: Page, label: str) -> None:
    """Take what the adder offers, by key: an answer can move it between press and release of a
    mouse.
    """
    adder = page.get_by_role("group", name="Add an operation")
    expect(page.get_by_text("working out …")).to_have_count(0)
    page.keyboard.press("a")
    adder.get_by_role("button", name=re.compile(f"^{label}")).first.press("Enter")
    expect(adder).to_be_hidden()


def test_odd_jobs_are_offered_typed_and_worked_out(sign_in):
    """A text to engrave, by depth and by width; an undercut pass by pass; other ways to
    a finish.
    """
    planner = sign_in("planner")
    plan = open_plan(planner, "K-14")
    page = planner.page
    page.get_by_role("button", name=re.compile("^Setup 1")).click()
    add(page, "Engrave a text")
    page.get_by_label("Text", exact=True).fill("tw-118 b")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Engrave TW-118 B")).to_be_visible()
    expect(page.get_by_text("Cuts at Ø")).to_be_visible()
    page.get_by_label("or width").fill("0.5")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Tip down")).to_be_visible()  # the depth follows now
    page.get_by_label("Text", exact=True).fill("größer")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="letters A to Z").first).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_label("Text", exact=True).blur()
    add(page, "Undercut")
    passes = page.locator("table", has=page.get_by_role("columnheader", name="Edge in cut"))
    expect(passes.locator("tbody tr")).to_have_count(3)
    page.get_by_role("button", name="Each pass takes: the same load").click()
    page.get_by_role("option", name="the same step").click()
    worse = page.get_by_role("group", name="cut.angled-load-grows")
    expect(worse).to_contain_text("In 3 equal steps the last takes ×5.0")
    worse.get_by_role("button", name="Take the same load in each").click()
    expect(worse).to_be_hidden()
    page.get_by_role("button", name=re.compile("^Finish outside")).first.click()
    page.get_by_role("button", name="What else would do?").click()
    ways = page.get_by_role("group", name="Other ways to cut it")
    expect(ways.get_by_role("row")).to_have_count(9)
    ways.get_by_role("button", name="Take: a thinner chip").click()
    expect(page.get_by_label("Feed", exact=True)).to_have_value(re.compile(r"^30\d0$"))
    kinds = [
        op["kind"]
        for op in planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()["plan"][
            "setups"
        ][0]["operations"]
    ]
    assert kinds[-2:] == ["engrave", "undercut"]


def test_the_palette_finds_and_goes(sign_in):
    planner = sign_in("planner")
    open_plan(planner, "P-1")
    page = planner.page
    page.keyboard.press("Control+k")
    page.get_by_role("combobox").fill("ream")
    page.get_by_role("option", name=re.compile("70 Ream")).click()
    expect(page).to_have_url(re.compile("op=b70"))
    page.keyboard.press("?")
    expect(page.get_by_role("heading", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name="Keys")).to_have_count(0)


def test_setups_turn_over_and_take_another_zero(sign_in):
    planner = sign_in("planner")
    plan = open_plan(planner, "S-1")
    page = planner.page
    page.get_by_role("button", name="Setup 2", exact=True).click()
    page.get_by_role("button", name="about Y").click()
    expect(page.get_by_text("Top up, 100 vise, soft jaws")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_text("Bottom up, 100 vise, soft jaws")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Work offset:")).click()
    page.get_by_role("option", name="G56").click()
    page.get_by_role("button", name=re.compile("^X:")).click()
    page.get_by_role("option", name="left end of the finished part").click()
    page.get_by_role("button", name="Where else could it be?").click()
    ways = page.get_by_role("listitem").filter(has=page.get_by_role("button", name="take it"))
    expect(ways.filter(has_text="Setups 1 and 2 in one load")).to_contain_text("1 setup to build")
    corner = ways.filter(has_text="A corner of the blank")
    expect(corner).to_contain_text("edge finder")
    corner.get_by_role("button", name="take it").click()
    expect(page.get_by_role("button", name=re.compile("^X: left end of the blank"))).to_be_visible()
    page.keyboard.press("Control+z")

    def head() -> dict:
        return planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()

    until(
        page,
        lambda: (
            (
                head()["plan"]["setups"][1]["stations"][0]["work_offset"],
                head()["plan"]["setups"][1]["stations"][0]["zero"]["x"]["at"],
            )
            == ("G56", "low")
        ),
    )
    until(page, lambda: head()["evaluation"])
    got = head()
    assert got["evaluation"]["setups"][1]["stations"][0]["zero"][0]["text"].startswith("X left end")


def test_the_drawing_shows_views_and_the_tool(sign_in):
    planner = sign_in("planner")
    page = planner.page
    page.goto("/jobs/TW-118/setups?op=a40")
    expect(page.get_by_text("G54 Z")).to_be_visible()
    expect(page.get_by_text("fixed jaw")).to_be_visible()
    expect(page.get_by_text("2.0 mm short")).to_be_visible()
    for view in ("Above", "Front", "Side", "Iso"):
        page.get_by_role("button", name=view, exact=True).click()
        expect(page.get_by_role("button", name=view, exact=True)).to_have_attribute(
            "aria-pressed", "true"
        )
    assert page.locator("canvas").count() == 1
    page.keyboard.press("a")  # keys still work after the mouse was on a view
    expect(page.get_by_role("group", name="Add an operation")).to_be_in_viewport()


def test_a_place_on_the_way_is_shown_in_the_drawing(sign_in):
    page = sign_in("planner").page
    page.goto("/jobs/TW-118/setups?op=a30")
    strip = page.get_by_role("img", name=re.compile("^Power along its way"))
    expect(strip).to_have_accessible_name(re.compile("Enter shows its peak"))
    strip.focus()
    page.keyboard.press("Enter")
    expect(strip).to_have_accessible_name(re.compile("kW in the drawing"))
    page.keyboard.press("Escape")
    expect(strip).to_have_accessible_name(re.compile("Enter shows its peak"))
