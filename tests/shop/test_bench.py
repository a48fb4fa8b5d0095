"""The calculators over the API: the same numbers as in the core, and one shape of refusal."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from machining.calculators.registry import calculate, load

STATED = json.loads((Path(__file__).parent.parent / "vectors" / "calculators.json").read_text())


@pytest.mark.parametrize("row", STATED, ids=[f"{k}-{row['name']}" for k, row in enumerate(STATED)])
def test_worked_numbers_over_the_api(operator, row):
    found = operator.post(f"/calc/{row['name']}", row["inputs"])
    assert found == calculate(row["name"], row["inputs"])
    for key, value in row["results"].items():
        assert (
            found[key] == value
            if isinstance(value, str | list | None)
            else f"{found[key]:.4g}" == f"{value:.4g}"
        )


def test_the_index_says_what_each_takes_and_what_for(operator):
    index = operator.get("/calc")
    assert [each["name"] for each in index] == list(load())
    milling = next(each for each in index if each["name"] == "milling-load")
    assert milling["parameters"][0] == {
        "name": "diameter_mm",
        "kind": "number",
        "quantity": "size",
        "unit": "mm",
        "required": True,
        "default": None,
        "choices": [],
        "accepted": "over 0",
        "words": "",
    }
    assert "cutting.specific_force.milling_power" in milling["formulas"]
    assert next(p for p in milling["parameters"] if p["name"] == "efficiency")["default"] == 0.85
    assert next(each for each in index if each["name"] == "scallop")["either"] == [
        ["stepover_mm", "height_mm"]
    ]


@pytest.mark.parametrize(
    ("inputs", "field", "words"),
    [
        (
            {"ball_radius_mm": 4, "stepover_mm": 9},
            "stepover_mm",
            "stepover_mm is 9; it must be over 0 to 8.",
        ),
        (
            {"ball_radius_mm": "four", "stepover_mm": 1},
            "ball_radius_mm",
            "'four' is not understood",
        ),
        (
            {"ball_radius_mm": float("nan"), "stepover_mm": 1},
            "ball_radius_mm",
            "ball_radius_mm is nan",
        ),
        ({"ball_radius_mm": 4}, "stepover_mm or height_mm", "is missing"),
        ({"ball_radius_mm": 4, "stepover_mm": 1, "x": 1}, "x", "one of the inputs of scallop"),
    ],
)
def test_wrong_inputs_are_refused_in_the_one_shape(operator, inputs, field, words):
    for path in ("/calc/scallop", "/calc/scallop/drawing"):
        problem = operator.post(path, inputs, 422)
        assert words in problem["sentence"]
        assert [row["field"] for row in problem["problems"]] == [field]


def test_an_unknown_calculator_is_not_found(operator):
    assert "doesn't exist" in operator.post("/calc/nix", {}, 404)["sentence"]


def test_drawings_speak_both_systems(operator):
    cut = {"diameter_mm": "1/2in", "radial_width_mm": 1.27, "max_chip_mm": 0.08}
    assert "Ø 12.7 mm" in operator.post("/calc/chip-thinning/drawing", cut)["svg"]
    assert "Ø 0.5 in" in operator.post("/calc/chip-thinning/drawing?system=inch", cut)["svg"]


def test_ways_to_make_a_hole_on_every_machine(operator):
    rows = operator.post(
        "/hole-methods", {"diameter_mm": 20, "depth_mm": 26, "count": 3, "material": "c45"}
    )
    first = {row["name"]: row["methods"][0]["name"] for row in rows}
    assert first == {
        "Curlew": "insert drill",
        "Dunlin": "mill on a helix",
        "Heron": "insert drill",
        "Petrel": "insert drill",
    }
    heron = next(row for row in rows if row["machine"] == "heron")
    assert heron["crossing"]["other"] == "drill and bore"
    assert heron["methods"][0]["steps"][0]["limit"] == "torque"
    assert heron["methods"][-1]["seconds"] is None
    assert all(
        step["rpm"] % 10 == 0
        for row in rows
        for method in row["methods"]
        for step in method["steps"]
    )
    assert (
        operator.post(
            "/hole-methods",
            {"diameter_mm": 20, "depth_mm": 26, "material": "c45", "machines": ["dunlin"]},
        )[0]["machine"]
        == "dunlin"
    )


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"diameter_mm": 0}, "diameter_mm is 0"),
        ({"depth_mm": float("nan")}, "depth_mm is nan"),
        ({"material": "cheese"}, "no material 'cheese'"),
        ({"machines": ["gull"]}, "no machine 'gull'"),
        ({"count": 0}, "count is 0"),
    ],
)
def test_a_hole_that_cant_be_is_refused(operator, change, words):
    assert (
        words
        in operator.post(
            "/hole-methods", {"diameter_mm": 20, "depth_mm": 26, "material": "c45", **change}, 422
        )["sentence"]
    )


SLOPE = {"size_mm": 3, "angle_deg": 25, "length_mm": 300, "material": "c45", "quantity": 40}


def test_ways_to_a_slope_on_every_machine(operator):
    found = operator.post("/slope-methods", SLOPE)
    assert {row["machine"] for row in found} == {"heron", "dunlin", "curlew", "petrel"}
    for row in found:
        works = [way["per_part"] for way in row["ways"] if way["works"]]
        assert works == sorted(works) and all(
            way["because"]["text"] for way in row["ways"] if not way["works"]
        )
    heron, petrel = (
        next(row for row in found if row["machine"] == key) for key in ("heron", "petrel")
    )
    tilted = next(way for way in petrel["ways"] if way["name"] == "standard tool, tilted")
    assert (
        tilted["works"]
        and tilted["tilt_deg"] > 0
        and not next(way for way in heron["ways"] if way["name"] == "standard tool, tilted")[
            "works"
        ]
    )
    many = operator.post(
        "/slope-methods", {**SLOPE, "quantity": heron["pays_from"], "machines": ["heron"]}
    )
    assert many[0]["ways"][0]["name"] == "special tool"


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"angle_deg": 90}, "angle_deg"),
        ({"size_mm": 0}, "size_mm"),
        ({"cusp_mm": -1}, "cusp_mm"),
        ({"material": "gold"}, "material"),
        ({"machines": ["none"]}, "machines"),
        ({"quantity": 0}, "quantity"),
    ],
)
def test_a_slope_that_cannot_be_is_refused(operator, change, field):
    problem = operator.post("/slope-methods", {**SLOPE, **change}, 422)
    assert problem["problems"][0]["field"] == field and problem["sentence"]
