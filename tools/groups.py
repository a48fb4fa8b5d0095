"""Run the groups of ``make test`` in two lanes side by side; stop at the first that fails, print
what each took.

The browser waits more than it works: it goes beside the core, which takes as long.
``python tools/groups.py NAME ...`` runs only those.
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from threading import Event

PY = ".venv/bin/python"
PLAIN = [PY, "-m", "pytest", "-p", "no:schemathesis"]  # what asks no API by its schema
WORKERS = str(min(4, os.cpu_count() or 2))
LAST_LINES = 5
STATIC = "lint, types, layers, client"
LANES: list[dict[str, list[list[str]]]] = [
    {
        STATIC: [
            [".venv/bin/ruff", "check", "."],
            [".venv/bin/ruff", "format", "--check", "-q", "."],
            [".venv/bin/mypy"],
            [".venv/bin/lint-imports"],
            [PY, "tools/fresh_client.py"],
            [PY, "manage.py", "makemigrations", "--check", "--dry-run", "-v0"],
            ["npm", "--prefix", "web", "run", "--silent", "lint"],
        ],
        "front end": [["npm", "--prefix", "web", "run", "--silent", "test"]],
        "core": [[*PLAIN, "tests/core", "tests/tools", "-n", WORKERS, "--dist", "loadfile"]],
    },
    {
        "browser": [[*PLAIN, "tests/browser"]],
        "application": [[PY, "-m", "pytest", "tests/shop", "-n", WORKERS]],
    },
]


def _run(name: str, command: list[str], failed: Event) -> bool:
    """One command, all it says shown where it fails and its last lines where it tested; ended early
    where another has failed.
    """
    began = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    with ThreadPoolExecutor(1) as reader:
        said = reader.submit(began.stdout.read if began.stdout else str)
        while began.poll() is None:
            if failed.wait(0.2):
                began.terminate()
                began.wait()
    if began.returncode and not failed.is_set():
        failed.set()
        print(f"{said.result()}\n✗ {name}: {' '.join(command)}", file=sys.stderr, flush=True)
    elif name != STATIC:
        print("\n".join(said.result().rstrip().splitlines()[-LAST_LINES:]), flush=True)
    return began.returncode == 0


def _lane(groups: dict[str, list[list[str]]], failed: Event) -> bool:
    for name, commands in groups.items():
        began = time.monotonic()
        with ThreadPoolExecutor(2 if name == STATIC else 1) as side_by_side:
            run = partial(_run, name, failed=failed)
            if not all(list(side_by_side.map(run, commands))):
                return False
        print(f"✓ {name:<29} {time.monotonic() - began:6.1f} s", flush=True)
    return True


def main() -> int:
    wanted, began, failed = sys.argv[1:], time.monotonic(), Event()
    lanes = [
        {name: commands for name, commands in lane.items() if not wanted or name in wanted}
        for lane in LANES
    ]
    with ThreadPoolExecutor(len(lanes)) as pool:
        if not all(list(pool.map(lambda lane: _lane(lane, failed), lanes))):
            return 1
    print(f"  {'in all':<29} {time.monotonic() - began:6.1f} s")
    return 0


if __name__ == "__main__":
    sys.exit(main())
