"""size.repeat-missing: what is done to some of several like holes."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.kinds import kind_of
from machining.facts.left import Piece
from machining.plan.edit import Change
from machining.plan.operation import BackChamfer, Chamfer, Countersink
from machining.plan.places import OnFeatures
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.feature import Hole

from ..finding import Finding, keep, of_operation

ID = "size.repeat-missing"
SAME_MM = 0.005
EDGES = (Chamfer, Countersink, BackChamfer)
Alike = tuple[str, float, bool, float]


def repeat_missing(facts: PlanFacts, left: list[Piece]) -> Iterator[Finding]:
    """Told of what leaves little or no mark on the stock: threads, reamed walls, broken edges. What
    isn't drilled at all still stands there.
    """
    done = dict[str, set[str]]()
    for op in facts.operations():
        if isinstance(op.operation.on, OnFeatures):
            done.setdefault(op.operation.kind, set()).update(op.operation.on.ids)
    told = set[tuple[str, Alike]]()
    for op in facts.operations():
        kind, on = op.operation, op.operation.on
        if not isinstance(on, OnFeatures) or not _marks_little(op):
            continue
        for id in on.ids:
            hole = facts.geometry.feature(id)
            if not isinstance(hole, Hole) or (kind.kind, _alike(hole)) in told:
                continue
            told.add((kind.kind, _alike(hole)))
            like = [each.id for each in _like(hole, facts)]
            missing = [each for each in like if each not in done[kind.kind]]
            if missing:
                yield _missing(op, hole, like, missing)


def _marks_little(op: OperationFacts) -> bool:
    return bool(kind_of(op.operation).needs_hole) or isinstance(op.operation, EDGES)


def _alike(hole: Hole) -> Alike:
    """Equal for holes that a drawing would count as one and the same."""
    return hole.axis[1], round(hole.diameter_mm / SAME_MM), hole.through, round(hole.length_mm, 1)


def _like(hole: Hole, facts: PlanFacts) -> Iterator[Hole]:
    for each in facts.geometry.features:
        if isinstance(each, Hole) and _alike(each) == _alike(hole):
            yield each


def _missing(op: OperationFacts, hole: Hole, like: list[str], missing: list[str]) -> Finding:
    on = op.operation.on
    assert isinstance(on, OnFeatures)
    values = {
        "done": Shown(float(len(like) - len(missing)), "count"),
        "all": Shown(float(len(like)), "count"),
        "d": Shown(hole.diameter_mm, "size"),
        "missing": Shown(float(len(missing)), "count"),
        "verb": Shown(type(op.operation).VERB),
    }
    rest = Change(on=op.on, fields={"on.ids": (*on.ids, *missing)})
    return of_operation(
        op,
        ID,
        "look",
        "“{verb}” is planned in {done} of {all} like holes of {d}.",
        values,
        "",
        (
            Proposal("Do it in the other {missing} too", (rest,), values),
            keep(op, ID, "the drawing asks for it in these only"),
        ),
    )
