"""Flats round a hub: what one of them is given, all get; until one is changed alone, and turned on
by an angle.
"""

from __future__ import annotations

from playwright.sync_api import expect

from .conftest import copy_of_demo
from .test_workspace import until


def test_flats_are_changed_together_and_one_alone(sign_in):
    planner = sign_in("planner")
    plan, page = copy_of_demo(planner, "HB-1", of="TW-402"), planner.page

    def flats() -> list[dict]:
        head = planner.context.request.get(f"{planner.url}/api/plans/{plan}").json()
        return [
            op for op in head["plan"]["setups"][0]["operations"] if op["kind"] == "rough_pocket"
        ]

    def steps() -> list[float]:
        return [op["step_down_mm"] for op in flats()]

    page.goto("/jobs/HB-1/setups?setup=s1&op=h50")
    expect(page.get_by_text("Changed together with operations 60, 70")).to_be_visible()
    down = page.get_by_label("Step down", exact=True)
    down.fill("0.9")
    down.press("Enter")
    until(page, lambda: steps() == [0.9] * 3)
    page.get_by_role("button", name="Change it alone").click()
    expect(page.get_by_text("Changed together")).to_have_count(0)
    down.fill("0.7")
    down.press("Enter")
    until(page, lambda: steps() == [0.7, 0.9, 0.9])
    aside = page.get_by_label("turned on by", exact=True)
    aside.fill("30")
    aside.press("Enter")
    until(page, lambda: flats()[0]["aim"] == "+y 30 z")
    expect(page.get_by_text("can't be seen from here", exact=False).first).to_be_visible()
