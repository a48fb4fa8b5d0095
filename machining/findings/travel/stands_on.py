"""travel.stands-on: a table that carries its parts on a tombstone, and none is there."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.stations import stands_on as why_not
from machining.plan.at import Faces
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.machine import Table, Tombstone

from ..finding import Finding


def stands_on(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Nobody knows what the part stands on, so nothing is known of reach and travel either."""
    why, table = why_not(station), station.place
    if why is None or not isinstance(table, Table):
        return
    yield Finding(
        "travel.stands-on",
        "stop",
        station.setup.id,
        "",
        why,
        {},
        "",
        tuple(_put_on(station, each) for each in table.tombstones),
        station=station.id,
    )


def _put_on(station: StationFacts, on: Tombstone) -> Proposal:
    """The same rows and columns, on those of its faces that there are."""
    at = station.planned.at
    faces = [face for face in at.faces if face <= on.sides] if isinstance(at, Faces) else []
    fields = {"on": on.key, "faces": tuple(faces) or (1,)}
    put = at.model_copy(update=fields) if isinstance(at, Faces) else Faces(**fields)
    return Proposal(
        "Put it on the {tombstone}",
        (Change(on=station.on, fields={"at": put.model_dump(mode="json")}),),
        {"tombstone": Shown(on.name)},
    )
