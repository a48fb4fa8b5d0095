"""The inputs of a calculator as somebody gives them: texts with any unit, checked against what each
may be.
"""

from __future__ import annotations

from math import isfinite
from typing import Any

from machining.quantities.checks import within
from machining.quantities.entry import parse
from machining.quantities.errors import NotUnderstood, OutOfRange

from .parameter import LEAST, MOST, Bounds, Parameter, quantity_of

MOST_ROWS = 1000  # of any list that goes in or comes out


def value_of(parameter: Parameter, value: Any) -> Any:
    """Raises NotUnderstood or OutOfRange, each naming the input."""
    if parameter.kind == "yes-no":
        text = str(value).strip().casefold()
        if text not in ("true", "false", "yes", "no", "1", "0"):
            raise NotUnderstood(parameter.name, value, parameter.accepted)
        return text in ("true", "yes", "1")
    if parameter.kind == "choice":
        text = f"{value:g}" if isinstance(value, float) else str(value).strip().casefold()
        if text not in parameter.choices:
            raise NotUnderstood(parameter.name, value, parameter.accepted)
        return text
    if parameter.kind == "sections":
        return _sections(parameter, value)
    number = _number(parameter.name, value)
    bounds = parameter.bounds or Bounds()
    if 0 < abs(number) < LEAST:
        raise OutOfRange(
            parameter.name,
            f"{number:g}",
            f"at least {LEAST:g}" if bounds.low_open else f"0, or at least {LEAST:g}",
        )
    try:
        within(
            parameter.name,
            number,
            bounds.low,
            bounds.high,
            low_open=bounds.low_open,
            high_open=bounds.high_open,
        )
    except OutOfRange:
        raise OutOfRange(parameter.name, f"{number:g}", bounds.in_words()) from None
    if bounds.whole and number != int(number):
        raise OutOfRange(parameter.name, f"{number:g}", bounds.in_words())
    return number


def _number(name: str, value: Any) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float | str):
        raise NotUnderstood(name, value, "a number")
    if not isinstance(value, str):
        try:
            return float(value)
        except OverflowError:
            raise OutOfRange(name, value, "a number a shop works with") from None
    _, quantity, unit = quantity_of(name)
    if quantity == "":
        text = value.removesuffix(unit).strip()
        try:
            return float(text)
        except ValueError:
            raise NotUnderstood(name, value, f"a number in {unit}") from None
    drill = name.endswith("diameter_mm") or name == "drill_mm"
    return parse(value, quantity, field=name, unit=unit, drill=drill).value


def _sections(parameter: Parameter, value: Any) -> tuple[tuple[float, float, float], ...]:
    rows = value.split(",") if isinstance(value, str) else value
    if not isinstance(rows, list | tuple) or not rows:
        raise NotUnderstood(parameter.name, value, parameter.accepted)
    if len(rows) > MOST_ROWS:
        raise OutOfRange(parameter.name, f"{len(rows)} sections", f"up to {MOST_ROWS}")
    sections = []
    for row in rows:
        parts = row.split(":") if isinstance(row, str) else row
        if not isinstance(parts, list | tuple) or len(parts) != 3:
            raise NotUnderstood(parameter.name, row, parameter.accepted)
        numbers = [
            _number(name, part)
            for name, part in zip(("length_mm", "diameter_mm", "modulus_gpa"), parts, strict=True)
        ]
        for name, number in zip(("length_mm", "diameter_mm", "modulus_gpa"), numbers, strict=True):
            if not (isfinite(number) and LEAST <= number <= MOST):
                raise OutOfRange(f"{parameter.name} {name}", f"{number:g}", "over 0")
        sections.append((numbers[0], numbers[1], numbers[2]))
    return tuple(sections)
