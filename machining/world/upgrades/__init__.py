"""Library items written by earlier versions, brought up to date on read: by kind, one pure step a
file, on raw dictionaries.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from . import (
    machines_1_coolant_codes,
    machines_2_spindles_carriers_places,
    machines_3_tram,
    settings_1_by_elements,
)

Raw = dict[str, Any]
# kind -> format -> the step to the next; a kind without steps is in its first format
STEPS: dict[str, dict[int, Callable[[Raw], Raw]]] = {
    "machines": {
        1: machines_1_coolant_codes.step,
        2: machines_2_spindles_carriers_places.step,
        3: machines_3_tram.step,
    },
    "settings": {1: settings_1_by_elements.step},
}


def format_of(kind: str) -> int:
    """The format items of a kind are written in today."""
    return max(STEPS.get(kind, {}), default=0) + 1


def item_up_to_date(kind: str, written: int, raw: Any) -> Any:
    """An item's data in today's format; what is none is returned as it is."""
    steps = STEPS.get(kind, {})
    while isinstance(raw, dict) and written in steps:
        raw = steps[written](raw)
        written += 1
    return raw
