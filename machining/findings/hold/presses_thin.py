"""hold.presses-thin: a jaw or clamp that bends what it presses on: nothing stands behind it."""

from __future__ import annotations

from collections.abc import Iterator
from math import floor

from machining.facts import requirement
from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings import kind_of
from machining.facts.observed import PressedThin
from machining.plan.clamped import Clamped
from machining.plan.edit import Change
from machining.plan.in_vise import Holding
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, keep, of_operation

ID = "hold.presses-thin"
SPARE = 0.95
EASED = "it is eased to a light hold before the finish"


def presses_thin(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    """Told where it begins: at the first operation of its station that leaves it so."""
    found, most = op.seen.pressed, facts.library.settings.wall_bends_mm
    if found is None or found.bends_mm <= most or _was_so(op, most):
        return
    x, y, z = (float(each) for each in op.lie.pose.apply(found.at))
    yield of_operation(
        op,
        ID,
        "look",
        "{body} presses with {force} on what is {thick} thick then and free behind it, at X {x}, Y"
        " {y}, Z {z}: that bends {bends}, and springs back when it is let go.",
        {
            "body": Shown(found.body[0].upper() + found.body[1:]),
            "force": Shown(found.force_n, "force"),
            "thick": length(round(found.thick, 2)),
            "bends": Shown(found.bends_mm, "size"),
            "x": length(round(x, 1)),
            "y": length(round(y, 1)),
            "z": length(round(z, 1)),
        },
        "",
        (*_fixes(op, found, facts), keep(op, ID, EASED)),
    )


def _was_so(op: Ready, most: float) -> bool:
    """Did the operation before it, in this holding, leave it like this already?"""
    mine = [each for each in op.station.operations if isinstance(each, Ready)]
    here = next(k for k, each in enumerate(mine) if each.id == op.id)
    before = mine[here - 1].seen.pressed if here else None
    return before is not None and before.bends_mm > most


def _fixes(op: Ready, found: PressedThin, facts: PlanFacts) -> Iterator[Proposal]:
    held = op.station.planned.holding
    share = SPARE * facts.library.settings.wall_bends_mm / found.bends_mm
    if isinstance(held, Holding):
        yield from _lower(op, held, found, facts)
        if _stands(op, share, facts):
            less = floor(2.0 * share * held.torque_nm) / 2.0
            if less > 0.0:
                change = Change(on=op.station.on, fields={"holding.torque_nm": less})
                yield Proposal("Tighten to {torque}", (change,), {"torque": Shown(less, "torque")})
    elif isinstance(held, Clamped) and _stands(op, share, facts):
        numbers = {f"clamp {k}": each for k, each in enumerate(held.clamps, 1)}
        pressing = numbers.get(found.body)
        less = floor(10.0 * share * pressing.torque_nm) / 10.0 if pressing is not None else 0.0
        if pressing is not None and less > 0.0:
            eased = pressing.model_copy(update={"torque_nm": less})
            every = [eased if each is pressing else each for each in held.clamps]
            clamps = [each.model_dump(mode="json") for each in every]
            change = Change(on=op.station.on, fields={"holding.clamps": clamps})
            values = {"clamp": Shown(found.body), "torque": Shown(less, "torque")}
            yield Proposal("Tighten {clamp} to {torque}", (change,), values)


def _stands(op: Ready, share: float, facts: PlanFacts) -> bool:
    """Would every cut of its station still be held with so much of the force?"""
    every = [each for each in op.station.operations if isinstance(each, Ready)]
    return all(
        factor * share >= requirement.asked(each, facts)
        for each in every
        if (factor := each.value("holding")) is not None
    )


def _lower(op: Ready, held: Holding, found: PressedThin, facts: PlanFacts) -> Iterator[Proposal]:
    """A grip that ends below where the wall begins."""
    kind = kind_of(held)
    most = found.from_mm - float(op.station.lie.stock_low[2])
    lower = kind.shallower(op.station.item, floor(2.0 * most) / 2.0)
    if facts.library.settings.grip_least_mm <= lower < held.grip_depth_mm:
        change = Change(on=op.station.on, fields={"holding.grip_depth_mm": lower})
        yield Proposal("Grip {grip} deep", (change,), {"grip": length(lower)})
