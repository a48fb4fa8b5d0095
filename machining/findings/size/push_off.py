"""size.push-off: a tool bent by its cut, over what a tolerance lets it take."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.roughed import leaves, same_place
from machining.facts.size import push_off_at, tolerance_each_way
from machining.facts.thin import gives_aside
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import FinishWalls, RoughOutside, RoughPocket, Slot
from machining.plan.places import OnFeatures
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, Severity, of_operation

SEEN_MM = 0.001
FIGURES = ("size_error", "push_off", "rough_push_off")
LEFT_MM = 0.3  # for a finish


def push_off(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind = op.operation
    if not isinstance(kind, FinishWalls) and not _to_size(op, facts):
        return
    name = next((name for name in FIGURES if name in op.figures), "")
    each_way, source = tolerance_each_way(op, facts)
    share = facts.library.settings.push_off_share
    if not name:
        return
    pushed, wall = op.figures[name].value, _wall(op, name)
    if pushed + wall <= each_way * share:
        return
    also = " and the wall it cuts gives {wall}" if wall >= SEEN_MM else ""
    if isinstance(kind, FinishWalls):
        wanted = each_way * share * pushed / (pushed + wall)
        once_more = Change(on=op.on, fields={"passes": kind.passes + 1})
        fixes = (
            *(_lighter(op, kind, facts, wanted) if op.data or kind.feed_typed else ()),
            Proposal("Go round once more", (once_more,), {}),
        )
    else:
        fixes = tuple(_finished_after(op))
    severity: Severity = "stop" if pushed + wall > each_way else "look"
    yield of_operation(
        op,
        "size.push-off",
        severity,
        f"The tool is pushed off {{pushed}}{also}; the tolerance is {{tolerance}} each way"
        " ({source}).",
        {
            "pushed": Shown(pushed, "size"),
            "wall": Shown(wall, "size"),
            "tolerance": Shown(each_way, "size"),
            "source": Shown(source),
        },
        name,
        fixes,
    )


def _wall(op: Ready, name: str) -> float:
    """What a thin wall gives under the same force (mm), as spring passes leave of it."""
    gives = gives_aside(op) * op.figures["wall_force"].value
    if name == "size_error":
        gives *= op.figures[name].value / op.figures["push_off"].value
    return gives


def _to_size(op: Ready, facts: PlanFacts) -> bool:
    """Is it a roughing cut that leaves nothing on its walls for anybody?"""
    kind = op.operation
    if not isinstance(kind, RoughOutside | RoughPocket | Slot) or kind.leave_mm > 0:
        return False
    every = facts.operations()
    here = next(k for k, other in enumerate(every) if other.operation.id == kind.id)
    return not any(
        isinstance(other.operation, FinishWalls)
        and (other.setup is op.setup or isinstance(kind.on, OnFeatures))
        and same_place(other.operation.on, kind.on)
        for other in every[here + 1 :]
    )


def _finished_after(op: Ready) -> Iterator[Proposal]:
    """Its walls left for a pass of their own by the same tool."""
    kind = op.operation
    if kind.on.kind not in FinishWalls.PLACES:
        return
    walls = FinishWalls(
        id=f"{kind.id[:40]}walls",
        station=kind.station,
        tool=kind.tool,
        on=kind.on,
        step_down_mm=op.work.wall_height,
        width_mm=LEFT_MM,
        lead="arc",
        coolant=kind.coolant,
    )
    at = [each.id for each in op.setup.planned.operations].index(kind.id) + 1
    yield Proposal(
        "Leave {width}, then finish its walls",
        (
            Change(on=op.on, fields={"leave_mm": LEFT_MM}),
            AddOperation(setup=op.setup.planned.id, operation=walls, index=at),
        ),
        {"width": Shown(LEFT_MM, "size")},
    )


def _lighter(op: Ready, kind: FinishWalls, facts: PlanFacts, wanted: float) -> Iterator[Proposal]:
    """The first narrower and the first lower cut that push it off no more than wanted (mm)."""
    depth = kind.step_down_mm if op.seen.depth_mm is None else op.seen.depth_mm
    shares = [1.0 - 0.05 * k for k in range(1, 18)]
    for width in (int(100 * kind.width_mm * share) / 100 for share in shares):
        if width >= 0.05 and push_off_at(op, facts, width, depth) <= wanted:
            edits = (*leaves(op, width), Change(on=op.on, fields={"width_mm": width}))
            yield Proposal("Leave {width} for it", edits, {"width": Shown(width, "size")})
            break
    for step in (int(10 * depth * share) / 10 for share in shares):
        if step >= 1.0 and push_off_at(op, facts, kind.width_mm, step) <= wanted:
            change = Change(on=op.on, fields={"step_down_mm": step})
            yield Proposal("Step down {step}", (change,), {"step": length(step)})
            break
