"""Pictures of the main views from the demo shop: ``python tools/shots.py FOLDER``. Starts a server
of its own.
"""

from __future__ import annotations

import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from dataclasses import replace
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
from machining.data import seed  # noqa: E402
from machining.motion.measured import Values, runs_for  # noqa: E402
from machining.motion.timing import Drive  # noqa: E402
from machining.world.capability import usual_rig  # noqa: E402

DUNLIN = usual_rig(seed().machines["dunlin"])
# a machine that is slower than its record, as its times would tell
TIMED = replace(Values.of(DUNLIN), acceleration_x=800.0, acceleration_y=700.0, change_s=14.0)
ARGUMENTS = [
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-sync",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
]


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _sign_in(page: Page, name: str, password: str) -> None:
    page.context.clear_cookies()
    page.goto("/sign-in")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url(re.compile("/(jobs|floor)$"))


PATIENCE_MS = 180_000
BUSY = re.compile(
    r"^(Loading .* …|Reading .* …|Being (looked for|drawn) …|working out …|saving …|trying what"
    r" would mend it …)$"
)


def _rest(page: Page) -> None:
    """Until nothing on the page says that it is under way, and what is drawn has been drawn."""
    page.wait_for_load_state("networkidle")
    while any(each.is_visible() for each in page.get_by_text(BUSY).all()):
        page.wait_for_timeout(100)
    page.wait_for_timeout(1500)


def _views(page: Page, shoot) -> None:
    _sign_in(page, "planner", "plan-the-part")
    page.goto("/jobs/TW-118/part")
    shoot("part")
    page.goto("/jobs/TW-118/setups?setup=s1")
    shoot("setups")
    _held(page, shoot)
    page.goto("/jobs/TW-118/setups?op=a20")
    page.get_by_role("button", name="Iso", exact=True).click()
    page.get_by_role("list", name="What would mend it").first.wait_for()
    page.get_by_role("list", name="What would mend it").first.get_by_role(
        "listitem"
    ).last.scroll_into_view_if_needed()
    page.get_by_role("button", name="Keep it, and say why").first.scroll_into_view_if_needed()
    shoot("worksheet")
    page.get_by_text("Spindle power").locator("xpath=ancestor::div[1]").get_by_role(
        "button", name="why"
    ).click()
    page.get_by_role("button", name="What if?").click()
    page.locator("td").get_by_role("button", name="why").first.click()
    width = page.get_by_label("what if width").first
    width.fill("2.6")
    width.press("Enter")
    shoot("why")
    _cuts(page, shoot)


def _held(page: Page, shoot) -> None:
    """A plate on its pallet, higher than a screen: what holds it and of what that is built."""
    page.goto("/jobs/TW-226/setups?op=v40")
    page.get_by_role("button", name="Hold", exact=True).click()
    page.get_by_label("what holds it").wait_for()
    page.set_viewport_size({"width": 1280, "height": 1240})
    shoot("hold")
    page.goto("/jobs/TW-233/setups?op=r40")
    page.get_by_role("button", name="Hold", exact=True).click()
    page.get_by_role("region", name="Thin places").wait_for()
    page.get_by_role("button", name="Move operation 30 after it").wait_for()
    page.set_viewport_size({"width": 1280, "height": 1100})
    shoot("thin")
    page.set_viewport_size({"width": 1280, "height": 800})


def _begun(page: Page, shoot) -> None:
    """A part without setups: whole plans proposed for it."""
    begun = _copy(page, "TW-312", "Manifold block, from the part alone", of="TW-311")
    none = [{"do": "remove_setup", "setup": "s1"}]
    _send(page, "POST", f"/plans/{begun}/edits", revision=2, edits=none)
    page.goto("/jobs/TW-312/propose")
    page.get_by_role("button", name="Work them out").click()
    page.get_by_role("button", name="Work them out again").wait_for(timeout=150_000)
    shoot("propose")


def _cuts(page: Page, shoot) -> None:
    page.goto("/jobs/TW-520/setups?op=g50")
    page.get_by_role("button", name="What else would do?").click()
    page.get_by_role("group", name="Other ways to cut it").wait_for()
    shoot("lathe")
    page.goto("/bench")
    shoot("bench")
    page.goto("/jobs/TW-204/setups")
    page.get_by_role("button", name="Load", exact=True).click()
    page.get_by_role("button", name="Position 4, G58").wait_for()
    shoot("table")
    page.goto("/jobs/TW-311/setups")
    page.get_by_role("button", name="Load", exact=True).click()
    page.get_by_role("img", name="Tombstone, four faces from above").wait_for()
    shoot("tombstone")
    page.goto("/jobs/TW-520/order")
    page.get_by_role("button", name="Take this order").wait_for()
    page.get_by_role("list", name="Operations as they come").get_by_role("button").nth(5).click()
    shoot("order")
    page.goto("/jobs/TW-118/time")
    for state in ("visible", "hidden"):  # all of it is tried
        page.get_by_role("button", name="Stop").wait_for(state=state)
    shoot("time")
    _compared(page, shoot)
    page.goto("/library/machines/dunlin/times")
    for k, run in enumerate(runs_for(DUNLIN), 1):
        seconds = run.seconds(TIMED, Drive.of(DUNLIN)) + 0.3 * (-1) ** k
        page.get_by_label(f"Run {k} by the watch").fill(f"{seconds:.1f}")
        page.keyboard.press("Enter")
    page.get_by_role("button", name="into its record").wait_for()
    shoot("machine")
    page.goto("/jobs")  # by now most of them were worked out
    shoot("jobs")


