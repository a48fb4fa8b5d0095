"""route.offset-unknown, route.offset-duplicate: zeros that the machine can't keep apart."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding


def offset_unknown(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    machine, code = station.machine, station.planned.work_offset
    if machine is None or code in machine.work_offsets:
        return
    yield Finding(
        "route.offset-unknown",
        "stop",
        station.setup.id,
        "",
        "{machine} has no work offset {code}.",
        {"machine": Shown(machine.name), "code": Shown(code)},
        "",
        tuple(_another(station)),
    )


def offset_duplicate(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Two stations of a setup are in the machine together, and each has a zero of its own."""
    code = station.planned.work_offset
    for other in station.setup.stations:
        if other is station:
            return
        if other.planned.work_offset == code:
            yield Finding(
                "route.offset-duplicate",
                "stop",
                station.setup.id,
                "",
                "It keeps its zero in {code}, where that of station {other} stands in the same"
                " setup: one of them is cut where the other lies.",
                {
                    "code": Shown(code),
                    "other": Shown(str(station.setup.stations.index(other) + 1)),
                },
                "",
                tuple(_another(station)),
            )
            return


def _another(station: StationFacts) -> Iterator[Proposal]:
    """The first offset of the machine that no station of the setup uses."""
    used = {each.planned.work_offset for each in station.setup.stations}
    codes = station.machine.work_offsets if station.machine else ()
    free = next((code for code in codes if code not in used), None)
    if free is not None:
        yield Proposal(
            "Keep it in {code}",
            (Change(on=f"station:{station.id}", fields={"work_offset": free}),),
            {"code": Shown(free)},
        )
