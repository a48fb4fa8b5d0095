"""Every calculator: worked numbers by hand, inputs in any unit, sentences for what is wrong, and
never a NaN.
"""

from __future__ import annotations

import json
import xml.etree.ElementTree as ET
from math import isfinite, pi

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from machining.calculators.parameter import Parameter
from machining.calculators.registry import CALCULATORS, calculate, load, read
from machining.cli import main
from machining.cutting import finish
from machining.drawing.bench import draw
from machining.quantities.errors import MachiningError, NotUnderstood, OutOfRange
from tests.at_length import often

from .worked_numbers import BY_HAND, CUT, STATED


@pytest.mark.parametrize(("name", "inputs", "expected"), STATED + BY_HAND)
def test_worked_numbers(name, inputs, expected):
    """To four significant digits, the precision they are stated with."""
    found = calculate(name, inputs)
    for key, value in expected.items():
        assert _stated(found[key]) == _stated(value), key


def _stated(value):
    if isinstance(value, list):
        return [_stated(each) for each in value]
    return f"{value + 0.0:.4g}" if isinstance(value, int | float) else value


def test_each_calculator_has_a_worked_number():
    assert {name for name, _, _ in STATED + BY_HAND} == set(load())


@pytest.mark.parametrize("name", sorted(load()))
def test_each_page_opens_with_an_example_and_says_what_it_is_for(name):
    known = load()[name]
    assert calculate(name, known.example)
    assert all(ask.endswith("?") for ask in known.asks)
    assert known.asks
    assert known.text.endswith(".")


@pytest.mark.parametrize(
    ("typed", "millimetres"),
    [
        ("1/2in", 12.7),
        ('3/8"', 9.525),
        ("12 mm", 12.0),
        ("12", 12.0),
        ("#21", 4.0386),
        ("500 thou", 12.7),
    ],
)
def test_an_input_takes_any_unit(typed, millimetres):
    """The same cut typed in inch and in millimetres can't disagree."""
    asked = {"flutes": "3", "cutting_speed_m_min": "350 m/min", "feed_per_tooth_mm": "0.12"}
    here, there = (
        calculate("milling-speeds", {**asked, "diameter_mm": each}) for each in (typed, millimetres)
    )
    assert (here["rpm"], here["feed_mm_min"]) == pytest.approx(
        (there["rpm"], there["feed_mm_min"]), rel=1e-14
    )
    assert calculate(
        "milling-speeds", {**asked, "cutting_speed_m_min": "1000 sfm", "diameter_mm": typed}
    )["cutting_speed_m_min"] == pytest.approx(304.8)


def test_on_the_command_line(capsys):
    assert (
        main(["calc", "milling-load", *(f"{key}={value}" for key, value in CUT.items()), "--json"])
        == 0
    )
    flat = json.loads(capsys.readouterr().out)
    assert flat == calculate("milling-load", CUT)
    assert (
        main(["calc", "milling-load", "--json", *(f"{key}={value}" for key, value in CUT.items())])
        == 0
    )
    assert json.loads(capsys.readouterr().out) == flat
    assert (
        main(
            [
                "calc",
                "undercut-passes",
                "total_width_mm=6",
                "flank_length_mm=8",
                "passes=2",
                "equal=step",
            ]
        )
        == 0
    )
    assert "engaged_flank_mm           4.000 mm, 8.000 mm" in capsys.readouterr().out
    assert main(["calc"]) == 0
    assert [line.split()[0] for line in capsys.readouterr().out.splitlines()] == list(load())
    for arguments, words in (
        (["calc", "nix"], "'nix' doesn't exist"),
        (["calc", "scallop", "12"], "key=value; scallop takes ball_radius_mm"),
        (["calc", "scallop", "ball_radius_mm=x"], "ball_radius_mm: 'x'"),
    ):
        assert main(arguments) == 2
        assert words in capsys.readouterr().err


def _inputs(parameter: Parameter) -> st.SearchStrategy:
    if parameter.kind == "number":
        odd = st.sampled_from(
            [0, -1, float("nan"), float("inf"), 1e300, 1e-300, "", "x", "1/0", None, [], {}]
        )
        return st.one_of(st.floats(0.001, 500), st.integers(1, 12), odd)
    if parameter.kind == "sections":
        return st.one_of(
            st.lists(
                st.tuples(st.floats(0.1, 100), st.floats(0.1, 50), st.floats(1, 700)), max_size=4
            ),
            st.text(max_size=8),
        )
    return st.sampled_from([*parameter.choices, "other", None])


@pytest.mark.parametrize("name", sorted(load()))
def test_property_only_the_typed_error_and_never_nan(name):
    known = CALCULATORS[name]

    @settings(max_examples=often(60), deadline=None)
    @given(st.fixed_dictionaries({key: _inputs(p) for key, p in known.parameters.items()}))
    def holds(inputs):
        try:
            results = calculate(name, inputs)
        except (OutOfRange, NotUnderstood) as problem:
            assert str(problem).endswith(".")
            return
        for value in results.values():
            for each in value if isinstance(value, list) else [value]:
                assert not isinstance(each, float) or isfinite(each)
        json.dumps(results, allow_nan=False)

    holds()


