"""A vise and its part turned on the table together, as a way out."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import Ready
from machining.facts.holdings.vise import held_in
from machining.plan.document import SIDES
from machining.plan.edit import Change
from machining.plan.places import OnFeatures, Outside, Top
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

LEFT = {"+y": "-x", "-x": "-y", "-y": "+x", "+x": "+y"}  # where a side goes, seen from above
OTHER = {"low": "high", "middle": "middle", "high": "low"}


def a_quarter(op: Ready) -> Iterator[Proposal]:
    """Its vise with its part a quarter to the left, or to the right; the zero stays at its place of
    the part. Only where all that is cut there is named by the part, not by coordinates.
    """
    held, planned = held_in(op.station), op.station.planned
    named = all(isinstance(each.on, Top | Outside | OnFeatures) for each in op.station.work)
    if held is None or not named or planned.zero.of == "hole":
        return
    zero, fixed = planned.zero, held[0].fixed
    ways = (
        (90, LEFT[fixed], OTHER[zero.y], zero.x),
        (270, next(k for k, v in LEFT.items() if v == fixed), zero.y, OTHER[zero.x]),
    )
    for turn, side, x, y in ways:
        fields = {
            "orientation.turn": (planned.orientation.turn + turn) % 360,
            "holding.fixed": side,
            "zero.x": x,
            "zero.y": y,
        }
        yield Proposal(
            "Turn vise and part a quarter, the fixed jaw to the {side}",
            (Change(on=op.station.on, fields=fields),),
            {"side": Shown(dict(SIDES)[side])},
        )
