"""size.stack-up: a distance whose ends are not made at once adds up to more than its tolerance."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, StationFacts
from machining.facts.left import Piece
from machining.facts.stack_up import Chain, chains
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, within
from machining.ways.made_together import made_together
from machining.ways.truer import truer
from machining.ways.zeros import by_what_holds_it, on_every_part, probed, with_a_stop

from ..finding import Finding, Severity

ID = "size.stack-up"


def stack_up(facts: PlanFacts, left: list[Piece]) -> Iterator[Finding]:
    for chain in chains(facts):
        if chain.unknown is not None:
            yield _not_known(chain, facts)
        elif chain.worst_mm > chain.allowed_mm:
            yield _too_much(chain, facts)


def _not_known(chain: Chain, facts: PlanFacts) -> Finding:
    """What can be mended is one to look at; of the rest it is said that nobody reckoned it."""
    assert chain.unknown is not None
    station = next((each for each in facts.stations if each.id == chain.station), None)
    fixes = list[Proposal]()
    if station is not None and chain.about == "stop":
        fixes = [*with_a_stop(station), *_there(on_every_part(station))]
    if station is not None and chain.about == "run-out":
        fixes = [*truer(station, facts)]
    why = within(chain.unknown, "why_")
    return Finding(
        ID,
        "look" if fixes else "note",
        station.setup.planned.id if station is not None else "",
        "",
        f"How far {{what}} may be off is not known: {why.text}.",
        {"what": Shown(chain.asked.what), **why.values},
        "",
        tuple(fixes),
        about=chain.asked.id,
    )


def _too_much(chain: Chain, facts: PlanFacts) -> Finding:
    severity: Severity = "stop" if chain.mostly_mm > chain.allowed_mm else "look"
    most = within(chain.links[0].said, "most_")
    last = facts.station(chain.station) if chain.station else None
    return Finding(
        ID,
        severity,
        last.setup.planned.id if last is not None else "",
        "",
        "{what} may be off by {mostly} each way, by {worst} at the worst, and has {allowed}."
        f" Most of it: {most.text}.",
        {
            "what": Shown(chain.asked.what),
            "mostly": Shown(chain.mostly_mm, "size"),
            "worst": Shown(chain.worst_mm, "size"),
            "allowed": Shown(chain.allowed_mm, "size"),
            **most.values,
        },
        "",
        tuple(_fixes(chain, facts)),
        about=chain.asked.id,
    )


def _fixes(chain: Chain, facts: PlanFacts) -> Iterator[Proposal]:
    """A truer chuck; the zeros in it found in other ways, the last setup first; both ends made at
    once.
    """
    zeros: dict[str, tuple[StationFacts, set[int]]] = {}
    yield from _truer(chain, facts)
    for link in chain.links:
        kind, id, *on = link.key.removeprefix("first:").split(":")
        if kind == "zero":
            zeros.setdefault(id, (facts.station(id), set()))[1].add(int(on[0]))
    for station, axes in sorted(zeros.values(), key=lambda each: -each[0].number):
        ways = (
            by_what_holds_it(station, tuple(sorted(axes)), facts.geometry),
            probed(station, tuple(sorted(axes))),
            on_every_part(station),
        )
        for way in ways:
            yield from _there(way)
    if chain.made is not None:
        yield from made_together(*chain.made)


def _truer(chain: Chain, facts: PlanFacts) -> Iterator[Proposal]:
    for link in chain.links:
        if link.key.startswith("run-out:"):
            yield from truer(facts.station(link.key.removeprefix("run-out:")), facts)


def _there(proposal: Proposal | None) -> tuple[Proposal, ...]:
    return () if proposal is None else (proposal,)
