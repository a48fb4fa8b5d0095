"""Tool life after Taylor: how long an edge lasts at a speed, how many parts it makes."""

from __future__ import annotations

from math import ceil

from machining.quantities.checks import positive, within
from machining.quantities.computed import formula
from machining.quantities.units import MetresPerMinute, Plain, Seconds


@formula(unit="min", quantity="minutes")
def life_at_speed(
    cutting_speed: MetresPerMinute, known_speed: MetresPerMinute, known_life: Plain, exponent: Plain
) -> float:
    """T = T0·(vc0/vc)^(1/n)

    Minutes in cut that an edge lasts at a speed, from a life known at another. Raises OutOfRange
    for n outside (0, 1).
    Source: Taylor, On the art of cutting metals, ASME (1907).
    """
    n = within("exponent", exponent, 0.0, 1.0, low_open=True, high_open=True)
    return positive("known_life", known_life) * (
        positive("known_speed", known_speed) / positive("cutting_speed", cutting_speed)
    ) ** (1.0 / n)


@formula(unit="m/min")
def speed_for_life(
    life: Plain, known_speed: MetresPerMinute, known_life: Plain, exponent: Plain
) -> float:
    """vc = vc0·(T0/T)^n

    Cutting speed at which an edge lasts so many minutes in cut. Raises OutOfRange for n outside (0,
    1).
    Source: Taylor, On the art of cutting metals, ASME (1907).
    """
    n = within("exponent", exponent, 0.0, 1.0, low_open=True, high_open=True)
    return (
        positive("known_speed", known_speed)
        * (positive("known_life", known_life) / positive("life", life)) ** n
    )


@formula(unit="", quantity="number")
def parts_per_edge(life: Plain, cutting: Seconds) -> float:
    """N = 60·T/t

    Parts an edge makes before it is worn. Raises OutOfRange for values not over 0.
    Source: definition.
    """
    return 60.0 * positive("life", life) / positive("cutting", cutting)


@formula(unit="", quantity="count")
def edges_for_batch(quantity: Plain, parts: Plain) -> float:
    """K = ⌈Q/⌊N⌋⌉

    Edges a batch needs when an edge is changed between parts; in one long part, as often as its
    life asks.
    Raises OutOfRange for values not over 0.
    Source: definition.
    """
    whole = int(positive("parts", parts) + 1e-9)
    return (
        float(ceil(positive("quantity", quantity) / whole - 1e-9))
        if whole >= 1
        else float(ceil(quantity / parts - 1e-9))
    )
