"""What of a library has changed since a plan was frozen with it."""

from __future__ import annotations

from machining.plan.document import Plan
from machining.world.library import Library

from .plan_json import uses

KIND_WORDS = {
    "machines": "machine",
    "holdings": "workholding",
    "clamps": "clamp",
    "assemblies": "assembly",
    "tools": "tool",
    "holders": "holder",
    "materials": "material",
}
UNITS = {"mm": "mm", "deg": "°", "rpm": "rpm", "nm": "N·m", "n": "N", "kg": "kg", "s": "s"}
# what says where a value is from, is only a remark, or changes times alone
NO_VALUE = frozenset({"source", "note", "in_doubt", "standing", "close_s"})


def changed_since(plan: Plan, then: Library, now: Library) -> list[str]:
    """One line for each item the plan stands on that is gone or has other values: what it is, and
    which of its fields differ.
    """
    said = []
    for kind, word in KIND_WORDS.items():
        for key in sorted(uses(plan, then)[kind]):
            before, after = getattr(then, kind).get(key), getattr(now, kind).get(key)
            if before is None:
                continue
            if after is None or type(after) is not type(before):
                said.append(f"{word} {before.name}: it is gone")
                continue
            fields = [
                _said(field, getattr(before, field), getattr(after, field))
                for field in type(before).model_fields
                if field not in NO_VALUE and getattr(before, field) != getattr(after, field)
            ]
            if fields:
                said.append(f"{word} {before.name}: {', '.join(fields)}")
    return said


def _said(field: str, before: object, after: object) -> str:
    """What a field is called, and both its values where they are plain numbers."""
    words, _, unit = field.rpartition("_")
    if unit not in UNITS:
        words, unit = field, ""
    name = words.replace("_", " ")
    if isinstance(before, int | float) and isinstance(after, int | float):
        return f"{name} {before:g} → {after:g}{f' {UNITS[unit]}' if unit else ''}"
    return name
