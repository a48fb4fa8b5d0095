"""travel.neighbour: a tool, its holder, the head or a position against what stands at another
position; from another side, against all that stands there.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from math import ceil

from machining.facts.context import PlanFacts, Ready, SetupFacts, StationFacts
from machining.facts.observed import Meets
from machining.facts.spread import carried_away, wider
from machining.plan.edit import Change
from machining.plan.proposal import Later, Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, of_operation
from ..reach.stick_out import longer
from ..tools import tool_name
from .turned_holding import a_quarter

CALLED = {
    "tool": "{tool}",
    "holder": "the holder of {tool}",
    "head": "the spindle’s head over {tool}",
}


def neighbour(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    met = op.meets
    if met is None:
        return
    there = next((each for each in op.setup.stations if each.id == met.station), op.station)
    called, several = CALLED[met.who], op.station.planned.positions > 1
    words = (f"At position {{here}}, {called}" if several else _begins(called)) + " comes {low}"
    if not met.station:
        whose = "the {body}"
    elif there is op.station and met.other == met.position:
        whose = "the {body} that holds its part"
    else:
        whose = f"the {{body}} of position {{other}}{_of_station(op.station, there)}"
    yield of_operation(
        op,
        "travel.neighbour",
        "stop",
        f"{words} too low for {whose}.",
        {
            "here": Shown(str(met.position + 1)),
            "tool": tool_name(op),
            "low": length(met.low_mm),
            "body": Shown(met.body),
            "other": Shown(str(met.other + 1)),
            "station": Shown(str(op.setup.stations.index(there) + 1)),
        },
        "",
        Later(partial(_fixes, op, met, there, facts)),
    )


def _begins(words: str) -> str:
    return words[0].upper() + words[1:]


def _of_station(here: StationFacts, there: StationFacts) -> str:
    return "" if there is here else " of station {station}"


def _fixes(op: Ready, met: Meets, there: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    itself = not met.station or (there is op.station and met.other == met.position)
    if itself:
        yield from a_quarter(op)
    else:
        yield from _stand_free(op.station, there, facts)
    if met.who != "tool":
        yield from longer(op, facts, float(ceil(op.loaded.stick_out_mm + met.low_mm - 1e-6)))


def in_another(setup: SetupFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Two positions where one body would have to stand in the other."""
    for each in setup.crossed[:1]:
        here, there = each.here, each.there
        yield Finding(
            "travel.neighbour",
            "stop",
            setup.id,
            "",
            "Position {other}" + _of_station(here, there) + " stands in position {here}: they take"
            " the same room.",
            {
                "here": Shown(str(each.position + 1)),
                "other": Shown(str(each.other + 1)),
                "station": Shown(str(setup.stations.index(there) + 1)),
            },
            "",
            Later(partial(_stand_free, here, there, facts)),
            station=there.id,
        )


def _stand_free(here: StationFacts, there: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """Farther from each other: the pitch of one station, or the later of two carried away."""
    memo = here.arrives.memo
    if here is there:
        spread = wider(here, facts, memo)
        name = "Stand them farther apart: {pitch}"
    else:
        here, there = sorted((here, there), key=here.setup.stations.index)
        spread, name = carried_away(there, here, facts, memo), "Carry station {station} away"
    if spread is None:
        return
    pitches = [v for k, v in spread.model_dump().items() if k.endswith("pitch_mm")]
    fields = {"at": spread.model_dump(mode="json")}
    values = {
        "pitch": length(max(pitches, default=0.0)),
        "station": Shown(str(here.setup.stations.index(there) + 1)),
    }
    yield Proposal(name, (Change(on=there.on, fields=fields),), values)
