"""What the trade calls a size: M8 and 5/16-18, #21 and F."""

from __future__ import annotations

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
