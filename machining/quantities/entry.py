"""Reads what a person types into a number field: ``3/8"``, ``1-1/4 in``, ``10 thou``, ``12,5``,
``20 TPI``, ``#21``, ``B``.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache
from math import isfinite
from pathlib import Path

from .errors import NotUnderstood
from .units import COUNTED, INCH_MM, QUANTITIES

_NUMBER = r"(?:\d+\.\d*|\.\d+|\d+)(?:[eE][+-]?\d+)?"
_AMOUNT = re.compile(
    rf"""^(?P<sign>[+-]?)\s*(?:
        (?P<whole>\d+)\s*[-\s]\s*(?P<mixed_top>\d+)\s*/\s*(?P<mixed_bottom>\d+)
      | (?P<top>{_NUMBER})\s*/\s*(?P<bottom>{_NUMBER})
      | (?P<plain>{_NUMBER})
    )\s*(?P<unit>.*)$""",
    re.VERBOSE,
)
_COMMA = re.compile(r"(?<![\d.,])(\d*),(\d+)(?![\d.,])")
_CLOCK = re.compile(r"^(?:(\d+):)?(\d{1,3}):([0-5]?\d(?:\.\d*)?)$")
_NUMBER_DRILL = re.compile(r"^#\s*(\d{1,2})$")


@dataclass(frozen=True, slots=True)
class Entry:
    """A value in the base unit of its quantity, and the unit it was written in."""

    value: float
    unit: str


@cache
def drill_sizes() -> dict[str, float]:
    """Number and letter drills, name to diameter in inches. Source: ASME B94.11M."""
    rows = (Path(__file__).parent.parent / "data" / "drills.csv").read_text().splitlines()
    return {
        name: float(size)
        for name, size in (row.split(",") for row in rows if row and not row.startswith("#,"))
    }


def parse(
    text: str,
    quantity: str = "length",
    *,
    field: str = "Value",
    unit: str | None = None,
    drill: bool = False,
) -> Entry:
    """Return the entry in base units; a bare number is in ``unit`` (default: the base unit).

    Where a drill is meant, ``#21`` and ``B`` are number and letter drills.
    Raises NotUnderstood with the field, the text and what would be accepted.
    """
    base, units = QUANTITIES[quantity]
    raw = text.strip()
    if drill and quantity == "length" and (size := _drill(raw)) is not None:
        return Entry(size * INCH_MM, "drill")
    if quantity == "time" and (clock := _CLOCK.match(raw)):
        hours, minutes, seconds = clock.groups()
        return Entry(int(hours or 0) * 3600 + int(minutes) * 60 + float(seconds), "clock")
    raw = _decimal_comma(raw, field)
    found = _AMOUNT.match(
        raw.replace("⁄", "/").replace("″", '"').replace("′", "'").replace("−", "-")
    )
    if not found:
        raise NotUnderstood(field, text, _examples(quantity, drill))
    amount = _amount(found)
    named = found["unit"].strip() or (unit if unit is not None else base)
    if amount and (counted := COUNTED.get(quantity, {}).get(named)) is not None:
        return Entry(counted / amount, named)
    factor = _factor(named, units, base)
    if amount is None or factor is None or not isfinite(amount * factor):
        raise NotUnderstood(field, text, _examples(quantity, drill))
    return Entry(amount * factor, named)


def _decimal_comma(raw: str, field: str) -> str:
    """``12,5`` is 12.5; ``1,000`` could be a thousand, and is asked back."""
    found = _COMMA.search(raw)
    if found is None:
        return raw
    whole, part = found.groups()
    if len(part) == 3 and whole.strip("0"):
        raise NotUnderstood(
            field, raw, f"{whole}{part} or {whole}.{part}: with a comma it can be read as either"
        )
    return raw[: found.start()] + f"{whole or '0'}.{part}" + raw[found.end() :]


def _drill(raw: str) -> float | None:
    if number := _NUMBER_DRILL.match(raw):
        return drill_sizes().get("#" + number[1].lstrip("0"))
    return drill_sizes().get(raw.upper()) if len(raw) == 1 else None


def _amount(found: re.Match[str]) -> float | None:
    sign = -1.0 if found["sign"] == "-" else 1.0
    try:
        if found["whole"] is not None:
            return sign * (
                int(found["whole"]) + int(found["mixed_top"]) / int(found["mixed_bottom"])
            )
        if found["top"] is not None:
            return sign * float(found["top"]) / float(found["bottom"])
        return sign * float(found["plain"])
    except (ZeroDivisionError, OverflowError):
        return None


def _factor(named: str, units: dict[str, float], base: str) -> float | None:
    if named == base:
        return 1.0
    if named in units:
        return units[named]
    folded = {name.casefold(): factor for name, factor in units.items()}
    return folded.get(" ".join(named.casefold().split()))


def _examples(quantity: str, drill: bool) -> str:
    if quantity == "length":
        return '12, 12 mm, 0.5 in, 3/8", 1-1/4 in or 10 thou' + (
            ", #21 or a letter drill" if drill else ""
        )
    if quantity == "pitch":
        return "a pitch such as 1.25 mm, or 20 TPI"
    base, units = QUANTITIES[quantity]
    others = [name for name in units if name not in ("", base)][:2]
    return f"a number, alone or with {' or '.join([base, *others])}" if base else "a plain number"
