"""Work offsets as a block of G10 that sets them in a control, written and read back."""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Literal

from machining.quantities.errors import MachiningError, NotUnderstood
from machining.quantities.units import INCH_MM

from .offset_table import ALONG, LETTERS, Line

Units = Literal["metric", "inch"]
DIGITS: dict[Units, int] = {"metric": 3, "inch": 4}
STANDARD = tuple(f"G{number}" for number in range(54, 60))
EXTENDED = re.compile(r"G54\.1 ?P([1-9]\d*)")
WORD = re.compile(r"([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))")
COMMENT = re.compile(r"\([^)]*\)|;.*|^%$")
A_LINE = "a line that sets an offset: G10 L2 P1 to P6, or G10 L20 P, then X Y Z A B C"


class NotWritten(MachiningError):
    """Offsets that no block can set."""

    def __init__(self, code: str, why: str) -> None:
        super().__init__("code", code, "an offset that can be written")
        self.args = (f"{code or 'An offset'} can't be written: {why}",)


def to_g10(lines: Iterable[Line], units: Units) -> str:
    """Units, G90 and a line for each offset: G10 L2 P1 to P6 for G54 to G59, G10 L20 P for those of
    G54.1. Of positions of a station that share one the first is written: the program goes to the
    others.

    Raises NotWritten for what is no such offset, is known only from a first position, or means two
    places: of two stations, or of two setups, which are never in the machine together.
    """
    written, owner = dict[str, str](), dict[str, tuple[int, str]]()
    for line in lines:
        if owner.setdefault(line.code, (line.setup, line.station)) != (line.setup, line.station):
            raise NotWritten(
                line.code, "another setup or station keeps its zero in it too. One setup at a time."
            )
        if line.code in written:
            continue
        if line.block != "g10":
            raise NotWritten(line.code, "whether its machine's control takes G10 is not known.")
        if line.reference != "machine":
            raise NotWritten(
                line.code,
                "where the table is in the machine is not measured. Set the first position there,"
                " and take the differences from the CSV.",
            )
        words = " ".join(
            f"{a.upper()}{_number(value, a, units)}" for a, value in line.values.items()
        )
        written[line.code] = f"G10 {_register(line.code)} {words}"
    return "\n".join(["G21" if units == "metric" else "G20", "G90", *written.values(), ""])


def from_g10(text: str) -> dict[str, dict[str, float]]:
    """The offsets that a block sets, mm and degrees by letter.

    Raises NotUnderstood for a line that sets none, in steps (G91), or before its unit is said.
    """
    scale, found = 0.0, dict[str, dict[str, float]]()
    for number, raw in enumerate(text.upper().splitlines(), 1):
        line = COMMENT.sub("", raw).strip()
        words = [(letter, float(value)) for letter, value in WORD.findall(line)]
        asked = {value for letter, value in words if letter == "G"}
        values = {letter.lower(): value for letter, value in words if letter not in "GLP"}
        twice = len({letter for letter, _ in words} - {"G"}) + len(asked) < len(words)
        twice = twice or {20.0, 21.0} <= asked
        if WORD.sub("", line).strip() or twice or not set(values) <= set(LETTERS):
            raise NotUnderstood(f"Line {number}", raw.strip(), A_LINE)
        if words and set(words) <= {("G", 20.0), ("G", 21.0), ("G", 90.0)}:
            scale = INCH_MM if 20.0 in asked else 1.0 if 21.0 in asked else scale
        elif words:
            code = _code(dict(words))
            if code is None or asked - {90.0} != {10.0}:
                raise NotUnderstood(f"Line {number}", raw.strip(), A_LINE)
            if not scale:
                raise NotUnderstood(f"Line {number}", raw.strip(), "G20 or G21 before it")
            found[code] = {a: v * (scale if a in ALONG else 1.0) for a, v in values.items()}
    return found


def _number(value: float, letter: str, units: Units) -> str:
    digits = DIGITS[units]
    shown = value / INCH_MM if units == "inch" and letter in ALONG else value
    return f"{round(shown, digits) + 0.0:.{digits}f}"


def _register(code: str) -> str:
    if code in STANDARD:
        return f"L2 P{STANDARD.index(code) + 1}"
    extended = EXTENDED.fullmatch(code)
    if extended is None:
        raise NotWritten(code, "a block sets only G54 to G59 and G54.1 P.")
    return f"L20 P{extended[1]}"


def _code(words: dict[str, float]) -> str | None:
    """What L and P name, None where that is no offset."""
    place = words.get("P", 0.0)
    if place < 1 or place != int(place):
        return None
    if words.get("L") == 2 and place <= len(STANDARD):
        return STANDARD[int(place) - 1]
    return f"G54.1 P{int(place)}" if words.get("L") == 20 else None
