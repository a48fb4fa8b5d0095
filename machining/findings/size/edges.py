"""size.edges, size.edge-excluded: sharp edges nobody breaks, and edges broken that must stay."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.at_hand import at_hand
from machining.facts.context import PlanFacts, Ready
from machining.facts.covered import words_for
from machining.facts.kinds import kind_of
from machining.facts.left import Piece
from machining.facts.sharp import broken_mm, left_sharp_mm, sharp_places, treatment
from machining.plan.edit import AddOperation, Change, Edit, SetPart
from machining.plan.operation import Chamfer
from machining.plan.places import OnFeatures
from machining.plan.proposal import Proposal
from machining.quantities.said import Said, Shown, length
from machining.world.tool import Tool

from ..finding import Finding, keep, of_operation

SOME_MM = 1.0
BROKEN_MM, SQUARE_DEG = 0.3, 90.0  # of an edge, usually
ASKED = "{length} of sharp edges come off the machine, and nobody says what becomes of them."
BY_MACHINE = "{length} of sharp edges are to be broken on the machine, and no operation does."


def edges(facts: PlanFacts, left: list[Piece]) -> Iterator[Finding]:
    """Once the part comes out: before that its edges are not there."""
    said = treatment(facts)
    if left or said in ("hand", "leave"):
        return
    sharp = left_sharp_mm(facts, by_machine=said == "machine")
    if sharp <= SOME_MM:
        return
    yield Finding(
        "size.edges",
        "look",
        "",
        "",
        ASKED if said == "ask" else BY_MACHINE,
        {"length": length(sharp)},
        "",
        (*broken_by(facts), *_said(facts)),
    )


def _said(facts: PlanFacts) -> Iterator[Proposal]:
    part = facts.plan.part
    for words, becomes in (
        ("Break them by hand", "hand"),
        ("Leave them as they are", "leave"),
    ):
        yield Proposal(words, (SetPart(part=part.model_copy(update={"edges": becomes})),))


def broken_by(facts: PlanFacts) -> Iterator[Proposal]:
    """A chamfer round every top, pocket and mouth that is sharp, by one chamfer mill."""
    cuts: list[AddOperation] = []
    loads: tuple[Edit, ...] = ()
    for station in facts.stations:
        machine = station.setup.planned.machine
        found = at_hand(facts, machine, _breaks, lambda tool: -tool.diameter_mm)
        if found is None or (loads and found.loads and found.loads != loads):
            return
        loads = loads or found.loads
        for place, on in enumerate(sharp_places(station, facts)):
            name = f"{station.id[:30]}edge{place}"
            cut = Chamfer(
                id=name, station=station.id, tool=found.loaded.id, on=on, size_mm=BROKEN_MM
            )
            cuts.append(AddOperation(setup=station.setup.planned.id, operation=cut))
    if cuts:
        becomes = SetPart(part=facts.plan.part.model_copy(update={"edges": "machine"}))
        yield Proposal(
            "Break them on the machine, in {count} operations",
            (*loads, *cuts, becomes),
            {"count": Shown(float(len(cuts)), "count")},
        )


def _breaks(tool: Tool) -> bool:
    return tool.kind == "chamfer_mill" and tool.included_angle_deg == SQUARE_DEG


def edge_excluded(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    if not facts.plan.part.sharp or not kind_of(op.operation).edge or op.after is op.before:
        return
    for id, broken in broken_mm(op, facts).items():
        if broken <= SOME_MM:
            continue
        feature = facts.geometry.feature(id)
        place = words_for(feature) if feature is not None else Said(id)
        yield of_operation(
            op,
            "size.edge-excluded",
            "look",
            f"It breaks {{length}} of the edges of {place.text}, which must stay sharp.",
            {"length": length(broken), **place.values},
            "",
            (*_without(op, id), keep(op, "size.edge-excluded", "it is asked for there after all")),
        )


def _without(op: Ready, id: str) -> Iterator[Proposal]:
    on = op.operation.on
    if isinstance(on, OnFeatures) and id in on.ids and len(on.ids) > 1:
        rest = [each for each in on.ids if each != id]
        yield Proposal("Leave that place out", (Change(on=op.on, fields={"on.ids": rest}),))
