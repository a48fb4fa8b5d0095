"""How far a time may be off: from the spread of what it is made of to what one in ten stays under,
and what one in ten goes over.
"""

from __future__ import annotations

from math import exp, log, sqrt

from machining.quantities.checks import not_negative
from machining.quantities.computed import formula
from machining.quantities.errors import OutOfRange
from machining.quantities.units import Plain, Seconds

TENTH = 1.2815515655446004  # standard deviations from the middle to the last tenth


@formula(unit="s")
def under(
    machine: Seconds,
    machine_off: Plain,
    hand: Seconds,
    hand_off: Plain,
    before: Seconds,
    before_off: Plain,
) -> float:
    """t₁₀ = T/√(1+V/T²)·e^(−1.28·σ), V = Σ(t·s)², σ² = ln(1+V/T²)

    One in ten is quicker than that. ``off`` are standard deviations over the time. Raises
    OutOfRange for values under 0, or no time at all.
    Source: parts that are off independently of each other, their sum taken as log-normal with the
    same mean and variance (Fenton, Wilkinson); a time is never under 0.
    """
    middle, sigma = _of((machine, machine_off), (hand, hand_off), (before, before_off))
    return middle * exp(-TENTH * sigma)


@formula(unit="s")
def over(
    machine: Seconds,
    machine_off: Plain,
    hand: Seconds,
    hand_off: Plain,
    before: Seconds,
    before_off: Plain,
) -> float:
    """t₉₀ = T/√(1+V/T²)·e^(1.28·σ), V = Σ(t·s)², σ² = ln(1+V/T²)

    One in ten is slower than that. ``off`` are standard deviations over the time. Raises
    OutOfRange for values under 0, or no time at all.
    Source: parts that are off independently of each other, their sum taken as log-normal with the
    same mean and variance (Fenton, Wilkinson); a time is never under 0.
    """
    middle, sigma = _of((machine, machine_off), (hand, hand_off), (before, before_off))
    return middle * exp(TENTH * sigma)


def _of(*parts: tuple[float, float]) -> tuple[float, float]:
    """The median (s) and the spread of its logarithm."""
    total = sum(not_negative("seconds", seconds) for seconds, _ in parts)
    if total <= 0.0:
        raise OutOfRange("seconds", f"{total:g}", "over 0 in all")
    variance = sum((seconds * not_negative("off", off)) ** 2 for seconds, off in parts)
    ratio = 1.0 + variance / total**2
    return total / sqrt(ratio), sqrt(log(ratio))
