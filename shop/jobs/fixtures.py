"""Reading the STEP file of a fixture: what of its body can be a seat, a locator or a thread.
Nothing is stored in the library before somebody has picked.
"""

from __future__ import annotations

from typing import Any

from django.core.files.uploadedfile import UploadedFile

from machining.quantities.errors import MachiningError
from machining.world.fixture_read import Found, found_in
from machining.world.geometry import from_json
from shop.accounts.models import User
from shop.base import blobs
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.tasks.actions.work import Report, task_kind
from shop.tasks.models import Task

from .actions.upload import kept
from .tasks import examined

KIND = "read-fixture"


def upload_fixture(user: User, file: UploadedFile[bytes]) -> Task:
    """Raises Refused where it can be seen at once that the file won't do."""
    require(user, "library")
    step, name = kept(file)
    return start_fixture(user, step, name, None)


def start_fixture(user: User, step: str, name: str, solid: int | None) -> Task:
    about = {"step": step, "name": name, "solid": solid}
    task = Task.objects.create(kind=KIND, made_by=user, about=about)
    did(user, "fixture sent", "library", after=step, name=name)
    return task


@task_kind(KIND)
def read_fixture(task: Task, report: Report) -> None:
    about = task.about
    found = examined(about["step"], about["solid"], report, "file")
    if found.told.get("problem"):
        task.result = {"sizes": found.told.get("sizes", [])}
        raise Refused(str(found.told["problem"]))
    try:
        there = found_in(from_json(blobs.get(found.solid)))
    except MachiningError as problem:
        raise Refused(str(problem), "file", about["name"]) from problem
    task.result = {"file": about["name"], **told(there)}


def told(found: Found) -> dict[str, Any]:
    """As plain values, as a fixture's record takes them."""
    return {
        "size": list(found.size),
        "blocks": [each.model_dump(mode="json") for each in found.blocks],
        "seats": [each.model_dump(mode="json") for each in found.seats],
        "locators": [each.model_dump(mode="json") for each in found.locators],
        "threads": [each.model_dump(mode="json") for each in found.threads],
    }
