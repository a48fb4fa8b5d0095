"""The real server and worker: what dies is started anew, what is orphaned ends, a full disk stores
nothing and shows what is there.
"""

from __future__ import annotations

import http.client
import json
import os
import signal
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import closing, suppress
from http.cookiejar import CookieJar
from pathlib import Path

import pytest

from tests.at_length import ALL

ROOT = Path(__file__).resolve().parent.parent.parent
PATIENCE_S = 90  # of a test that waits for what has to come; nothing is measured
LONG = pytest.mark.skipif(not ALL, reason="takes its time: part of make fuzz")


def until(holds: Callable[[], object], what: str) -> object:
    for _ in range(PATIENCE_S * 5):
        if found := holds():
            return found
        time.sleep(0.2)
    raise AssertionError(f"it never came: {what}")


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def children(pid: int) -> dict[str, int]:
    """Processes of a parent, by what they run."""
    found = {}
    for folder in Path("/proc").glob("[0-9]*"):
        try:
            if int((folder / "stat").read_text().rpartition(")")[2].split()[1]) == pid:
                words = (folder / "cmdline").read_bytes().decode(errors="replace")
                found[
                    (
                        "worker"
                        if "worker\0" in words and "manage.py" in words
                        else "server"
                        if "gunicorn" in words
                        else words
                    )
                ] = int(folder.name)
        except (OSError, ValueError):
            continue
    return found


def alive(pid: int) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except OSError:
        return False


class Shop:
    """A running application on a home of its own."""

    def __init__(self, home: Path) -> None:
        self.port = free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.env = {
            **os.environ,
            "FABROTAX_HOME": str(home),
            "FABROTAX_URL": self.url,
            "PORT": str(self.port),
            "FABROTAX_QUIET": "1",
            "FABROTAX_LOG": "CRITICAL",
        }
        self.env.pop("DJANGO_SETTINGS_MODULE", None)
        self.parent: subprocess.Popen[bytes] | None = None
        self.jar = CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))

    def manage(self, *words: str) -> None:
        subprocess.run(
            [sys.executable, "manage.py", *words],
            cwd=ROOT,
            env=self.env,
            check=True,
            stdout=subprocess.DEVNULL,
        )

    def start(self) -> None:
        self.parent = subprocess.Popen(
            [sys.executable, "tools/serve.py"],
            cwd=ROOT,
            env=self.env,
            start_new_session=True,
            stderr=subprocess.DEVNULL,
        )
        until(self.answers, "the server")

    def answers(self) -> bool:
        try:
            self.opener.open(f"{self.url}/api/session", timeout=5).read()
        except OSError:
            return False
        return True

    def send(self, method: str, path: str, body: object = None) -> tuple[int, bytes]:
        token = next((c.value or "" for c in self.jar if c.name == "csrftoken"), "")
        headers = {"Content-Type": "application/json", "X-CSRFToken": token, "Referer": self.url}
        asked = urllib.request.Request(
            f"{self.url}{path}",
            json.dumps(body).encode() if body is not None else None,
            headers,
            method=method,
        )
        try:
            with self.opener.open(asked, timeout=60) as answer:
                return answer.status, answer.read()
        except urllib.error.HTTPError as problem:
            return problem.code, problem.read()

    def enter(self, name: str, password: str) -> None:
        self.send("GET", "/sign-in")
        assert self.send("POST", "/api/session", {"name": name, "password": password})[0] == 200

    def end(self) -> None:
        if self.parent is not None and self.parent.poll() is None:
            self.parent.terminate()
            self.parent.wait(30)


@pytest.fixture
def shop(tmp_path) -> Iterator[Shop]:
    made = Shop(tmp_path / "home")
    made.manage("migrate", "-v0")
    yield made
    made.end()


def test_worker_and_server_come_back_and_nobody_outlives_their_parent(shop):
    shop.start()
    assert shop.parent is not None
    until(lambda: children(shop.parent.pid).keys() == {"worker", "server"}, "both")
    line = http.client.HTTPConnection("127.0.0.1", shop.port, timeout=30)
    for pause in (0, 3):  # a connection that rests for a moment is not closed on who uses it again
        time.sleep(pause)
        line.request("GET", "/api/session")
        assert line.getresponse().read()
    line.close()
    first = children(shop.parent.pid)
    for name in ("worker", "server"):
        os.kill(first[name], signal.SIGKILL)
        until(
            lambda name=name: children(shop.parent.pid).get(name, first[name]) != first[name],
            f"another {name}",
        )
    until(shop.answers, "the server again")
    last = children(shop.parent.pid)
    below = [*last.values(), *(each for pid in last.values() for each in children(pid).values())]
    shop.parent.kill()
    shop.parent.wait()
    until(lambda: not any(alive(pid) for pid in below), "all end with their parent")


