"""What hands take: a part put in, a setup built, edges and sizes seen to while a batch runs."""

from __future__ import annotations

from math import floor

from machining.quantities.checks import not_negative, positive
from machining.quantities.computed import formula
from machining.quantities.units import Plain, Seconds


@formula(unit="s")
def put_in_time(
    door: Seconds, parts: Plain, handle: Seconds, seat: Seconds, close: Seconds
) -> float:
    """t = td/n + th + ts + tk

    One part taken out and the next one put in: its share of the door, which opens once for all
    parts of a load, handling it, wiping its seats, closing and opening what holds it. Raises
    OutOfRange for values under 0, or no parts.
    Source: a sum of elements; each is the shop's own.
    """
    elements = {"door": door, "handle": handle, "seat": seat, "close": close}
    for name, value in elements.items():
        not_negative(name, value)
    return door / positive("parts", parts) + handle + seat + close


@formula(unit="s")
def put_in_all(stations: Seconds) -> float:
    """t = Σ tᵢ

    One part put in and taken out at every station it comes to by hand. Raises OutOfRange under 0.
    Source: a sum.
    """
    return not_negative("stations", stations)


@formula(unit="s")
def bar_share(bar: Seconds, parts: Plain) -> float:
    """t = tb/n

    What a part has of putting a new bar in. Raises OutOfRange for a time under 0, or no parts.
    Source: a bar is put in once for all parts that come off it.
    """
    return not_negative("bar", bar) / positive("parts", parts)


@formula(unit="s")
def build_time(papers: Seconds, holding: Seconds, zeros: Seconds, tools: Seconds) -> float:
    """t = tp + th + tz + tw

    Setups built: papers and programme, what holds the part, zeros found, tools put in and measured.
    Raises OutOfRange for values under 0.
    Source: a sum of elements; each is the shop's own.
    """
    elements = {"papers": papers, "holding": holding, "zeros": zeros, "tools": tools}
    return sum(not_negative(name, value) for name, value in elements.items())


def gauged(quantity: int, every: int) -> int:
    """How many parts of a batch are measured after its first one, one in so ``many``. Raises
    OutOfRange where ``every`` is not over 0.
    """
    return floor((quantity - 1) / positive("every", every)) if quantity > 0 else 0
