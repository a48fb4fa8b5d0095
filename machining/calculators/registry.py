"""What a calculator is, how its inputs are read, and the register of all of them.

A calculator is a function with annotated keyword inputs; the unit of each input and result is in
its name
(``diameter_mm``), so a bare number needs no other explanation.
"""

from __future__ import annotations

import importlib
import inspect
import pkgutil
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from math import isfinite
from typing import Annotated, Any, Literal, get_args, get_origin, get_type_hints

from machining.quantities.checks import within
from machining.quantities.computed import Formula
from machining.quantities.entry import parse
from machining.quantities.errors import MachiningError, Missing, NotUnderstood, OutOfRange

Results = dict[str, Any]
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
    quantity: str
    unit: str
    required: bool
    default: Any
    choices: tuple[str, ...]
    bounds: Bounds | None
    accepted: str
    words: str


@dataclass(frozen=True, slots=True)
class Calculator:
    """``asks`` holds what somebody wants to know who needs it; ``either`` names inputs of which
    exactly one is given.

    ``serves`` are the kinds of operation it helps to plan, ``fills`` says which field of such an
    operation an input or a result goes into.
    """

    name: str
    title: str
    group: str
    asks: tuple[str, ...]
    text: str
    fn: Callable[..., Results]
    parameters: dict[str, Parameter]
    either: tuple[tuple[str, ...], ...]
    uses: tuple[str, ...]
    example: dict[str, Any]
    serves: tuple[str, ...]
    fills: dict[str, str]


CALCULATORS: dict[str, Calculator] = {}
MOST_ROWS = 1000  # of any list that goes in or comes out


def calculator(
    name: str,
    title: str,
    *,
    group: str,
    asks: tuple[str, ...],
    uses: tuple[Callable[..., Any], ...] = (),
    either: tuple[tuple[str, ...], ...] = (),
    words: Mapping[str, str] | None = None,
    example: Mapping[str, Any] | None = None,
    serves: tuple[str, ...] = (),
    fills: Mapping[str, str] | None = None,
) -> Callable[[Callable[..., Results]], Callable[..., Results]]:
    """Register a calculator. Its docstring is the text of its page; ``example`` fills the page when
    it opens.
    """

    def register(fn: Callable[..., Results]) -> Callable[..., Results]:
        hints = get_type_hints(fn, include_extras=True)
        parameters = {
            p.name: _parameter(p, hints[p.name], (words or {}).get(p.name, ""))
            for p in inspect.signature(fn).parameters.values()
        }
        formulas = tuple(_formula(used).id for used in uses)
        CALCULATORS[name] = Calculator(
            name,
            title,
            group,
            asks,
            " ".join(inspect.cleandoc(fn.__doc__ or "").split()),
            fn,
            parameters,
            either,
            formulas,
            dict(example or {}),
            serves,
            dict(fills or {}),
        )
        return fn

    return register


def _formula(fn: Callable[..., Any]) -> Formula:
    known: Formula = fn.__formula__  # type: ignore[attr-defined]
    return known


def _parameter(given: inspect.Parameter, hint: Any, words: str) -> Parameter:
    required, default = (
        given.default is inspect.Parameter.empty,
        None if given.default is inspect.Parameter.empty else given.default,
    )
    parts = (
        [part for part in get_args(hint) if part is not type(None)]
        if get_origin(hint) is not Annotated and type(None) in get_args(hint)
        else [hint]
    )
    inner = parts[0]
    shown, _, unit = quantity_of(given.name)
    if get_origin(inner) is Literal:
        choices = tuple(str(each) for each in get_args(inner))
        return Parameter(
            given.name,
            "choice",
            "",
            "",
            required,
            default,
            choices,
            None,
            " or ".join(choices),
            words,
        )
    if inner is bool:
        return Parameter(
            given.name,
            "yes-no",
            "",
            "",
            required,
            default,
            ("true", "false"),
            None,
            "true or false",
            words,
        )
    kind, extra = get_args(inner)[0], get_args(inner)[1]
    if kind is not float:
        return Parameter(
            given.name,
            "sections",
            "",
            "",
            required,
            default,
            (),
            None,
            f"{extra}, separated by commas",
            words,
        )
    return Parameter(
        given.name, "number", shown, unit, required, default, (), extra, extra.in_words(), words
    )


@cache
def load() -> dict[str, Calculator]:
    """All calculators, in order of their groups; importing their files registers them."""
    import machining.calculators as package

    for module in pkgutil.iter_modules(package.__path__):
        if module.name != "registry":
            importlib.import_module(f"machining.calculators.{module.name}")
    return dict(sorted(CALCULATORS.items()))


def known(name: str) -> Calculator:
    """Raises Missing for a name that isn't there."""
    found = load().get(name)
    if found is None:
        raise Missing("calculator", name)
    return found


def calculate(name: str, given: Mapping[str, Any]) -> Results:
    """One flat object of results, numbers unrounded; texts are read with any unit the entry parser
    knows.

    Raises Missing for an unknown calculator, and OutOfRange or NotUnderstood naming the input.
    """
    asked = known(name)
    inputs = read(asked, given)
    try:
        results = asked.fn(**inputs)
    except OutOfRange as problem:
        raise _renamed(problem, asked) from None
    except (OverflowError, ZeroDivisionError):
        raise OutOfRange("the inputs together", "too far apart", "values met in a shop") from None
    for key, value in results.items():
        if isinstance(value, list) and len(value) > MOST_ROWS:
            raise OutOfRange(key, f"{len(value)} values", f"up to {MOST_ROWS}; take larger steps")
        for each in value if isinstance(value, list) else [value]:
            if isinstance(each, float) and not isfinite(each):
                raise OutOfRange(key, each, "a finite number; the inputs lie too far apart")
    return results


def read(asked: Calculator, given: Mapping[str, Any]) -> dict[str, Any]:
    """The inputs as plain values, checked one by one and for what has to come together."""
    for key in given:
        if key not in asked.parameters:
            raise NotUnderstood(
                key, given[key], f"one of the inputs of {asked.name}: {', '.join(asked.parameters)}"
            )
    inputs = {}
    for key, parameter in asked.parameters.items():
        value = given.get(key)
        if value is None or value == "":
            if parameter.required:
                raise OutOfRange(key, "missing", parameter.accepted)
            inputs[key] = parameter.default
        else:
            inputs[key] = _value(parameter, value)
    for group in asked.either:
        there = [key for key in group if inputs[key] is not None]
        if len(there) != 1:
            said = "missing" if not there else "given together"
            raise OutOfRange(" or ".join(group), said, "exactly one of them")
    return inputs


def _value(parameter: Parameter, value: Any) -> Any:
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


def _renamed(problem: OutOfRange, asked: Calculator) -> MachiningError:
    """The subjects know no calculator: give a field its name as an input has it."""
    exact = [
        name
        for name in asked.parameters
        if name == problem.field or name.startswith(problem.field + "_")
    ]
    near = exact or [
        name
        for name in asked.parameters
        if f"_{problem.field}_" in name or name.endswith("_" + problem.field)
    ]
    if not near:
        return problem
    value = f"{problem.value:g}" if isinstance(problem.value, float) else problem.value
    return OutOfRange(near[0], value, problem.accepted)