def _send(page: Page, method: str, path: str, **body: object) -> dict:
    token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
    answer = page.request.fetch(
        f"/api{path}",
        method=method,
        data=body or None,
        headers={"X-CSRFToken": token, "Referer": page.url},
    )
    if not answer.ok:
        raise RuntimeError(answer.text())
    return answer.json()


def _copy(page: Page, number: str, title: str, of: str = "TW-118") -> int:
    """A job with a copy of a plan of the demo; the number of its plan."""
    plan = int(_send(page, "POST", "/jobs", number=number, title=title)["plan"])
    source = _send(page, "GET", f"/jobs/{of}")["plan"]
    token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
    file = {
        "name": "plan.json",
        "mimeType": "application/json",
        "buffer": page.request.get(f"/api/plans/{source}/export.json").body(),
    }
    page.request.post(
        f"/api/plans/{plan}/import?revision=1",
        headers={"X-CSRFToken": token, "Referer": page.url},
        multipart={"file": file},
    )
    return plan


def _compared(page: Page, shoot) -> None:
    """A plan and the same on another machine."""
    first = _copy(page, "TW-124", "Clamp block, two ways")
    made = _send(page, "POST", f"/plans/{first}/copies", name="On Curlew", machine="curlew")
    page.goto(f"/jobs/TW-124/of/{made['plan']}/compare")
    page.get_by_role("list", name="Differences").wait_for()
    shoot("compare")


def _release(page: Page, shoot) -> None:
    """What stands against a release; a sheet with a change of clamps."""
    plan = _copy(page, "TW-227", "Vane foot plate, tight", of="TW-226")
    held = _send(page, "GET", f"/plans/{plan}")["plan"]["setups"][0]["stations"][0]["holding"]
    tight = [{**each, "torque_nm": 8.0} for each in held["clamps"]]
    change = {"do": "change", "on": "station:st1", "fields": {"holding.clamps": tight}}
    _send(page, "POST", f"/plans/{plan}/edits", revision=2, edits=[change])
    _sign_in(page, "approver", "read-it-twice")
    page.goto("/jobs/TW-227/release")
    page.get_by_role("button", name="Release 1").click()
    page.locator('a[href^="/s/"]', has_text="Setup 1").first.click()
    shoot("sheet", full=True)
    page.goto("/jobs/TW-118/release")
    shoot("release")


def main() -> int:
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as home:
        port = _free_port()
        url = f"http://127.0.0.1:{port}"
        env = {
            **os.environ,
            "FABROTAX_HOME": home,
            "FABROTAX_URL": url,
            "PORT": str(port),
            "FABROTAX_QUIET": "1",
        }
        for command in (["migrate", "-v0"], ["load_demo"]):
            subprocess.run([sys.executable, "manage.py", *command], cwd=ROOT, env=env, check=True)
        server = subprocess.Popen(
            [sys.executable, "tools/serve.py"], cwd=ROOT, env=env, start_new_session=True
        )
        try:
            while True:
                try:
                    urllib.request.urlopen(f"{url}/api/session", timeout=1)
                    break
                except OSError:
                    time.sleep(0.2)
            root = ["--no-sandbox"] if os.geteuid() == 0 else []
            with sync_playwright() as play:
                browser = play.chromium.launch(
                    executable_path=shutil.which("chromium"), args=[*ARGUMENTS, *root]
                )
                page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=url)
                page.set_default_timeout(PATIENCE_MS)

                def shoot(name: str, full: bool = False) -> None:
                    _rest(page)
                    page.screenshot(path=folder / f"{name}.png", full_page=full)

                _views(page, shoot)
                _begun(page, shoot)
                _release(page, shoot)
                _sign_in(page, "operator", "gloves-are-on")
                shoot("floor")
                browser.close()
        finally:
            server.send_signal(signal.SIGTERM)
            server.wait(20)
    return 0


if __name__ == "__main__":
    sys.exit(main())
