"""What is done to a part away from the machines, between two setups or after the last."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from machining.world.price import PriceBreaks
from machining.world.record import Id, Line, Money, Record

Done = Literal["ground", "plated", "coated", "hardened", "glued", "other"]
SURFACES = frozenset({"ground", "plated", "coated"})  # what nobody may mark afterwards


class OutsideStep(Record):
    """``kind`` is what the part is once it comes back, ``after`` the station it leaves from, or
    ``blank`` where that is done to the blank. ``features`` are what it is about, none: all over.
    ``days`` is how long the parts are away, ``lot_cost`` and ``piece_cost`` what it costs, None
    where nobody has said; a piece of so many costs what ``piece_breaks`` say.
    """

    id: Id
    kind: Done
    after: Id
    features: tuple[Id, ...] = Field((), max_length=200)
    words: Line = ""
    days: int | None = Field(None, ge=0, le=365)
    lot_cost: Money | None = None
    piece_cost: Money | None = None
    piece_breaks: PriceBreaks = ()

    @property
    def on_surface(self) -> bool:
        """Does it leave a surface that is to stay as it is?"""
        return self.kind in SURFACES
