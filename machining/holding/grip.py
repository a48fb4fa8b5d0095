"""Two jaws: clamping force, what friction can stand, how deep the grip must be.

A planning aid on the safe side of simple: friction of the two jaws against the largest side force,
no help from parallels or a stop, no moment. The full rigid-body model of a holding takes its place.
"""

from __future__ import annotations

from math import hypot

from machining.quantities.checks import not_negative, positive, within
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres, NewtonMetres, Newtons, Plain


@formula(unit="N")
def clamping_force(torque: NewtonMetres, force_per_torque: Plain) -> float:
    """P = k·T

    Force between the jaws for a torque at the screw, k from the vise maker's chart or measured.
    Raises OutOfRange for values not over 0.
    Source: vise data.
    """
    return positive("torque", torque) * positive("force_per_torque", force_per_torque)


@formula(unit="N")
def friction_capacity(clamping: Newtons, friction: Plain) -> float:
    """Fcap = 2·μ·P

    Side force that two jaws stand along their faces. Raises OutOfRange for a friction outside (0,
    1].
    Source: Coulomb friction at both jaws.
    """
    return (
        2.0 * within("friction", friction, 0.0, 1.0, low_open=True) * positive("clamping", clamping)
    )


@formula(unit="N")
def worn_force(force: Newtons, wear: Plain) -> float:
    """Fw = w·F

    Cutting force of a worn edge. Raises OutOfRange for a wear factor under 1.
    Source: shop.wear_factor.
    """
    return positive("force", force) * within("wear", wear, 1.0, 10.0)


@formula(unit="×")
def holding_factor(capacity: Newtons, force: Newtons) -> float:
    """s = Fcap/F

    How many times the cutting force the holding stands. Raises OutOfRange for a force not over 0.
    Source: definition.
    """
    return positive("capacity", capacity) / positive("force", force)


@formula(unit="mm")
def least_grip(height_above_jaws: Millimetres, share: Plain, least: Millimetres) -> float:
    """g = max(least, share·height above the jaws)

    Depth of grip below which a tall part tips out. Raises OutOfRange for negative values.
    Source: shop.grip_least_mm and shop.grip_share.
    """
    return max(
        positive("least", least), not_negative("height_above_jaws", height_above_jaws) * share
    )


@formula(unit="N·m")
def torque_for_factor(
    force: Newtons, factor: Plain, friction: Plain, force_per_torque: Plain
) -> float:
    """T = s·F/(2·μ·k)

    Screw torque that gives a wanted holding factor. Raises OutOfRange for values not over 0.
    Source: Coulomb friction at both jaws.
    """
    return (
        positive("factor", factor)
        * positive("force", force)
        / (2.0 * positive("friction", friction) * positive("force_per_torque", force_per_torque))
    )


@formula(unit="N")
def twist_force(torque: NewtonMetres, contact_length: Millimetres) -> float:
    """F = 4000·M/L

    Side force at the jaws that resists a twist, as a couple half the contact length apart, both
    jaws sharing it.
    Raises OutOfRange for values not over 0.
    Source: statics.
    """
    return 4000.0 * positive("torque", torque) / positive("contact_length", contact_length)


@formula(unit="N")
def with_thrust(side: Newtons, thrust: Newtons) -> float:
    """F = √(Fs² + Ff²)

    What a tool that comes from the side asks of two jaws: its side force and its thrust, square to
    each other. Raises OutOfRange for negative values.
    Source: statics.
    """
    return hypot(not_negative("side", side), not_negative("thrust", thrust))
