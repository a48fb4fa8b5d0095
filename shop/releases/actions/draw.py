"""Have the sheets of a release drawn from its record: with the release, again on request, and at a
start for what is missing.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Literal

from django.utils import timezone

from shop.accounts.models import User
from shop.base.actions import did, require
from shop.tasks.models import Task

from ..drawing import drawing_of
from ..models import Release, Sheet

KIND = "draw-sheets"
TRIED_LATELY = timedelta(minutes=2)


def under_way(release: Release) -> bool:
    return Task.objects.filter(
        kind=KIND, about__release=release.pk, state__in=("waiting", "working")
    ).exists()


def ask_for_sheets(release: Release, user: User) -> None:
    """One task for a release at a time."""
    if not under_way(release):
        Task.objects.create(kind=KIND, made_by=user, about={"release": release.pk})


def ask_for_paper(
    release: Release, sheet: Sheet | None, paper: str, user: User
) -> Literal["drawing", "failed"]:
    """What to say of a PDF that isn't there yet; it is asked for, once, whoever asks at the same
    moment.
    """
    if sheet is None:
        return "failed" if drawing_of(release) == "failed" else "drawing"
    asked = (
        Task.objects.filter(kind="draw-paper", about__sheet=sheet.pk, about__paper=paper)
        .order_by("-id")
        .first()
    )
    if under_way(release) or (asked is not None and asked.state in ("waiting", "working")):
        return "drawing"
    if (
        asked is not None
        and asked.state == "failed"
        and asked.made_at > timezone.now() - TRIED_LATELY
    ):
        return "failed"
    Task.objects.create(kind="draw-paper", made_by=user, about={"sheet": sheet.pk, "paper": paper})
    return "drawing"


def draw_again(user: User, release: Release) -> None:
    require(user, "release")
    ask_for_sheets(release, user)
    did(user, "sheets asked for", f"release:{release.code}", after=release.sha256)


def draw_missing() -> int:
    """Ask for every sheet that no task is drawing; how many releases lack one."""
    lacking = [
        r
        for r in Release.objects.prefetch_related("sheets").select_related("by")
        if len(r.sheets.all()) < r.setups and not under_way(r)
    ]
    for release in lacking:
        ask_for_sheets(release, release.by)
    return len(lacking)
