"""What a calculator is, and the register of all of them: a function whose annotated keyword inputs
say what they may be.
"""

from __future__ import annotations

import importlib
import inspect
import pkgutil
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from math import isfinite
from typing import Any, get_type_hints

from machining.quantities.computed import Formula
from machining.quantities.errors import MachiningError, Missing, NotUnderstood, OutOfRange

from .parameter import Parameter, parameter_of
from .reading import MOST_ROWS, value_of

Results = dict[str, Any]


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
            p.name: parameter_of(p, hints[p.name], (words or {}).get(p.name, ""))
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
            inputs[key] = value_of(parameter, value)
    for group in asked.either:
        there = [key for key in group if inputs[key] is not None]
        if len(there) != 1:
            said = "missing" if not there else "given together"
            raise OutOfRange(" or ".join(group), said, "exactly one of them")
    return inputs


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
