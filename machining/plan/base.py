"""What every operation has."""

from __future__ import annotations

from typing import ClassVar

from pydantic import Field, model_validator

from machining.world.record import Id, Positive, Record


class OperationBase(Record):
    """``rpm`` and ``feed_mm_min`` left empty follow the material's data; filled, they are the planner's own.

    ``proven_in`` is the material they were typed for. ``pinned`` keeps its place in the order; ``reason`` says why.
    """

    PLACES: ClassVar[frozenset[str]] = frozenset()
    VERB: ClassVar[str] = ""

    id: Id
    tool: str = ""
    rpm: Positive | None = None
    feed_mm_min: Positive | None = None
    proven_in: str = Field("", max_length=80)
    pinned: bool = False
    coolant: str = "flood"
    reason: str = Field("", max_length=300)
    stop_after: str = Field("", max_length=200)

    @model_validator(mode="after")
    def _place_fits(self) -> OperationBase:
        on = getattr(self, "on", None)
        if on is not None and on.kind not in self.PLACES:
            raise ValueError(f"on is {on.kind!r}; it must be {' or '.join(sorted(self.PLACES))}")
        return self
