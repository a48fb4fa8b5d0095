"""Run the groups of ``make test``, cheapest first; stop at the first that fails, print what each took."""

from __future__ import annotations

import os
import subprocess
import sys
import time

PY = ".venv/bin/python"
WORKERS = str(min(4, os.cpu_count() or 2))
GROUPS: list[tuple[str, list[list[str]]]] = [
    ("lint", [[".venv/bin/ruff", "check", "."], ["npm", "--prefix", "web", "run", "--silent", "lint"]]),
    ("types", [[".venv/bin/mypy"]]),
    ("layers", [[".venv/bin/lint-imports"]]),
    ("client", [[PY, "tools/fresh_client.py"], [PY, "manage.py", "makemigrations", "--check", "--dry-run", "-v0"]]),
    ("core", [[PY, "-m", "pytest", "tests/core", "tests/tools", "-n", WORKERS]]),
    ("application", [[PY, "-m", "pytest", "tests/shop", "-n", WORKERS]]),
    ("front end", [["npm", "--prefix", "web", "run", "--silent", "test"]]),
    ("browser", [[PY, "-m", "pytest", "tests/browser"]]),
]


def main() -> int:
    wanted = sys.argv[1:]
    took: list[tuple[str, float]] = []
    for name, commands in GROUPS:
        if wanted and name not in wanted:
            continue
        began = time.monotonic()
        for command in commands:
            done = subprocess.run(command, capture_output=name in ("lint", "types", "layers", "client"), text=True)
            if done.returncode:
                print(f"{done.stdout or ''}{done.stderr or ''}\n✗ {name}: {' '.join(command)}", file=sys.stderr)
                return 1
        took.append((name, time.monotonic() - began))
        print(f"✓ {name:<12} {took[-1][1]:6.1f} s", flush=True)
    print(f"  in all       {sum(seconds for _, seconds in took):6.1f} s")
    return 0


if __name__ == "__main__":
    sys.exit(main())
