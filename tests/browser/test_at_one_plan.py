"""Several people at one plan, a line that breaks, answers and drawings that come late."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from .test_workspace import open_plan, until


def test_the_rest_of_an_answer_says_that_it_waits(sign_in):
    """An edit's answer comes with its operation alone; the rest is held up until it was seen."""
    planner = sign_in("planner")
    plan = open_plan(planner, "K-8")
    page, held, let_go = planner.page, [], []
    told = planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()["evaluation"]
    told["working"] = True
    for op in [op for setup in told["setups"] for op in setup["operations"]][2:]:
        op["answers"] = {name: {"state": "working", "reason": ""} for name in op["answers"]}

    def at_first(route) -> None:
        got = route.fetch()
        route.fulfill(response=got, json=got.json() | {"evaluation": told})

    def hold(route) -> None:
        if let_go:
            route.continue_()
        else:
            held.append(route)

    page.goto("/jobs/K-8/setups?op=a20")
    field = page.get_by_label("Leave", exact=True)
    expect(field).to_be_visible()
    page.route("**/edits", at_first)
    page.route(f"**/api/plans/{plan}", hold)
    field.fill("0.4")
    field.press("Enter")
    working = page.get_by_role("region", name="Operations").get_by_text("working out …")
    expect(working).to_be_visible()
    waits = page.get_by_role("img", name="Cut: working")
    expect(waits).to_have_count(page.locator("[aria-label^='drag operation']").count() - 2)
    expect(page.get_by_text(re.compile(r"\d+ being worked out"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^Finish pocket")).first.click()
    expect(page.get_by_text("Being worked out; what stands here is")).to_be_visible()
    until(page, lambda: bool(held))
    let_go.append(True)
    for route in held:
        route.continue_()
    expect(waits).to_have_count(0)
    expect(working).to_have_count(0)


def test_two_people_at_one_plan(sign_in):
    first, second = sign_in("planner"), sign_in("approver")
    plan = open_plan(first, "C-1")
    second.page.goto("/jobs/C-1/setups?op=a20")
    step = second.page.get_by_label("Step over", exact=True)
    expect(step).to_be_visible()
    first.api(
        "POST",
        f"/plans/{plan}/edits",
        revision=2,
        edits=[{"do": "change", "on": "operation:a20", "fields": {"step_over_mm": 1.0}}],
    )
    step.fill("0.9")
    step.press("Enter")
    bar = second.page.get_by_role("alert").filter(has_text="planner changed this plan meanwhile")
    expect(bar).to_contain_text("Both of you touched the same place")
    expect(bar).to_contain_text("operation 20: step over mm 0.9")
    second.page.get_by_role("button", name="Take theirs, keep a copy of mine").click()
    expect(step).to_have_value("1")
    second.page.get_by_role("button", name="Apply it now").click()
    expect(step).to_have_value("0.9")
    # while it is worked out the page asks again, and would see what comes next
    expect(second.page.get_by_text("working out …")).to_have_count(0)
    first.api(
        "POST",
        f"/plans/{plan}/edits",
        revision=4,
        edits=[{"do": "change", "on": "operation:a20", "fields": {"leave_mm": 0.4}}],
    )
    step.fill("1.1")
    step.press("Enter")
    expect(second.page.get_by_text("It touches nothing they changed")).to_be_visible()
    second.page.get_by_role("button", name="Put mine on top").click()
    expect(step).to_have_value("1.1")
    expect(second.page.get_by_label("Leave", exact=True)).to_have_value("0.4")


def test_without_a_line_nothing_is_lost(sign_in):
    planner = sign_in("planner")
    open_plan(planner, "O-1")
    page = planner.page
    page.get_by_role("button", name=re.compile("^Finish pocket")).first.click()
    box = page.get_by_label("Stick-out", exact=True)
    expect(box).to_be_visible()
    planner.context.set_offline(True)
    box.fill("24")
    box.press("Enter")
    expect(
        page.get_by_role("alert").filter(has_text="The server does not answer. 1 change waits here")
    ).to_be_visible()
    planner.context.set_offline(False)
    expect(page.get_by_role("alert").filter(has_text="does not answer")).to_have_count(0)
    expect(page.get_by_role("group", name="reach.stick-out-short")).to_have_count(0)
    planner.troubles.clear()


def test_a_solid_that_is_still_being_worked_out_is_asked_for_again(sign_in):
    planner = sign_in("planner")
    page, answers = planner.page, []

    def busy_twice(route):
        if len(answers) < 2:
            route.fulfill(status=503, json={"sentence": "Ask again.", "problems": []})
        else:
            route.continue_()

    page.on("response", lambda got: answers.append(got.status) if ".glb" in got.url else None)
    page.route("**/stock/*.glb", busy_twice)
    page.goto("/jobs/TW-118/setups?op=a40")
    until(page, lambda: answers[-1:] == [200])
    assert answers[:3] == [503, 503, 200]


def test_what_could_not_be_read_is_told_over_the_page(sign_in):
    """The library does not come: nothing stays empty without a word, and asking again mends it."""
    page = sign_in("planner").page
    refused = '{"sentence": "It is being moved.", "problems": []}'

    def full(route) -> None:
        route.fulfill(status=409, content_type="application/json", body=refused)

    page.route("**/api/library", full)
    page.goto("/jobs")
    told = page.get_by_role("alert").filter(has_text="could not be read")
    expect(told).to_contain_text("It is being moved.")
    # all that asks for it stands: nothing asks again by itself
    expect(page.get_by_role("link", name="TW-118", exact=True).first).to_be_visible()
    page.unroute("**/api/library")
    told.get_by_role("button", name="Ask again").click()
    expect(told).to_have_count(0)
    page.goto("/library/machines")
    expect(page.get_by_text("Heron").first).to_be_visible()
