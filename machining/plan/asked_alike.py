"""Fields that several kinds of operation ask for in the same words."""

from __future__ import annotations

from typing import Annotated, Literal

from machining.world.asked import Asked

A_SIDE = Asked("A side up to")
A_TURN = Asked("Down a turn")
Clears = Annotated[
    Literal["open", "rings"],
    Asked("Clears", choices=(("open", "from what is open"), ("rings", "in plain rings"))),
]
CUSP = Asked("Cusp", "size")
DEPTH = Asked("Depth")
DEPTH_OR = Asked("Depth", "size", empty="–", instead_of="width_mm")
DRAWN_DEPTH = Asked("Depth", empty="drawn")
HAND = Asked("Hand", choices=(("right", "right"), ("left", "left")))
LEAVE = Asked("Leave")
MOUTH = Asked("Mouth Ø")
OR_WIDTH = Asked("or width", "size", empty="–", instead_of="depth_mm")
OVER = Asked("Begins outside by")
PASSES = Asked("Passes", "count")
PAST = Asked("Past the bottom")
PITCH = Asked("Pitch", "size")
RAMP = Asked("Ramp", "angle")
SIZE = Asked("Size")
SPRING = Asked("Spring passes", "count")
STEP_DOWN = Asked("Step down")
STEP_OVER = Asked("Step over")
THREAD = Asked("Thread Ø", "size")
TOP_Z = Asked("Top Z")
WIDTH = Asked("Width")
