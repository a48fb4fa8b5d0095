"""Run a command only where what it depends on has changed: ``once.py STAMP PATH ... -- COMMAND
...``
"""

from __future__ import annotations

import subprocess
import sys
import time
from hashlib import sha256
from pathlib import Path

LEFT_OUT = {"node_modules", "__pycache__", ".venv", "dist"}


def fingerprint(paths: list[str]) -> str:
    digest = sha256()
    for root in sorted(paths):
        path = Path(root)
        files = (
            [path]
            if path.is_file()
            else sorted(p for p in path.rglob("*") if p.is_file() and not LEFT_OUT & set(p.parts))
        )
        for file in files:
            digest.update(str(file).encode() + b"\0" + file.read_bytes() + b"\0")
    return digest.hexdigest()


def main() -> int:
    split = sys.argv.index("--")
    stamp, paths, command = Path(".stamps") / sys.argv[1], sys.argv[2:split], sys.argv[split + 1 :]
    now = fingerprint(paths) + " ".join(command)
    if stamp.is_file() and stamp.read_text() == now:
        return 0
    began = time.monotonic()
    print(f"· {sys.argv[1]}", flush=True)
    code = subprocess.call(command)
    if code == 0:
        stamp.parent.mkdir(exist_ok=True)
        stamp.write_text(now)
        print(f"  {sys.argv[1]} took {time.monotonic() - began:.0f} s", flush=True)
    return code


if __name__ == "__main__":
    sys.exit(main())
