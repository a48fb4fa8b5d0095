from __future__ import annotations

from machining.motion import batch

from .parameter import From0, Over0, Whole, YesNo
from .registry import Results, calculator


@calculator(
    "batch-time",
    "Time of a batch",
    group="Time",
    asks=("How long does this batch take?", "What is the time a part, with setup and loading?"),
    example={"setup_s": 3600, "cycle_s": 420, "load_s": 60, "quantity": 40},
    words={
        "per_load": "parts held at one time",
        "parallel_load": "the next load is prepared while the machine cuts",
    },
)
def batch_time(
    setup_s: From0,
    cycle_s: Over0,
    load_s: From0,
    quantity: Whole,
    per_load: Whole = 1,
    parallel_load: YesNo = False,
) -> Results:
    """The cycle is that of a whole load. With parallel loading only the first load is
    waited for.
    """
    total = batch.batch_time(setup_s, cycle_s, load_s, int(quantity), int(per_load), parallel_load)
    return {"total_s": total, "per_part_s": total / quantity}
