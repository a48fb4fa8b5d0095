"""From a measured size to the change of a tool's wear value."""

from __future__ import annotations

from machining.quantities.checks import positive
from machining.quantities.errors import OutOfRange


def wear_correction(measured: float, target: float, feature: str, process: str, compensation: str, walls: int) -> float:
    """Change of the wear value (mm), in radius or diameter as the control keeps it.

    Milling: a bore too small or a boss too large needs a smaller wear value. ``walls`` is 2 where both sides of the size
    are cut by this tool, 1 where one stands already. Turning: the wear value moves the tool outwards when it grows.
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

    Each cut but the last is measured, so that the next starts from what is there and not from what was meant.
    Raises OutOfRange for fewer than one cut.
    Source: shop practice: the cut before the last must be like the last, so that the tool is pushed off alike.
    """
    if cuts < 1:
        raise OutOfRange("cuts", cuts, "1 or more")
    return [positive("wall", wall) * (cuts - k) / cuts for k in range(1, cuts + 1)]
