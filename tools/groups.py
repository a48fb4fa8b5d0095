"""Run the groups of ``make test``, cheapest first; stop at the first that fails, print what each took."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor

PY = ".venv/bin/python"
WORKERS = str(min(4, os.cpu_count() or 2))
STATIC = "lint, types, layers, client"
GROUPS: list[tuple[str, list[list[str]]]] = [
    (STATIC, [
        [".venv/bin/ruff", "check", "."], [".venv/bin/mypy"], [".venv/bin/lint-imports"], [PY, "tools/fresh_client.py"],
        [PY, "manage.py", "makemigrations", "--check", "--dry-run", "-v0"], ["npm", "--prefix", "web", "run", "--silent", "lint"],
    ]),
    ("core", [[PY, "-m", "pytest", "tests/core", "tests/tools", "-n", WORKERS]]),
    ("application", [[PY, "-m", "pytest", "tests/shop", "-n", WORKERS]]),
    ("front end", [["npm", "--prefix", "web", "run", "--silent", "test"]]),
    ("browser", [[PY, "-m", "pytest", "tests/browser"]]),
]


def _run(name: str, command: list[str], quiet: bool = False) -> bool:
    done = subprocess.run(command, capture_output=quiet, text=True)
    if done.returncode:
        print(f"{done.stdout or ''}{done.stderr or ''}\n✗ {name}: {' '.join(command)}", file=sys.stderr)
    return done.returncode == 0


def _together(name: str, commands: list[list[str]]) -> list[bool]:
    """Checks that only read run side by side and say nothing unless they fail."""
    with ThreadPoolExecutor(2) as pool:
        return list(pool.map(lambda command: _run(name, command, quiet=True), commands))


def main() -> int:
    wanted = sys.argv[1:]
    took: list[tuple[str, float]] = []
    for name, commands in GROUPS:
        if wanted and name not in wanted:
            continue
        began = time.monotonic()
        if not all(_together(name, commands) if name == STATIC else (_run(name, command) for command in commands)):
            return 1
        took.append((name, time.monotonic() - began))
        print(f"✓ {name:<29} {took[-1][1]:6.1f} s", flush=True)
    print(f"  {'in all':<29} {sum(seconds for _, seconds in took):6.1f} s")
    return 0


if __name__ == "__main__":
    sys.exit(main())
