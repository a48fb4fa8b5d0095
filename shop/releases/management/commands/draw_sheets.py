from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from shop.releases.actions.draw import ask_for_sheets, draw_missing
from shop.releases.models import Release


class Command(BaseCommand):
    help = (
        "Has sheets drawn again from the records of their releases: those that are missing, or all"
        " of one job."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("job", nargs="?", help="number of a job: all its releases")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["job"] is None:
            self.stdout.write(f"{draw_missing()} releases lack sheets; the worker draws them.")
            return
        asked = Release.objects.filter(plan__job__number=options["job"]).select_related("by")
        for release in asked:
            ask_for_sheets(release, release.by)
        self.stdout.write(
            f"The sheets of {len(asked)} releases are asked for; the worker draws what is missing"
            " or damaged."
        )
