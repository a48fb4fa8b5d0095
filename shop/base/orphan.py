"""A process whose parent is gone would hold its port, or do its work beside the next
one: it ends.
"""

from __future__ import annotations

import os
import signal
import time
from threading import Thread

EVERY_S = 0.5


def end_with_parent() -> None:
    """Watch for the parent's end. A server's own parent is its master, which in turn is
    ``tools/serve.py``'s child: both are watched.
    """
    if os.environ.get("FABROTAX_PARENT"):
        Thread(
            target=_watch,
            args=(int(os.environ["FABROTAX_PARENT"]), os.getppid()),
            name="orphan",
            daemon=True,
        ).start()


def _watch(keeper: int, master: int) -> None:
    while _runs(keeper) and os.getppid() == master:
        time.sleep(EVERY_S)
    if os.getppid() == master and master != keeper:
        os.kill(master, signal.SIGTERM)
        time.sleep(1.0)
    os._exit(0)


def _runs(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        pass  # it runs, and is somebody else's
    return True
