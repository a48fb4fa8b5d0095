"""Plans written by earlier versions, brought up to date on read: one pure step a file, on raw
dictionaries.

A step takes the document of its format and returns that of the next; it changes nothing of what it
is given. What a step does not know it leaves alone: whether the result is a plan is for the model
to say.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from . import (
    from_1_kept_findings,
    from_2_forms_of_stock,
    from_3_stations,
    from_4_zero_of_each_axis,
)

Raw = dict[str, Any]
STEPS: dict[int, Callable[[Raw], Raw]] = {
    1: from_1_kept_findings.step,
    2: from_2_forms_of_stock.step,
    3: from_3_stations.step,
    4: from_4_zero_of_each_axis.step,
}
FORMAT = max(STEPS) + 1


def up_to_date(raw: Any) -> Any:
    """The document in today's format; what is no document, or of a format to come, is returned as
    it is.
    """
    while isinstance(raw, dict) and raw.get("format", 1) in STEPS:
        raw = STEPS[raw.get("format", 1)](raw)
    return raw
