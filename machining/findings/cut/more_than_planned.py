"""cut.more-than-planned: more metal stands in the way of a cut than its pass is made for."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts.context import PlanFacts, Ready
from machining.facts.forces import much_more
from machining.facts.kinds import kind_of
from machining.facts.place import Work
from machining.facts.roughed import leaves, roughed_by
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import Engrave, FinishWalls, Operation, RoughOutside, RoughPocket
from machining.plan.places import Outside
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.removal.found import Found, Hardest

from ..finding import Finding, Severity, of_operation
from ..tools import move_after

MORE = 1.3  # times the depth or width that was said: as much as a corner may ask of it
SLOT_WIDTH = 0.5  # of the diameter: from this width on a side cut is a slot
SLOT_DEPTH, SOFT_DEPTH = 0.5, 1.0  # of the diameter: deeper such a cut stops, in soft metal
SOFT = "N"
ROUGH_STEP = 0.1  # of the diameter
BESIDE_MM = 0.1  # of a wall


def more_than_planned(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    found, deep, wide = op.found, op.seen.depth_mm, op.seen.width_mm
    if found is None or found.hardest is None:
        return
    planned = kind_of(op.operation).section(op)
    if planned is not None:
        yield from _along_edge(op, facts, found.hardest, planned)
        return
    if deep is None or wide is None:
        return
    width, depth = _stands(op, found), found.met.usual_depth
    if width <= MORE * wide and depth <= MORE * deep:
        return
    yield of_operation(
        op,
        "cut.more-than-planned",
        _severity(op, facts, width, depth),
        "It meets {depth} × {width} along its path, where {said_depth} × {said_width} is said:"
        " that much metal stands there.",
        {
            "depth": length(depth),
            "width": Shown(width, "size"),
            "said_depth": length(deep),
            "said_width": Shown(wide, "size"),
        },
        "found_width",
        tuple(_fixes(op, width, wide)),
    )


def _along_edge(op: Ready, facts: PlanFacts, worst: Hardest, planned: float) -> Iterator[Finding]:
    """An edge that is broken before what stands beside or over it is gone."""
    if isinstance(op.operation, Engrave) or worst.area <= much_more(planned):
        return  # engraved lines tell it by what stands over them
    last = next((each for each in reversed(op.setup.operations) if each is not op), None)
    later = last is not None and last.number > op.number
    yield of_operation(
        op,
        "cut.more-than-planned",
        _severity(op, facts, worst.width, worst.depth),
        "It meets {times} times what a pass along this edge takes: metal still stands there.",
        {"times": Shown(worst.area / planned, "number")},
        "",
        (move_after(op, last),) if last is not None and later else (),
    )


def _stands(op: Ready, found: Found) -> float:
    """How much (mm) stands on the wall on average, for a pass along walls, whose width grows in
    corners of itself; the width that is seldom passed, for others.
    """
    if not isinstance(op.operation, FinishWalls):
        return found.met.seldom_width
    work = op.work
    walls = work.kept.length if isinstance(op.operation.on, Outside) else _walls(work)
    return found.trace.volume() / max(walls * work.wall_height * op.operation.chain, 1e-9)


def _walls(work: Work) -> float:
    """How long the walls of a pocket are (mm): all round, but for its open sides."""
    if work.kept.is_empty:
        return float(work.region.length)
    return float(work.region.boundary.intersection(work.kept.buffer(BESIDE_MM)).length)


def _severity(op: Ready, facts: PlanFacts, width: float, depth: float) -> Severity:
    """What a finishing pass may take of soft metal where little stands is to be looked at."""
    soft = facts.material is not None and facts.material.iso_group == SOFT
    diameter = op.tool.diameter_mm
    slot = width > SLOT_WIDTH * diameter
    return "stop" if slot and depth > (SOFT_DEPTH if soft else SLOT_DEPTH) * diameter else "look"


def _fixes(op: Ready, width: float, said: float) -> Iterator[Proposal]:
    kind = op.operation
    if not isinstance(kind, FinishWalls):
        return  # of_operation offers to take it out
    rougher = roughed_by(op)
    if rougher is not None:
        yield Proposal("Leave {width} for it", leaves(op, said), {"width": Shown(said, "size")})
    else:
        first = _roughing(op, kind, said)
        at = [each.id for each in op.setup.planned.operations].index(kind.id)
        adds = AddOperation(setup=op.setup.planned.id, operation=first, index=at)
        yield Proposal("Rough it first", (adds,))
    stands = ceil(100.0 * width * kind.chain - 1e-6) / 100.0
    change = Change(on=op.on, fields={"width_mm": stands})
    yield Proposal("Let it take the {width}", (change,), {"width": Shown(stands, "size")})


def _roughing(op: Ready, kind: FinishWalls, leave: float) -> Operation:
    """The same place roughed with the same tool, a tenth of it wide."""
    make = RoughOutside if isinstance(kind.on, Outside) else RoughPocket
    return make(
        id=f"{kind.id[:40]}rough",
        tool=kind.tool,
        station=kind.station,
        aim=kind.aim,
        on=kind.on,
        step_down_mm=kind.step_down_mm,
        step_over_mm=round(ROUGH_STEP * op.tool.diameter_mm, 2),
        leave_mm=leave,
    )
