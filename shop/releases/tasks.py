"""Drawing the sheets of a release: each page from the frozen record, each PDF from its page."""

from __future__ import annotations

import json

from shop.base import blobs
from shop.base.problems import Refused
from shop.tasks.actions.work import Report, task_kind
from shop.tasks.models import Task

from .models import Paper, Release, Sheet
from .printing import pdf_of
from .sheet import body_of, paper_of


@task_kind("draw-sheets")
def draw_sheets(task: Task, report: Report) -> None:
    """All pages first, so that the floor can read; then the PDFs on the shop's paper."""
    release = Release.objects.get(pk=task.about["release"])
    record = json.loads(_checked(release.sha256))
    setups = record["evaluation"]["setups"]
    for place, setup in enumerate(setups):
        report(place / len(setups) / 2, f"sheet {place + 1} of {len(setups)}")
        body = blobs.put_anew(body_of(record, release.sha256, setup["number"]).encode())
        known, new = Sheet.objects.get_or_create(
            release=release, setup=setup["number"], defaults={"body": body}
        )
        if not new and not _whole(known.body):
            known.papers.all().delete()
            Sheet.objects.filter(pk=known.pk).update(body=body)
    for place, sheet in enumerate(release.sheets.all()):
        report(0.5 + place / len(setups) / 2, f"PDF {place + 1} of {len(setups)}")
        print_sheet(sheet, paper_of(record))
    task.result = {"sheets": len(setups)}


@task_kind("draw-paper")
def draw_paper(task: Task, report: Report) -> None:
    report(0.0, "PDF")
    print_sheet(Sheet.objects.get(pk=task.about["sheet"]), task.about["paper"])


def print_sheet(sheet: Sheet, paper: str) -> None:
    """One sheet and paper is one file: the first that is stored stays, until it is spoiled."""
    known = Paper.objects.filter(sheet=sheet, paper=paper).first()
    if known is not None and _whole(known.pdf):
        return
    pdf = blobs.put(pdf_of(_checked(sheet.body).decode(), paper))
    if known is not None:
        Paper.objects.filter(pk=known.pk).update(pdf=pdf)
    else:
        Paper.objects.get_or_create(sheet=sheet, paper=paper, defaults={"pdf": pdf})


def _whole(name: str) -> bool:
    try:
        blobs.get_checked(name)
    except blobs.Spoiled:
        return False
    return True


def _checked(name: str) -> bytes:
    try:
        return blobs.get_checked(name)
    except blobs.Spoiled as problem:
        raise Refused(f"{problem} It can't be drawn from.") from problem
