"""What the trade calls a size: M8 and 5/16-18, #21 and F."""

from __future__ import annotations

import re
from functools import cache
from pathlib import Path

from .entry import drill_sizes
from .units import INCH_MM

SAME_MAJOR_MM, SAME_PITCH_MM, SAME_DRILL_MM = 0.02, 0.003, 0.003
# coarse pitches of ISO 261, the ones a thread is named without
COARSE = {
    2.0: 0.4,
    2.5: 0.45,
    3.0: 0.5,
    4.0: 0.7,
    5.0: 0.8,
    6.0: 1.0,
    8.0: 1.25,
    10.0: 1.5,
    12.0: 1.75,
    14.0: 2.0,
    16.0: 2.0,
    18.0: 2.5,
    20.0: 2.5,
    22.0: 2.5,
    24.0: 3.0,
    30.0: 3.5,
    36.0: 4.0,
}


@cache
def inch_threads() -> dict[str, tuple[float, float]]:
    """Name -> major diameter and pitch (mm). Source: ASME B1.1."""
    rows = (Path(__file__).parent.parent / "data" / "inch_threads.csv").read_text().splitlines()
    found = (row.split(",") for row in rows if row and not row.startswith("#,"))
    return {name: (float(major) * INCH_MM, INCH_MM / float(each)) for name, major, each in found}


def thread_name(major_mm: float, pitch_mm: float) -> str:
    """A thread's name, the same in both systems: ``M8``, ``M8×1``, ``5/16-18``."""
    for name, (major, pitch) in inch_threads().items():
        if abs(major - major_mm) < SAME_MAJOR_MM and abs(pitch - pitch_mm) < SAME_PITCH_MM:
            return name
    return f"M{major_mm:g}" + ("" if COARSE.get(major_mm) == pitch_mm else f"×{pitch_mm:g}")


# M8, M8x1.25, M 8 × 1 - 6H, M30x1.5 LH
_METRIC = re.compile(
    r"^M ?(?P<major>\d+(\.\d+)?)( ?[x×*] ?(?P<pitch>\d+(\.\d+)?))?(?P<rest>.*)$", re.I
)
_SPEAKS_OF_FIT = re.compile(
    r"^([ \-/]*(\d[A-Ha-h]|\d[A-Ha-h]\d[A-Ha-h]|LH|RH|UN[CFS]?|-?[123][AB]))*[ \-]*$"
)


def thread_of(name: str) -> tuple[float, float] | None:
    """Major diameter and pitch (mm) of a thread by its name, its fit and hand left out; None where
    it is none that is known: pipe threads and such.
    """
    said = " ".join(name.replace("\u2011", "-").split())
    if (found := _METRIC.match(said)) and _SPEAKS_OF_FIT.match(found["rest"]):
        major = float(found["major"])
        pitch = float(found["pitch"]) if found["pitch"] else COARSE.get(major)
        return (major, pitch) if pitch else None
    for known in sorted(inch_threads(), key=len, reverse=True):
        short = known.lstrip("#")  # #10-32 is written 10-32 too
        begins = next((each for each in (known, short) if said.startswith(each)), None)
        if begins is not None and _SPEAKS_OF_FIT.match(said[len(begins) :]):
            return inch_threads()[known]
    return None


def same_thread(a: tuple[float, float], b: tuple[float, float]) -> bool:
    """Are two (major diameter, pitch) the same thread?"""
    return abs(a[0] - b[0]) < SAME_MAJOR_MM and abs(a[1] - b[1]) < SAME_PITCH_MM


def drill_name(diameter_mm: float) -> str:
    """A number or letter drill's name, empty for other sizes."""
    return next(
        (
            name
            for name, inches in drill_sizes().items()
            if abs(inches * INCH_MM - diameter_mm) < SAME_DRILL_MM
        ),
        "",
    )
