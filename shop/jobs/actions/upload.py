"""Take in a STEP file: kept as a blob, read by the worker, then put into the plan as its part or
as its blank."""

from __future__ import annotations

import re
from pathlib import PurePosixPath, PureWindowsPath
from typing import Literal

from django.conf import settings
from django.core.files.uploadedfile import UploadedFile

from machining.geometry.kernel import UnreadableStep, check_text
from machining.geometry.laid import Lay
from shop.accounts.models import User
from shop.base import blobs
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.tasks.models import Task

from .. import documents
from ..models import Geometry, Plan

Use = Literal["part", "blank"]


def safe_name(name: str) -> str:
    """The bare file name, without folders or control characters."""
    bare = PureWindowsPath(PurePosixPath(name.replace("\x00", "")).name).name
    bare = re.sub(r"[^\w .()+-]", "_", bare).strip(" .")
    return bare[:120] or "part.step"


def upload(user: User, plan: Plan, file: UploadedFile[bytes], use: Use = "part") -> Task:
    """Raises Refused where it can be seen at once that the file won't do."""
    require(user, "plan")
    step, name = kept(file)
    return start(user, plan, step, name, None, use)


def kept(file: UploadedFile[bytes]) -> tuple[str, str]:
    """A STEP file stored, and its name. Raises Refused for what is none, or too large."""
    name = safe_name(file.name or "")
    if file.size is not None and file.size > settings.LARGEST_STEP_BYTES:
        raise Refused(
            f"{name} has {file.size / 1048576:.1f} MB; up to"
            f" {settings.LARGEST_STEP_BYTES // 1048576} MB can be read.",
            "file",
            name,
        )
    content = file.read()
    try:
        check_text(content)
    except UnreadableStep as problem:
        raise Refused(str(problem), "file", name) from problem
    return blobs.put(content), name


def start(
    user: User,
    plan: Plan,
    step: str,
    name: str,
    solid: int | None,
    use: Use = "part",
    lay: Lay = "straight",
) -> Task:
    task = Task.objects.create(
        kind="read-step",
        made_by=user,
        about={
            "plan": plan.pk,
            "step": step,
            "name": name,
            "solid": solid,
            "use": use,
            "lay": lay,
        },
    )
    did(user, "solid sent", f"plan:{plan.pk}", after=step, name=name)
    return task


def lay_otherwise(user: User, plan: Plan, lay: Lay) -> Task:
    """Read the part's file once more, to lie another way. Raises Refused where there is none."""
    require(user, "plan")
    part = documents.read(documents.head(plan).document).part
    known = Geometry.objects.filter(key=part.geometry).first() if part.geometry else None
    if known is None or not known.step:
        raise Refused("The file of this solid isn't kept here; read the STEP file again.", "lay")
    return start(user, plan, known.step, part.file_name, known.which, "part", lay)
