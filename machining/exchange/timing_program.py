"""A program that a shop runs on a machine to time it: words of ISO 6983, every run after a stop.

Of a lathe X counts diameters, and controls write a way from where they are in one of two manners:
after G91, or with U, V and W. A control that has the other one should refuse the first word of it;
that it did not is seen where its first moves are stepped through.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from machining.geometry.frames import Vector
from machining.motion.measured.runs import Run
from machining.motion.measured.values import axis_of
from machining.world.capability import Rig

Ways = Literal["g91", "uvw"]  # how a control is told a way from where it is

LAST = (
    "RAPIDS AT A QUARTER FIRST, A HAND AT THE STOP, THEN ALL OF IT AT 100 PERCENT",
    "THE MACHINE MAKERS MANUAL AND THE SHOPS RULES COME FIRST",
)
ON_MILL = (
    "NOTHING ON THE TABLE, NO VISE. A SHORT TOOL OR NONE IN THE SPINDLE",
    "JOG TO THE MIDDLE OF X AND Y AND WELL BELOW THE TOP OF Z",
)
ON_LATHE = (
    "NOTHING IN THE CHUCK, NO BAR, SPINDLE STOPPED, SHORT TOOLS ONLY",
    "TAILSTOCK, STEADY AND ANY SECOND SPINDLE OUT OF THE WAY",
    "JOG TO WHERE THE TURRET STANDS FREE, {inwards} MM ON ALL SIDES",
    "AND FROM THERE TO THE PLUS SIDE {room}",
    "X COUNTS DIAMETERS HERE: NOT FOR A CONTROL THAT IS SET TO COUNT RADII",
    "FIRST BLOCK BY BLOCK: OUT IN X BY {first} MM OF RADIUS AND BACK TO THE START. ELSE STOP",
)
INWARDS_MM = 20  # more than what is nearly round goes back past its start
# what the machine's own cycles or buttons do
BY_HAND = {
    "pallet": "CHANGE PALLETS {} TIMES BY HAND",
    "probe": "PUT THE PROBE IN AND HAVE IT PROBE ONE PLACE {} TIMES BY THE CONTROLS OWN CYCLE",
    "bar": "FEED THE BAR ON {} TIMES BY THE MACHINES OWN CYCLE",
}
BY_HAND_ON_LATHE = {
    "change": "GO BETWEEN TWO STATIONS OF THE TURRET {} TIMES BY THE CONTROLS OWN WORDS",
    "turn": "TURN THE SPINDLE AS AN AXIS {} TIMES BY THE CONTROLS OWN WORDS",
}
PLACES = 4


@dataclass(frozen=True, slots=True)
class Manner:
    """How ways are written: by which ``names`` of X, Y and Z, so many times as long (a diameter is
    twice its radius), and what stands before rapids, before feeds, and at its begin and end.
    """

    names: str
    times: tuple[float, float, float]
    rapids: str
    feeds: str
    begins: str
    ends: str

    def words(self, step: Vector) -> str:
        moved = zip(self.names, (step * self.times).round(PLACES).tolist(), strict=True)
        return " ".join(f"{axis}{by:.4f}".rstrip("0").rstrip(".") for axis, by in moved if by)


MILL = Manner("XYZ", (1.0, 1.0, 1.0), "G91 G61", "G91 G64", "G21 G17 G40 G49 G80", "G90 G64")
LATHE: dict[Ways, Manner] = {
    "g91": Manner("XYZ", (2.0, 1.0, 1.0), "G91", "G91 G94", "G21 G18 G40", "G90"),
    "uvw": Manner("UVW", (2.0, 1.0, 1.0), "", "G98", "G21 G18 G40", ""),
}


def program(rig: Rig, runs: Sequence[Run], ways: Ways = "g91") -> str:
    """All runs, each after a stop that tells it; ``ways`` is how a lathe's control writes them."""
    manner = LATHE[ways] if rig.spindle.turns == "work" else MILL
    return "\n".join([*_lines(rig, runs, manner), ""])


def _lines(rig: Rig, runs: Sequence[Run], manner: Manner) -> Iterator[str]:
    yield "%"
    yield f"({_said(f'times of {rig.machine.name}, {len(runs)} runs')})"
    before = ON_MILL if manner is MILL else _on_lathe(runs, rig)
    yield from (f"({each})" for each in (*before, *LAST))
    yield manner.begins
    for number, run in enumerate(runs, 1):
        yield f"(RUN {number} OF {len(runs)}: {_said(run.what)}, {run.repeats} TIMES)"
        yield "M0 (START THE WATCH WITH THE CYCLE)"
        yield from (line for line in _of(run, rig, manner) if line)
        yield "M0 (STOP THE WATCH, WRITE IT DOWN)"
    if manner.ends:
        yield manner.ends
    yield "M30"
    yield "%"


def _on_lathe(runs: Sequence[Run], rig: Rig) -> Iterator[str]:
    far = np.max([each.points.max(axis=0) for each in runs], axis=0) + INWARDS_MM
    travel = rig.carrier.travel
    ways = zip(("OF RADIUS IN X", "IN Y", "IN Z"), far, (travel.x, travel.y, travel.z), strict=True)
    room = ", ".join(f"{most:.0f} MM {words}" for words, most, has in ways if has > 0.0)
    first = f"{runs[0].points.max():g}"
    yield from (each.format(inwards=INWARDS_MM, room=room, first=first) for each in ON_LATHE)


def _of(run: Run, rig: Rig, manner: Manner) -> Iterator[str]:
    by_hand = BY_HAND if manner is MILL else BY_HAND | BY_HAND_ON_LATHE
    if run.kind in by_hand:
        yield f"({by_hand[run.kind].format(run.repeats)}, THEN GO ON)"
    elif run.kind == "spindle":
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
        yield manner.rapids
        for _ in range(run.repeats):
            yield f"G0 {name}{run.degrees:g}"
            yield f"G0 {name}-{run.degrees:g}"
    elif run.kind == "rapid":
        yield manner.rapids
        steps = [manner.words(step) for step in np.diff(run.points, axis=0)]
        for _ in range(run.repeats):
            yield from (f"G0 {words}" for words in steps)
    else:
        yield manner.feeds
        words = [manner.words(step) for step in np.diff(run.path(run.repeats), axis=0)]
        yield f"G1 {words[0]} F{run.feed:.0f}"
        yield from words[1:]


def _said(text: str) -> str:
    """As any control shows it."""
    shown = text.upper().replace("/", " PER ").replace("°", " DEG")
    return shown.replace("(", "").replace(")", "")
