"""Two places of the part made at once: in one holding, or with one tool. What is not between them
adds nothing up.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import index
from machining.facts.context import OperationFacts
from machining.facts.made import Made
from machining.facts.suits import can_do
from machining.plan.edit import Change, MoveOperation
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown


def made_together(first: Made, second: Made) -> Iterator[Proposal]:
    """One cut where the other is cut, the later one first; of two tools one for both. Each still
    has to be tried: jaws may stand in the way, or the tool not get in.
    """
    a, b = first.op, second.op
    if a is None or b is None or a is b:
        return
    if a.station is b.station:
        yield from _with_one_tool(a, b)
        return
    early, late = sorted((a, b), key=lambda op: op.station.number)
    for moved, there in ((late, early), (early, late)):
        yield from _moved(moved, there)


def _with_one_tool(a: OperationFacts, b: OperationFacts) -> Iterator[Proposal]:
    for op, other in ((b, a), (a, b)):
        if other.kit is None or other.loaded is None or op.operation.tool == other.operation.tool:
            continue
        if can_do(op.operation.kind, other.kit.tool):
            yield Proposal(
                "Cut operation {number} with T{tool} too",
                (Change(on=op.on, fields={"tool": other.operation.tool}),),
                {"number": Shown(str(op.number)), "tool": Shown(str(other.loaded.number))},
            )


def _moved(op: OperationFacts, there: OperationFacts) -> Iterator[Proposal]:
    """To where the other is cut, right after it, where its side can be turned to the tool."""
    station, side = there.station, _side(op)
    up = side is not None and index.looks_up(station, side)
    if side is None or (not up and index.way_to(station, side) is None):
        return
    setup = station.setup.planned
    place = [each.id for each in setup.operations].index(there.operation.id) + 1
    if op.setup is there.setup and op.number < there.number:
        place -= 1  # it is taken out before that
    fields = {
        "station": station.id if len(setup.stations) > 1 else "",
        "aim": None if up else side,
    }
    yield Proposal(
        "Cut operation {number} of setup {from} in setup {setup}, after its operation {other}",
        (
            MoveOperation(operation=op.operation.id, setup=setup.id, index=place),
            Change(on=op.on, fields=fields),
        ),
        {
            "number": Shown(str(op.number)),
            "from": Shown(str(op.station.number)),
            "setup": Shown(str(station.number)),
            "other": Shown(str(there.number)),
        },
    )


def _side(op: OperationFacts) -> index.Aim | None:
    return op.operation.aim or op.station.lie.up
