"""What a planner may take: edits with the words for them, tried before they are shown."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import overload

from machining.quantities.said import Shown

from .edit import Edit

log = logging.getLogger("machining")


@dataclass(frozen=True, slots=True)
class Proposal:
    """``label`` is a sentence with the ``{names}`` of ``values``, for a fix also of its finding."""

    label: str
    edits: tuple[Edit, ...] = ()
    values: dict[str, Shown] = field(default_factory=dict)


class Later(Sequence[Proposal]):
    """Those that take a while to be found, so only once somebody looks: a plan that is merely
    tried needs none. Where that fails it is in the log, and there are none.
    """

    def __init__(self, find: Callable[[], Iterable[Proposal]]) -> None:
        self._find = find

    @cached_property
    def _found(self) -> tuple[Proposal, ...]:
        try:
            return tuple(self._find())
        except Exception:
            log.exception("what could be proposed was not found")
            return ()

    def __len__(self) -> int:
        return len(self._found)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Sequence) and self._found == tuple(other)

    __hash__ = None  # type: ignore[assignment]

    @overload
    def __getitem__(self, at: int) -> Proposal: ...
    @overload
    def __getitem__(self, at: slice) -> Sequence[Proposal]: ...
    def __getitem__(self, at: int | slice) -> Proposal | Sequence[Proposal]:
        return self._found[at]
