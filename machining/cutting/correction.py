"""From a measured size to the change of a tool's wear value."""

from __future__ import annotations

from machining.quantities.checks import listed, positive
from machining.quantities.errors import OutOfRange


def wear_correction(
    measured: float, target: float, feature: str, process: str, compensation: str, walls: int
) -> float:
    """Change of the wear value (mm), in radius or diameter as the control keeps it.

    Milling: a bore too small or a boss too large needs a smaller wear value. ``walls`` is 2 where
    both sides of the size are cut by this tool, 1 where one stands already. Turning: the wear value
    moves the tool outwards when it grows.
    Raises OutOfRange for sizes not over 0 and for one wall in turning.
    Source: geometry of tool radius compensation.
    """
    error = positive("measured", measured) - positive("target", target)
    if process == "turning":
        if walls != 2:
            raise OutOfRange("walls", walls, "2 for turning: a diameter has both sides")
        return -error if compensation == "diameter" else -error / 2.0
    per_wall = error / walls * (1.0 if feature == "internal" else -1.0)
    return 2.0 * per_wall if compensation == "diameter" else per_wall


def measured_chain(wall: float, cuts: int) -> list[float]:
    """What still stands on a wall (mm) after each of the equal cuts of a chain, the last 0.

    Each cut but the last is measured, so that the next starts from what is there and not from what
    was meant.
    Raises OutOfRange for fewer than one cut.
    Source: shop practice: the cut before the last must be like the last, so that the tool is pushed
    off alike.
    """
    listed("cuts", cuts)
    return [positive("wall", wall) * (cuts - k) / cuts for k in range(1, cuts + 1)]


def sizes_of_chain(target: float, wall: float, cuts: int, feature: str) -> list[float]:
    """What the size should measure (mm) after each of the equal cuts, the last the target.

    Raises OutOfRange for an internal size that more than its walls would be left of.
    """
    signs = -2.0 if feature == "internal" else 2.0
    sizes = [positive("target", target) + signs * left for left in measured_chain(wall, cuts)]
    if sizes[0] <= 0:
        raise OutOfRange("wall", f"{wall:g}", f"under half the size, {target / 2.0:g}")
    return sizes


def size_after(sizes: list[float], cut: int) -> float:
    """The size (mm) after one of the cuts, counted from 1. Raises OutOfRange for a cut that is not
    in the chain.
    """
    if not 1 <= cut <= len(sizes):
        raise OutOfRange("after_cut", cut, f"1 to {len(sizes)}, the cuts of the chain")
    return sizes[cut - 1]
