"""Which clamps of a station are on, from operation to operation."""

from __future__ import annotations

from collections.abc import Sequence

from .clamped import Clamped
from .operation import Operation


def clamped_on(held: Clamped, operations: Sequence[Operation]) -> dict[str, frozenset[str]]:
    """Which clamps are on at each operation, by ``""`` before the first; nothing where they stay. A
    clamp that is put on before it ever comes off is not there at first.
    """
    changes = [op.clamps_after for op in operations if op.clamps_after is not None]
    if not changes:
        return {}
    ids = [each.id for each in held.clamps]
    first = {id: next((id in c.on for c in changes if id in (*c.on, *c.off)), False) for id in ids}
    now = frozenset(id for id in ids if not first[id])
    found = {"": now}
    for op in operations:
        found[op.id] = now
        now = after(op, now, ids)
    return found


def after(op: Operation, now: frozenset[str], ids: Sequence[str]) -> frozenset[str]:
    """Which of ``ids`` are on once an operation and the change after it are done."""
    change = op.clamps_after
    if change is None:
        return now
    return (now | (set(change.on) & set(ids))) - set(change.off)
