"""How much must stand over a face that is measured from the blank."""

from __future__ import annotations

from machining.quantities.checks import not_negative
from machining.quantities.computed import formula
from machining.quantities.units import Millimetres


@formula(unit="mm")
def least_allowance(clean_up: Millimetres, within: Millimetres, differ: Millimetres) -> float:
    """a = s + u + t

    What a skin takes to clean up, how closely the blank's top is picked up, and how much lower the
    next blank's top may be than the one it was picked up on: nothing where that is done on every
    part. Raises OutOfRange for negative values.
    Source: the smallest blank after the largest.
    """
    return (
        not_negative("clean_up", clean_up)
        + not_negative("within", within)
        + not_negative("differ", differ)
    )
