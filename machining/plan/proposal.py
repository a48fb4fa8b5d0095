"""What a planner may take: edits with the words for them, tried before they are shown."""

from __future__ import annotations

from dataclasses import dataclass, field

from machining.quantities.said import Shown

from .edit import Edit


@dataclass(frozen=True, slots=True)
class Proposal:
    """``label`` is a sentence with the ``{names}`` of ``values``, for a fix also of its finding."""

    label: str
    edits: tuple[Edit, ...] = ()
    values: dict[str, Shown] = field(default_factory=dict)
