"""Work offsets as a block of G10 that sets them in a control, written and read back."""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Literal

from machining.quantities.errors import MachiningError, NotUnderstood

from .offset_table import ALONG, INCH_MM, LETTERS, Line

Units = Literal["metric", "inch"]
DIGITS: dict[Units, int] = {"metric": 3, "inch": 4}
STANDARD = tuple(f"G{number}" for number in range(54, 60))
EXTENDED = re.compile(r"G54\.1 ?P([1-9]\d*)")
WORD = re.compile(r"([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))")
COMMENT = re.compile(r"\([^)]*\)|;.*")
A_LINE = "a line that sets an offset: G10 L2 P1 to P6, or G10 L20 P, then X Y Z A B C"


class NotWritten(MachiningError):
    """Offsets that no block can set."""

    def __init__(self, code: str, why: str) -> None:
        super().__init__("code", code, "an offset that can be written")
        self.args = (f"{code or 'An offset'} can't be written: {why}",)


def to_g10(lines: Iterable[Line], units: Units) -> str:
    """Units, G90 and a line for each offset: G10 L2 P1 to P6 for G54 to G59, G10 L20 P for those of
    G54.1. Of positions that share one the first is written: the program goes to the others.

    Raises NotWritten for what is no such offset, or is known only from a first position.
    """
    written = dict[str, str]()
    for line in lines:
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
        words = WORD.findall(COMMENT.sub("", raw))
        codes = {(letter, float(value)) for letter, value in words}
        if not words or codes <= {("G", 90.0)}:
            continue
        if codes <= {("G", 20.0), ("G", 21.0), ("G", 90.0)}:
            scale = INCH_MM if ("G", 20.0) in codes else 1.0
            continue
        values = {letter.lower(): float(value) for letter, value in words if letter not in "GLP"}
        code = _code(codes)
        if code is None or ("G", 10.0) not in codes or not set(values) <= set(LETTERS):
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


def _code(codes: set[tuple[str, float]]) -> str | None:
    """What L and P name, None where that is no offset."""
    named = {letter: value for letter, value in codes if letter in "LP"}
    place = int(named.get("P", 0))
    if named.get("L") == 2 and 1 <= place <= len(STANDARD):
        return STANDARD[place - 1]
    return f"G54.1 P{place}" if named.get("L") == 20 and place >= 1 else None
