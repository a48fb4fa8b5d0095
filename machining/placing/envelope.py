"""What is to spare between the moves of an operation and the travels of a machine."""

from __future__ import annotations

from math import cos, radians

from machining.quantities.checks import finite, not_negative, positive
from machining.quantities.computed import formula
from machining.quantities.units import Degrees, Millimetres


@formula(unit="mm")
def spare_sideways(travel: Millimetres, farthest: Millimetres) -> float:
    """s = travel/2 − r

    Room left beside the farthest tool position, the part standing in the middle of the table.
    Raises OutOfRange for values under 0.
    Source: geometry.
    """
    return not_negative("travel", travel) / 2.0 - not_negative("farthest", farthest)


@formula(unit="mm")
def spare_above(
    nose_highest: Millimetres, seat: Millimetres, tip_highest: Millimetres, tool_length: Millimetres
) -> float:
    """s = nose highest − (seat + tip highest + L)

    Room left above, with the tool at its retract height. L is from tip to gauge line.
    Raises OutOfRange for lengths not over 0.
    Source: geometry.
    """
    return positive("nose_highest", nose_highest) - (
        not_negative("seat", seat) + tip_highest + positive("tool_length", tool_length)
    )


@formula(unit="mm")
def spare_below(
    nose_lowest: Millimetres, seat: Millimetres, tip_lowest: Millimetres, tool_length: Millimetres
) -> float:
    """s = seat + tip lowest + L − nose lowest

    Room left below, with the tip at its deepest. L is from tip to gauge line.
    Raises OutOfRange for lengths not over 0.
    Source: geometry.
    """
    return (
        not_negative("seat", seat)
        + tip_lowest
        + positive("tool_length", tool_length)
        - not_negative("nose_lowest", nose_lowest)
    )


@formula(unit="mm")
def spare_above_tilted(
    nose_highest: Millimetres,
    tip_highest: Millimetres,
    tool_length: Millimetres,
    pivot: Millimetres,
    tilt: Degrees,
) -> float:
    """s = nose highest − (tip highest + (L + p)·cos β − p)

    Room left above with the head tilted by β: its pivot is L + p along the tool from the tip, and
    p over where the spindle's end were it upright. The tip counts from the table's top. Raises
    OutOfRange for lengths not over 0.
    Source: geometry.
    """
    return (
        positive("nose_highest", nose_highest) - tip_highest - _over_tip(tool_length, pivot, tilt)
    )


@formula(unit="mm")
def spare_below_tilted(
    nose_lowest: Millimetres,
    tip_lowest: Millimetres,
    tool_length: Millimetres,
    pivot: Millimetres,
    tilt: Degrees,
) -> float:
    """s = tip lowest + (L + p)·cos β − p − nose lowest

    Room left below with the head tilted by β. Raises OutOfRange for lengths not over 0.
    Source: geometry.
    """
    over = _over_tip(tool_length, pivot, tilt)
    return tip_lowest + over - not_negative("nose_lowest", nose_lowest)


def _over_tip(tool_length: Millimetres, pivot: Millimetres, tilt: Degrees) -> float:
    """How high over its tip the spindle's end were, the head tilted back upright."""
    long = positive("tool_length", tool_length) + positive("pivot", pivot)
    return long * cos(radians(finite("tilt", tilt))) - pivot


@formula(unit="mm")
def spare_along(travel: Millimetres, way: Millimetres, tool_length: Millimetres) -> float:
    """s = travel − (l + L)

    Room left of a lathe's slide: l is how far its tip goes from the spindle's axis or the chuck's
    face, L the tool's length in that direction.
    Raises OutOfRange for values under 0.
    Source: geometry.
    """
    return positive("travel", travel) - (
        not_negative("way", way) + not_negative("tool_length", tool_length)
    )


@formula(unit="mm")
def spare_swing(swing: Millimetres, widest: Millimetres) -> float:
    """s = swing − D

    What the largest turning diameter leaves over stock and jaws. Raises OutOfRange for values not
    over 0.
    Source: geometry.
    """
    return positive("swing", swing) - positive("widest", widest)
