from __future__ import annotations

from machining.cutting import drilling, specific_force

from .parameter import Exponent, Over0, Point, Share
from .registry import Results, calculator


@calculator(
    "drilling-load",
    "What a drill asks of the spindle",
    group="Holes",
    asks=("Can this spindle turn this drill?", "How hard does a drill push?"),
    uses=(
        drilling.drill_chip,
        specific_force.specific_force,
        drilling.drill_torque,
        drilling.power_of_torque,
        specific_force.motor_power,
        drilling.drill_thrust,
    ),
    example={
        "diameter_mm": 6.8,
        "feed_per_rev_mm": 0.2,
        "rpm": 4700,
        "kc11_n_mm2": 700,
        "mc": 0.25,
        "point_angle_deg": 140,
    },
    serves=("drill",),
    fills={"rpm": "rpm"},
)
def drilling_load(
    diameter_mm: Over0,
    feed_per_rev_mm: Over0,
    rpm: Over0,
    kc11_n_mm2: Over0,
    mc: Exponent,
    point_angle_deg: Point = 118.0,
    efficiency: Share = 0.85,
) -> Results:
    """The thrust is that of the lips. The chisel edge of a solid drill adds about 60 %, an insert
    drill has none.
    """
    chip = drilling.drill_chip(feed_per_rev_mm, point_angle_deg)
    kc = specific_force.specific_force(kc11_n_mm2, mc, chip)
    torque = drilling.drill_torque(kc, feed_per_rev_mm, diameter_mm)
    power = drilling.power_of_torque(torque, rpm)
    return {
        "chip_mm": chip,
        "specific_force_n_mm2": kc,
        "torque_nm": torque,
        "cutting_power_kw": power,
        "motor_power_kw": specific_force.motor_power(power, efficiency),
        "thrust_n": drilling.drill_thrust(kc, feed_per_rev_mm, diameter_mm, point_angle_deg),
    }
