"""The calculators of the core, by name."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpRequest
from ninja import Body, Router, Schema

from machining.calculators.parameter import Parameter, quantity_of
from machining.calculators.registry import Calculator, calculate, known, load, read
from machining.drawing.bench import draw
from machining.quantities.errors import Missing
from shop.base.problems import Refused

router = Router(tags=["bench"])


class ParameterOut(Schema):
    name: str
    kind: str
    quantity: str
    unit: str
    required: bool
    default: str | float | bool | None
    choices: list[str]
    accepted: str
    words: str


class CalculatorOut(Schema):
    name: str
    title: str
    group: str
    asks: list[str]
    text: str
    parameters: list[ParameterOut]
    either: list[list[str]]
    formulas: list[str]
    example: dict[str, str | float]
    serves: list[str]
    fills: dict[str, str]
    units: dict[str, tuple[str, str]]


class DrawingOut(Schema):
    svg: str


def _asked(name: str) -> Calculator:
    try:
        return known(name)
    except Missing as problem:
        raise Refused(str(problem), "calculator", name, status=404) from None


def _units(each: Calculator) -> dict[str, tuple[str, str]]:
    """Quantity and unit of every result the example gives, and of inputs that can be results."""
    names = [*each.parameters, *calculate(each.name, each.example)]
    return {name: quantity_of(name)[::2] for name in names}


@router.get("/calc", response=list[CalculatorOut])
def index(request: HttpRequest) -> list[dict[str, Any]]:
    return [
        {
            "name": each.name,
            "title": each.title,
            "group": each.group,
            "asks": list(each.asks),
            "text": each.text,
            "either": [list(group) for group in each.either],
            "formulas": list(each.uses),
            "example": each.example,
            "serves": list(each.serves),
            "fills": each.fills,
            "units": _units(each),
            "parameters": [_words(p) for p in each.parameters.values()],
        }
        for each in load().values()
    ]


def _words(parameter: Parameter) -> dict[str, Any]:
    return {key: getattr(parameter, key) for key in ParameterOut.model_fields} | {
        "choices": list(parameter.choices)
    }


@router.post("/calc/{name}", response=dict[str, Any])
def work_out(request: HttpRequest, name: str, payload: Body[dict[str, Any]]) -> dict[str, Any]:
    """One flat object, numbers unrounded. Inputs are numbers in the unit of their name, or text in
    any unit.
    """
    return calculate(_asked(name).name, payload)


@router.post("/calc/{name}/drawing", response=DrawingOut)
def drawing(
    request: HttpRequest,
    name: str,
    payload: Body[dict[str, Any]],
    system: Literal["metric", "inch"] = "metric",
) -> dict[str, Any]:
    """The drawing that follows the numbers, as SVG text."""
    asked = _asked(name)
    found = calculate(name, payload)
    return {"svg": draw(name, asked.title, read(asked, payload), found, system)}
