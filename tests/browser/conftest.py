"""The real server and worker on a prepared home, driven in Debian's Chromium."""

from __future__ import annotations

import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import APIResponse, Browser, BrowserContext, Page, expect

ROOT = Path(__file__).resolve().parent.parent.parent
PASSWORDS = {
    "planner": "plan-the-part",
    "approver": "read-it-twice",
    "operator": "gloves-are-on",
    "administrator": "keys-to-the-shop",
}
ARGUMENTS = [
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-gpu-rasterization",
    "--disable-gpu-compositing",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
]
# what a browser without a graphics card says of itself
OF_THE_DRAWING = ("[.WebGL", "[GroupMarkerNotSet", "Automatic fallback to software WebGL")
PATIENCE_MS = 180_000  # other checks run beside these, on whatever machine
AGAIN_MS = 500
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict:
    root = ["--no-sandbox"] if os.geteuid() == 0 else []
    return {
        "executable_path": shutil.which("chromium") or "/usr/bin/chromium",
        "args": [*ARGUMENTS, *root],
    }


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


@pytest.fixture(scope="session")
def base_url(tmp_path_factory) -> Iterator[str]:
    home, port = tmp_path_factory.mktemp("home"), _free_port()
    url = f"http://127.0.0.1:{port}"
    env = {
        **os.environ,
        "FABROTAX_HOME": str(home),
        "FABROTAX_URL": url,
        "PORT": str(port),
        "FABROTAX_QUIET": "1",
        "FABROTAX_LONGEST_S": "90",
    }
    for command in (["migrate", "-v0"], ["load_demo"]):
        subprocess.run(
            [sys.executable, "manage.py", *command],
            cwd=ROOT,
            env=env,
            check=True,
            stdout=subprocess.DEVNULL,
        )
    server = subprocess.Popen(
        [sys.executable, "tools/serve.py"], cwd=ROOT, env=env, start_new_session=True
    )
    for _ in range(150):
        try:
            urllib.request.urlopen(f"{url}/api/session", timeout=1)
            break
        except OSError:
            time.sleep(0.2)
    else:
        pytest.fail("the server never answered")
    yield url
    server.send_signal(signal.SIGTERM)
    server.wait(20)


class Person:
    """Somebody at a browser of their own; everything that went wrong in it is remembered."""

    def __init__(self, context: BrowserContext, name: str, url: str) -> None:
        self.context, self.name, self.url = context, name, url
        self.troubles: list[str] = []
        self.outside: list[str] = []
        self.page: Page = context.new_page()
        self.page.set_default_timeout(PATIENCE_MS)
        self.page.on(
            "console",
            lambda m: (
                self.troubles.append(m.text)
                if m.type in ("error", "warning") and not m.text.startswith(OF_THE_DRAWING)
                else None
            ),
        )
        self.page.on("pageerror", lambda e: self.troubles.append(str(e)))
        self.page.on(
            "request",
            lambda r: (
                self.outside.append(r.url)
                if not r.url.startswith((url, "data:", "blob:"))
                else None
            ),
        )
        context.request.get(f"{url}/sign-in")
        self.api("POST", "/session", name=name, password=PASSWORDS[name])
        self.page.goto("/floor" if name == "operator" else "/jobs", wait_until="commit")

    def api(self, method: str, path: str, **json) -> dict:
        """Asked again as long as the answer is still being worked out."""
        for _ in range(PATIENCE_MS // AGAIN_MS):
            answer = self._asked(method, path, json)
            if answer.status != 503 or not answer.json().get("working"):
                break
            self.page.wait_for_timeout(AGAIN_MS)
        assert answer.ok, answer.text()
        return answer.json()

    def _asked(self, method: str, path: str, json: dict) -> APIResponse:
        token = next(c["value"] for c in self.context.cookies() if c["name"] == "csrftoken")
        return self.context.request.fetch(
            f"{self.url}/api{path}",
            method=method,
            data=json or None,
            headers={"X-CSRFToken": token, "Referer": self.url},
        )


@pytest.fixture
def sign_in(browser: Browser, base_url: str) -> Iterator:
    people: list[Person] = []

    def enter(name: str) -> Person:
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=base_url)
        people.append(Person(context, name, base_url))
        return people[-1]

    yield enter
    for each in people:
        each.context.close()
    assert [
        t
        for each in people
        for t in each.troubles
        if "status of 4" not in t
        and "status of 503" not in t
        and "ERR_INTERNET_DISCONNECTED" not in t
    ] == []
    assert [u for each in people for u in each.outside] == []


def copy_of_demo(person: Person, number: str, of: str = "TW-118") -> int:
    """A job of the test's own with a plan of the demo; the number of its plan."""
    job = person.context.request.get(f"{person.url}/api/jobs/{of}").json()
    source = job["plan"]
    text = person.context.request.get(f"{person.url}/api/plans/{source}/export.json").body()
    plan = person.api("POST", "/jobs", number=number, title=f"Copy of {of}")["plan"]
    token = next(c["value"] for c in person.context.cookies() if c["name"] == "csrftoken")
    sent = person.context.request.post(
        f"{person.url}/api/plans/{plan}/import?revision=1",
        headers={"X-CSRFToken": token, "Referer": person.url},
        multipart={"file": {"name": "plan.json", "mimeType": "application/json", "buffer": text}},
    )
    assert sent.ok, sent.text()
    return plan


def answered(person: Person, plan: int) -> dict[str, Any]:
    """The evaluation of a plan, as soon as it is worked out whole."""
    for _ in range(PATIENCE_MS // AGAIN_MS):
        found: dict[str, Any] | None = person.api("GET", f"/plans/{plan}")["evaluation"]
        if found is not None and not found["working"]:
            return found
        person.page.wait_for_timeout(AGAIN_MS)
    raise AssertionError(f"plan {plan} has no answer after {PATIENCE_MS // 1000} s")
