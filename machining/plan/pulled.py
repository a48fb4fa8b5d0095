"""A part that is pulled down on its whole face: by vacuum, or stuck down."""

from __future__ import annotations

from typing import Annotated, Literal

from machining.world.asked import Asked
from machining.world.record import Key, Line

from .in_vise import HoldingBase

Edges = Literal["", "-x-y", "+x-y", "-x+y", "+x+y"]
EDGES = (
    ("", "none"),
    ("-x-y", "left and front"),
    ("+x-y", "right and front"),
    ("-x+y", "left and back"),
    ("+x+y", "right and back"),
)


class Pulled(HoldingBase):
    """On a plate of the shop that pulls; ``against`` are the sides where raised edges stand that
    the part is pushed against.
    """

    kind: Literal["pulled"] = "pulled"
    plate: Key
    against: Annotated[Edges, Asked("Pushed against", choices=EDGES)] = ""
    reason: Line = ""

    @property
    def item(self) -> str:
        """Key of the library's record."""
        return self.plate

    @property
    def sides(self) -> tuple[str, ...]:
        """Of the part where edges stand, "-x" and so on."""
        return tuple(self.against[k : k + 2] for k in (0, 2)) if self.against else ()
