from __future__ import annotations

from machining.motion import batch

from .parameter import From0
from .registry import Results, calculator


@calculator(
    "break-even",
    "Where two ways take as long",
    group="Time",
    asks=("From which quantity on does the fixture pay?",),
    example={"setup_a_s": 1800, "unit_a_s": 540, "setup_b_s": 9000, "unit_b_s": 420},
)
def break_even(setup_a_s: From0, unit_a_s: From0, setup_b_s: From0, unit_b_s: From0) -> Results:
    """Below the quantity the one with the shorter setup wins, above it the other. Without a
    crossing one always wins.
    """
    quantity, winner = batch.break_even(setup_a_s, unit_a_s, setup_b_s, unit_b_s)
    return {"quantity": quantity, "winner": winner}
