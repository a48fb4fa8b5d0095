"""hold.not-located: what a clamped part lies on and against leaves a motion free."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import hold
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.held import located_by
from machining.facts.holdings.clamped_usual import pins, usual
from machining.holding.located import said
from machining.plan.clamped import Clamped, Dowel
from machining.plan.edit import Change, Keep
from machining.plan.in_vise import CALLED
from machining.plan.proposal import Proposal
from machining.plan.pulled import EDGES, Pulled
from machining.quantities.said import Shown
from machining.world.fixture import Fixture
from machining.world.gear import Gear

from ..finding import Finding

ID = "hold.not-located"
KEPT = "it is indicated on every part"
MOVED_MM = 0.02


def not_located(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """Of what is clamped or pulled down: jaws and chucks close on it."""
    held, contacts = station.planned.holding, hold.as_it_comes(station, facts)
    if not isinstance(held, Clamped | Pulled) or contacts is None:
        return
    free = [said(each) for each in located_by(contacts).free]
    if not free:
        return
    motions = ", ".join(each.text for each in free)
    values = {name: shown for each in free for name, shown in each.values.items()}
    yield Finding(
        ID,
        "look",
        station.setup.id,
        "",
        f"By what it lies on and against, the part {motions}.",
        values,
        "",
        tuple(_ways(station, held, facts)),
        station=station.id,
    )


def _ways(station: StationFacts, held: Clamped | Pulled, facts: PlanFacts) -> Iterator[Proposal]:
    if isinstance(held, Pulled):
        yield from _edges(station)
    elif isinstance(station.item, Gear) and isinstance(station.item.base, Fixture):
        yield from _in_fixture(station, held, station.item.base, facts)
    else:
        yield from _fixes(station, held)


def _in_fixture(
    station: StationFacts, held: Clamped, base: Fixture, facts: PlanFacts
) -> Iterator[Proposal]:
    """Down on its seats and against its locators, where it is not; or somebody indicates it."""
    put = usual(station, base, held, facts)
    there = {name: getattr(put, name) for name in ("x_mm", "y_mm", "hangs_mm")}
    if any(abs(value - getattr(held, name)) > MOVED_MM for name, value in there.items()):
        fields = {f"holding.{name}": value for name, value in there.items()}
        change = Change(on=station.on, fields=fields)
        yield Proposal(
            "Push it against the locators of {base}", (change,), {"base": Shown(base.name)}
        )
    words = Keep(on=station.on, finding=ID, words=KEPT)
    yield Proposal("Keep it: {words}", (words,), {"words": Shown(KEPT)})


def _edges(station: StationFacts) -> Iterator[Proposal]:
    for edges, where in EDGES[1:]:
        change = Change(on=station.on, fields={"holding.against": edges})
        yield Proposal("Push it against edges, {where}", (change,), {"where": Shown(where)})
    keep = Keep(on=station.on, finding=ID, words=KEPT)
    yield Proposal("Keep it: {words}", (keep,), {"words": Shown(KEPT)})


def _fixes(station: StationFacts, held: Clamped) -> Iterator[Proposal]:
    """Dowels at two of its sides, instead of those it has; or somebody indicates it."""
    size = [float(each) for each in station.lie.stock_high - station.lie.stock_low]
    high = round(min(8.0, size[2] / 2.0) + held.raised_mm, 1)
    for mirrored in (False, True):
        every = [
            Dowel(id=f"d{k}", side=side, at_mm=round(at, 1), high_mm=high)
            for k, (side, at) in enumerate(pins(size, mirrored), 1)
        ]
        dowels = [each.model_dump(mode="json") for each in every]
        yield Proposal(
            "Three dowels: two at its {longer} side, one at its {shorter}",
            (Change(on=station.on, fields={"holding.dowels": dowels}),),
            {"longer": Shown(CALLED[every[0].side]), "shorter": Shown(CALLED[every[2].side])},
        )
    words = Keep(on=station.on, finding=ID, words=KEPT)
    yield Proposal("Keep it: {words}", (words,), {"words": Shown(KEPT)})
