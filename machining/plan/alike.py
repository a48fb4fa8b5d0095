"""Operations that are changed together: the same at other places, at other sides."""

from __future__ import annotations

from typing import Any

from .operation import Operation

# what each has of its own: where it is and what it cuts there, and what is said of it alone
SAID = ("pinned", "reason", "stop_after", "stop_s", "clamps_after")
OWN = frozenset({"id", "station", "aim", "on", "like", *SAID})


def is_like(operation: Operation, other: Operation) -> bool:
    """Is the other one of a setup's operations changed with it?"""
    return bool(operation.like) and (other.like, other.kind) == (operation.like, operation.kind)


def shared(fields: dict[str, Any]) -> dict[str, Any]:
    """Of changed fields those that all of them have."""
    return {path: value for path, value in fields.items() if path.partition(".")[0] not in OWN}
