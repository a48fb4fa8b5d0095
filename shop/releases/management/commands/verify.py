from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from machining.exchange.release_record import check
from machining.quantities.errors import MachiningError
from shop.base import blobs
from shop.releases.models import Release


class Command(BaseCommand):
    help = (
        "Checks every release: that its record and its sheets hold what was stored, and that the"
        " record says what this program works out."
    )

    def handle(self, *args: Any, **options: Any) -> None:
        bad = 0
        for release in Release.objects.select_related("plan__job").prefetch_related(
            "sheets__papers"
        ):
            for problem in _problems(release):
                bad += 1
                self.stderr.write(f"{release.plan.job.number}, release {release.number}: {problem}")
        if bad:
            raise CommandError(
                f"{bad} thing{'s' if bad > 1 else ''} of {Release.objects.count()} releases not as"
                " stored."
            )
        self.stdout.write(f"{Release.objects.count()} releases are as they were stored.")


def _problems(release: Release) -> list[str]:
    found = []
    try:
        told = check(blobs.get_checked(release.sha256))
        if told.differs:
            found.append(f"worked out again the record differs: {told.differs}")
    except (blobs.Spoiled, MachiningError) as problem:
        found.append(f"the record: {problem}")
    for sheet in release.sheets.all():
        for what, name in (
            (f"sheet {sheet.setup}", sheet.body),
            *((f"sheet {sheet.setup} on {each.paper}", each.pdf) for each in sheet.papers.all()),
        ):
            try:
                blobs.get_checked(name)
            except blobs.Spoiled as problem:
                found.append(f"{what}: {problem}")
    return found
