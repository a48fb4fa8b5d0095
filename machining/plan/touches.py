"""What an edit reads or writes, so that two people's edits can be told to meet or to pass each
other.
"""

from __future__ import annotations

from collections.abc import Iterable

from .edit import Change, DuplicateOperation, Edit, Keep


def touches(edit: Edit) -> frozenset[str]:
    """Names such as ``operation:a1.rpm``; a structural edit touches the whole of what it names."""
    if isinstance(edit, Change):
        return frozenset(f"{edit.on}.{path.split('.')[0]}" for path in edit.fields)
    if isinstance(edit, Keep):
        return frozenset({f"{edit.on}.kept.{edit.finding}"})
    names = set()
    for field in ("setup", "station", "operation", "tool"):
        value = getattr(edit, field, None)
        if value is not None:
            names.add(f"{field}:{value if isinstance(value, str) else value.id}")
    if isinstance(edit, DuplicateOperation):
        names.add(f"operation:{edit.new_id}")
    return frozenset(names or {edit.do})


def meet(mine: Iterable[Edit], theirs: Iterable[Edit]) -> frozenset[str]:
    """What both lists touch; a change inside something the other removed or moved counts."""
    left = {name for edit in mine for name in touches(edit)}
    right = {name for edit in theirs for name in touches(edit)}
    return frozenset(
        a for a in left for b in right if a == b or a.startswith(b + ".") or b.startswith(a + ".")
    )
