"""size.squeezed: a ring that is turned round while jaws press it out of round."""

from __future__ import annotations

from collections.abc import Iterator
from math import asin, degrees, floor

from machining.facts import requirement
from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings import KINDS
from machining.facts.holdings import chuck as chuck_in
from machining.facts.size import tolerance_each_way
from machining.holding.ring import out_of_round
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.workholding import Chuck

from ..finding import Finding, Severity, of_operation

STEP_N = 100.0


def squeezed(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    held, found = chuck_in.held_in(op.station), op.value("squeezed")
    if held is None or found is None:
        return
    each_way, source = tolerance_each_way(op, facts)
    most = each_way * facts.library.settings.push_off_share
    if found <= most:
        return
    severity: Severity = "stop" if found > each_way else "look"
    yield of_operation(
        op,
        "size.squeezed",
        severity,
        "Closed with {force} each the jaws press the ring {by} out of round: turned round like this"
        " it is not when they open. The tolerance is {tolerance} each way ({source}).",
        {
            "force": Shown(held[0].force_per_jaw_n, "force"),
            "by": Shown(found, "size"),
            "tolerance": Shown(each_way, "size"),
            "source": Shown(source),
        },
        "squeezed",
        tuple(_fixes(op, facts, most / found)),
    )


def _fixes(op: Ready, facts: PlanFacts, share: float) -> Iterator[Proposal]:
    """As much less force as that asks, where every cut is still held; jaws bored to it."""
    held = chuck_in.held_in(op.station)
    if held is None:
        return
    holding, chuck = held
    less = floor(share * holding.force_per_jaw_n / STEP_N) * STEP_N
    if less >= _needed(op, facts) and less > 0.0:
        yield Proposal(
            "Close the jaws with {force} each",
            (Change(on=op.station.on, fields={"holding.force_per_jaw_n": less}),),
            {"force": Shown(less, "force")},
        )
    if chuck.jaw_kind != "hard":
        return
    for other in facts.library.chucks.values():
        if other.jaw_kind != "soft" or not chuck_in.goes_on(other, op.station):
            continue
        if not other.min_grip_mm <= op.stand.grips_at <= other.max_grip_mm:
            continue
        most = min(share / _of_soft(op, other), 1.0) * holding.force_per_jaw_n
        force = floor(most / STEP_N) * STEP_N
        if force < _needed(op, facts) * chuck.friction / other.friction:
            continue
        usual = KINDS["chuck"].usual(op.station, other, holding, facts)
        held = usual.model_copy(update={"force_per_jaw_n": force})
        change = Change(on=op.station.on, fields={"holding": held.model_dump(mode="json")})
        values = {"other": Shown(other.name), "force": Shown(force, "force")}
        yield Proposal("Hold it in the {other}, {force} each", (change,), values)


def _of_soft(op: Ready, chuck: Chuck) -> float:
    """What jaws bored to it press it out of round, as a share of what it is pressed now."""
    given = {each.name: each.value for each in op.figures["squeezed"].inputs}
    bears = degrees(asin(min(chuck.jaw_width_mm / op.stand.grips_at, 1.0)))
    soft = out_of_round(**{**given, "jaws": float(chuck.jaws), "bears": bears})
    return soft / op.figures["squeezed"].value


def _needed(op: Ready, facts: PlanFacts) -> float:
    """The force of a jaw at rest (N) that every cut of the station asks."""
    every = [
        chuck_in.needs(each, requirement.asked(each, facts))
        for each in op.station.operations
        if isinstance(each, Ready) and "holding" in each.figures
    ]
    return max((each for each in every if each is not None), default=float("inf"))
