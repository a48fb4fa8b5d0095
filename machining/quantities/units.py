"""Quantities, their base units and the other units a shop writes them in."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi
from typing import Annotated


@dataclass(frozen=True, slots=True)
class Unit:
    symbol: str


Millimetres = Annotated[float, Unit("mm")]
Degrees = Annotated[float, Unit("deg")]
Newtons = Annotated[float, Unit("N")]
NewtonMetres = Annotated[float, Unit("N·m")]
Kilowatts = Annotated[float, Unit("kW")]
Seconds = Annotated[float, Unit("s")]
Rpm = Annotated[float, Unit("rpm")]
MetresPerMinute = Annotated[float, Unit("m/min")]
MillimetresPerMinute = Annotated[float, Unit("mm/min")]
NewtonsPerSquareMillimetre = Annotated[float, Unit("N/mm²")]
MillimetresPerSecond2 = Annotated[float, Unit("mm/s²")]
CubicCentimetresPerMinute = Annotated[float, Unit("cm³/min")]
Plain = Annotated[float, Unit("")]

INCH_MM = 25.4
FOOT_MM = 304.8
FOOT_LBF, INCH_LBF = 1.3558179483314, 0.1129848290276

# quantity -> (base unit, unit as typed -> how many base units it is)
QUANTITIES: dict[str, tuple[str, dict[str, float]]] = {
    "length": (
        "mm",
        {
            "mm": 1.0,
            "cm": 10.0,
            "m": 1000.0,
            "um": 0.001,
            "µm": 0.001,
            "micron": 0.001,
            "microns": 0.001,
            "in": INCH_MM,
            '"': INCH_MM,
            "inch": INCH_MM,
            "inches": INCH_MM,
            "thou": INCH_MM / 1000,
            "mil": INCH_MM / 1000,
            "ft": FOOT_MM,
            "'": FOOT_MM,
        },
    ),
    "angle": ("deg", {"deg": 1.0, "°": 1.0, "degrees": 1.0, "rad": 180.0 / pi, "'": 1 / 60}),
    "cutting_speed": (
        "m/min",
        {"m/min": 1.0, "m/s": 60.0, "ft/min": FOOT_MM / 1000, "sfm": FOOT_MM / 1000},
    ),
    "feed": (
        "mm/min",
        {"mm/min": 1.0, "m/min": 1000.0, "mm/s": 60.0, "in/min": INCH_MM, "ipm": INCH_MM},
    ),
    "feed_per_tooth": (
        "mm",
        {
            "mm": 1.0,
            "mm/tooth": 1.0,
            "in": INCH_MM,
            '"': INCH_MM,
            "in/tooth": INCH_MM,
            "ipt": INCH_MM,
            "thou": INCH_MM / 1000,
        },
    ),
    "pitch": ("mm", {"mm": 1.0, "in": INCH_MM, '"': INCH_MM, "thou": INCH_MM / 1000}),
    "feed_per_rev": (
        "mm",
        {
            "mm": 1.0,
            "mm/rev": 1.0,
            "in": INCH_MM,
            '"': INCH_MM,
            "mm/turn": 1.0,
            "in/rev": INCH_MM,
            "in/turn": INCH_MM,
            "ipr": INCH_MM,
            "thou": INCH_MM / 1000,
        },
    ),
    "spindle_speed": ("rpm", {"rpm": 1.0, "/min": 1.0, "1/min": 1.0}),
    "force": (
        "N",
        {"N": 1.0, "kN": 1000.0, "lbf": 4.4482216152605, "lb": 4.4482216152605, "kgf": 9.80665},
    ),
    "torque": (
        "N·m",
        {
            "N·m": 1.0,
            "Nm": 1.0,
            "N m": 1.0,
            "lbf·ft": FOOT_LBF,
            "ft·lbf": FOOT_LBF,
            "ft-lbf": FOOT_LBF,
            "ft lbf": FOOT_LBF,
            "ft-lb": FOOT_LBF,
            "ft lb": FOOT_LBF,
            "lbf·in": INCH_LBF,
            "in·lbf": INCH_LBF,
            "in-lbf": INCH_LBF,
            "in lbf": INCH_LBF,
            "in-lb": INCH_LBF,
            "in lb": INCH_LBF,
        },
    ),
    "power": ("kW", {"kW": 1.0, "W": 0.001, "hp": 0.745699871582}),
    "time": ("s", {"s": 1.0, "sec": 1.0, "min": 60.0, "h": 3600.0}),
    "mass": ("kg", {"kg": 1.0, "g": 0.001, "lb": 0.45359237, "oz": 0.028349523125}),
    "acceleration": (
        "mm/s²",
        {
            "mm/s²": 1.0,
            "mm/s2": 1.0,
            "m/s²": 1000.0,
            "m/s2": 1000.0,
            "g": 9806.65,
            "in/s²": INCH_MM,
            "in/s2": INCH_MM,
        },
    ),
    "pressure": (
        "N/mm²",
        {"N/mm²": 1.0, "N/mm2": 1.0, "MPa": 1.0, "psi": 0.006894757293168, "ksi": 6.894757293168},
    ),
    "pull": ("kPa", {"kPa": 1.0, "bar": 100.0, "N/mm²": 1000.0, "psi": 6.894757293168}),
    "roughness": (
        "µm",
        {"µm": 1.0, "um": 1.0, "mm": 1000.0, "µin": 0.0254, "uin": 0.0254, "microinch": 0.0254},
    ),
    "count": ("", {"": 1.0}),
    "ratio": ("", {"": 1.0, "%": 0.01}),
}

# quantity -> unit that counts how many fit into a length: value in base units = what it counts in /
# amount
COUNTED: dict[str, dict[str, float]] = {
    "pitch": {"TPI": INCH_MM, "tpi": INCH_MM, "threads/in": INCH_MM}
}
