"""Clamping force, how many times a cut is stood, how deep a grip must be."""

from __future__ import annotations

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
def worn_force(force: Newtons, wear: Plain) -> float:
    """Fw = w·F

    Cutting force of a worn edge. Raises OutOfRange for a wear factor under 1.
    Source: shop.wear_factor.
    """
    return positive("force", force) * within("wear", wear, 1.0, 10.0)


@formula(unit="N·m")
def worn_torque(torque: NewtonMetres, wear: Plain) -> float:
    """Mw = w·M

    Torque of a worn edge. Raises OutOfRange for a wear factor under 1.
    Source: shop.wear_factor.
    """
    return positive("torque", torque) * within("wear", wear, 1.0, 10.0)


@formula(unit="×")
def holding_factor(capacity: Newtons, force: Newtons) -> float:
    """s = F stands/F

    How many times the cutting force the holding stands where it stands least. An upper bound:
    bodies are stiff here. Raises OutOfRange for a force not over 0.
    Source: statics with Coulomb friction over all directions and places of the cut.
    """
    return not_negative("capacity", capacity) / positive("force", force)


@formula(unit="×")
def twist_factor(capacity: NewtonMetres, torque: NewtonMetres) -> float:
    """s = M stands/M

    How many times the torque of a cut that only twists the holding stands. An upper bound: bodies
    are stiff here. Raises OutOfRange for a torque not over 0.
    Source: statics with Coulomb friction.
    """
    return not_negative("capacity", capacity) / positive("torque", torque)


@formula(unit="×")
def asked_factor(usual: Plain, first_run: Plain, grabs: Plain) -> float:
    """s = max(usual, first run, grabs); 0 is for what does not apply

    How many times the cutting force a holding is asked to stand. Raises OutOfRange for a usual
    factor not over 0.
    Source: shop.holding_factor, shop.first_run_factor and shop.grab_factor.
    """
    return max(
        positive("usual", usual),
        not_negative("first_run", first_run),
        not_negative("grabs", grabs),
    )


@formula(unit="mm")
def least_grip(height_above_jaws: Millimetres, share: Plain, least: Millimetres) -> float:
    """g = max(least, share·height above the jaws)

    Depth of grip below which a tall part tips out. Raises OutOfRange for negative values.
    Source: shop.grip_least_mm and shop.grip_share.
    """
    return max(
        positive("least", least), not_negative("height_above_jaws", height_above_jaws) * share
    )


@formula(unit="N")
def pull(pressure: Plain, area: Plain) -> float:
    """F = p·A/1000

    What a vacuum, or what sticks, pulls a face down with; p in kPa, A in mm². Raises OutOfRange for
    negative values.
    Source: pressure over an area, even all over.
    """
    return not_negative("pressure", pressure) * not_negative("area", area) / 1000.0
