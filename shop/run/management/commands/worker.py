from __future__ import annotations

import logging
import time
from threading import Thread
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, connection

from shop.base.orphan import end_with_parent
from shop.jobs.actions.ready import make_ready
from shop.tasks.actions.work import run_one

log = logging.getLogger("fabrotax.worker")
FIRST_PAUSE_S, LONGEST_PAUSE_S = 0.5, 10.0


class Command(BaseCommand):
    help = "Does the work the application puts aside: reads files, draws sheets, proposes routes."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--once", action="store_true", help="stop when nothing waits")

    def handle(self, *args: Any, **options: Any) -> None:
        import shop.jobs.actions.order
        import shop.jobs.actions.other_ways
        import shop.jobs.actions.propose
        import shop.jobs.actions.save
        import shop.jobs.fixtures
        import shop.jobs.tasks
        import shop.releases.tasks  # noqa: F401  (they register their kinds)
        from shop.releases.actions.draw import draw_missing

        end_with_parent()
        draw_missing()
        if options["once"]:
            _work(None, once=True)
            return
        Thread(target=_work, args=(True,), daemon=True).start()
        _work(False)


def _work(long: bool | None, once: bool = False) -> None:
    """One task after the other: only of those that may take ``long``, or that do not."""
    pause = FIRST_PAUSE_S
    while True:
        try:
            if long:
                make_ready()
            worked, pause = run_one(long), FIRST_PAUSE_S
        except (
            DatabaseError,
            OSError,
        ) as problem:  # a full disk: it goes on when there is room again
            log.error("the worker waits %.0f s: %s", pause, problem)
            connection.close()
            time.sleep(pause)
            pause = min(2 * pause, LONGEST_PAUSE_S)
            continue
        if not worked:
            if once:
                return
            time.sleep(0.3)
