"""Reading lines of a drawing, in a process of its own with limits of time and memory."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import UploadedFile
from ninja import Schema

from machining.exchange.lines import MEET_MM, MOST_BYTES
from shop.base.problems import Refused

from .tasks import limited

LONGEST_S = 20.0
MOST_APART_MM = 5.0


class DrawnOut(Schema):
    """Lines in mm as they are drawn, those that are closed with their first corner again at the
    end; the unit they were read in and whether the file says it; the widest gap that was closed;
    and what else was drawn, by kind.
    """

    file: str
    lines: list[list[list[float]]]
    closed: int
    unit: str
    unit_said: bool
    widest_gap_mm: float
    left_out: dict[str, int]


def read_drawn(file: UploadedFile[bytes], meet_mm: float = MEET_MM) -> dict[str, Any]:
    """Raises Refused with the reader's sentence, or where it stops or takes too long."""
    name = Path(file.name or "lines").name
    if (file.size or 0) > MOST_BYTES:
        raise Refused(
            f"The file has {(file.size or 0) / 1e6:.1f} MB; a drawing of up to"
            f" {MOST_BYTES / 1e6:.0f} MB can be read.",
            "file",
            name,
        )
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / ("drawing" + Path(name).suffix.lower()[:8])
        path.write_bytes(file.read())
        command = [sys.executable, "-m", "machining.cli", "read-lines", str(path)]
        try:
            done = subprocess.run(
                [*command, "--meet-mm", str(meet_mm)],
                capture_output=True,
                timeout=LONGEST_S,
                preexec_fn=limited,
            )
        except subprocess.TimeoutExpired as late:
            raise Refused(
                f"Reading {name[:80]} took longer than {LONGEST_S:.0f} s and was stopped.", "file"
            ) from late
    try:
        told = json.loads(done.stdout)
    except ValueError as nothing:
        raise Refused(f"{name[:80]} can't be read: the reader stopped.", "file") from nothing
    if "problem" in told:
        raise Refused(f"{name[:80]} can't be read: {told['problem']}", "file", name)
    return {"file": name[:80], **told}
