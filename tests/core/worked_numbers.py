"""Calculators by hand: inputs, and what has to come out."""

from __future__ import annotations

import json
from math import cos, pi, radians, sin, tan
from pathlib import Path

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
