"""hold.crushes: a jaw or clamp that presses harder on the part than its material stands."""

from __future__ import annotations

from collections.abc import Iterator
from math import floor

from machining.facts.context import PlanFacts, Ready
from machining.facts.crushed import Dented, dented
from machining.plan.clamped import Clamped
from machining.plan.edit import Change
from machining.plan.in_vise import Holding
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, keep, of_operation

ID = "hold.crushes"
SPARE = 0.95
UNDER = "a plate lies between that spreads it"


def crushes(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Told once a station, where it is pressed hardest."""
    found = dented(op, facts)
    if found is None or not _is_worst(op, found, facts):
        return
    x, y, z = found.at
    yield of_operation(
        op,
        ID,
        "look",
        "{body} presses with {pressure} N/mm² at X {x}, Y {y}, Z {z}: {material} stands {stands}"
        " before it is dented.",
        {
            "body": Shown(found.body[0].upper() + found.body[1:]),
            "pressure": Shown(round(found.pressure), "count"),
            "stands": Shown(round(found.stands), "count"),
            "material": Shown(facts.material.name if facts.material is not None else ""),
            "x": length(round(x, 1)),
            "y": length(round(y, 1)),
            "z": length(round(z, 1)),
        },
        "",
        (*_less(op, found), keep(op, ID, UNDER)),
    )


def _is_worst(op: Ready, found: Dented, facts: PlanFacts) -> bool:
    mine = [each for each in op.station.operations if isinstance(each, Ready)]
    every = [(each, dented(each, facts)) for each in mine]
    most = max(each.pressure for _, each in every if each is not None)
    first = next(o for o, each in every if each is not None and each.pressure >= most - 1e-6)
    return first.id == op.id and found.pressure >= most - 1e-6


def _less(op: Ready, found: Dented) -> Iterator[Proposal]:
    held, on = op.station.planned.holding, op.station.on
    if isinstance(held, Holding):
        less = floor(2.0 * SPARE * found.share * held.torque_nm) / 2.0
        if less > 0.0:
            change = Change(on=on, fields={"holding.torque_nm": less})
            yield Proposal("Tighten to {torque}", (change,), {"torque": Shown(less, "torque")})
    elif isinstance(held, Clamped) and found.body.startswith("clamp "):
        place = int(found.body[6:]) - 1
        clamp = held.clamps[place]
        less = floor(10.0 * SPARE * found.share * clamp.torque_nm) / 10.0
        if less > 0.0:
            every = [
                (c.model_copy(update={"torque_nm": less}) if k == place else c).model_dump(
                    mode="json"
                )
                for k, c in enumerate(held.clamps)
            ]
            change = Change(on=on, fields={"holding.clamps": every})
            values = {"clamp": Shown(found.body), "torque": Shown(less, "torque")}
            yield Proposal("Tighten {clamp} to {torque}", (change,), values)
