"""The one formatter of figures in Python; ``web/src/ui/format.ts`` is its twin and shares its test
vectors.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from decimal import ROUND_HALF_UP, Decimal
from functools import cache
from pathlib import Path
from typing import Any, Literal

System = Literal["metric", "inch"]


@cache
def table() -> dict[str, dict[str, dict[str, Any]]]:
    """Quantity -> system -> unit, size of the unit in base units, digits after the point."""
    return tomllib.loads((Path(__file__).parent.parent / "data" / "display.toml").read_text())


def number(value: float, quantity: str, system: System = "metric") -> str:
    """The figure's digits without its unit; times read m:ss, or h:mm from an hour on."""
    if quantity == "time":
        return clock(value)
    row = table()[quantity][system]
    scaled = Decimal(repr(value / row["per"]))
    text = str(scaled.quantize(Decimal(1).scaleb(-row["digits"]), rounding=ROUND_HALF_UP))
    return text.removeprefix("-") if Decimal(text) == 0 else text


def unit(quantity: str, system: System = "metric") -> str:
    return "" if quantity == "time" else str(table()[quantity][system]["unit"])


def show(value: float, quantity: str, system: System = "metric") -> str:
    """Number and unit as a person reads them: ``×`` stands before, ``%`` and ``°``
    without a space.
    """
    digits, symbol = number(value, quantity, system), unit(quantity, system)
    if symbol == "×":
        return f"×{digits}"
    return digits + ("" if symbol in ("", "°") else " ") + symbol


def sizes(template: str, lengths: Mapping[str, float], system: System = "metric") -> str:
    """A short name with its ``{sizes}`` as bare numbers without needless zeros: ``4 × 6.8
    through``.
    """
    digits = {
        name: number(value, "size" if system == "metric" else "length", system)
        for name, value in lengths.items()
    }
    return template.format(
        **{
            name: text.rstrip("0").rstrip(".") if "." in text else text
            for name, text in digits.items()
        }
    )


def clock(seconds: float) -> str:
    whole = int(Decimal(repr(seconds)).quantize(Decimal(1), rounding=ROUND_HALF_UP))
    if whole >= 3600:
        return f"{whole // 3600} h {whole % 3600 // 60:02d}"
    return f"{whole // 60}:{whole % 60:02d}"
