"""Format 3 to 4 of machines: how square the spindle stands was a sentence and the way to face for
it; now it is what was read. A sentence that can't be read as one goes into the source note.
"""

from __future__ import annotations

import re
from typing import Any

READ = re.compile(r"(\d+(?:\.\d+)?) mm (?:in|over) (\d+(?:\.\d+)?) mm")


def step(raw: dict[str, Any]) -> dict[str, Any]:
    kept = {k: value for k, value in raw.items() if k not in ("tram_note", "face_towards")}
    said, towards = str(raw.get("tram_note", "")), raw.get("face_towards", "any")
    read = READ.search(said)
    if read is not None and towards in ("x+", "x-", "y+", "y-"):
        high, over = map(float, read.groups())
        return {**kept, "tram": [{"high_mm": high, "over_mm": over, "towards": towards}]}
    way = f" Faces ran towards {towards}." if towards not in ("any", None) else ""
    if not said and not way:
        return kept
    note = f"{f' Its spindle {said}.' if said else ''}{way}"
    return {**kept, "source": f"{kept.get('source', '')}{note}"[:500].strip()}
