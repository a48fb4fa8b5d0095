"""Pass by pass, for what is cut in several that are not alike."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Table:
    """``columns`` are words and quantity; ``rows`` their values. A row without a value
    holds None.
    """

    columns: tuple[tuple[str, str], ...]
    rows: tuple[tuple[float | None, ...], ...]


def steps_of(reached: Sequence[float]) -> list[float]:
    """What each pass adds (mm) to what the passes before it reached."""
    return [now - before for before, now in zip([0.0, *reached[:-1]], reached, strict=True)]


def infeed_table(depths: Sequence[float], size: float, each: float) -> Table:
    """Radial passes of a thread from a diameter (mm): ``each`` is 2 where they widen it, -2 where
    they turn it down.
    """
    return Table(
        (("Pass", "count"), ("In", "size"), ("Step", "size"), ("Ø", "size")),
        tuple(
            (float(k), deep, step, size + each * deep)
            for k, (deep, step) in enumerate(zip(depths, steps_of(depths), strict=True), 1)
        ),
    )
