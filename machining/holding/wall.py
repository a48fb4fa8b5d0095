"""How far a thin wall bends under a cut."""

from __future__ import annotations

from machining.quantities.checks import not_negative
from machining.quantities.computed import formula
from machining.quantities.units import Newtons, Plain


@formula(unit="mm", quantity="size")
def wall_bends(force: Newtons, gives: Plain) -> float:
    """δ = F·c

    What a wall moves under a cut where it moves most; c in µm/N, as a plate of its own thickness
    that is held where it meets thicker material. Raises OutOfRange for values under 0.
    Source: Kirchhoff's plate in rectangular elements. Taken as flat: a curved or ribbed wall is
    stiffer; what carries it is taken as stiff.
    """
    return not_negative("force", force) * not_negative("gives", gives) / 1000.0
