"""Pictures of the main views from the demo shop: ``python tools/shots.py FOLDER``. Starts a server of its own."""

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
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
ARGUMENTS = ["--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-sync", "--use-angle=swiftshader", "--enable-unsafe-swiftshader"]


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _enter(page: Page, name: str, password: str) -> None:
    page.goto("/sign-in")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url(re.compile("/(jobs|floor)$"))


def _views(page: Page, shoot) -> None:
    _enter(page, "planner", "plan-the-part")
    page.wait_for_timeout(600)
    shoot("jobs")
    page.goto("/jobs/TW-118/part")
    page.wait_for_timeout(3500)
    shoot("part")
    page.goto("/jobs/TW-118/setups?setup=s1")
    page.wait_for_timeout(4000)
    shoot("setups")
    page.goto("/jobs/TW-118/setups?op=a40")
    page.wait_for_timeout(3500)
    shoot("worksheet")
    page.goto("/jobs/TW-118/setups?op=a20")
    page.wait_for_timeout(2500)
    page.get_by_role("button", name="What else would do?").click()
    page.get_by_role("group", name="Other ways to cut it").wait_for()
    page.wait_for_timeout(1200)
    shoot("ways")
    page.get_by_role("button", name="Hide the other ways").click()
    page.get_by_text("Spindle power").locator("xpath=ancestor::div[1]").get_by_role("button", name="why").click()
    page.get_by_role("button", name="What if?").click()
    page.locator("td").get_by_role("button", name="why").first.click()
    width = page.get_by_label("what if width").first
    width.fill("2.6")
    width.press("Enter")
    page.wait_for_timeout(900)
    shoot("why")
    page.goto("/jobs/TW-520/setups?op=g50")
    page.wait_for_timeout(3000)
    page.get_by_role("button", name="What else would do?").click()
    page.get_by_role("group", name="Other ways to cut it").wait_for()
    page.wait_for_timeout(1200)
    shoot("lathe")
    places = {
        "bench": "/bench", "milling-load": "/bench/milling-load", "chuck-grip": "/bench/chuck-grip", "holes": "/bench/hole-methods", "slope": "/bench/slope-methods",
        "tool": "/library/tools/undercut-mill-20-60",
    }
    for name, place in places.items():
        page.goto(place)
        page.wait_for_timeout(1500)
        shoot(name)
    page.goto("/library/machines/heron")
    page.get_by_role("button", name="operation 20").first.click()
    page.wait_for_timeout(300)
    shoot("curve")
    page.goto("/library/assemblies/drill-6-8")
    page.wait_for_timeout(800)
    shoot("library")
    page.goto("/jobs/TW-118/release")
    page.wait_for_timeout(800)
    page.get_by_role("link", name="Setup 1", exact=True).last.click()
    page.wait_for_timeout(800)
    shoot("sheet", full=True)
    page.goto("/jobs/TW-118/setups?setup=s1")
    page.wait_for_timeout(2000)
    page.keyboard.press("a")
    page.get_by_role("group", name="Add an operation").get_by_role("button", name=re.compile("^Undercut")).click()
    page.wait_for_timeout(2500)
    shoot("odd-job")


def main() -> int:
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as home:
        port = _free_port()
        url = f"http://127.0.0.1:{port}"
        env = {**os.environ, "FABROTAX_HOME": home, "FABROTAX_URL": url, "PORT": str(port), "FABROTAX_QUIET": "1"}
        for command in (["migrate", "-v0"], ["load_demo"]):
            subprocess.run([sys.executable, "manage.py", *command], cwd=ROOT, env=env, check=True)
        server = subprocess.Popen([sys.executable, "tools/serve.py"], cwd=ROOT, env=env, start_new_session=True)
        try:
            while True:
                try:
                    urllib.request.urlopen(f"{url}/api/session", timeout=1)
                    break
                except OSError:
                    time.sleep(0.2)
            root = ["--no-sandbox"] if os.geteuid() == 0 else []
            with sync_playwright() as play:
                browser = play.chromium.launch(executable_path=shutil.which("chromium"), args=[*ARGUMENTS, *root])
                page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=url)
                _views(page, lambda name, full=False: page.screenshot(path=folder / f"{name}.png", full_page=full))
                page.context.clear_cookies()
                _enter(page, "approver", "read-it-twice")
                page.goto("/jobs/TW-118/release")
                page.wait_for_timeout(1000)
                page.screenshot(path=folder / "release.png")
                page.context.clear_cookies()
                _enter(page, "operator", "gloves-are-on")
                page.wait_for_timeout(600)
                page.screenshot(path=folder / "floor.png")
                browser.close()
        finally:
            server.send_signal(signal.SIGTERM)
            server.wait(20)
    return 0


if __name__ == "__main__":
    sys.exit(main())
