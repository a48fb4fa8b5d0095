"""Range checks that name the field, the value and what is accepted."""

from __future__ import annotations

from math import isfinite

from .errors import OutOfRange


def _text(value: float) -> str:
    return f"{value:g}"


MOST_PASSES = 1000  # that anybody lists one by one


def listed(field: str, passes: float, low: float = 1.0) -> int:
    """A number of passes that is listed pass by pass. Raises OutOfRange over 1000."""
    return int(within(field, passes, low, MOST_PASSES))


def finite(field: str, value: float) -> float:
    if not isfinite(value):
        raise OutOfRange(field, value, "a finite number")
    return value


def positive(field: str, value: float) -> float:
    if not (isfinite(value) and value > 0):
        raise OutOfRange(field, value, "over 0")
    return value


def not_negative(field: str, value: float) -> float:
    if not (isfinite(value) and value >= 0):
        raise OutOfRange(field, value, "0 or more")
    return value


def within(
    field: str,
    value: float,
    low: float,
    high: float,
    *,
    low_open: bool = False,
    high_open: bool = False,
) -> float:
    """Return value when it lies between low and high; an open end excludes the end itself."""
    above = value > low if low_open else value >= low
    below = value < high if high_open else value <= high
    if not (isfinite(value) and above and below):
        raise OutOfRange(
            field,
            value,
            f"{'over' if low_open else 'from'} {_text(low)} {'to under' if high_open else 'to'}"
            f" {_text(high)}",
        )
    return value
