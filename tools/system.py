"""Look for what must be on the machine; as root install it from Debian, else name all of it in one
message.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys

RUN = [
    "libgl1",
    "libx11-6",
    "libpango-1.0-0",
    "libpangoft2-1.0-0",
    "libharfbuzz-subset0",
    "fontconfig",
]
TEST = ["chromium"]
LEAST_FREE_GB = 3


def _installed(package: str) -> bool:
    if package == "chromium" and shutil.which("chromium"):
        return True
    found = subprocess.run(
        ["dpkg-query", "-W", "-f", "${Status}", package], capture_output=True, text=True
    )
    return "install ok installed" in found.stdout


def _node() -> tuple[int, int] | None:
    if not shutil.which("node") or not shutil.which("npm"):
        return None
    text = (
        subprocess.run(["node", "--version"], capture_output=True, text=True)
        .stdout.strip()
        .lstrip("v")
    )
    major, minor = text.split(".")[:2]
    return int(major), int(minor)


def _quietly(*command: str) -> str:
    """Run it; what it said last where it failed."""
    done = subprocess.run(
        command,
        capture_output=True,
        text=True,
        env={**os.environ, "DEBIAN_FRONTEND": "noninteractive"},
    )
    said = (done.stderr or done.stdout).strip().splitlines() or [f"it ended with {done.returncode}"]
    return said[-1] if done.returncode else ""


def main() -> int:
    missing: list[str] = []
    if sys.version_info < (3, 11):  # noqa: UP036  (this file runs before anything is checked)
        missing.append(f"Python 3.11 or newer (this is {sys.version.split()[0]})")
    try:
        import ensurepip  # noqa: F401
        import venv  # noqa: F401
    except ImportError:
        missing.append("Python's venv module (Debian: python3-venv)")
    node = _node()
    if node is None or node < (20, 19):
        missing.append(
            "Node.js 20.19 or newer with npm"
            f" ({'none found' if node is None else 'found ' + '.'.join(map(str, node))})"
        )
    free = shutil.disk_usage(".").free / 1024**3
    if free < LEAST_FREE_GB:
        missing.append(f"{LEAST_FREE_GB} GB of free disk ({free:.1f} GB found)")
    packages: list[str] = []
    if shutil.which("dpkg-query"):
        packages = [
            each for each in RUN + (TEST if "--tests" in sys.argv else []) if not _installed(each)
        ]
    if packages and os.geteuid() == 0 and not missing:
        print(f"Installing from Debian: {' '.join(packages)}", flush=True)
        failed = _quietly("apt-get", "update", "-q") or _quietly(
            "apt-get", "install", "-y", "-q", "--no-install-recommends", *packages
        )
        if failed:
            missing.append(
                f"the Debian packages {' '.join(packages)} (installing them failed: {failed})"
            )
    elif packages:
        missing.append(
            f"the Debian packages {' '.join(packages)}: apt-get install {' '.join(packages)}"
        )
    if missing:
        print("Fabrotax needs, and does not find:\n  - " + "\n  - ".join(missing), file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
