"""A strap clamp as the lever it is."""

from __future__ import annotations

from machining.quantities.checks import positive
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres, Newtons


@formula(unit="N")
def nose_force(stud: Newtons, nose_to_stud: Millimetres, stud_to_heel: Millimetres) -> float:
    """F = S·b/(a + b)

    What the nose of a strap presses with when its stud pulls with S, a in front of it and b behind.
    Raises OutOfRange for values not over 0.
    Source: statics of a lever.
    """
    front, behind = positive("nose_to_stud", nose_to_stud), positive("stud_to_heel", stud_to_heel)
    return positive("stud", stud) * behind / (front + behind)
