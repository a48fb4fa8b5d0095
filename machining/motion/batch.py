"""Times of a batch, where two ways cost the same, and what a bar yields."""

from __future__ import annotations

from math import ceil, floor

from machining.quantities.checks import not_negative, positive
from machining.quantities.errors import OutOfRange


def batch_time(
    setup_s: float,
    cycle_s: float,
    load_s: float,
    quantity: int,
    per_load: int = 1,
    parallel_load: bool = False,
) -> float:
    """Seconds for a batch: setup, then every load's cycle and loading one after the other.

    With ``parallel_load`` the next load is prepared while the machine cuts; only the first is
    waited for, and the machine waits where loading takes longer than the cycle. Raises OutOfRange
    for negative times.
    """
    setup, cycle, load = (
        not_negative("setup_s", setup_s),
        positive("cycle_s", cycle_s),
        not_negative("load_s", load_s),
    )
    loads = ceil(quantity / per_load)
    if parallel_load:
        return setup + load + (loads - 1) * max(cycle, load) + cycle
    return setup + loads * (cycle + load)


def break_even(
    setup_a: float, unit_a: float, setup_b: float, unit_b: float
) -> tuple[float | None, str | None]:
    """Quantity at which two ways take as long, or None and the one that always wins.

    Raises OutOfRange where both take as long a piece: they never cross.
    """
    if unit_a == unit_b:
        raise OutOfRange(
            "unit_b_s", f"{unit_b:g}", "another time a piece than unit_a_s; equal ones never cross"
        )
    quantity = (setup_b - setup_a) / (unit_a - unit_b)
    if quantity < 0:
        return None, "a" if unit_a < unit_b else "b"
    return quantity, None


def bar_yield(
    bar: float, part: float, cutoff: float, face: float, least_remnant: float
) -> tuple[float, int, float]:
    """Pull per part (mm), whole parts of a bar, and what is left of it.

    Raises OutOfRange for a bar shorter than one part and its remnant.
    """
    pull = (
        positive("part_length", part)
        + not_negative("cutoff", cutoff)
        + not_negative("face_allowance", face)
    )
    parts = floor(
        (positive("bar_length", bar) - not_negative("min_remnant", least_remnant)) / pull + 1e-9
    )
    if parts < 1:
        raise OutOfRange(
            "bar_length", f"{bar:g}", f"at least {pull + least_remnant:g}, one part and the remnant"
        )
    return pull, parts, bar - parts * pull
