"""Every calculator: worked numbers by hand, inputs in any unit, sentences for what is wrong, and
never a NaN.
"""

from __future__ import annotations

import json
import xml.etree.ElementTree as ET
from math import cos, isfinite, pi, radians, sin, tan
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from machining.calculators.registry import CALCULATORS, Parameter, calculate, load, read
from machining.cli import main
from machining.cutting import finish
from machining.drawing.bench import draw
from machining.quantities.errors import MachiningError, Missing, NotUnderstood, OutOfRange

VECTORS = Path(__file__).parent.parent / "vectors"
CUT = {
    "diameter_mm": 12,
    "flutes": 3,
    "axial_depth_mm": 26,
    "radial_width_mm": 1.2,
    "feed_per_tooth_mm": 0.12,
    "rpm": 9300,
    "kc11_n_mm2": 700,
    "mc": 0.25,
}
CHUCK = {
    "jaws": 3,
    "static_force_per_jaw_n": 12000,
    "jaw_mass_kg": 1.6,
    "jaw_radius_mm": 70,
    "rpm": 2500,
    "friction": 0.15,
    "grip_diameter_mm": 90,
}
STATED = [
    (row["name"], row["inputs"], row["results"])
    for row in json.loads((VECTORS / "calculators.json").read_text())
]
BY_HAND = [
    ("solve-feed", {"rpm": 10_000, "flutes": 3, "feed_per_tooth_mm": 0.1}, {"feed_mm_min": 3000}),
    ("solve-feed", {"rpm": 10_000, "flutes": 3, "feed_mm_min": 3000}, {"feed_per_tooth_mm": 0.1}),
    ("solve-feed", {"flutes": 3, "feed_per_tooth_mm": 0.1, "feed_mm_min": 3000}, {"rpm": 10_000}),
    ("solve-feed", {"rpm": 10_000, "feed_per_tooth_mm": 0.1, "feed_mm_min": 3000}, {"flutes": 3}),
    (
        "ramp",
        {"depth_mm": 9, "ramp_deg": 45, "diameter_mm": 12},
        {"length_mm": 9, "pitch_mm": None, "smallest_hole_mm": 12, "largest_hole_mm": 24},
    ),
    (
        "ramp",
        {"depth_mm": 9, "ramp_deg": 3, "diameter_mm": 12, "hole_diameter_mm": 20, "core_mm": 4},
        {"pitch_mm": pi * 8 * tan(radians(3)), "smallest_hole_mm": 16},
    ),
    (
        "tool-life",
        {
            "cutting_speed_m_min": 400,
            "known_speed_m_min": 200,
            "known_life_min": 80,
            "exponent": 0.25,
            "cutting_s": 60,
            "quantity": 12,
        },
        {
            "life_min": 5,
            "parts_per_edge": 5,
            "edges": 3,
            "speed_to_last_m_min": 200 * (80 / 12) ** 0.25,
        },
    ),
    (
        "corner-by-ball",
        {"corner_radius_mm": 1e6, "ball_radius_mm": 5, "height_mm": 1},
        {"passes": 261800},
    ),
    (
        "milling-speeds",
        {
            "diameter_mm": 12,
            "flutes": 3,
            "cutting_speed_m_min": 350,
            "feed_per_tooth_mm": 0.12,
            "max_rpm": 8000,
            "max_feed_mm_min": 2400,
        },
        {
            "rpm": 8000,
            "feed_mm_min": 2400,
            "feed_per_tooth_mm": 0.1,
            "limited_by": ["max_rpm", "max_feed"],
        },
    ),
    (
        "chip-thinning",
        {"diameter_mm": 50, "radial_width_mm": 35, "max_chip_mm": 0.2, "edge_angle_deg": 45},
        {"feed_per_tooth_mm": 0.2 / sin(radians(45)), "factor": 1.414},
    ),
    (
        "turning-load",
        {
            "depth_mm": 2,
            "feed_per_rev_mm": 0.25,
            "cutting_speed_m_min": 200,
            "diameter_mm": 60,
            "kc11_n_mm2": 2000,
            "mc": 0,
        },
        {
            "cutting_force_n": 1000,
            "cutting_power_kw": 3.333,
            "torque_nm": 30,
            "motor_power_kw": 3.922,
        },
    ),
    ("peck-count", {"depth_mm": 20, "peck_mm": 5}, {"pecks": 4}),
    ("peck-count", {"depth_mm": 20.1, "peck_mm": 5}, {"pecks": 5}),
    ("face-passes", {"width_mm": 90, "diameter_mm": 50, "step_mm": 35}, {"passes": 3}),
    ("face-passes", {"width_mm": 40, "diameter_mm": 50, "step_mm": 35}, {"passes": 1}),
    (
        "facing-time",
        {
            "outer_mm": 20,
            "inner_mm": 0,
            "cutting_speed_m_min": 220,
            "feed_per_rev_mm": 0.2,
            "max_rpm": 3000,
        },
        {"time_s": 60 * 10 / (0.2 * 3000)},
    ),
    (
        "tool-deflection",
        {"force_n": 100, "sections": "40:12:600"},
        {"deflection_mm": 100 * 40**3 / (3 * 600e3 * pi * 12**4 / 64)},
    ),
    (
        "tool-deflection",
        {"force_n": 100, "sections": [[40, 12, 600]], "compliance_um_n": 0.1},
        {"deflection_mm": 0.01 + 100 * 40**3 / (3 * 600e3 * pi * 12**4 / 64)},
    ),
    ("scallop", {"ball_radius_mm": 5, "stepover_mm": 6}, {"height_mm": 1}),
    ("scallop", {"ball_radius_mm": 5, "height_mm": 1}, {"stepover_mm": 6}),
    (
        "spot-depth",
        {"cone_diameter_mm": 9, "point_angle_deg": 90, "tip_flat_mm": 1},
        {"depth_mm": 4},
    ),
    (
        "ball-in-cone",
        {"ball_diameter_mm": 10, "cone_angle_deg": 90, "mouth_diameter_mm": 12},
        {
            "contact_diameter_mm": 10 * cos(radians(45)),
            "ball_top_above_mouth_mm": 5 / sin(radians(45)) + 5 - 6,
            "seats": "cone",
        },
    ),
    ("tap-drill", {"major_mm": 8, "pitch_mm": 1.25, "drill_mm": 6.8}, {"thread_percent": 73.9}),
    (
        "thread-mill",
        {
            "hole_diameter_mm": 20,
            "tool_diameter_mm": 12,
            "flutes": 4,
            "pitch_mm": 1.5,
            "depth_mm": 16,
            "cutting_speed_m_min": 100,
            "feed_per_tooth_mm": 0.05,
            "tool_rows": 8,
        },
        {"helix_mm": 2 * ((pi * 8) ** 2 + 1.5**2) ** 0.5},
    ),
    (
        "thread-turning",
        {"pitch_mm": 1.5, "thread_depth_mm": 0.92, "passes": 4, "rpm": 800, "starts": 2},
        {
            "feed_per_rev_mm": 3,
            "feed_mm_min": 2400,
            "cumulative_infeed_mm": [0.46, 0.92 * 0.5**0.5, 0.92 * 0.75**0.5, 0.92],
        },
    ),
    (
        "engrave-width",
        {"width_mm": 0.7, "included_angle_deg": 90, "tip_flat_mm": 0.1, "rpm": 10000},
        {"depth_mm": 0.3, "cutting_speed_m_min": 7 * pi},
    ),
    (
        "undercut-passes",
        {"total_width_mm": 6, "flank_length_mm": 8, "passes": 4, "equal": "step"},
        {"step_mm": [1.5] * 4, "engaged_flank_mm": [2, 4, 6, 8]},
    ),
    (
        "undercut-passes",
        {"total_width_mm": 6, "flank_length_mm": 8, "passes": 4},
        {"cumulative_width_mm": [3, 4.243, 5.196, 6]},
    ),
    (
        "turning-passes",
        {
            "start_diameter_mm": 60,
            "finish_diameter_mm": 42,
            "max_depth_mm": 2.5,
            "finish_allowance_mm": 0.3,
        },
        {"rough_passes": 4, "depth_mm": 2.175, "diameters_mm": [55.65, 51.3, 46.95, 42.6, 42]},
    ),
    (
        "turning-passes",
        {
            "start_diameter_mm": 42.6,
            "finish_diameter_mm": 42,
            "max_depth_mm": 2.5,
            "finish_allowance_mm": 0.3,
        },
        {"rough_passes": 0, "depth_mm": 0, "diameters_mm": [42]},
    ),
    ("turned-finish", {"feed_per_rev_mm": 0.1, "nose_radius_mm": 0.4}, {"rt_um": 3.125}),
    ("clamp-force", {"torque_nm": 40, "screw_diameter_mm": 12}, {"force_n": 16667}),
    (
        "chuck-grip",
        {**CHUCK, "grip": "internal"},
        {"dynamic_force_per_jaw_n": 19676, "release_rpm": None},
    ),
    ("chuck-grip", {**CHUCK, "rpm": 3200}, {"dynamic_force_per_jaw_n": 0, "torque_capacity_nm": 0}),
    (
        "rotary-offset",
        {"centre_x_mm": 10, "centre_z_mm": 0, "offset_x_mm": 20, "offset_z_mm": 0, "angle_deg": 90},
        {"x_mm": 10, "z_mm": -10},
    ),
    (
        "bar-yield",
        {
            "bar_length_mm": 3000,
            "part_length_mm": 42,
            "cutoff_mm": 3,
            "face_allowance_mm": 0.5,
            "min_remnant_mm": 120,
            "quantity": 250,
        },
        {"pull_mm": 45.5, "parts_per_bar": 63, "bars": 4, "remnant_mm": 133.5},
    ),
    (
        "wear-offset",
        {
            "measured_mm": 30.06,
            "target_mm": 30,
            "feature": "external",
            "process": "milling",
            "compensation": "diameter",
        },
        {"correction_mm": -0.06},
    ),
    (
        "wear-offset",
        {
            "measured_mm": 30.06,
            "target_mm": 30,
            "feature": "external",
            "process": "milling",
            "compensation": "radius",
            "walls": 1,
        },
        {"correction_mm": -0.06},
    ),
    (
        "wear-offset",
        {
            "measured_mm": 19.98,
            "target_mm": 20,
            "feature": "internal",
            "process": "turning",
            "compensation": "radius",
        },
        {"correction_mm": 0.01},
    ),
    ("sine-height", {"angle_deg": 30, "sine_length_mm": 100}, {"stack_mm": 50}),
    (
        "taper",
        {"large_diameter_mm": 20, "length_mm": 50, "angle_deg": 2},
        {"small_diameter_mm": 20 - 100 * tan(radians(2))},
    ),
    (
        "taper",
        {"large_diameter_mm": 17, "length_mm": 16, "small_diameter_mm": 16},
        {"angle_deg": 1.79},
    ),
    ("runout", {"indicator_reading_mm": 0.04}, {"eccentricity_mm": 0.02, "squareness_mm": None}),
    (
        "runout",
        {"indicator_reading_mm": 0.04, "face_diameter_mm": 60, "part_diameter_mm": 90},
        {"squareness_mm": 0.06},
    ),
    ("nest-shim", {"first_diameter_mm": 50, "this_diameter_mm": 48}, {"shim_mm": 1}),
    (
        "batch-time",
        {"setup_s": 3600, "cycle_s": 420, "load_s": 60, "quantity": 10},
        {"total_s": 3600 + 4800, "per_part_s": 840},
    ),
    (
        "batch-time",
        {
            "setup_s": 3600,
            "cycle_s": 420,
            "load_s": 60,
            "quantity": 10,
            "per_load": 4,
            "parallel_load": True,
        },
        {"total_s": 3600 + 60 + 3 * 420},
    ),
    (
        "batch-time",
        {"setup_s": 0, "cycle_s": 60, "load_s": 100, "quantity": 3, "parallel_load": "yes"},
        {"total_s": 100 + 2 * 100 + 60},
    ),
    (
        "break-even",
        {"setup_a_s": 1800, "unit_a_s": 540, "setup_b_s": 9000, "unit_b_s": 420},
        {"quantity": 60, "winner": None},
    ),
    (
        "break-even",
        {"setup_a_s": 1800, "unit_a_s": 400, "setup_b_s": 9000, "unit_b_s": 420},
        {"quantity": None, "winner": "a"},
    ),
]


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


