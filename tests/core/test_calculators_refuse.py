"""Calculators say what is wrong with an input, and stand whatever they are given."""

from __future__ import annotations

import pytest

from machining.calculators.registry import calculate
from machining.quantities.errors import MachiningError, Missing

from .worked_numbers import CUT

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
