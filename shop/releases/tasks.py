"""Drawing the sheets of a release: page and PDF of each setup from the same source."""

from __future__ import annotations

import json

from shop.base import blobs
from shop.tasks.actions.work import Report, task_kind
from shop.tasks.models import Task

from .models import Release, Sheet
from .sheet import body_of, pdf_of


@task_kind("draw-sheets")
def draw_sheets(task: Task, report: Report) -> None:
    release = Release.objects.get(pk=task.about["release"])
    record = json.loads(blobs.get(release.sha256))
    setups = record["evaluation"]["setups"]
    for place, setup in enumerate(setups):
        report(place / len(setups), f"sheet {place + 1} of {len(setups)}")
        body = body_of(record, release.sha256, setup["number"])
        Sheet.objects.update_or_create(
            release=release, setup=setup["number"],
            defaults={"body": blobs.put(body.encode()), "pdf": blobs.put(pdf_of(body, "A4"))},
        )
    task.result = {"sheets": len(setups)}
