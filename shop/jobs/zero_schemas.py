"""What is answered about the zero of a station. The core answers in bytes already written."""

from __future__ import annotations

from typing import Literal

from ninja import Schema

from .schemas import SentenceOut


class ZeroChoiceOut(SentenceOut):
    """A place an axis can be taken from, as the plan names it, in words."""

    of: str
    at: Literal["low", "middle", "high"]
    feature: str


class ZeroWayOut(Schema):
    by: str
    words: str


class ZeroAxisOut(Schema):
    """``picked`` is how it is found as the plan has it, ``within_mm`` how closely, each way."""

    axis: Literal["x", "y", "z"]
    choices: list[ZeroChoiceOut]
    picked: str
    within_mm: float
    ways: list[ZeroWayOut]
