"""hold.below: an edge that comes out of the part over a parallel, the bed or a chuck's face."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from math import ceil, floor

from shapely.affinity import translate

from machining.facts import leaning
from machining.facts.below import Met, met_below
from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings.vise import held_in, in_from_jaws
from machining.geometry.regions import Region
from machining.plan.clamped import Clamped
from machining.plan.edit import Change
from machining.plan.proposal import Later, Proposal
from machining.quantities.said import length
from machining.world.clamping import Base
from machining.world.fixture import Fixture
from machining.world.gear import Gear

from ..finding import Finding, of_operation

ROOM_MM = 1.0  # past the edge of what comes out
MOST_IN = 0.3  # of the way between the jaws: nearer to the middle the part tips
CALLED = {
    "parallel": "a parallel",
    "angle": "what sets its angle",
    "pallet": "what it is clamped on",
    "bed": "the bed of the vise",
    "step": "the step of the soft jaws",
    "chuck": "the face of the chuck",
}


def below(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    met = met_below(op)
    if met is None:
        return
    what = CALLED[met.body.role]
    may = _may_be_cut(op, met)
    if met.deep <= may:
        yield of_operation(
            op,
            "hold.below",
            "note",
            "It comes out under the part and goes {deep} into what that lies on, which may be cut"
            " {may} deep: faced {deep} down before the next job, its old holes are gone.",
            {"deep": length(round(met.deep, 2)), "may": length(may)},
            "",
            (*_less_past(op, met), *_raised(op, met)),
        )
        return
    yield of_operation(
        op,
        "hold.below",
        "stop",
        f"It comes out under the part and goes {{deep}} into {what}.",
        {"deep": length(met.deep)},
        "",
        Later(partial(_fixes, op, met)),
    )


def _may_be_cut(op: Ready, met: Met) -> float:
    """How deep (mm) a tool may go into what it meets: a plate that is faced again has some."""
    item = op.station.item
    if met.body.role != "pallet" or not isinstance(item, Gear) or not isinstance(item.base, Base):
        return 0.0
    return item.base.cut_into_mm


def _fixes(op: Ready, met: Met) -> Iterator[Proposal]:
    yield from _less_past(op, met)
    yield from _parallels_in(op, met)
    yield from _raised(op, met)


def _less_past(op: Ready, met: Met) -> Iterator[Proposal]:
    past = getattr(op.operation, "past_mm", None)
    if past is None or past < met.deep:
        return
    less = floor(20.0 * (past - met.deep)) / 20.0
    change = Change(on=op.on, fields={"past_mm": less})
    yield Proposal("Go {less} past the bottom", (change,), {"less": length(less)})


def _raised(op: Ready, met: Met) -> Iterator[Proposal]:
    """On parallels as high as it comes out, and some room."""
    held = op.station.planned.holding
    fixed = isinstance(op.station.item, Gear) and isinstance(op.station.item.base, Fixture)
    if met.body.role == "pallet" and isinstance(held, Clamped) and not fixed:
        high = float(ceil(held.raised_mm + met.deep + ROOM_MM))
        change = Change(on=op.station.on, fields={"holding.raised_mm": high})
        yield Proposal("Lay it on parallels {high} high", (change,), {"high": length(high)})


def _parallels_in(op: Ready, met: Met) -> Iterator[Proposal]:
    """Set in from the jaws by as little as clears it, where the part still stands on both."""
    held = held_in(op.station)
    if met.body.role != "parallel" or held is None or leaning.leans(op.station):
        return
    now = in_from_jaws(held[0])
    one, other = sorted(
        (body.region for body in op.stand.of("parallel")), key=lambda each: each.bounds
    )
    along = "xy".index(held[0].fixed[1])
    apart = other.bounds[along + 2] - one.bounds[along] + 2.0 * now
    keep_out = met.region.buffer(ROOM_MM)
    for inwards in range(ceil(MOST_IN * apart)):
        by = inwards - now
        moved = (shifted(one, along, by), shifted(other, along, -by))
        if not any(each.intersects(keep_out) for each in moved):
            change = Change(on=op.station.on, fields={"holding.parallels_in_mm": float(inwards)})
            yield Proposal(
                "Set the parallels {inwards} in from the jaws",
                (change,),
                {"inwards": length(float(inwards))},
            )
            return


def shifted(region: Region, along: int, by: float) -> Region:
    return translate(region, *((by, 0.0) if along == 0 else (0.0, by)))
