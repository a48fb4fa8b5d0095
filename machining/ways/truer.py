"""A chuck or collet that runs out less than the one a part turns in."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import holdings
from machining.facts.context import PlanFacts, StationFacts
from machining.plan.edit import Change
from machining.plan.holding import Held
from machining.plan.proposal import Proposal
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Shown
from machining.world.workholding import AnyHolding, Chuck, Collet, Mandrel


def _goes_in(station: StationFacts, held: Held, item: AnyHolding) -> bool:
    try:
        holdings.kind_of(held).stand(station, held, item, station.arrives.memo)
    except OutOfRange:
        return False
    return True


def truer(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """Those that go there, the truest first, as they hold it or usually hold."""
    held, now = station.planned.holding, station.item
    if held is None or not isinstance(now, Chuck | Collet | Mandrel) or station.machine is None:
        return
    most, place = now.run_out_mm, station.place
    known = [
        (each.run_out_mm, each)
        for each in facts.library.holdings.values()
        if isinstance(each, Chuck | Collet | Mandrel) and each.run_out_mm is not None
    ]
    for reads, item in sorted(known, key=lambda each: (each[0], each[1].key)):
        kind = holdings.KINDS[item.kind]
        if place is None or kind.fits(station.machine, place) is not None:
            continue
        if most is None or reads < most:
            before = held if held.kind == item.kind else None
            usual = kind.usual(station, item, before, facts)
            if not _goes_in(station, usual, item):
                continue
            yield Proposal(
                "Hold it in the {item}, which runs out {reads}",
                (Change(on=station.on, fields={"holding": usual.model_dump(mode="json")}),),
                {"item": Shown(item.name), "reads": Shown(reads, "size")},
            )
