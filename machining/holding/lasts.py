"""How likely a batch runs without a slip, where what a holding hangs on lies other than reckoned.

Source: first-order reliability of a product: logarithms of what it hangs on are taken as normal,
with the slope of the factor's logarithm in each. What is the same for a batch is kept apart from
what differs from part to part.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import erfc, exp, log, log1p, pi, sqrt

STEPS, SIGMAS = 400, 6.0  # of the integral over what is the same for a batch
MOST_PARTS = 100_000


@dataclass(frozen=True, slots=True)
class Spread:
    """One of the things it hangs on: its standard deviation as a share of it, the power with which
    the factor goes with it, and whether it is the same for all parts of a batch.
    """

    name: str
    share: float
    power: float
    batch: bool
    source: str = ""

    @property
    def variance(self) -> float:
        """Of the factor's logarithm, from this alone."""
        return (self.power * sqrt(log1p(self.share**2))) ** 2


def slips(factor: float, spreads: Sequence[Spread]) -> float:
    """How likely a part slips whose factor is this in the middle: 0 to 1."""
    total = sqrt(sum(each.variance for each in spreads))
    if factor <= 0.0:
        return 1.0
    if total == 0.0:
        return float(factor < 1.0)
    return _below(-log(factor) / total)


def runs(factor: float, spreads: Sequence[Spread], parts: int) -> float:
    """How likely so many parts run without a slip, one after the other of one batch."""
    if factor <= 0.0:
        return 0.0
    shared = sqrt(sum(each.variance for each in spreads if each.batch))
    own = sqrt(sum(each.variance for each in spreads if not each.batch))
    middle = log(factor)
    if shared == 0.0:
        return _none(middle, own, parts)
    step = 2.0 * SIGMAS / STEPS
    total = 0.0
    for k in range(STEPS):
        at = -SIGMAS + (k + 0.5) * step
        weight = exp(-at * at / 2.0) / sqrt(2.0 * pi) * step
        total += weight * _none(middle + at * shared, own, parts)
    return min(total, 1.0)


def runs_so_many(factor: float, spreads: Sequence[Spread], least: float) -> int:
    """How many parts run without a slip at least as likely as asked; 0 where not even one does."""
    if runs(factor, spreads, 1) < least:
        return 0
    low, high = 1, MOST_PARTS
    if runs(factor, spreads, high) >= least:
        return high
    while high - low > 1:
        middle = (low + high) // 2
        if runs(factor, spreads, middle) >= least:
            low = middle
        else:
            high = middle
    return low


def shares(spreads: Sequence[Spread]) -> list[float]:
    """How much of what is uncertain each makes, together 1."""
    total = sum(each.variance for each in spreads) or 1.0
    return [each.variance / total for each in spreads]


def _none(middle: float, own: float, parts: int) -> float:
    if own == 0.0:
        return float(middle >= 0.0)
    slipping = _below(-middle / own)
    return exp(parts * log1p(-slipping)) if slipping < 1.0 else 0.0


def _below(sigmas: float) -> float:
    """Of a standard normal."""
    return erfc(-sigmas / sqrt(2.0)) / 2.0
