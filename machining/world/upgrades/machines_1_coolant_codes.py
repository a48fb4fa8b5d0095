"""Format 1 to 2 of machines: coolant was any text, now it is one of the codes; what was no code is
named in the source note.
"""

from __future__ import annotations

from typing import Any

CODES = ("flood", "mist", "air", "through", "none")


def step(raw: dict[str, Any]) -> dict[str, Any]:
    given = raw.get("coolant", ["flood", "air", "none"])
    if not isinstance(given, list | tuple):
        return raw
    strange = [str(each) for each in given if each not in CODES]
    if not strange:
        return raw
    source = f"{raw.get('source', '')} Coolant was: {', '.join(strange)}."[:500].strip()
    return {
        **raw,
        "coolant": [each for each in given if each in CODES] or ["flood"],
        "source": source,
    }
