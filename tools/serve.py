"""Server and worker under one foreground parent: both end with it. ``python tools/serve.py``"""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


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


def main() -> int:
    port = int(os.environ.get("PORT", "8000"))
    if not _free(port):
        print(f"Port {port} is busy: another program listens there. Stop it, or choose another with PORT=8001 make demo.", file=sys.stderr)
        return 1
    os.environ.setdefault("FABROTAX_URL", f"http://127.0.0.1:{port}")
    python, quiet = sys.executable, [str(Path(sys.executable).parent / "gunicorn")]
    children = [
        subprocess.Popen([*quiet, "shop.wsgi", "--bind", f"127.0.0.1:{port}", "--workers", "1", "--threads", "8", "--timeout", "120", "--log-level", "warning"], cwd=ROOT),
        subprocess.Popen([python, "manage.py", "worker"], cwd=ROOT),
    ]
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    try:
        while not _answers(port) and children[0].poll() is None:
            time.sleep(0.1)
        if os.environ.get("FABROTAX_QUIET") != "1":
            _greet()
        while all(child.poll() is None for child in children):
            time.sleep(0.3)
        print("One of the two processes has ended; stopping.", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 0
    finally:
        for child in children:
            if child.poll() is None:
                child.terminate()
        for child in children:
            child.wait(10)


def _greet() -> None:
    sys.path.insert(0, str(ROOT))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "shop.settings")
    import django

    django.setup()
    from shop.base.management.commands.load_demo import ACCOUNTS

    print(f"\n  Fabrotax is at {os.environ['FABROTAX_URL']}\n")
    for name, password in ACCOUNTS.items():
        print(f"    {name:<10} {password}")
    print("\n  Ctrl+C stops it.\n", flush=True)


if __name__ == "__main__":
    sys.exit(main())
