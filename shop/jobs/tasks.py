"""Reading STEP files, in a process of its own with limits of time and memory."""

from __future__ import annotations

import json
import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from queue import Empty, Queue
from threading import Thread

from machining.plan.edit import SetPart
from shop.base import blobs
from shop.base.problems import Refused
from shop.tasks.actions.work import Cancelled, Report, task_kind
from shop.tasks.models import Task

from . import documents
from .actions.revise import edit
from .models import Geometry, Plan

LONGEST_S = 240.0
MOST_BYTES = 6 * 1024**3


def _limit() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, MOST_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (int(LONGEST_S), int(LONGEST_S)))


@task_kind("read-step")
def read_step(task: Task, report: Report) -> None:
    about = task.about
    with tempfile.TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "machining.cli", "read-step", str(blobs.path_of(about["step"])), "--out", folder]
        if about["solid"] is not None:
            command += ["--solid", str(about["solid"] + 1)]
        last = _followed(command, report)
        if "problem" in last:
            task.result = {"sizes": last.get("sizes", [])}
            raise Refused(last["problem"])
        if last.get("doing") != "done":
            raise Refused("The file can't be read: the reader stopped. It may be too large or damaged.")
        solid, mesh = (blobs.put((Path(folder) / name).read_bytes()) for name in ("geometry.json", "mesh.glb"))
    Geometry.objects.get_or_create(key=last["key"], defaults={"step": about["step"], "solid": solid, "mesh": mesh, "file_name": about["name"]})
    _into_plan(task, last["key"])
    task.result = {"geometry": last["key"], "size": last["size"], "features": len(last["features"])}


def _followed(command: list[str], report: Report) -> dict[str, object]:
    """Run the reader, pass on what it says, end it on cancel or at the time limit. Its last line."""
    last: dict[str, object] = {}
    lines: Queue[bytes] = Queue()
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, preexec_fn=_limit) as child:
        assert child.stdout is not None
        reader = Thread(target=lambda: [lines.put(line) for line in child.stdout or ()], daemon=True)
        reader.start()
        until, share, doing = time.monotonic() + LONGEST_S, 0.0, "reading"
        try:
            while reader.is_alive() or not lines.empty():
                if time.monotonic() > until:
                    raise Refused(f"Reading the file took longer than {LONGEST_S:.0f} s and was stopped.")
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


def _into_plan(task: Task, key: str) -> None:
    """Set the part; when somebody edits at the same moment, on top of their edit."""
    plan = Plan.objects.get(pk=task.about["plan"])
    for _ in range(5):
        head = documents.head(plan)
        part = documents.read(head.document).part.model_copy(update={"geometry": key, "file_name": task.about["name"]})
        try:
            edit(task.made_by, plan, head.number, [SetPart(part=part)])
            return
        except Refused as problem:
            if problem.status != 409:
                raise
    raise Refused("The plan was changed again and again while the file was read; try once more.")
