"""Hexagon bar."""

from __future__ import annotations

from typing import Literal

from .edged import Edged


class Hexagon(Edged):
    NAME = "hexagon bar"
    TURNED = True
    FLATS = 6

    form: Literal["hexagon"] = "hexagon"
