"""size.datum-sawn: a later setup finds its zero by sides no tool has cut."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.located import RAW
from machining.facts.made import NotKnown
from machining.facts.stack_up import found_by
from machining.facts.zero import LETTERS
from machining.geometry.frames import Direction
from machining.plan.document import BLANK
from machining.plan.edit import Keep
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.ways.zeros import by_what_holds_it

from ..finding import Finding

ID = "size.datum-sawn"
BY_SIDES = "{axes} of its zero are found by sides the blank came with, {skin}"
BY_A_SIDE = "{axes} of its zero is found by a side the blank came with, {skin}"
BY_SO_MUCH = ", which can be {over} over: what is cut here lies to the rest only that closely."
NOT_SAID = (
    ", and nobody has said how much that can be over: what is cut here lies to the rest only that"
    " closely."
)
KEPT = "zero is corrected on the first part by what is measured"


def datum_sawn(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    if station.planned.takes == BLANK or station.turns or not station.work:
        return
    sides = {on: raw for on in range(3) if (raw := _raw_sides(station, on, facts))}
    if not sides:
        return
    stock = facts.plan.stock
    over = max(stock.tolerance_at(side) for raw in sides.values() for side in raw)
    skin = stock.skin(next(iter(sides.values()))[0])
    better = by_what_holds_it(station, tuple(sides), facts.geometry)
    words = Proposal("Keep it: {words}", (Keep(on=station.on, finding=ID, words=KEPT),), _said())
    yield Finding(
        ID,
        "look",
        station.setup.id,
        "",
        f"{BY_SIDES if len(sides) > 1 else BY_A_SIDE}{BY_SO_MUCH if over > 0.0 else NOT_SAID}",
        {
            "axes": Shown(_listed([LETTERS[on] for on in sides])),
            "skin": Shown(skin),
            **({"over": Shown(over, "length")} if over > 0.0 else {}),
        },
        "",
        (*(() if better is None else (better,)), words),
        station=station.id,
    )


def _listed(letters: list[str]) -> str:
    """X, Y and Z."""
    *others, last = letters
    return f"{', '.join(others)} and {last}" if others else last


def _said() -> dict[str, Shown]:
    return {"words": Shown(KEPT)}


def _raw_sides(station: StationFacts, on: int, facts: PlanFacts) -> list[Direction]:
    """The raw sides an axis of its zero is found by."""
    try:
        places = found_by(station, on, facts)
    except NotKnown:
        return []  # asked where it counts
    return [
        each.side
        for each in places
        if each.raw and each.side is not None and facts.plan.stock.skin(each.side) in RAW
    ]
