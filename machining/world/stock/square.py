"""Square bar."""

from __future__ import annotations

from typing import Literal

from .edged import Edged


class Square(Edged):
    NAME = "square bar"
    FLATS = 4

    form: Literal["square"] = "square"
