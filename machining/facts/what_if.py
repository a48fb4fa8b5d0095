"""What a figure would be with other inputs; the plan stays as it is."""

from __future__ import annotations

from collections.abc import Mapping

from machining.quantities.computed import Computed, value_of
from machining.quantities.errors import Missing

MORE = 1.1  # what 'ten per cent more' means


def what_if(
    figures: Mapping[str, Computed], figure: str, changed: Mapping[tuple[str, str], float]
) -> dict[str, float]:
    """Values of a figure and of every figure it is worked out from, with some of the leaves
    changed.

    ``changed`` maps (input name, origin) to its value: the same width enters a chip and a power,
    and changes in both.
    Raises Missing for a figure that isn't there, OutOfRange where a formula can't take a value.
    """
    found: dict[str, float] = {}

    def work(id: str) -> float:
        if id not in found:
            known = figures.get(id)
            if known is None:
                raise Missing("figure", id)
            inputs = {}
            for given in known.inputs:
                upstream = (
                    given.origin.removeprefix("figure:")
                    if given.origin.startswith("figure:")
                    else ""
                )
                inputs[given.name] = (
                    work(upstream)
                    if upstream in figures
                    else changed.get((given.name, given.origin), given.value)
                )
            found[id] = value_of(known.formula, inputs)
        return found[id]

    work(figure)
    return found


def leaves(figures: Mapping[str, Computed], figure: str) -> dict[tuple[str, str], float]:
    """Every input of a figure that is no figure itself, down to the last: (name,
    origin) to value.
    """
    found: dict[tuple[str, str], float] = {}
    waiting = [figure]
    while waiting:
        known = figures.get(waiting.pop())
        for given in known.inputs if known else ():
            upstream = (
                given.origin.removeprefix("figure:") if given.origin.startswith("figure:") else ""
            )
            if upstream in figures:
                waiting.append(upstream)
            else:
                found[(given.name, given.origin)] = given.value
    return found


def sensitivity(figures: Mapping[str, Computed], figure: str) -> dict[tuple[str, str], float]:
    """By what factor a figure changes when each of its leaves grows by ten per cent; leaves it
    can't grow by are left out.
    """
    now = figures[figure].value
    factors = {}
    for leaf, value in leaves(figures, figure).items():
        if value == 0 or now == 0:
            continue
        try:
            factors[leaf] = what_if(figures, figure, {leaf: value * MORE})[figure] / now
        except ValueError:
            continue
    return factors