WRONG = [
    (
        "solve-feed",
        {"rpm": 1, "flutes": 3},
        (
            "rpm or flutes or feed_per_tooth_mm or feed_mm_min is missing 2 of four; it must be"
            " three of the four."
        ),
    ),
    (
        "ramp",
        {"depth_mm": 9, "ramp_deg": 3, "diameter_mm": 12, "hole_diameter_mm": 12},
        "hole_diameter_mm is 12; it must be over 12 to 1e+09.",
    ),
    (
        "chip-thinning",
        {"diameter_mm": 12, "radial_width_mm": 14, "max_chip_mm": 0.1},
        "radial_width_mm is 14; it must be over 0 to 12.",
    ),
    (
        "milling-load",
        {**CUT, "radial_width_mm": 12.5},
        "radial_width_mm is 12.5; it must be over 0 to 12.",
    ),
    ("milling-load", {**CUT, "mc": 1}, "mc is 1; it must be from 0 to under 1."),
    (
        "milling-load",
        {**CUT, "flutes": 2.5},
        "flutes is 2.5; it must be a whole number, from 1 to 1e+06.",
    ),
    ("milling-load", {**CUT, "rpm": float("nan")}, "rpm is nan; it must be over 0."),
    ("milling-load", {**CUT, "rpm": float("inf")}, "rpm is inf; it must be over 0."),
    ("milling-load", {**CUT, "rpm": "fast"}, "rpm: 'fast' is not understood"),
    ("milling-load", {**CUT, "diameter_mm": "12 kg"}, "diameter_mm: '12 kg' is not understood"),
    ("milling-load", {**CUT, "diameter_mm": None}, "diameter_mm is missing; it must be over 0."),
    ("milling-load", {**CUT, "diameter_mm": [12]}, "diameter_mm: [12] is not understood"),
    ("milling-load", {**CUT, "diameter_mm": True}, "diameter_mm: True is not understood"),
    (
        "milling-load",
        {**CUT, "colour": 3},
        "colour: 3 is not understood; write one of the inputs of milling-load",
    ),
    (
        "scallop",
        {"ball_radius_mm": 4, "stepover_mm": 8.1},
        "stepover_mm is 8.1; it must be over 0 to 8.",
    ),
    (
        "scallop",
        {"ball_radius_mm": 4},
        "stepover_mm or height_mm is missing; it must be exactly one of them.",
    ),
    (
        "scallop",
        {"ball_radius_mm": 4, "stepover_mm": 1, "height_mm": 1},
        "stepover_mm or height_mm is given together",
    ),
    (
        "tap-drill",
        {"major_mm": 8, "pitch_mm": 1.25, "thread_percent": 101},
        "thread_percent is 101; it must be over 0 to 100.",
    ),
    (
        "face-passes",
        {"width_mm": 90, "diameter_mm": 50, "step_mm": 51},
        "step_mm is 51; it must be over 0 to 50.",
    ),
    (
        "facing-time",
        {
            "outer_mm": 20,
            "inner_mm": 20,
            "cutting_speed_m_min": 220,
            "feed_per_rev_mm": 0.2,
            "max_rpm": 3000,
        },
        "inner_mm is 20; it must be from 0 to under 20.",
    ),
    (
        "turning-passes",
        {
            "start_diameter_mm": 50,
            "finish_diameter_mm": 49,
            "max_depth_mm": 2,
            "finish_allowance_mm": 0.6,
        },
        "finish_allowance_mm is 0.6; it must be up to the stock per side, 0.5.",
    ),
    (
        "turning-passes",
        {
            "start_diameter_mm": 50,
            "finish_diameter_mm": 50,
            "max_depth_mm": 2,
            "finish_allowance_mm": 0,
        },
        "finish_diameter_mm is 50; it must be over 0 to under 50.",
    ),
    (
        "bar-yield",
        {
            "bar_length_mm": 100,
            "part_length_mm": 90,
            "cutoff_mm": 3,
            "face_allowance_mm": 0,
            "min_remnant_mm": 20,
            "quantity": 1,
        },
        "bar_length_mm is 100; it must be at least 113",
    ),
    (
        "break-even",
        {"setup_a_s": 1, "unit_a_s": 5, "setup_b_s": 2, "unit_b_s": 5},
        "unit_b_s is 5; it must be another time a piece",
    ),
    (
        "thread-mill",
        {
            "hole_diameter_mm": 8,
            "tool_diameter_mm": 8,
            "flutes": 3,
            "pitch_mm": 1.25,
            "depth_mm": 16,
            "cutting_speed_m_min": 120,
            "feed_per_tooth_mm": 0.04,
        },
        "tool_diameter_mm is 8; it must be over 0 to under 8.",
    ),
    (
        "taper",
        {"large_diameter_mm": 10, "length_mm": 200, "angle_deg": 10},
        "length_mm is 200; it must be up to 28.3564, where the taper comes to a point.",
    ),
    (
        "nest-shim",
        {"first_diameter_mm": 48, "this_diameter_mm": 50},
        "this_diameter_mm is 50; it must be over 0 to 48.",
    ),
    (
        "wear-offset",
        {
            "measured_mm": 1,
            "target_mm": 1,
            "feature": "sideways",
            "process": "milling",
            "compensation": "radius",
        },
        "feature: 'sideways' is not understood; write internal or external.",
    ),
    (
        "wear-offset",
        {
            "measured_mm": 1,
            "target_mm": 1,
            "feature": "internal",
            "process": "turning",
            "compensation": "radius",
            "walls": 1,
        },
        "walls is 1; it must be 2 for turning",
    ),
    ("tool-deflection", {"force_n": 1, "sections": ""}, "sections is missing"),
    (
        "tool-deflection",
        {"force_n": 1, "sections": "26:9.6"},
        "sections: '26:9.6' is not understood",
    ),
    (
        "tool-deflection",
        {"force_n": 1, "sections": "26:0:600"},
        "sections diameter_mm is 0; it must be over 0.",
    ),
    (
        "batch-time",
        {"setup_s": 1, "cycle_s": 1, "load_s": 1, "quantity": 1, "parallel_load": "perhaps"},
        "parallel_load: 'perhaps' is not understood; write true or false.",
    ),
    (
        "tilted-chamfer",
        {
            "tool_half_angle_deg": 30,
            "surface_angle_deg": 25,
            "contact_offset_mm": 0.2,
            "tip_flat_mm": 1,
        },
        "contact_offset_mm is 0.2; it must be at least half the flat of the tip, 0.5.",
    ),
]


@pytest.mark.parametrize(("name", "inputs", "sentence"), WRONG)
def test_what_is_wrong_is_said_with_input_value_and_range(name, inputs, sentence):
    with pytest.raises(MachiningError) as problem:
        calculate(name, inputs)
    assert str(problem.value).startswith(sentence)


def test_an_unknown_calculator_is_named():
    with pytest.raises(Missing, match="calculator 'mill' doesn't exist"):
        calculate("mill", {})


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

    @settings(max_examples=60, deadline=None)
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


@settings(max_examples=60, deadline=None)
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


@settings(max_examples=40, deadline=None)
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

    @settings(max_examples=25, deadline=None)
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
