"""A vise and its part turned on the table together, as a way out."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import at_angle
from machining.facts.context import Ready
from machining.facts.holdings.vise import held_in
from machining.plan.document import SIDES
from machining.plan.edit import Change
from machining.plan.places import OnFeatures, Outside, Top
from machining.plan.proposal import Proposal
from machining.plan.zero import End, From
from machining.quantities.said import Shown

LEFT = {"+y": "-x", "-x": "-y", "-y": "+x", "+x": "+y"}  # where a side goes, seen from above
OTHER: dict[End, End] = {"low": "high", "middle": "middle", "high": "low"}
TURNS_WITH_IT = {"stock", "part", "jaw", "stop"}  # what a zero stays on when all is turned


def a_quarter(op: Ready) -> Iterator[Proposal]:
    """Its vise with its part a quarter to the left, or to the right; the zero stays at its place of
    the part. Only where all that is cut there is named by the part, not by coordinates.
    """
    held, planned = held_in(op.station), op.station.planned
    named = all(isinstance(each.on, Top | Outside | OnFeatures) for each in op.station.work)
    x, y = planned.zero.x, planned.zero.y
    if held is None or not named or not {x.of, y.of} <= TURNS_WITH_IT:
        return
    fixed = held[0].fixed
    ways = (
        (90, LEFT[fixed], _other(y), x),
        (270, next(k for k, v in LEFT.items() if v == fixed), y, _other(x)),
    )
    for turn, side, new_x, new_y in ways:
        fields = {
            "orientation.turn": (planned.orientation.turn + turn) % 360,
            "holding.fixed": side,
            "zero.x": new_x.model_dump(mode="json"),
            "zero.y": new_y.model_dump(mode="json"),
        }
        if at_angle.is_raised(op.station):
            raised = planned.orientation.raised
            turned = LEFT if turn == 90 else {now: before for before, now in LEFT.items()}
            fields["orientation.raised"] = turned[raised]
        yield Proposal(
            "Turn vise and part a quarter, the fixed jaw to the {side}",
            (Change(on=op.station.on, fields=fields),),
            {"side": Shown(dict(SIDES)[side])},
        )


def _other(taken: From) -> From:
    """The same place once its axis looks the other way."""
    return taken.model_copy(update={"at": OTHER[taken.at], "off_mm": 0.0 - taken.off_mm})
