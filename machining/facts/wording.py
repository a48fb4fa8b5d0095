"""Short names of operations, after the place they work at, as ledger and sheet write them."""

from __future__ import annotations

from machining.plan.places import Drawn, DrawnArea, Lines, OnFeatures, Rectangle, TypedHoles
from machining.world.feature import Hole, Pocket

from .context import OperationFacts, PlanFacts

Named = tuple[str, str, dict[str, float]]


def named(op: OperationFacts, detail: str = "", sizes: dict[str, float] | None = None) -> Named:
    """Verb, detail with ``{names}`` and the lengths (mm) behind them."""
    return type(op.operation).VERB, detail, sizes or {}


def of_place(op: OperationFacts, facts: PlanFacts) -> Named:
    """A pocket's size, or how many holes of which: ("Ream", "4 × {d} through", {"d": 6.8})."""
    if (pocket := pocket_size(op, facts)) is not None:
        return named(op, "{l} × {w}", {"l": pocket[0], "w": pocket[1]})
    if (holes := holes_of(op, facts)) is not None:
        count, diameter, through = holes
        return named(op, f"{count} × {{d}}" + (" through" if through else ""), {"d": diameter})
    on = op.operation.on
    if isinstance(on, Rectangle):
        return named(op, "{l} × {w}", {"l": on.length_mm, "w": on.width_mm})
    if isinstance(on, DrawnArea):
        return named(op, on.file)
    return named(op)


def pocket_size(op: OperationFacts, facts: PlanFacts) -> tuple[float, float] | None:
    """Long and short side (mm) of the part's pocket it works in; None where it is none."""
    on = op.operation.on
    ids = on.ids if isinstance(on, OnFeatures) else ()
    found = [facts.geometry.feature(id) for id in ids]
    pocket = next((f for f in found if isinstance(f, Pocket)), None)
    if pocket is None:
        return None
    spans = [max(along) - min(along) for along in zip(*pocket.loops[0], strict=True)]
    long, short, _ = sorted(spans, reverse=True)
    return long, short


def holes_of(op: OperationFacts, facts: PlanFacts) -> tuple[int, float, bool] | None:
    """How many holes, their diameter (mm), and whether they go through; None for what names none,
    or a pocket too.
    """
    on = op.operation.on
    if isinstance(on, TypedHoles):
        return len(on.at_mm), on.diameter_mm, on.through
    ids = on.ids if isinstance(on, OnFeatures) and pocket_size(op, facts) is None else ()
    holes = [each for id in ids if isinstance(each := facts.geometry.feature(id), Hole)]
    return (len(holes), holes[0].diameter_mm, holes[0].through) if holes else None


def places_of(op: OperationFacts) -> int:
    """At how many places it works."""
    on = op.operation.on
    if isinstance(on, OnFeatures):
        return len(on.ids)
    if isinstance(on, Drawn):
        return len(on.lines)
    return len(on.at_mm) if isinstance(on, TypedHoles | Lines) else 1
