"""Another form of stock for a part."""

from __future__ import annotations

from collections.abc import Iterator
from typing import get_args

import numpy as np

from machining.geometry.frames import DIRECTIONS, Turn, orientation
from machining.plan.document import Plan
from machining.world.geometry import PartGeometry
from machining.world.library import Library
from machining.world.stock import FORMS, Block, Stock
from machining.world.stock.base import Blank
from machining.world.stock.shaped import Shaped

SAME_MM, SAME_MM3 = 1e-3, 1.0  # what facets may pretend


def stock_of(form: str, plan: Plan, geometry: PartGeometry, library: Library) -> Stock:
    """A form round a part, with the shop's usual allowances, or those of the stock it has now where
    that was looked at. Raises OutOfRange where the part can't come out of such a form.
    """
    usual, now = FORMS[form].usual(geometry, library.settings), plan.stock
    kept = {} if now == Block() else _carried(now, FORMS[form])
    return usual.model_copy(update=kept)  # type: ignore[return-value]


def _carried(now: Blank, form: type[Blank]) -> dict[str, object]:
    """Sides and tolerances that both forms have."""
    alike = {name for name, _ in form.SIDES} | {"saw_tolerance_mm", "drawn_tolerance_mm"}
    return {
        name: getattr(now, name)
        for name in sorted(alike & set(form.model_fields))
        if name in type(now).model_fields
    }


def shaped(part: PartGeometry, shape: PartGeometry, key: str, file_name: str) -> Shaped:
    """A blank read from a file, where the part comes out of it: as it lies in its file, else about
    the middle of the part, turned as it needs to be; as in its file where nothing goes.
    """
    as_read = Shaped(geometry=key, file_name=file_name)
    for stock in (as_read, *_about_the_middle(as_read, part, shape)):
        if (part.solid - stock.solid(part.bounds, {key: shape})).volume() <= SAME_MM3:
            return stock
    return as_read


def _about_the_middle(as_read: Shaped, part: PartGeometry, shape: PartGeometry) -> Iterator[Shaped]:
    """All ways it lies along the part's axes in which its box takes the part's."""
    size, middle = part.bounds[1] - part.bounds[0], (part.bounds[0] + part.bounds[1]) / 2.0
    for up in DIRECTIONS:
        for turn in get_args(Turn):
            rotation = orientation(up, turn)
            corners = np.array(shape.bounds) @ rotation.T
            low, high = corners.min(axis=0), corners.max(axis=0)
            if (high - low >= size - SAME_MM).all():
                at = [round(float(each), 4) for each in middle - (low + high) / 2.0]
                yield as_read.model_copy(update={"up": up, "turn": turn, "at_mm": tuple(at)})
