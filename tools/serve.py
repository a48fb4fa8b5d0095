"""Server and worker under one foreground parent: it starts anew what dies, and both end with it.
``python tools/serve.py``
"""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
FIRST_PAUSE_S, LONGEST_PAUSE_S, WELL_AFTER_S = 0.5, 30.0, 60.0
# a kept connection is closed long after a person has paused, never just as the next request is sent
THREADS, KEEP_ALIVE_S = 16, 75


@dataclass
class Child:
    """A process that is to run: how often it died lately decides how long it stays down."""

    name: str
    command: list[str]
    process: subprocess.Popen[bytes] | None = None
    started: float = 0.0
    pause: float = FIRST_PAUSE_S
    again_at: float = 0.0

    def keep(self, now: float) -> None:
        if self.process is None:
            if now >= self.again_at:
                self.process, self.started = subprocess.Popen(self.command, cwd=ROOT), now
            return
        if (code := self.process.poll()) is None:
            return
        self.pause = (
            FIRST_PAUSE_S
            if now - self.started > WELL_AFTER_S
            else min(2 * self.pause, LONGEST_PAUSE_S)
        )
        self.process, self.again_at = None, now + self.pause
        print(
            f"The {self.name} has ended ({code}); it is started again in {self.pause:.0f} s.",
            file=sys.stderr,
            flush=True,
        )

    def end(self) -> None:
        if self.process is not None and self.process.poll() is None:
            self.process.terminate()
            try:
                self.process.wait(8)
            except subprocess.TimeoutExpired:
                self.process.kill()
                self.process.wait()


def _free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def _answers(port: int) -> bool:
    with socket.socket() as probe:
        probe.settimeout(0.3)
        return probe.connect_ex(("127.0.0.1", port)) == 0


def holder(port: int) -> str:
    """Who listens on a port, as far as the system tells: `` (process 4711, python manage.py)``."""
    try:
        rows = [
            line.split()
            for name in ("tcp", "tcp6")
            for line in Path("/proc/net", name).read_text().splitlines()[1:]
        ]
        sockets = {
            f"socket:[{row[9]}]"
            for row in rows
            if row[3] == "0A" and int(row[1].rpartition(":")[2], 16) == port
        }
        for folder in Path("/proc").glob("[0-9]*"):
            try:
                if any(os.readlink(each) in sockets for each in (folder / "fd").iterdir()):
                    words = (
                        (folder / "cmdline")
                        .read_bytes()
                        .replace(b"\0", b" ")
                        .decode(errors="replace")
                        .strip()
                    )
                    return f" (process {folder.name}, {words[:80]})"
            except OSError:
                continue  # another person's process
    except OSError:
        pass  # no /proc here
    return ""


def main() -> int:
    port = int(os.environ.get("PORT", "8000"))
    if not _free(port):
        print(
            f"Port {port} is busy: another program listens there{holder(port)}. Stop it, or choose"
            " another with PORT=8001 make demo.",
            file=sys.stderr,
        )
        return 1
    os.environ.setdefault("FABROTAX_URL", f"http://127.0.0.1:{port}")
    os.environ["FABROTAX_PARENT"] = str(os.getpid())
    python, gunicorn = sys.executable, str(Path(sys.executable).parent / "gunicorn")
    bound = [
        "--bind",
        f"127.0.0.1:{port}",
        "--workers",
        "1",
        "--threads",
        str(THREADS),
        "--keep-alive",
        str(KEEP_ALIVE_S),
        "--timeout",
        "120",
        "--graceful-timeout",
        "3",
        "--log-level",
        "warning",
    ]
    # what is compiled is kept beside its source: the first start takes some seconds longer
    subprocess.run([python, "-m", "machining.removal.warm"], cwd=ROOT, check=True)
    children = [
        Child("server", [gunicorn, "shop.wsgi", *bound]),
        Child("worker", [python, "manage.py", "worker"]),
    ]
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    greeted = os.environ.get("FABROTAX_QUIET") == "1"
    try:
        while True:
            now = time.monotonic()
            for child in children:
                child.keep(now)
            if not greeted and _answers(port):
                greeted = True
                _greet()
            time.sleep(0.2)
    except KeyboardInterrupt:
        return 0
    finally:
        for child in children:
            child.end()


def _greet() -> None:
    sys.path.insert(0, str(ROOT))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "shop.settings")
    import django

    django.setup()
    from shop.run.management.commands.load_demo import ACCOUNTS

    print(f"\n  Fabrotax is at {os.environ['FABROTAX_URL']}\n")
    for name, password in ACCOUNTS.items():
        print(f"    {name:<14} {password}")
    print("\n  Ctrl+C stops it.\n", flush=True)


if __name__ == "__main__":
    sys.exit(main())
