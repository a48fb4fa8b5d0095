from __future__ import annotations

from machining.cutting import specific_force, turning

from .parameter import EdgeAngle, Exponent, Over0, Share
from .registry import Results, calculator


@calculator(
    "turning-load",
    "What a turning cut asks of the spindle",
    group="Turning",
    asks=("What force does this turning cut make?", "What power does the lathe need?"),
    uses=(
        turning.turning_chip,
        specific_force.specific_force,
        turning.turning_force,
        turning.power_at_speed,
        specific_force.motor_power,
        turning.torque_at_diameter,
    ),
    serves=("turn_face", "turn_rough", "turn_finish", "turn_groove", "part_off"),
    fills={
        "depth_mm": "depth_mm",
        "feed_per_rev_mm": "feed_per_rev_mm",
        "cutting_speed_m_min": "cutting_speed_m_min",
    },
    example={
        "depth_mm": 2,
        "feed_per_rev_mm": 0.25,
        "cutting_speed_m_min": 200,
        "diameter_mm": 60,
        "kc11_n_mm2": 1700,
        "mc": 0.25,
    },
)
def turning_load(
    depth_mm: Over0,
    feed_per_rev_mm: Over0,
    cutting_speed_m_min: Over0,
    diameter_mm: Over0,
    kc11_n_mm2: Over0,
    mc: Exponent,
    edge_angle_deg: EdgeAngle = 95.0,
    efficiency: Share = 0.85,
) -> Results:
    """The depth is per side. The torque is that of the cutting force at the diameter."""
    chip = turning.turning_chip(feed_per_rev_mm, edge_angle_deg)
    kc = specific_force.specific_force(kc11_n_mm2, mc, chip)
    force = turning.turning_force(kc, depth_mm, feed_per_rev_mm)
    power = turning.power_at_speed(force, cutting_speed_m_min)
    return {
        "chip_mm": chip,
        "specific_force_n_mm2": kc,
        "cutting_force_n": force,
        "cutting_power_kw": power,
        "motor_power_kw": specific_force.motor_power(power, efficiency),
        "torque_nm": turning.torque_at_diameter(force, diameter_mm),
    }
