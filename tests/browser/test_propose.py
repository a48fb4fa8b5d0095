"""Plans proposed for a part: worked out beside the page, taken, and two of them released."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from .conftest import Person, answered, copy_of_demo


def test_proposals_survive_a_reload_and_two_are_released(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "PP-1", of="TW-311")
    page.goto("/jobs/PP-1/compare")
    page.get_by_role("link", name="Have plans proposed for the part").click()
    asked = page.get_by_role("region", name="What is asked for")
    for machine in ("Gannet", "Petrel", "Plover", "Dunlin"):
        asked.get_by_label(machine, exact=True).uncheck()
    asked.get_by_role("button", name="Work them out").click()
    expect(asked.get_by_role("progressbar", name="How far")).to_be_visible()
    page.reload()
    expect(asked.get_by_role("button", name="Work them out again")).to_be_visible()
    proposals = page.get_by_role("region", name="Proposals").get_by_role("article")
    expect(proposals).to_have_count(2)
    quick, other = proposals.nth(0), proposals.nth(1)
    expect(quick).to_contain_text("Fewest setups, least time")
    expect(quick).to_contain_text("come out with its top up")
    expect(other.get_by_role("listitem").filter(has_text="Heron").first).to_be_visible()

    other.get_by_role("button", name="As another plan").click()
    page.wait_for_url("**/jobs/PP-1/of/**/setups")
    beside = int(page.url.split("/of/")[1].split("/")[0])
    page.goto("/jobs/PP-1/propose")
    quick.get_by_role("button", name="In place of this plan").click()
    page.wait_for_url("**/jobs/PP-1/setups")
    for each in (plan, beside):
        found = answered(planner, each)
        assert found["ready"] and found["left"] == []
    assert answered(planner, plan)["one_part_s"] < answered(planner, beside)["one_part_s"]

    approver = sign_in("approver")
    released(approver, "/jobs/PP-1", 1)
    planner.api("POST", f"/plans/{beside}/choose", note="Curlew is taken")
    released(approver, "/jobs/PP-1", 2)


def released(person: Person, job: str, number: int) -> None:
    page: Page = person.page
    page.goto(f"{job}/release")
    button = page.get_by_role("button", name=f"Release {number}", exact=True)
    expect(button).to_be_visible()
    left = page.get_by_label("Why it may stay as it is")
    while left.count():
        before = left.count()
        left.first.fill("Looked at on the first part.")
        page.get_by_role("button", name="Accept").first.click()
        expect(left).to_have_count(before - 1)
    expect(page.get_by_text("Nothing stands against it")).to_be_visible()
    button.click()
    expect(page.get_by_text("on the floor", exact=True)).to_be_visible()


def test_a_plan_without_setups_begins_with_a_proposal_setup_by_setup(sign_in):
    planner = sign_in("planner")
    page = planner.page
    plan = copy_of_demo(planner, "PP-2", of="TW-455")
    page.goto("/jobs/PP-2/setups")
    gone = [{"do": "remove_setup", "setup": "s1"}]
    planner.api("POST", f"/plans/{plan}/edits", revision=2, edits=gone)
    page.reload()
    page.get_by_role("link", name="Have whole plans proposed").click()
    asked = page.get_by_role("region", name="What is asked for")
    for machine in ("Gannet", "Petrel", "Plover", "Dunlin", "Curlew"):
        asked.get_by_label(machine, exact=True).uncheck()
    asked.get_by_role("button", name="Work them out").click()
    proposal = page.get_by_role("article")
    expect(proposal).to_have_count(1)
    expect(asked.get_by_role("button", name="Work them out again")).to_be_visible()
    page.get_by_role("button", name="Take this setup alone").click()
    expect(asked.get_by_text("the plan was changed since")).to_be_visible()
    expect(asked.get_by_label("what its setups leave")).to_be_visible()
    assert len(planner.api("GET", f"/plans/{plan}")["plan"]["setups"]) == 1


def test_it_can_be_stopped(sign_in):
    planner = sign_in("planner")
    page = planner.page
    copy_of_demo(planner, "PP-3")
    page.goto("/jobs/PP-3/propose")
    page.get_by_role("button", name="Work them out").click()
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("Stopped before anything was proposed.")).to_be_visible()
    expect(page.get_by_role("button", name="Work them out again")).to_be_enabled()
