"""What is answered about the zero of a station. The core answers in bytes already written."""

from __future__ import annotations

from typing import Any, Literal

from ninja import Schema

from .held_schemas import SentenceOut


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


class PlaceWayOut(Schema):
    """A way to place a part, ``of`` its zero or of its load: what comes of it, what would stop the
    plan that does not now, and the edits that do it; none for how it is.
    """

    of: Literal["zero", "load"]
    label: SentenceOut
    says: list[SentenceOut]
    stops: list[SentenceOut]
    edits: list[dict[str, Any]]


class LinkOut(SentenceOut):
    """One thing a distance can be off by, each way; ``source`` is where the figure is from."""

    mm: float
    source: str


class ChainOut(Schema):
    """What adds up over a requirement of the drawing, each way; ``ends`` is empty and ``unknown``
    says why where it can't be reckoned.
    """

    asked: str
    what: str
    ends: list[SentenceOut]
    links: list[LinkOut]
    worst_mm: float
    mostly_mm: float
    allowed_mm: float
    unknown: SentenceOut | None
