"""route.centre-old: sides are turned to the tool about a centre that was last measured long ago, or
nobody has said when.
"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.index import turning_axes
from machining.plan.edit import Keep
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.rotary_axis import RotaryAxis

from ..finding import Finding

ID = "route.centre-old"
KEPT = "zeros of the turned sides are picked up on the first part"


def centre_old(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Of each axis that turns a side or a face of it to the tool, where the day is known."""
    today, most = facts.library.today, facts.library.settings.centre_days
    if today is None or station.machine is None or station.place is None:
        return
    for axis in turning_axes(station):
        days = None if axis.centre_on is None else (today - axis.centre_on).days
        if days is not None and days <= most:
            continue
        yield _found(station, axis, days, most)


OF_WORK = "the zeros of what it turns to the tool hang on it"
OF_HEAD = "where a tip goes as it tilts hangs on it"


def _found(station: StationFacts, axis: RotaryAxis, days: int | None, most: int) -> Finding:
    assert station.machine is not None
    hangs = f"{OF_WORK if axis.carries == 'work' else OF_HEAD}."
    text = (
        "Nobody has said when the centre of {axis} on {machine} was last measured; " + hangs
        if days is None
        else "The centre of {axis} on {machine} was last measured {days} days ago, and the shop"
        " measures it every {most}; " + hangs
    )
    values = {
        "axis": Shown(axis.name),
        "machine": Shown(station.machine.name),
        "days": Shown(f"{days}"),
        "most": Shown(f"{most}"),
        "words": Shown(KEPT),
    }
    keep = Proposal(
        "Keep it: {words}", (Keep(on=station.on, finding=f"{ID}/{axis.name}", words=KEPT),)
    )
    return Finding(ID, "look", station.setup.id, "", text, values, "", (keep,), about=axis.name)
