"""size.datum-function: located on something else than what a size is measured from."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts, StationFacts
from machining.facts.covered import share_there, words_for
from machining.facts.left import Piece
from machining.facts.state import State
from machining.facts.zero import place_said, the
from machining.geometry.frames import Direction
from machining.plan.edit import Change
from machining.plan.in_vise import Holding
from machining.plan.proposal import Proposal
from machining.plan.zero import From
from machining.quantities.said import Shown, within
from machining.world.feature import Flat, Hole
from machining.world.part import Requirement

from ..finding import Finding
from .uncovered import works_on

MOST = 0.5  # of a face, and it is there
SIDE_OF = {"low": "-", "high": "+"}


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
        return made_here or zero.x.feature == zero.y.feature == datum.id
    side = station.lie.looks(datum.faces)
    if not _is_there(datum, station.arrives, facts):
        return _is_there(datum, station.leaves, facts)  # cut in the same holding
    if side is None:
        return False
    taken = zero.taken["xyz".index(side[1])]
    held = station.planned.holding
    if side == "-z" or taken.feature == datum.id:
        return True
    if isinstance(held, Holding) and side in (held.fixed, _stop_side(held)):
        return True
    return taken.of in ("stock", "part") and SIDE_OF.get(taken.at) == side[0]


def _stop_side(held: Holding) -> str:
    """The side of the station its stop stands at, empty without one."""
    along = "x" if held.fixed[1] == "y" else "y"
    return f"{SIDE_OF[held.stop]}{along}" if held.stop else ""


def _is_there(datum: Flat, state: State, facts: PlanFacts) -> bool:
    return share_there(datum, state, facts.geometry) >= MOST


def _told(asked: Requirement, datum: Flat | Hole, op: OperationFacts, facts: PlanFacts) -> Finding:
    zero, said = op.station.planned.zero, words_for(datum)
    side = op.station.lie.looks(datum.faces) if isinstance(datum, Flat) else None
    k = "xyz".index(side[1]) if side is not None else 0
    place = place_said(k, zero.taken[k], False, facts.geometry)
    taken = within(place, "on_")
    where = the(taken.text).replace("the blank", "the blank as it comes")
    return Finding(
        "size.datum-function",
        "look",
        op.setup.planned.id,
        "",
        f"{{what}} is measured from {said.text}; where operation {{op}} cuts it the zero is on"
        f" {where}: what both are off adds up.",
        {
            "what": Shown(asked.what),
            "op": Shown(str(op.number)),
            **taken.values,
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
        on_it = From(of="hole", feature=datum.id).model_dump(mode="json")
        fields: dict[str, object] = {"zero.x": on_it, "zero.y": on_it}
    elif side is None or not _is_there(datum, station.arrives, facts):
        return
    elif datum.outermost:
        end = From(of="part", at="low" if side[0] == "-" else "high")
        fields = {f"zero.{side[1]}": end.model_dump(mode="json")}
    else:
        face = From(of="face", feature=datum.id)
        fields = {f"zero.{side[1]}": face.model_dump(mode="json")}
    yield Proposal("Take the zero from there", (Change(on=on, fields=fields),), {})
