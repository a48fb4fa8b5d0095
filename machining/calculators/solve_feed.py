from __future__ import annotations

from machining.cutting import speeds
from machining.quantities.errors import OutOfRange

from .parameter import Over0
from .registry import Results, calculator


@calculator(
    "solve-feed",
    "Speed, feed, teeth, chip: any from the others",
    group="Milling",
    asks=("I know three of speed, feed, teeth and chip: what is the fourth?",),
    uses=(speeds.feed, speeds.chip_per_edge),
    example={"rpm": 9300, "flutes": 3, "feed_per_tooth_mm": 0.12},
)
def solve_feed(
    rpm: Over0 | None = None,
    flutes: Over0 | None = None,
    feed_per_tooth_mm: Over0 | None = None,
    feed_mm_min: Over0 | None = None,
) -> Results:
    """Leave empty what you want to know. Teeth can come out as no whole number: then no such cutter
    gives this chip.
    """
    given = {
        "rpm": rpm,
        "flutes": flutes,
        "feed_per_tooth_mm": feed_per_tooth_mm,
        "feed_mm_min": feed_mm_min,
    }
    return solve(given)


def solve(given: dict[str, float | None]) -> Results:
    """The one that is missing. Raises OutOfRange unless exactly three are given."""
    missing = [name for name, value in given.items() if value is None]
    if len(missing) != 1:
        raise OutOfRange(
            " or ".join(given),
            "all given" if not missing else f"missing {len(missing)} of four",
            "three of the four",
        )
    known = {name: value for name, value in given.items() if value is not None}
    if missing[0] == "feed_mm_min":
        return {
            "feed_mm_min": speeds.feed(known["rpm"], known["feed_per_tooth_mm"], known["flutes"])
        }
    if missing[0] == "feed_per_tooth_mm":
        return {
            "feed_per_tooth_mm": speeds.chip_per_edge(
                known["feed_mm_min"], known["rpm"], known["flutes"]
            )
        }
    if missing[0] == "rpm":
        return {"rpm": known["feed_mm_min"] / (known["feed_per_tooth_mm"] * known["flutes"])}
    return {"flutes": known["feed_mm_min"] / (known["feed_per_tooth_mm"] * known["rpm"])}
