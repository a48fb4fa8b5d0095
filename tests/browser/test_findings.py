"""A finding is read over its whole width, kept with words, and every page can be read by those who
don't see it.
"""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.at_length import some

from .conftest import copy_of_demo

AXE = (
    Path(__file__).resolve().parent.parent.parent
    / "web"
    / "node_modules"
    / "axe-core"
    / "axe.min.js"
).read_text()
PLANNED = (
    "/jobs",
    "/jobs/TW-118/part",
    "/jobs/TW-118/setups",
    "/jobs/TW-118/setups?op=a40",
    "/jobs/TW-118/release",
    "/library/machines",
    "/library/machines/heron",
    "/library/tools/drill-6-8",
)
OTHERS = (
    "/library/settings",
    "/bench/thread-turning",
    "/bench",
    "/bench/milling-load",
    "/bench/hole-methods",
    "/bench/slope-methods",
    "/first-run",
    "/floor",
    "/library/tools",
    "/jobs/TW-118/setups?op=b30",
    "/library/machines/petrel",
)


def test_a_finding_is_kept_with_words_and_looked_at_again(sign_in):
    planner, approver = sign_in("planner"), sign_in("approver")
    copy_of_demo(planner, "KF-1")
    page = planner.page
    page.goto("/jobs/KF-1/setups?op=a20")
    finding = page.get_by_role("group", name="cut.power-at-worst-stock")
    # fixes that arrive move what stands below them
    expect(finding.get_by_role("list", name="What would mend it")).to_be_visible()
    finding.get_by_role("button", name="Keep it, and say why").click()
    page.keyboard.type("no")
    expect(finding.get_by_role("button", name="Keep it", exact=True)).to_be_disabled()
    page.keyboard.type(" more is left: the saw is new")
    page.keyboard.press("Enter")
    expect(finding).to_contain_text("Kept.")
    expect(finding).to_contain_text("“no more is left: the saw is new”")
    expect(finding.get_by_role("button", name=re.compile("^Step"))).to_have_count(0)
    approver.page.goto("/jobs/KF-1/release")
    expect(approver.page.get_by_text("no more is left: the saw is new")).to_be_visible()
    finding.get_by_role("button", name="Look at it again").click()
    expect(finding).to_contain_text("Look.")


def beside(one, other, at: str, size: str) -> bool:
    return one[at] + one[size] <= other[at] + 0.5 or other[at] + other[size] <= one[at] + 0.5


@pytest.mark.parametrize("width", some((1024, 1280, 2560, 1920), each=2))
def test_five_fixes_are_read_at_every_width(sign_in, width):
    """No word is cut off, none lies over another, the sentence has the width that its
    column has.
    """
    planner = sign_in("planner")
    page = planner.page
    page.set_viewport_size({"width": width, "height": 800})
    page.goto("/jobs/TW-118/setups?op=a20")
    finding = page.get_by_role("group", name="cut.power-at-worst-stock")
    fixes = finding.get_by_role("list", name="What would mend it").get_by_role("listitem")
    expect(fixes).to_have_count(5)
    boxes = [each for each in (fixes.nth(k).bounding_box() for k in range(5)) if each]
    assert len(boxes) == 5
    whole = finding.bounding_box()
    assert whole is not None
    for box in boxes:
        assert whole["x"] <= box["x"] and box["x"] + box["width"] <= whole["x"] + whole["width"] + 1
        assert box["x"] + box["width"] <= width
        for other in boxes:
            assert (
                box is other
                or beside(box, other, "x", "width")
                or beside(box, other, "y", "height")
            ), (box, other)
    cut = fixes.get_by_role("button").evaluate_all(
        "them => them.filter(e => e.scrollWidth > e.clientWidth + 1 || e.scrollHeight >"
        " e.clientHeight + 1).map(e => e.innerText)"
    )
    assert cut == []
    sentence = finding.locator("p").first.bounding_box()
    assert sentence is not None
    assert sentence["width"] >= 0.9 * (whole["width"] - 30)


def told(page) -> list[str]:
    page.evaluate(AXE)
    found = page.evaluate(
        "axe.run(document, {runOnly: {type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a',"
        " 'wcag21aa', 'wcag22aa', 'best-practice']}})"
    )
    return [
        f"{each['id']}: {[node['html'][:120] for node in each['nodes'][:3]]}"
        for each in found["violations"]
    ]


def out_of_frame(page) -> list:
    """What scrolls sideways, and the page itself where it scrolls at all: what is long scrolls
    inside its own frame.
    """
    of_page = page.evaluate(
        "[document.scrollingElement].filter(e => e.scrollWidth > innerWidth || e.scrollHeight >"
        " innerHeight).map(e => [e.scrollWidth, e.scrollHeight])"
    )
    return of_page + page.evaluate(
        "[...document.querySelectorAll('section, main, aside')].filter(e => e.scrollWidth >"
        " e.clientWidth + 1 && getComputedStyle(e).overflowX !== 'visible').map(e =>"
        " [e.className, e.scrollWidth, e.clientWidth])"
    )


def test_every_main_page_is_read_without_being_seen_and_stays_in_its_frame(sign_in):
    planner = sign_in("planner")
    for place in (*PLANNED, *some(OTHERS, each=2)):
        planner.page.goto(place)
        planner.page.wait_for_load_state("networkidle")
        planner.page.locator("h1, h2").first.wait_for()
        assert told(planner.page) == [], place
        assert out_of_frame(planner.page) == [], place


def test_the_pages_of_approvers_and_the_floor_too(sign_in):
    approver, operator = sign_in("approver"), sign_in("operator")
    for person, place in (
        (approver, "/record"),
        (approver, "/jobs/TW-118/release"),
        (operator, "/floor"),
    ):
        person.page.goto(place)
        person.page.wait_for_load_state("networkidle")
        assert told(person.page) == [], place
    operator.page.get_by_role("listitem").filter(has_text="TW-118").get_by_role(
        "link", name="Setup 1"
    ).click()
    expect(operator.page.get_by_role("heading", name="Setup 1 of 2")).to_be_visible()
    assert told(operator.page) == []
