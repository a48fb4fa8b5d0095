"""A program that a shop runs on a mill to time it: words of ISO 6983, every run after a stop."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from machining.geometry.frames import Vector
from machining.motion.measured.runs import Run
from machining.motion.measured.values import axis_of
from machining.quantities.errors import MachiningError
from machining.world.capability import Rig

BEFORE = (
    "NOTHING ON THE TABLE, NO VISE. A SHORT TOOL OR NONE IN THE SPINDLE",
    "JOG TO THE MIDDLE OF X AND Y AND WELL BELOW THE TOP OF Z",
    "RAPIDS AT A QUARTER FIRST, A HAND AT THE STOP, THEN ALL OF IT AT 100 PERCENT",
    "THE MACHINE MAKERS MANUAL AND THE SHOPS RULES COME FIRST",
)
# what the machine's own cycles or buttons do
BY_HAND = {
    "pallet": "CHANGE PALLETS {} TIMES BY HAND",
    "probe": "PUT THE PROBE IN AND HAVE IT PROBE ONE PLACE {} TIMES BY THE CONTROLS OWN CYCLE",
    "bar": "FEED THE BAR ON {} TIMES BY THE MACHINES OWN CYCLE",
}
PLACES = 4


class NotWritten(MachiningError):
    """No program can be written for a machine of this kind."""

    def __init__(self, machine: str) -> None:
        super().__init__("machine", machine, "a machine whose spindle turns the tool")
        self.args = (
            f"No program is written for {machine}: its X counts diameters. Its runs are typed at"
            " the machine.",
        )


def program(rig: Rig, runs: Sequence[Run]) -> str:
    """All runs, each after a stop that tells it. Raises NotWritten for one that turns its work."""
    if rig.spindle.turns != "tool":
        raise NotWritten(rig.machine.name)
    return "\n".join([*_lines(rig, runs), ""])


def _lines(rig: Rig, runs: Sequence[Run]) -> Iterator[str]:
    yield "%"
    yield f"({_said(f'times of {rig.machine.name}, {len(runs)} runs')})"
    yield from (f"({each})" for each in BEFORE)
    yield "G21 G17 G40 G49 G80"
    for number, run in enumerate(runs, 1):
        yield f"(RUN {number} OF {len(runs)}: {_said(run.what)}, {run.repeats} TIMES)"
        yield "M0 (START THE WATCH WITH THE CYCLE)"
        yield from _of(run, rig)
        yield "M0 (STOP THE WATCH, WRITE IT DOWN)"
    yield "G90 G64"
    yield "M30"
    yield "%"


def _of(run: Run, rig: Rig) -> Iterator[str]:
    if run.kind == "spindle":
        for _ in range(run.repeats):
            yield f"S{rig.spindle.max_rpm:.0f} M3"
            yield "M5"
    elif run.kind == "change":
        for k in range(run.repeats):
            yield f"T{1 + k % 2} M6"
    elif run.kind == "codes":
        for _ in range(run.repeats):
            yield "M8"
            yield "M9"
    elif run.kind == "turn":
        axis = axis_of(rig)
        name = axis.name if axis is not None else ""
        yield "G91 G61"
        for _ in range(run.repeats):
            yield f"G0 {name}{run.degrees:g}"
            yield f"G0 {name}-{run.degrees:g}"
    elif run.kind in BY_HAND:
        yield f"({BY_HAND[run.kind].format(run.repeats)}, THEN GO ON)"
    elif run.kind == "rapid":
        yield "G91 G61"
        steps = [_words(step) for step in np.diff(run.points, axis=0)]
        for _ in range(run.repeats):
            yield from (f"G0 {words}" for words in steps)
    else:
        yield "G91 G64"
        words = [_words(step) for step in np.diff(run.path(run.repeats), axis=0)]
        yield f"G1 {words[0]} F{run.feed:.0f}"
        yield from words[1:]


def _words(step: Vector) -> str:
    moved = zip("XYZ", step.round(PLACES).tolist(), strict=True)
    return " ".join(f"{axis}{value:.4f}".rstrip("0").rstrip(".") for axis, value in moved if value)


def _said(text: str) -> str:
    """As any control shows it."""
    return text.upper().replace("/", " PER ").replace("(", "").replace(")", "")
