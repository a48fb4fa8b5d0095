"""How far the sheets of a release are: drawn, being drawn, or failed."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from shop.tasks.models import Task

from .models import Release

Drawing = Literal["drawn", "drawing", "failed"]
DRAWN: Drawing = "drawn"


def drawing_of(release: Release) -> Drawing:
    return drawings_of([release])[release.pk]


def drawings_of(releases: Iterable[Release]) -> dict[int, Drawing]:
    """By the release's row: two queries for any number of them."""
    rows = {release.pk: release for release in releases}
    last: dict[int, str] = {}
    for about, state in (
        Task.objects.filter(kind="draw-sheets", about__release__in=list(rows))
        .order_by("id")
        .values_list("about", "state")
    ):
        last[about["release"]] = state
    found: dict[int, Drawing] = {}
    for pk, release in rows.items():
        whole = len(release.sheets.all()) >= release.setups
        under_way = last.get(pk) in ("waiting", "working")
        found[pk] = "drawing" if under_way and not whole else "drawn" if whole else "failed"
    return found
