from __future__ import annotations

from machining.cutting import engagement, specific_force, speeds

from .parameter import Exponent, Included, Over0, Share, Whole
from .registry import Results, calculator


@calculator(
    "milling-load",
    "What a milling cut asks of the spindle",
    group="Milling",
    asks=(
        "Will this cut stall the spindle?",
        "What power and torque does it need?",
        "How much does it remove in a minute?",
    ),
    uses=(
        engagement.mean_chip,
        specific_force.specific_force,
        specific_force.milling_removal,
        specific_force.milling_power,
        specific_force.motor_power,
        specific_force.torque,
    ),
    example={
        "diameter_mm": 12,
        "flutes": 3,
        "axial_depth_mm": 26,
        "radial_width_mm": 1.2,
        "feed_per_tooth_mm": 0.12,
        "rpm": 9300,
        "kc11_n_mm2": 700,
        "mc": 0.25,
    },
    serves=("face", "rough_outside", "rough_pocket", "finish_walls", "finish_floor"),
    fills={"axial_depth_mm": "step_down_mm", "radial_width_mm": "step_over_mm", "rpm": "rpm"},
)
def milling_load(
    diameter_mm: Over0,
    flutes: Whole,
    axial_depth_mm: Over0,
    radial_width_mm: Over0,
    feed_per_tooth_mm: Over0,
    rpm: Over0,
    kc11_n_mm2: Over0,
    mc: Exponent,
    edge_angle_deg: Included = 90.0,
    efficiency: Share = 0.85,
) -> Results:
    """Power from the mean chip and Kienzle's specific force. The torque is at the cutter; the motor
    gives the power over the efficiency.
    """
    chip = engagement.mean_chip(feed_per_tooth_mm, radial_width_mm, diameter_mm, edge_angle_deg)
    kc = specific_force.specific_force(kc11_n_mm2, mc, chip)
    feed = speeds.feed(rpm, feed_per_tooth_mm, flutes)
    power = specific_force.milling_power(axial_depth_mm, radial_width_mm, feed, kc)
    return {
        "mean_chip_mm": chip,
        "specific_force_n_mm2": kc,
        "mrr_cm3_min": specific_force.milling_removal(axial_depth_mm, radial_width_mm, feed),
        "cutting_power_kw": power,
        "motor_power_kw": specific_force.motor_power(power, efficiency),
        "torque_nm": specific_force.torque(power, rpm),
    }
