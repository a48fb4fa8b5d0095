"""What was roughed before a finishing pass, and leaves its metal."""

from __future__ import annotations

from machining.plan.edit import Change
from machining.plan.operation import RoughOutside, RoughPocket
from machining.plan.places import DrawnArea, OnFeatures, Outside, Rectangle

from .context import OperationFacts


def roughed_by(op: OperationFacts) -> RoughOutside | RoughPocket | None:
    """The roughing before it at its station that leaves what it cuts."""
    here = op.station.work
    at = [each.id for each in here].index(op.id)
    for other in reversed(here[:at]):
        if isinstance(other, RoughOutside | RoughPocket) and same_place(other.on, here[at].on):
            return other
    return None


def same_place(a: object, b: object) -> bool:
    if isinstance(a, OnFeatures) and isinstance(b, OnFeatures):
        return bool(set(a.ids) & set(b.ids))
    return isinstance(a, Outside | Rectangle | DrawnArea) and type(a) is type(b)


def leaves(op: OperationFacts, width: float) -> tuple[Change, ...]:
    """The edit by which so much (mm) stands for a finishing pass; none where nothing was roughed
    before it.
    """
    rougher = roughed_by(op)
    if rougher is None:
        return ()
    return (Change(on=f"operation:{rougher.id}", fields={"leave_mm": width}),)