@settings(max_examples=often(60), deadline=None)
@given(st.floats(1, 50), st.floats(0.02, 1), st.floats(0.01, 0.4), st.floats(1.01, 2))
def test_property_more_cut_asks_more(diameter, share, feed, more):
    cut = {
        **CUT,
        "diameter_mm": diameter,
        "radial_width_mm": diameter * share / 2,
        "feed_per_tooth_mm": feed,
    }
    here = calculate("milling-load", cut)
    for field in ("axial_depth_mm", "radial_width_mm", "feed_per_tooth_mm", "rpm", "kc11_n_mm2"):
        assert (
            calculate("milling-load", {**cut, field: cut[field] * more})["cutting_power_kw"]
            > here["cutting_power_kw"]
        )
    assert (
        calculate("milling-load", {**cut, "feed_per_tooth_mm": feed * more})["specific_force_n_mm2"]
        < here["specific_force_n_mm2"]
    )


@settings(max_examples=often(40), deadline=None)
@given(st.floats(1, 400), st.floats(500, 30000), st.floats(500, 8000), st.floats(1.01, 3))
def test_property_time_falls_with_better_drives_and_grows_with_distance(
    distance, speed, acceleration, more
):
    move = {"distance_mm": distance, "speed_mm_min": speed, "acceleration_mm_s2": acceleration}
    time = calculate("move-time", move)["time_s"]
    assert calculate("move-time", {**move, "distance_mm": distance * more})["time_s"] > time
    assert (
        calculate("move-time", {**move, "acceleration_mm_s2": acceleration * more})["time_s"]
        <= time
    )
    assert calculate("move-time", {**move, "jerk_mm_s3": 50_000})["time_s"] >= time
    assert calculate("move-time", {**move, "jerk_mm_s3": 1e9})["time_s"] == pytest.approx(
        time, rel=0.02, abs=1e-3
    )


@pytest.mark.parametrize("name", sorted(load()))
def test_each_has_a_drawing_in_both_units_that_follows_its_numbers(name):
    known = load()[name]
    inputs = read(known, known.example)
    drawn = draw(name, known.title, inputs, known.fn(**inputs))
    root = ET.fromstring(drawn)  # well formed
    assert root.attrib["aria-label"] == known.title
    assert "nan" not in drawn
    assert draw(name, known.title, inputs, known.fn(**inputs), "inch") != drawn or name in (
        "break-even",
        "batch-time",
        "peck-count",
    )
    moved = next(
        key
        for key, p in known.parameters.items()
        if p.kind == "number"
        and inputs[key] is not None
        and p.name not in ("flutes", "jaws", "quantity", "efficiency", "kc11_n_mm2", "mc")
    )
    other = {**inputs, moved: inputs[moved] * 1.07 + 0.01}
    assert draw(name, known.title, other, known.fn(**other)) != drawn


@pytest.mark.parametrize("name", sorted(load()))
def test_property_a_drawing_stands_whatever_the_numbers(name):
    known = CALCULATORS[name]

    @settings(max_examples=often(25), deadline=None)
    @given(st.fixed_dictionaries({key: _inputs(p) for key, p in known.parameters.items()}))
    def holds(given):
        try:
            results = calculate(name, given)
        except MachiningError:
            return
        drawn = draw(name, known.title, read(known, given), results)
        assert "nan" not in drawn
        assert "inf " not in drawn
        assert len(drawn) < 60_000

    holds()


def test_a_ball_on_a_round_nearly_flat_leaves_the_cusp_of_a_flat():
    """Round a corner of 1 km, a step of 6 mm along it: the scallop of a ball of 5 on a
    flat, 1 mm.
    """
    step = 6 / 1e6 * 180 / pi
    assert finish.scallop_on_round(1e6, 5, step) == pytest.approx(
        finish.scallop_height(5, 6), rel=1e-4
    )
    assert (
        calculate(
            "corner-by-ball", {"corner_radius_mm": 2, "ball_radius_mm": 3, "height_mm": 0.01}
        )["height_mm"]
        <= 0.01
    )


def test_calculators_serve_kinds_there_are_and_fill_fields_they_have():
    from typing import get_args

    from machining.plan.operation import Operation

    kinds = {kind.model_fields["kind"].default: kind for kind in get_args(get_args(Operation)[0])}
    for each in CALCULATORS.values():
        assert set(each.serves) <= set(kinds), each.name
        for field in each.fills.values():
            assert any(field in kinds[kind].model_fields for kind in each.serves or kinds), (
                each.name,
                field,
            )
    served = {kind for each in CALCULATORS.values() for kind in each.serves}
    assert {
        "turn_face",
        "turn_rough",
        "turn_finish",
        "turn_groove",
        "turn_thread",
        "part_off",
    } <= served
