from __future__ import annotations

import time
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from shop.tasks.actions.work import run_one


class Command(BaseCommand):
    help = "Does the work the application puts aside: reading STEP files, drawing sheets."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--once", action="store_true", help="stop when nothing waits")

    def handle(self, *args: Any, **options: Any) -> None:
        import shop.jobs.tasks
        import shop.releases.tasks  # noqa: F401  (they register their kinds)

        while True:
            if not run_one():
                if options["once"]:
                    return
                time.sleep(0.3)
