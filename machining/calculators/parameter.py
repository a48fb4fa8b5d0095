"""What an input of a calculator may be: its type says its bounds, its name its unit, so that a bare
number (``diameter_mm``) needs no other explanation.
"""

from __future__ import annotations

import inspect
from dataclasses import dataclass
from typing import Annotated, Any, Literal, get_args, get_origin

# nothing in a shop is larger or finer; keeps every formula clear of overflow
MOST, LEAST = 1e9, 1e-9


@dataclass(frozen=True, slots=True)
class Bounds:
    low: float = 0.0
    high: float = MOST
    low_open: bool = False
    high_open: bool = False
    whole: bool = False

    def in_words(self) -> str:
        start = f"{'over' if self.low_open else 'from'} {self.low:g}"
        end = "" if self.high >= MOST else f" to {'under ' if self.high_open else ''}{self.high:g}"
        if self.low <= -MOST:
            return "a whole number" if self.whole else "a number"
        words = (
            start + end
            if end
            else ("over 0" if self.low_open and self.low == 0 else f"{self.low:g} or more")
        )
        return f"a whole number, {words}" if self.whole else words


Over0 = Annotated[float, Bounds(low_open=True)]
From0 = Annotated[float, Bounds()]
Any_ = Annotated[float, Bounds(-MOST)]
Share = Annotated[float, Bounds(0.0, 1.0, low_open=True)]
Exponent = Annotated[float, Bounds(0.0, 1.0, high_open=True)]
Point = Annotated[float, Bounds(0.0, 180.0, low_open=True)]
Included = Annotated[float, Bounds(0.0, 180.0, low_open=True, high_open=True)]
Acute = Annotated[float, Bounds(0.0, 90.0, low_open=True, high_open=True)]
EdgeAngle = Annotated[float, Bounds(0.0, 180.0, low_open=True, high_open=True)]
Percent = Annotated[float, Bounds(0.0, 100.0, low_open=True)]
Whole = Annotated[float, Bounds(1, 1e6, whole=True)]
YesNo = bool
Sections = Annotated[tuple[tuple[float, float, float], ...], "length_mm:diameter_mm:modulus_gpa"]

# ending of a name -> quantity it shows as, quantity it is read as, unit of a bare number
_UNITS: tuple[tuple[str, str, str, str], ...] = (
    ("_cm3_min", "removal", "", "cm³/min"),
    ("_n_mm2", "pressure", "pressure", "N/mm²"),
    ("_um_n", "number", "", "µm/N"),
    ("_mm_s2", "acceleration", "acceleration", "mm/s²"),
    ("_mm_s3", "number", "", "mm/s³"),
    ("_m_min", "cutting_speed", "cutting_speed", "m/min"),
    ("_mm_min", "feed", "feed", "mm/min"),
    ("feed_per_rev_mm", "feed_per_tooth", "feed_per_rev", "mm"),
    ("feed_per_tooth_mm", "feed_per_tooth", "feed_per_rev", "mm"),
    ("chip_mm", "feed_per_tooth", "length", "mm"),
    ("_mm", "size", "length", "mm"),
    ("_deg", "angle", "angle", "deg"),
    ("_kw", "power", "power", "kW"),
    ("_nm", "torque", "torque", "N·m"),
    ("_um", "roughness", "", "µm"),
    ("_kg", "mass", "mass", "kg"),
    ("_s", "seconds", "time", "s"),
    ("_n", "force", "force", "N"),
    ("_percent", "number", "", "%"),
    ("_min", "minutes", "", "min"),
    ("rpm", "spindle_speed", "spindle_speed", "rpm"),
)
_COUNTS = frozenset(
    {
        "flutes",
        "passes",
        "pecks",
        "starts",
        "tool_rows",
        "quantity",
        "per_load",
        "jaws",
        "bars",
        "parts_per_bar",
        "rough_passes",
        "walls",
        "edges",
    }
)


def quantity_of(name: str) -> tuple[str, str, str]:
    """Quantity it shows as, quantity it is read as, unit, from a name's ending."""
    for ending, shown, read, unit in _UNITS:
        if name.endswith(ending):
            return shown, read, unit
    return ("count" if name in _COUNTS else "number"), "ratio", ""


@dataclass(frozen=True, slots=True)
class Parameter:
    """One input: ``kind`` number, choice, yes-no or sections; ``accepted`` says its
    range in words.
    """

    name: str
    kind: Literal["number", "choice", "yes-no", "sections"]
    accepted: str
    words: str
    required: bool
    default: Any
    quantity: str = ""
    unit: str = ""
    choices: tuple[str, ...] = ()
    bounds: Bounds | None = None


def parameter_of(given: inspect.Parameter, hint: Any, words: str) -> Parameter:
    """An input as the signature of a calculator's function has it."""
    required = given.default is inspect.Parameter.empty
    default = None if required else given.default
    inner = _without_none(hint)
    if get_origin(inner) is Literal:
        choices = tuple(str(each) for each in get_args(inner))
        accepted = " or ".join(choices)
        return Parameter(given.name, "choice", accepted, words, required, default, choices=choices)
    if inner is bool:
        choices = ("true", "false")
        accepted = " or ".join(choices)
        return Parameter(given.name, "yes-no", accepted, words, required, default, choices=choices)
    kind, extra = get_args(inner)[0], get_args(inner)[1]
    if kind is not float:
        accepted = f"{extra}, separated by commas"
        return Parameter(given.name, "sections", accepted, words, required, default)
    shown, _, unit = quantity_of(given.name)
    return Parameter(
        given.name, "number", extra.in_words(), words, required, default, shown, unit, bounds=extra
    )


def _without_none(hint: Any) -> Any:
    """The type itself of one that may be left out."""
    if get_origin(hint) is Annotated or type(None) not in get_args(hint):
        return hint
    return next(part for part in get_args(hint) if part is not type(None))
