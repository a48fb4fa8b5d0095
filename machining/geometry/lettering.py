"""Letters and digits as single strokes, for marking with a pointed tool."""

from __future__ import annotations

from functools import cache
from math import cos, radians, sin

Point = tuple[float, float]
Stroke = tuple[Point, ...]
HIGH, STEP, GAP = 6.0, 4.0, 1.6  # grid height of a capital, width of a wide sign, room between two

# Corners on a grid of 4 by 6, strokes apart by a space; a corner is its two digits.
_SIGNS = {
    "A": "00 26 40|11 31",
    "B": "00 06 36 45 44 33 03|33 42 41 30 00",
    "C": "45 36 16 05 01 10 30 41",
    "D": "00 06 26 44 42 20 00",
    "E": "46 06 00 40|03 33",
    "F": "46 06 00|03 33",
    "G": "45 36 16 05 01 10 30 41 43 23",
    "H": "00 06|40 46|03 43",
    "I": "20 26",
    "J": "36 31 20 10 01",
    "K": "00 06|46 03 40",
    "L": "06 00 40",
    "M": "00 06 23 46 40",
    "N": "00 06 40 46",
    "O": "10 01 05 16 36 45 41 30 10",
    "P": "00 06 36 45 44 33 03",
    "Q": "10 01 05 16 36 45 41 30 10|22 40",
    "R": "00 06 36 45 44 33 03|23 40",
    "S": "01 10 30 41 42 33 13 04 05 16 36 45",
    "T": "06 46|26 20",
    "U": "06 01 10 30 41 46",
    "V": "06 20 46",
    "W": "06 10 23 30 46",
    "X": "00 46|06 40",
    "Y": "06 23 46|23 20",
    "Z": "06 46 00 40",
    "0": "10 01 05 16 36 45 41 30 10|11 35",
    "1": "14 26 20|10 30",
    "2": "05 16 36 45 44 00 40",
    "3": "06 46 23 33 42 41 30 10 01",
    "4": "30 36 02 42",
    "5": "46 06 03 33 42 41 30 10 01",
    "6": "45 36 16 05 01 10 30 41 42 33 13 02",
    "7": "06 46 10",
    "8": "13 04 05 16 36 45 44 33 13 02 01 10 30 41 42 33",
    "9": "01 10 30 41 45 36 16 05 04 13 33 44",
    "-": "13 33",
    "/": "00 46",
    ".": "20 21",
    ":": "21 22|24 25",
    "+": "13 33|22 24",
    "=": "12 32|14 34",
    " ": "",
}
SIGNS = frozenset(_SIGNS)


@cache
def _strokes(sign: str) -> tuple[Stroke, ...]:
    return tuple(
        tuple((float(spot[0]), float(spot[1])) for spot in stroke.split())
        for stroke in _SIGNS[sign].split("|")
        if stroke
    )


def written(
    text: str, x: float, y: float, height: float, angle_deg: float = 0.0
) -> tuple[Stroke, ...]:
    """Strokes (mm) of a text whose baseline starts at x, y. Small letters are written as capitals;
    the text holds only SIGNS.
    """
    scale, c, s = height / HIGH, cos(radians(angle_deg)), sin(radians(angle_deg))
    found, at = [], 0.0
    for sign in text.upper():
        for stroke in _strokes(sign):
            found.append(
                tuple(
                    (x + scale * ((u + at) * c - v * s), y + scale * ((u + at) * s + v * c))
                    for u, v in stroke
                )
            )
        at += STEP + GAP
    return tuple(found)
