"""Formulas that know their symbols and source, and the figures worked out with them.

Subjects hold plain functions of floats marked with ``@formula``. Only ``machining.facts`` calls
``work_out``, which keeps the inputs and where each of them came from.
"""

from __future__ import annotations

import inspect
import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Protocol, TypeVar

from .errors import OutOfRange

F = TypeVar("F", bound=Callable[..., Any])


@dataclass(frozen=True, slots=True)
class Formula:
    """What the interface needs to explain a figure."""

    id: str
    unit: str
    quantity: str
    symbols: str
    text: str
    source: str
    inputs: dict[str, str]


@dataclass(frozen=True, slots=True)
class Input:
    """One input of a figure: the value used and where it came from.

    ``origin`` is another figure's id, or a place such as ``tool:T4``, ``entered``,
    ``shop.side_margin_mm``.
    """

    name: str
    value: float
    origin: str


def as_json(plain: Any) -> str:
    """As short as JSON can be; raises ValueError for a number that is none."""
    return json.dumps(plain, separators=(",", ":"), allow_nan=False, ensure_ascii=False)


@dataclass(frozen=True)
class Computed:
    """A figure of the evaluation. ``id`` is unique in it; ``formula`` leads to the words."""

    id: str
    value: float
    formula: str
    inputs: tuple[Input, ...]

    def __float__(self) -> float:
        return float(self.value)

    @property
    def plain(self) -> list[Any]:
        """Value, formula, and name, value and origin of each input."""
        return [self.value, self.formula, [[i.name, i.value, i.origin] for i in self.inputs]]

    @cached_property
    def text(self) -> str:
        """The same as JSON: it is sent again and again, and never changes."""
        return as_json(self.plain)


@dataclass(frozen=True, slots=True)
class Given:
    """A value nobody computed: typed, or read from the library."""

    value: float
    origin: str = "entered"

    def __float__(self) -> float:
        return float(self.value)


class Value(Protocol):
    def __float__(self) -> float: ...


FORMULAS: dict[str, Formula] = {}
_FUNCTIONS: dict[str, Callable[..., float]] = {}

QUANTITY_OF_UNIT = {
    "mm": "length",
    "deg": "angle",
    "N": "force",
    "N·m": "torque",
    "kW": "power",
    "s": "time",
    "rpm": "spindle_speed",
    "m/min": "cutting_speed",
    "mm/min": "feed",
    "N/mm²": "pressure",
    "kg": "mass",
    "mm³": "volume",
    "cm³/min": "removal",
    "µm": "roughness",
    "min": "minutes",
    "": "number",
    "×": "factor",
}


def formula(*, unit: str, quantity: str | None = None) -> Callable[[F], F]:
    """Register a function as a formula; its docstring's first line holds the symbols, its last a
    ``Source:``.
    """

    def register(fn: F) -> F:
        doc = inspect.cleandoc(fn.__doc__ or "")
        symbols, _, rest = doc.partition("\n")
        text, _, source = rest.strip().partition("Source:")
        if not (symbols and source):
            raise TypeError(f"{fn.__qualname__} needs a symbol line and a Source: in its docstring")
        subject = fn.__module__.removeprefix("machining.")
        known = Formula(
            id=f"{subject}.{fn.__name__}",
            unit=unit,
            quantity=quantity or QUANTITY_OF_UNIT[unit],
            symbols=symbols,
            text=" ".join(text.split()),
            source=" ".join(source.split()),
            inputs={
                name: _unit_of(p.annotation)
                for name, p in inspect.signature(fn, eval_str=True).parameters.items()
            },
        )
        FORMULAS[known.id] = known
        _FUNCTIONS[known.id] = fn
        fn.__formula__ = known  # type: ignore[attr-defined]
        return fn

    return register


def _unit_of(annotation: Any) -> str:
    for extra in getattr(annotation, "__metadata__", ()):
        if hasattr(extra, "symbol"):
            return str(extra.symbol)
    return ""


def work_out(fn: Callable[..., float], id: str, /, **inputs: Value) -> Computed:
    """Call a formula and keep its inputs with their origins.

    Raises OutOfRange, from the formula or when the result is not finite.
    """
    value = float(fn(**{name: float(given) for name, given in inputs.items()}))
    if value != value or value in (float("inf"), float("-inf")):
        raise OutOfRange(id, value, "a finite number")
    known: Formula = fn.__formula__  # type: ignore[attr-defined]
    return Computed(
        id,
        value,
        known.id,
        tuple(Input(name, float(given), _origin(given)) for name, given in inputs.items()),
    )


def value_of(formula_id: str, inputs: Mapping[str, float]) -> float:
    """A formula's value for plain inputs. Raises OutOfRange, from the formula or when the result is
    not finite.
    """
    value = float(_FUNCTIONS[formula_id](**inputs))
    if value != value or value in (float("inf"), float("-inf")):
        raise OutOfRange(formula_id, value, "a finite number")
    return value


def _origin(given: Value) -> str:
    if isinstance(given, Computed):
        return f"figure:{given.id}"
    return given.origin if isinstance(given, Given) else "entered"
