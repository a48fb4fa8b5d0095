"""Prices that go down with how much is ordered at once."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import Annotated

from pydantic import AfterValidator, Field

from .record import Money, Record


class PriceFrom(Record):
    """What one of it costs where so much or more of it is ordered at once."""

    from_so_many: float = Field(gt=0, le=1_000_000)
    price: Money


def _upwards(prices: tuple[PriceFrom, ...]) -> tuple[PriceFrom, ...]:
    for before, then in pairwise(prices):
        if then.from_so_many <= before.from_so_many:
            least, more = before.from_so_many, then.from_so_many
            raise ValueError(f"a price from {more:g} on comes after that from {least:g}")
    return prices


PriceBreaks = Annotated[tuple[PriceFrom, ...], Field((), max_length=20), AfterValidator(_upwards)]


def price_at(first: float, breaks: Sequence[PriceFrom], much: float) -> tuple[float, float]:
    """What one costs where so much is ordered, and from how much on it does: 0 for the ``first``
    price.
    """
    price, least = first, 0.0
    for each in breaks:
        if much >= each.from_so_many * (1.0 - 1e-9):
            price, least = each.price, each.from_so_many
    return price, least
