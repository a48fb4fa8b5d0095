"""size.datum-function: located on something else than what a size is measured from."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts, StationFacts
from machining.facts.covered import share_there, words_for
from machining.facts.left import Piece
from machining.facts.state import State
from machining.geometry.frames import Direction
from machining.plan.document import Holding
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.feature import Flat, Hole
from machining.world.part import Requirement

from ..finding import Finding
from .uncovered import works_on

MOST = 0.5  # of a face, and it is there
ENDS = {"low": "-", "high": "+"}
PLACES = {
    ("x", "low"): "the left end",
    ("x", "high"): "the right end",
    ("y", "low"): "the front side",
    ("y", "high"): "the back side",
    ("z", "top"): "the top",
    ("z", "bottom"): "the bottom",
}
OF = {"stock": "the blank as it comes", "part": "the finished part"}


def datum_function(facts: PlanFacts, left: list[Piece]) -> Iterator[Finding]:
    for asked in facts.plan.part.requirements:
        datum = facts.geometry.feature(asked.datum) if asked.datum else None
        makers = [op for op in facts.operations() if works_on(op, asked, facts)]
        if not isinstance(datum, Flat | Hole) or not makers:
            continue
        last = makers[-1]
        if not last.station.turns and not _located(datum, last, facts):
            yield _told(asked, datum, last, facts)


def _located(datum: Flat | Hole, op: OperationFacts, facts: PlanFacts) -> bool:
    """Is the part where the operation cuts it held, touched or cut on what it is measured from?"""
    station, zero = op.station, op.station.planned.zero
    if isinstance(datum, Hole):
        made_here = any(
            datum.id in getattr(other.operation.on, "ids", ()) for other in op.setup.operations
        )
        return made_here or (zero.of == "hole" and zero.hole == datum.id)
    side = station.lie.looks(datum.faces)
    if not _is_there(datum, station.arrives, facts):
        return _is_there(datum, station.leaves, facts)  # cut in the same holding
    if side[1] == "z":
        return side == "-z" or zero.z == "top"
    held = station.planned.holding
    if isinstance(held, Holding) and held.fixed == side:
        return True
    return zero.of != "hole" and ENDS.get(getattr(zero, side[1])) == side[0]


def _is_there(datum: Flat, state: State, facts: PlanFacts) -> bool:
    return share_there(datum, state, facts.geometry) >= MOST


def _told(asked: Requirement, datum: Flat | Hole, op: OperationFacts, facts: PlanFacts) -> Finding:
    zero, said = op.station.planned.zero, words_for(datum)
    side = op.station.lie.looks(datum.faces) if isinstance(datum, Flat) else None
    if zero.of == "hole" and (side is None or side[1] != "z"):
        taken = "a hole"
    else:
        letter = side[1] if side is not None else "x"
        place = PLACES.get((letter, getattr(zero, letter)), "the middle")
        taken = f"{place} of {OF[zero.z_of if letter == 'z' else zero.of]}"
    return Finding(
        "size.datum-function",
        "look",
        op.setup.planned.id,
        "",
        f"{{what}} is measured from {said.text}; where operation {{op}} cuts it the zero is on"
        " {taken}: what both are off adds up.",
        {
            "what": Shown(asked.what),
            "op": Shown(str(op.number)),
            "taken": Shown(taken),
            **said.values,
        },
        "",
        tuple(_on_it(datum, side, op.station, facts)),
        about=asked.id,
    )


def _on_it(
    datum: Flat | Hole, side: Direction | None, station: StationFacts, facts: PlanFacts
) -> Iterator[Proposal]:
    """The zero on the face or hole itself, where that is there when the part comes in."""
    on = f"station:{station.id}"
    if isinstance(datum, Hole):
        fields: dict[str, object] = {"zero.of": "hole", "zero.hole": datum.id}
    elif side is None or not _is_there(datum, station.arrives, facts):
        return
    elif side[1] == "z":
        fields = {"zero.z": "top", "zero.z_of": "part"}
    else:
        end = "low" if side[0] == "-" else "high"
        fields = {"zero.of": "part", "zero.hole": "", f"zero.{side[1]}": end}
    yield Proposal("Take the zero from there", (Change(on=on, fields=fields),), {})
