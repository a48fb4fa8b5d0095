"""Reading STEP files, in a process of its own with limits of time and memory."""

from __future__ import annotations

import json
import resource
import subprocess
import sys
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path
from queue import Empty, Queue
from threading import Thread
from typing import IO, Any

from machining.facts.route import geometry_of
from machining.memo import Memo
from machining.plan.document import Plan as Document
from machining.plan.edit import Edit, SetPart, SetStock
from machining.ways.blank import shaped
from machining.ways.first_setup import with_usual_stock
from shop.base import blobs
from shop.base.problems import Refused
from shop.tasks.actions.work import Cancelled, Report, task_kind
from shop.tasks.models import Task

from . import documents
from .actions.revise import edit
from .models import Geometry, Plan

LONGEST_S = 60.0
MOST_BYTES = 2 * 1024**3


def limited() -> None:
    """What a reader of files may take."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, MOST_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (int(LONGEST_S), int(LONGEST_S)))


@dataclass(frozen=True)
class ReadSolid:
    """What the reader found: its last line, and the blobs of solid and mesh."""

    told: dict[str, Any]
    solid: str
    mesh: str


@task_kind("read-step")
def read_step(task: Task, report: Report) -> None:
    about = task.about
    found = examined(about["step"], about["solid"], report, about.get("lay", "straight"))
    if found.told.get("problem"):
        task.result = {"sizes": found.told.get("sizes", [])}
        raise Refused(str(found.told["problem"]))
    take(task, found)


def examined(
    step: str, solid: int | None, report: Report, lay: str | int = "straight"
) -> ReadSolid:
    """Read a stored file in a process of its own. Raises Refused where the reader stops or takes
    too long.
    """
    with tempfile.TemporaryDirectory() as folder:
        command = [
            sys.executable,
            "-m",
            "machining.cli",
            "read-step",
            str(blobs.path_of(step)),
            "--out",
            folder,
            "--lay",
            str(lay),
        ]
        if solid is not None:
            command += ["--solid", str(solid + 1)]
        last = _followed(command, report)
        if "problem" in last:
            return ReadSolid(last, "", "")
        if last.get("doing") != "done":
            raise Refused(
                "The file can't be read: the reader stopped. It may be damaged, or ask for more"
                f" than {MOST_BYTES / 1024**3:g} GB of memory."
            )
        return ReadSolid(
            last,
            *(
                blobs.put((Path(folder) / name).read_bytes())
                for name in ("geometry.json", "mesh.glb")
            ),
        )


def take(task: Task, found: ReadSolid) -> None:
    """Keep a solid and make it the part, or the blank, of the task's plan."""
    about, told = task.about, found.told
    Geometry.objects.get_or_create(
        key=told["key"],
        defaults={
            "step": about["step"],
            "which": about["solid"],
            "solid": found.solid,
            "mesh": found.mesh,
            "file_name": about["name"],
        },
    )
    _into_plan(task, told["key"], told["turned_deg"])
    task.result = {
        "geometry": told["key"],
        "size": told["size"],
        "features": len(told["features"]),
        "turned_deg": told["turned_deg"],
    }


def _followed(command: list[str], report: Report) -> dict[str, object]:
    """Run the reader, pass on what it says, end it on cancel or at the time limit. Its
    last line.
    """
    last: dict[str, object] = {}
    lines: Queue[bytes] = Queue()
    with subprocess.Popen(
        command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, preexec_fn=limited
    ) as child:
        assert child.stdout is not None
        reader = Thread(target=_read_into, args=(lines, child.stdout), daemon=True)
        reader.start()
        until, share, doing = time.monotonic() + LONGEST_S, 0.0, "reading"
        try:
            while reader.is_alive() or not lines.empty():
                if time.monotonic() > until:
                    raise Refused(
                        f"Reading the file took longer than {LONGEST_S:.0f} s and was stopped."
                    )
                try:
                    line = lines.get(timeout=0.3)
                except Empty:
                    report(share, doing)
                    continue
                if not line.startswith(b"{"):
                    continue  # the kernel's own chatter
                last = json.loads(line)
                share, doing = float(last.get("share", share)), str(last.get("doing", doing))  # type: ignore[arg-type]
                report(share, doing)
        except (Cancelled, Refused):
            child.kill()
            raise
    return last


def _into_plan(task: Task, key: str, turned_deg: float) -> None:
    """Set the part or the blank; when somebody edits at the same moment, on top of their edit."""
    plan = Plan.objects.get(pk=task.about["plan"])
    for _ in range(5):
        head = documents.head(plan)
        document = documents.read(head.document)
        try:
            edit(
                task.made_by,
                plan,
                head.number,
                _edits(task, document, key, turned_deg),
            )
            return
        except Refused as problem:
            if problem.status != 409:
                raise
    raise Refused("The plan was changed again and again while the file was read; try once more.")


def _read_into(lines: Queue[bytes], output: IO[bytes]) -> None:
    for line in output:
        lines.put(line)


def _edits(task: Task, document: Document, key: str, turned_deg: float) -> list[Edit]:
    name, library = task.about["name"], documents.library_for(document)
    if task.about.get("use") == "blank":
        solid = geometry_of(document, library, Memo())
        return [SetStock(stock=shaped(solid, documents.geometry(key), key, name))]
    part = document.part.model_copy(
        update={"geometry": key, "file_name": name, "turned_deg": turned_deg}
    )
    return [SetPart(part=part), *with_usual_stock(document, library.settings)]
