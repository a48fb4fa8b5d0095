"""Each field of a plan with sensible and silly values: refused with a sentence, or answered; never
a fault, never the last net, never infinite.
"""

from __future__ import annotations

import logging
from dataclasses import replace
from typing import Any

import pytest
from pydantic import BaseModel

from machining.ask import QUESTIONS
from machining.ask.trying import preview
from machining.plan.apply import EditRefused, apply
from machining.plan.edit import Change, SetPart, SetStock
from machining.plan.operation import Slope
from machining.quantities.errors import MachiningError
from machining.world.geometry import of_block
from machining.world.part import Part, Requirement
from machining.world.stock import Round
from machining.world.stock.hexagon import Hexagon
from machining.world.stock.plate import Plate
from machining.world.stock.shaped import Shaped
from machining.world.stock.square import Square
from machining.world.stock.tube import Tube
from tests.at_length import ALL, some

from . import build, lathe
from .test_robust import ODD, TOOLS_TOO

REFUSED: tuple[Any, ...] = (None, -1.0, 0.0, 1e-9, 1e12, "deep", "", True, [1], {"a": 1})
SENSIBLE: tuple[float, ...] = (0.001, 12.0)
THOROUGH: tuple[float, ...] = (0.001, 0.01, 0.1, 0.6, 3.0, 12.0, 89.0, 500.0, 9_999.0, 200_000.0)
NUMBERS = REFUSED + (THOROUGH if ALL else SENSIBLE)
WORDS: tuple[Any, ...] = (None, "", "flood", "none", "G54.1 P3", "t1", "x" * 600, "a\nb", "\x00", 7)
ODD_PLANS = {op.id: build.plan(build.FACE, op, tools=TOOLS_TOO) for op in ODD}
PLANS = {
    **{op.id: build.good() for op in build.GOOD},
    **ODD_PLANS,
    **{f"lathe {op.id}": lathe.plan(*lathe.GOOD) for op in lathe.GOOD},
}
PLANS["tilted"] = build.plan(
    build.FACE,
    Slope(id="tilted", tool="t14", size_mm=3, angle_deg=25, axes="locked"),
    tools=TOOLS_TOO,
)

EACH = 25  # of the values of a field


def leaves(record: BaseModel, path: str = "") -> list[str]:
    """Every field of a record by its path, records inside it too."""
    found = []
    for name in type(record).model_fields:
        value, at = getattr(record, name), f"{path}{name}"
        found += leaves(value, f"{at}.") if isinstance(value, BaseModel) else [at]
    return found


def values_for(record: BaseModel, path: str) -> tuple[Any, ...]:
    value: Any = record
    for name in path.split("."):
        value = getattr(value, name)
    numeric = isinstance(value, float | int) or value is None
    return NUMBERS if numeric and not isinstance(value, bool) else (*WORDS, *NUMBERS[:4])


def all_answered(plan, on: str, record: BaseModel, bench) -> int:
    count = 0
    for place, path in enumerate(leaves(record)):
        values = values_for(record, path)
        for value in some(values, EACH, place % EACH):
            count += 1
            try:
                changed = apply(plan, [Change(on=on, fields={path: value})])
            except (EditRefused, MachiningError) as refused:
                assert "{" not in str(refused).replace("{'a'", "") and len(str(refused)) < 600
                continue
            assert QUESTIONS["answer"](changed, bench.LIBRARY, bench.MEMO), (path, value)
            if value in (12.0, "flood"):
                preview(
                    plan,
                    bench.LIBRARY,
                    bench.MEMO,
                    [Change(on=on, fields={path: value}).model_dump(mode="json")],
                )
    return count


@pytest.mark.parametrize("name", sorted(PLANS))
def test_every_field_of_an_operation(name, caplog):
    id, bench = name.removeprefix("lathe "), lathe if name.startswith("lathe ") else build
    plan = PLANS[name]
    assert all_answered(plan, f"operation:{id}", plan.setups[0].operation(id), bench) > 4
    assert [row.getMessage() for row in caplog.records if row.levelno >= logging.ERROR] == []


OTHERS = [
    ("setup:s1", build),
    ("station:st1", build),
    ("setup:s1", lathe),
    ("station:st1", lathe),
    ("tool:t3", build),
    ("tool:t1", lathe),
    ("plan", build),
]


@pytest.mark.parametrize(
    ("what", "bench"),
    OTHERS,
    ids=lambda each: each if isinstance(each, str) else each.__name__.split(".")[-1],
)
def test_every_field_of_a_setup_a_tool_and_the_plan(what, bench, caplog):
    plan = build.good() if bench is build else lathe.plan(*lathe.GOOD)
    record = (
        plan
        if what == "plan"
        else plan.setups[0]
        if what.startswith("setup")
        else plan.stations[0]
        if what.startswith("station")
        else plan.tool(what.partition(":")[2])
    )
    all_answered(plan, what, record, bench)
    assert [row.getMessage() for row in caplog.records if row.levelno >= logging.ERROR] == []


BLANKS = (
    build.STOCK,
    Plate(),
    Round(diameter_mm=100.0),
    Tube(diameter_mm=110.0, bore_mm=4.0),
    Hexagon(across_mm=100.0),
    Square(across_mm=90.0),
    Shaped(geometry="cast"),
)


@pytest.mark.parametrize("stock", BLANKS, ids=lambda stock: stock.form)
def test_every_field_of_every_blank(stock, caplog):
    cast = of_block(build.PART.model_copy(update={"size_mm": (88.0, 58.0, 26.0), "typed": ()}))
    library = replace(build.LIBRARY, geometries={"cast": cast})
    plan = build.plan(build.FACE, build.ROUGH, stock=stock)
    for place, path in enumerate(leaves(stock)):
        values = values_for(stock, path)
        for value in some(values, EACH, place % EACH):
            try:
                changed = apply(plan, [Change(on="plan", fields={f"stock.{path}": value})])
            except EditRefused as refused:
                assert len(str(refused)) < 600
                continue
            assert QUESTIONS["answer"](changed, library, build.MEMO)
    assert [row.getMessage() for row in caplog.records if row.levelno >= logging.ERROR] == []


def test_every_field_of_the_part(caplog):
    plan = build.good()
    requirement = Requirement(
        id="r", what="Pocket depth", feature="recess", nominal_mm=8.0, upper_mm=0.05, lower_mm=-0.05
    )
    thin = apply(plan, [SetStock(stock=Round(diameter_mm=0.001))])
    # the blank is gone before the part is cut
    assert QUESTIONS["answer"](thin, build.LIBRARY, build.MEMO)
    for place, path in enumerate(leaves(requirement)):
        for value in some(values_for(requirement, path), EACH, place % EACH):
            try:
                part = Part.model_validate(
                    {
                        **plan.part.model_dump(),
                        "requirements": [{**requirement.model_dump(), path: value}],
                    }
                )
            except ValueError:
                continue
            assert QUESTIONS["answer"](apply(plan, [SetPart(part=part)]), build.LIBRARY, build.MEMO)
    assert [row.getMessage() for row in caplog.records if row.levelno >= logging.ERROR] == []
