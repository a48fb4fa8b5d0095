"""hold.loses-datum: nothing that was cut so far serves to locate the part where it goes next."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import islice

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.located import located
from machining.facts.made import Made, NotKnown, hole_made
from machining.facts.stack_up import found_by
from machining.facts.turned_axis import whose_axis
from machining.facts.zero import axes
from machining.plan.edit import Change, Keep
from machining.plan.proposal import Proposal
from machining.plan.zero import From
from machining.quantities.said import Shown
from machining.ways.zeros import by_what_holds_it
from machining.world.feature import Hole

from ..finding import Finding

ID = "hold.loses-datum"
KEPT = "zero is corrected on the first part by what is measured"


def loses_datum(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Of a station that the part leaves for others."""
    if not any(op.after is not op.before for op in station.operations):
        return
    for after in facts.stations:
        if after.planned.takes == station.id and after.work and _nothing_cut(after, facts):
            yield _told(station, after, facts)


def _nothing_cut(station: StationFacts, facts: PlanFacts) -> bool:
    """Is all that it is located by as the blank came? Not where nobody knows what it is."""
    asked: list[Callable[[], list[Made]]] = [lambda: [whose_axis(station, facts)]]
    if not station.turns:
        asked = [
            *(lambda on=on: [*found_by(station, on, facts)] for on in range(3)),  # type: ignore[misc]
            *(lambda on=on: [located(station, on, facts)[1]] for on in range(3)),  # type: ignore[misc]
        ]
    known = [place for each in asked for place in _known(each)]
    return bool(known) and all(place.raw for place in known)


def _known(places: Callable[[], list[Made]]) -> list[Made]:
    try:
        return places()
    except NotKnown:
        return []  # asked where it counts


def _told(station: StationFacts, after: StationFacts, facts: PlanFacts) -> Finding:
    where = {"setup": Shown(str(after.number))}
    words = Proposal(
        "Keep it: {words}",
        (Keep(on=station.on, finding=f"{ID}/{after.id}", words=KEPT),),
        {"words": Shown(KEPT)},
    )
    return Finding(
        ID,
        "look",
        station.setup.id,
        "",
        "Setup {setup} grips what the blank turned about; nothing that is turned here serves to"
        " bring the part to the same axis there."
        if after.turns
        else "In setup {setup} the part is located by sides the blank came with alone: nothing"
        " that is cut here or before serves to find it by.",
        where,
        "",
        (*_ways(after, facts), words),
        station=station.id,
        about=after.id,
    )


def _ways(after: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """A hole that is bored before it, else what holds it: the jaw on what is cut."""
    if after.turns:
        return
    for hole in islice(_holes(after, facts), 1):
        taken = From(of="hole", feature=hole.id).model_dump(mode="json")
        yield Proposal(
            "Find the zero of setup {setup} by the hole of {d}",
            (Change(on=after.on, fields={"zero.x": taken, "zero.y": taken}),),
            {"setup": Shown(str(after.number)), "d": Shown(hole.diameter_mm, "size")},
        )
    held = by_what_holds_it(after, (0, 1, 2), facts.geometry)
    if held is not None:
        yield held


def _holes(after: StationFacts, facts: PlanFacts) -> Iterator[Hole]:
    """Upright ones that an earlier setup makes, the widest first."""
    upright = {e.feature for axis in axes(after, facts)[:1] for e in axis.choices if e.of == "hole"}
    known = (each for each in facts.geometry.features if isinstance(each, Hole))
    for each in sorted(known, key=lambda hole: -hole.diameter_mm):
        if each.id not in upright:
            continue
        made = _known(lambda each=each: [hole_made(each, facts)])  # type: ignore[misc]
        if any(m.station is not None and m.station.number < after.number for m in made):
            yield each
