"""route.offset-unknown, route.offset-duplicate: zeros that the machine can't keep apart."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.offsets import all_codes, offsets_wanted
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding


def offset_unknown(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """It has no such offset, or not as many as positions want one each."""
    machine, code = station.machine, station.planned.work_offset
    codes = all_codes(station)
    if machine is None or ("" not in codes and code in machine.work_offsets):
        return
    values = {"machine": Shown(machine.name), "code": Shown(code)}
    text, fixes = "{machine} has no work offset {code}.", _another(station)
    if code in machine.work_offsets:
        text = (
            "It keeps {count} zeros, each in an offset of its own from {code} on, and {machine} has"
            " {left} there."
        )
        count, left = offsets_wanted(station), len({*codes} - {""})
        values |= {"count": Shown(str(count)), "left": Shown(str(left))}
        fixes = chain(_another(station), _in_one(station))
    yield Finding(
        "route.offset-unknown", "stop", station.setup.id, "", text, values, "", tuple(fixes)
    )


def offset_duplicate(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Two stations of a setup are in the machine together, and each has a zero of its own."""
    own = set(all_codes(station)) - {""}
    for other in station.setup.stations:
        if other is station:
            return
        both = sorted(own & set(all_codes(other)))
        if both:
            yield Finding(
                "route.offset-duplicate",
                "stop",
                station.setup.id,
                "",
                "It keeps its zero in {code}, where that of station {other} stands in the same"
                " setup: one of them is cut where the other lies.",
                {
                    "code": Shown(both[0]),
                    "other": Shown(str(station.setup.stations.index(other) + 1)),
                },
                "",
                tuple(_another(station)),
            )
            return


def _another(station: StationFacts) -> Iterator[Proposal]:
    """The first offset of the machine from which on as many are free as it needs."""
    used = {
        code for each in station.setup.stations if each is not station for code in all_codes(each)
    }
    codes = station.machine.work_offsets if station.machine else ()
    wanted = offsets_wanted(station)
    for k in range(len(codes) - wanted + 1):
        if used.isdisjoint(codes[k : k + wanted]) and codes[k] != station.planned.work_offset:
            yield Proposal(
                "Keep it in {code}" if wanted == 1 else "Keep them in {code} and those after it",
                (Change(on=f"station:{station.id}", fields={"work_offset": codes[k]}),),
                {"code": Shown(codes[k])},
            )
            return


def _in_one(station: StationFacts) -> Iterator[Proposal]:
    """The zero of the first position; the program goes to the others by their pitch."""
    yield Proposal(
        "Keep them all in {code}, the program moves by the pitch",
        (Change(on=f"station:{station.id}", fields={"offset_each": False}),),
        {"code": Shown(station.planned.work_offset)},
    )
