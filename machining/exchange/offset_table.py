"""Where each position's zero is, as a table: lines, JSON and CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from math import inf, isfinite

from machining.facts.index import aim_words
from machining.facts.offsets import Offset
from machining.quantities.errors import Missing, NotUnderstood
from machining.quantities.units import INCH_MM

from .cells import guarded, separator_of, unguarded

LETTERS = "xyzabc"
ALONG = "xyz"


@dataclass(frozen=True, slots=True)
class Line:
    """A position of the table: mm and degrees by letter, only those that are known. ``block`` is
    how the control of its machine takes offsets from a file, empty where that is not known;
    ``place`` is where in the machine it stands, ``side`` what of the part is turned to the tool,
    empty for what is up there.
    """

    setup: int
    station: str
    position: int
    code: str
    reference: str
    values: dict[str, float]
    block: str = ""
    place: str = ""
    side: str = ""

    def plain(self) -> dict[str, object]:
        """As in JSON: what isn't known is null."""
        return {
            "setup": self.setup,
            "station": self.station,
            "position": self.position,
            "code": self.code,
            "reference": self.reference,
            **{_column(a): self.values.get(a) for a in LETTERS},
            "side": self.side,
        }


def table(offsets: Iterable[Offset]) -> list[Line]:
    """The lines of what was worked out."""
    return [
        Line(
            each.setup.number,
            each.station.id,
            each.position,
            each.code,
            each.reference,
            {**dict(zip(ALONG, each.at or (), strict=False)), **each.angles},
            each.setup.machine.offset_block if each.setup.machine else "",
            each.station.place.id if each.station.place else "",
            aim_words(each.station, each.side) if each.side else "",
        )
        for each in offsets
    ]


def to_csv(lines: Iterable[Line]) -> str:
    """mm and degrees, a line for each position."""
    text = io.StringIO()
    rows = [line.plain() for line in lines]
    names = list(rows[0]) if rows else [*Line(0, "", 0, "", "", {}).plain()]
    out = csv.DictWriter(text, names, lineterminator="\n")
    out.writeheader()
    for row in rows:
        out.writerow({name: _cell(value) for name, value in row.items()})
    return text.getvalue()


def from_csv(text: str) -> list[Line]:
    """The lines of such a table, as somebody has measured them; between semicolons numbers may have
    a comma.

    Raises NotUnderstood for columns that are missing, and for what is no number: by line and
    column.
    """
    text = text.lstrip("\ufeff")
    separator = separator_of(text.partition("\n")[0])
    rows = csv.DictReader(io.StringIO(text), delimiter=separator)
    try:
        wanted, there = [*Line(0, "", 0, "", "", {}).plain()], rows.fieldnames or []
        missing = [name for name in wanted if name not in there and name != "side"]
        if missing:
            raise NotUnderstood("Columns", ", ".join(there), f"{missing[0]} too, as written")
        return [_line(row, number, separator == ";") for number, row in enumerate(rows, 2)]
    except csv.Error as problem:
        raise NotUnderstood("The table", str(problem), "it as CSV") from None


def differences(planned: Iterable[Line], measured: Iterable[Line]) -> list[Difference]:
    """Of each measured position, as much as is known of both; where the table is not measured, as
    the first one of it that is there says.

    Raises Missing for a position that is not planned, NotUnderstood for one that was measured in
    another offset or twice, and for a table that looks like inches.
    """
    by_place, found = {_place(line): line for line in planned}, list[Difference]()
    seen, firsts = set[tuple[int, str, int, str]](), dict[tuple[int, str], Difference]()
    for line in measured:
        place = _place(line)
        if place not in by_place:
            raise Missing("Position", f"{line.position} of {line.station} in setup {line.setup}")
        plan = by_place[place]
        if line.code != plan.code:
            raise NotUnderstood(f"Offset of position {line.position}", line.code, plan.code)
        if place in seen:
            raise NotUnderstood("Position", f"{line.position} of {line.station}", "it once")
        seen.add(place)
        values = line.values
        if plan.reference == "first position":
            first = firsts.setdefault((plan.setup, plan.place), Difference(plan, values))
            values = {a: v - first.by.get(a, 0.0) for a, v in values.items() if a in first.by}
        found.append(Difference(plan, values))
    wrong = [each for each in found if each.off() > 0.0]
    if wrong and all(each.off(INCH_MM) < each.off() / 10.0 for each in wrong):
        raise NotUnderstood("Measured offsets", "inches, it seems", "them in mm")
    return found


@dataclass(frozen=True, slots=True)
class Difference:
    """What was planned of a position, and its measured values by letter (mm, degrees), from the
    same reference.
    """

    planned: Line
    measured: dict[str, float]

    @property
    def by(self) -> dict[str, float]:
        """How far the measured ones are off, by letter."""
        return {a: self.measured[a] - v for a, v in self._both.items()}

    def off(self, scale: float = 1.0) -> float:
        """How far off along X, Y or Z at most, the measured ones taken larger."""
        return max(
            (abs(scale * self.measured[a] - v) for a, v in self._both.items() if a in ALONG),
            default=0.0,
        )

    @property
    def _both(self) -> dict[str, float]:
        return {a: v for a, v in self.planned.values.items() if a in self.measured}


def _place(line: Line) -> tuple[int, str, int, str]:
    return line.setup, line.station, line.position, line.side


def _cell(value: object) -> object:
    if isinstance(value, float):
        return round(value, 3)
    return guarded(value) if isinstance(value, str) else value


def _line(row: dict[str, str], number: int, comma: bool) -> Line:
    def read(name: str) -> float | None:
        text = (row[name] or "").strip()
        text = text.replace(",", ".") if comma else text
        try:
            value = float(text) if text else None
        except ValueError:
            value = inf
        if value is not None and not isfinite(value):
            raise NotUnderstood(f"Line {number}, {name}", text, "a number, or nothing")
        return value

    def count(name: str) -> int:
        value = read(name)
        if value is None or value != int(value):
            raise NotUnderstood(f"Line {number}, {name}", row[name] or "", "a whole number")
        return int(value)

    values = {a: read(_column(a)) for a in LETTERS}
    return Line(
        count("setup"),
        unguarded(row["station"] or ""),
        count("position"),
        unguarded(row["code"] or "").strip(),
        row["reference"] or "",
        {a: value for a, value in values.items() if value is not None},
        side=unguarded(row.get("side") or "").strip(),
    )


def _column(letter: str) -> str:
    return f"{letter}_{'mm' if letter in ALONG else 'deg'}"
