"""A vise and its part turned on the table together, as a way out."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from machining.facts.context import Ready
from machining.facts.holdings.vise import held_in
from machining.plan.edit import Change
from machining.plan.in_vise import SIDES
from machining.plan.places import OnFeatures, Outside, Top
from machining.plan.proposal import Proposal
from machining.plan.zero import End, From
from machining.quantities.said import Shown

Sideways = Literal["+x", "-x", "+y", "-y"]
# where a side goes, seen from above
LEFT: dict[Sideways, Sideways] = {"+y": "-x", "-x": "-y", "-y": "+x", "+x": "+y"}
# a stop's end, by the axis along its jaws, as the side it is at
ENDS: dict[tuple[str, str], Sideways] = {
    ("x", "low"): "-x",
    ("x", "high"): "+x",
    ("y", "low"): "-y",
    ("y", "high"): "+y",
}
OTHER: dict[End, End] = {"low": "high", "middle": "middle", "high": "low"}
TURNS_WITH_IT = {"stock", "part", "jaw", "stop"}  # what a zero stays on when all is turned


def a_quarter(op: Ready) -> Iterator[Proposal]:
    """Its vise with its part a quarter to the left, or to the right; the zero stays at its place of
    the part. Only where all that is cut there is named by the part, not by coordinates.
    """
    yield from _turned(op, 1, "Turn vise and part a quarter, the fixed jaw to the {side}")
    yield from _turned(op, 3, "Turn vise and part a quarter, the fixed jaw to the {side}")


def half_round(op: Ready) -> Iterator[Proposal]:
    """The same, turned to the other side."""
    yield from _turned(op, 2, "Turn vise and part half round, the fixed jaw to the {side}")


def _turned(op: Ready, quarters: int, words: str) -> Iterator[Proposal]:
    held, planned = held_in(op.station), op.station.planned
    named = all(isinstance(each.on, Top | Outside | OnFeatures) for each in op.station.work)
    x, y = planned.zero.x, planned.zero.y
    if held is None or not named or not {x.of, y.of} <= TURNS_WITH_IT:
        return
    fixed, stop = held[0].fixed, held[0].stop
    at = ENDS["x" if fixed[1] == "y" else "y", stop] if stop else None
    for _ in range(quarters):  # to the left, +Y to -X
        x, y, fixed, at = _other(y), x, LEFT[fixed], LEFT[at] if at else None
    fields = {
        "orientation.turn": (planned.orientation.turn + 90 * quarters) % 360,
        "holding.fixed": fixed,
        "holding.stop": "" if at is None else "low" if at[0] == "-" else "high",
        "zero.x": x.model_dump(mode="json"),
        "zero.y": y.model_dump(mode="json"),
    }
    if planned.orientation.raised_deg:
        raised: Sideways = planned.orientation.raised
        for _ in range(quarters):
            raised = LEFT[raised]
        fields["orientation.raised"] = raised
    yield Proposal(
        words,
        (Change(on=op.station.on, fields=fields),),
        {"side": Shown(dict(SIDES)[fixed])},
    )


def _other(taken: From) -> From:
    """The same place once its axis looks the other way."""
    return taken.model_copy(update={"at": OTHER[taken.at], "off_mm": 0.0 - taken.off_mm})