def test_a_busy_port_is_told_with_who_holds_it(shop):
    with socket.socket() as held:
        held.bind(("127.0.0.1", shop.port))
        held.listen()
        told = subprocess.run(
            [sys.executable, "tools/serve.py"],
            cwd=ROOT,
            env=shop.env,
            stderr=subprocess.PIPE,
            text=True,
            check=False,
        )
    assert told.returncode == 1
    assert told.stderr.startswith(
        f"Port {shop.port} is busy: another program listens there (process {os.getpid()}, "
    )
    assert "PORT=8001 make demo" in told.stderr


@pytest.mark.skipif(os.geteuid() != 0, reason="mounting a small disk is for root")
@LONG
def test_a_full_disk_stores_nothing_half_and_goes_on_reading(tmp_path):
    disk = tmp_path / "disk"
    disk.mkdir()
    if subprocess.run(
        ["mount", "-t", "tmpfs", "-o", "size=40m", "tmpfs", str(disk)],
        check=False,
        stderr=subprocess.DEVNULL,
    ).returncode:
        pytest.skip("no disk can be mounted here")
    shop = Shop(disk / "home")
    try:
        shop.manage("migrate", "-v0")
        shop.manage("load_demo")
        shop.start()
        shop.enter("planner", "plan-the-part")
        plan = json.loads(shop.send("GET", "/api/jobs/TW-118")[1])["plan"]
        before = json.loads(shop.send("GET", f"/api/plans/{plan}")[1])["revision"]
        with suppress(OSError), (disk / "filler").open("wb") as filler:
            while True:
                filler.write(bytes(65536))
                filler.flush()
        edit = {
            "revision": before,
            "edits": [{"do": "change", "on": "plan", "fields": {"quantity": 77}}],
        }
        statuses = []
        for k in range(400):  # what room the database still had is used up
            status, said = shop.send(
                "POST", "/api/jobs", {"number": f"FULL-{k}", "title": "T", "remark": "x" * 500}
            )
            statuses.append(status)
            if status != 201:
                break
        assert statuses[-1] == 507, said
        assert "There is no room left on the disk" in json.loads(said)["sentence"]
        assert shop.send("GET", f"/api/jobs/FULL-{len(statuses) - 1}")[0] == 404
        assert shop.send("GET", "/api/jobs/TW-118")[0] == 200
        assert json.loads(shop.send("GET", f"/api/plans/{plan}")[1])["revision"] == before
        assert shop.send("GET", "/api/floor")[0] == 200
        (disk / "filler").unlink()
        # it goes on when there is room
        assert shop.send("POST", f"/api/plans/{plan}/edits", edit)[0] == 200
    finally:
        shop.end()
        subprocess.run(["umount", "-l", str(disk)], check=True)


@LONG
def test_a_worker_killed_twice_while_it_draws_leaves_sheets_that_can_be_asked_for(shop, tmp_path):
    shop.manage("load_demo")
    shop.start()
    assert shop.parent is not None
    path = tmp_path / "home" / "fabrotax.sqlite3"

    def drawing() -> tuple[str, int]:
        with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True, timeout=30)) as data:
            found: tuple[str, int] = data.execute(
                "select state, tries from tasks_task where kind = 'draw-sheets' order by id desc"
            ).fetchone()
            return found

    for tries in (1, 2):
        until(
            lambda tries=tries: (
                drawing() == ("working", tries) and "worker" in children(shop.parent.pid)
            ),
            f"drawing, try {tries}",
        )
        os.kill(children(shop.parent.pid)["worker"], signal.SIGKILL)
    until(lambda: drawing() == ("failed", 2), "given up")
    # how far it came before it was killed is chance: as if it had been nowhere
    with closing(sqlite3.connect(path, timeout=30)) as data:
        data.execute("delete from releases_paper")
        data.execute("delete from releases_sheet")
        data.commit()
    shop.enter("approver", "read-it-twice")
    on_the_floor = json.loads(shop.send("GET", "/api/floor")[1])[0]
    assert (on_the_floor["job"], on_the_floor["drawing"]) == ("TW-118", "failed")
    assert shop.send("POST", f"/api/releases/{on_the_floor['code']}/sheets")[0] == 202
    until(
        lambda: json.loads(shop.send("GET", "/api/floor")[1])[0]["drawing"] == "drawn", "the sheets"
    )
    assert shop.send("GET", f"/s/{on_the_floor['code']}/2")[0] == 200
