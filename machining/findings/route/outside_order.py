"""route.outside-order: what was done to the part elsewhere is cut away again, or makes it another
material than the data are for.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from machining.facts.context import PlanFacts, Ready, StationFacts
from machining.facts.outside import WORDS, done_before
from machining.plan.document import Plan
from machining.plan.edit import Change, Keep
from machining.plan.outside import OutsideStep
from machining.plan.places import OnFeatures
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding

ID = "route.outside-order"
HARD = "the values were proven on the hardened part"
MEANT = "what is cut there was left for it"


def outside_order(station: StationFacts, facts: PlanFacts) -> Iterator[Finding]:
    ready = [op for op in station.operations if isinstance(op, Ready)]
    for step in done_before(station, facts) if ready else ():
        if step.kind == "hardened":
            text = (
                "It was hardened before this setup: forces, power, speeds and tool life here are"
                " those of the material as it was."
            )
            yield _found(station, step, text, HARD, facts)
        elif step.on_surface and (op := _cuts(ready, step)) is not None:
            text = "Operation {number} cuts what was {done} before."
            found = _found(station, step, text, MEANT, facts)
            values = {"number": Shown(f"{op.number}"), "done": Shown(WORDS[step.kind])}
            yield replace(found, values=found.values | values)


def _cuts(ready: list[Ready], step: OutsideStep) -> Ready | None:
    """The first operation on a place that was treated; all over is every place."""
    for op in ready:
        on = op.operation.on
        ids = set(on.ids) if isinstance(on, OnFeatures) else set[str]()
        if not step.features or ids & set(step.features):
            return op
    return None


def _found(
    station: StationFacts, step: OutsideStep, text: str, words: str, facts: PlanFacts
) -> Finding:
    fixes = (*_later(station, step, facts.plan), _kept(station, step, words))
    return Finding(
        ID,
        "look",
        station.setup.id,
        "",
        text,
        {"words": Shown(words)},
        "",
        fixes,
        station=station.id,
        about=step.id,
    )


def _later(station: StationFacts, step: OutsideStep, plan: Plan) -> Iterator[Proposal]:
    """After the last station the part comes through."""
    last = station.id
    while (then := next((s.id for s in plan.stations if s.takes == last), None)) is not None:
        last = then
    moved = tuple(
        each.model_copy(update={"after": last}) if each.id == step.id else each
        for each in plan.outside
    )
    change = Change(on="plan", fields={"outside": [each.model_dump() for each in moved]})
    yield Proposal(
        "Have it {done} after the last setup", (change,), {"done": Shown(WORDS[step.kind])}
    )


def _kept(station: StationFacts, step: OutsideStep, words: str) -> Proposal:
    keep = Keep(on=station.on, finding=f"{ID}/{step.id}", words=words)
    return Proposal("Keep it: {words}", (keep,), {"words": Shown(words)})
