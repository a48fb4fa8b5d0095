from tests.browser.conftest import *


def test_look(sign_in):
    planner = sign_in("planner")
    page = planner.page
    page.set_viewport_size({"width": 1280, "height": 800})
    for job in ("TW-402", "TW-311", "TW-455", "TW-204"):
        page.goto(f"/jobs/{job}/setups?setup=s1")
        page.get_by_text("Add an operation").first.wait_for(timeout=60000)
        page.wait_for_timeout(6000)
        page.screenshot(path=f"/tmp/w/{job}.png")
        if job == "TW-455":
            page.get_by_role("button", name="Load", exact=True).click()
            page.wait_for_timeout(4000)
            page.screenshot(path="/tmp/w/load.png")
