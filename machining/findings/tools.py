"""Fixes that change the tool."""

from __future__ import annotations

from collections.abc import Callable

from machining.facts.at_hand import at_hand
from machining.facts.context import OperationFacts, PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.facts.suits import unsuited
from machining.plan.edit import Change, MoveOperation
from machining.plan.proposal import Proposal
from machining.plan.turned import TurnFace, TurnRough
from machining.quantities.said import Shown
from machining.world.tool import STANDS_STILL, TURNS_ON_AXIS, Tool

ROUNDER_MM = 0.5  # a ball or bull takes no square end mill's place


def other_tools(
    op: OperationFacts,
    facts: PlanFacts,
    fits: Callable[[Tool], bool],
    stick_out: float | None,
    kinds: frozenset[str] | None = None,
) -> list[Proposal]:
    """Offer a tool that fits, of the same kind (or of ``kinds``): the nearest of those loaded, else
    of the library.
    """
    if op.kit is None:
        return []
    own, shaped = op.kit.tool, kind_of(op.operation).says_shape
    wanted = kinds or frozenset({own.kind})
    same_size = kinds is None and own.kind in TURNS_ON_AXIS

    turns = op.station.turns

    def suits(tool: Tool) -> bool:
        if (
            (tool.kind in STANDS_STILL and not turns)
            or tool.kind not in wanted
            or tool.key == own.key
            or (not shaped and tool.corner_radius_mm > own.corner_radius_mm + ROUNDER_MM)
        ):
            return False
        return (not same_size or tool.diameter_mm == own.diameter_mm) and fits(tool)

    found = at_hand(
        facts,
        op.setup.planned.machine,
        suits,
        lambda tool: -abs(tool.diameter_mm - own.diameter_mm),
        stick_out,
    )
    if found is None:
        return []
    words = "Load {name} as T{number}" if found.loads else "Use T{number} {name}"
    edits = (
        *found.loads,
        Change(on=f"operation:{op.operation.id}", fields={"tool": found.loaded.id}),
    )
    return [
        Proposal(
            words,
            edits,
            {"number": Shown(str(found.loaded.number)), "name": Shown(found.assembly.name)},
        )
    ]


def instead(op: OperationFacts, facts: PlanFacts, has: Callable[[Tool], bool]) -> list[Proposal]:
    """Offer a tool that suits as well, of those the shop ``has``."""
    known, work = kind_of(op.operation), op.work
    if not known.says_shape:
        return other_tools(op, facts, has, None)
    if work is None:
        return []

    def suits(other: Tool) -> bool:
        return has(other) and known.unsuited(op.operation, work, other) is None

    return other_tools(op, facts, suits, None, known.tools)


def feed_change(op: Ready, feed: float) -> Proposal:
    """Another feed (mm/min); a turned operation says it per turn of its work."""
    on = f"operation:{op.operation.id}"
    if kind_of(op.operation).turned:
        per_turn = float(f"{feed / (op.value('rpm') or feed):.3g}")
        return Proposal(
            "Feed {feed} a turn",
            (Change(on=on, fields={"feed_per_rev_mm": per_turn}),),
            {"feed": Shown(per_turn, "feed_per_tooth")},
        )
    return Proposal(
        "Feed {feed}", (Change(on=on, fields={"feed_mm_min": feed}),), {"feed": Shown(feed, "feed")}
    )


def lighter(op: Ready, facts: PlanFacts, share: float) -> tuple[Proposal, ...]:
    """Slower feed, or a smaller step down, that brings power and torque to the share wanted.

    Thinner chips cut harder: power goes with feed^(1 − mc).
    """
    fixes: list[Proposal] = []
    feed, id = op.value("feed"), op.operation.id
    if feed is not None and kind_of(op.operation).feed_per_turn is None:
        wanted = feed * share ** (1.0 / (1.0 - (facts.material.mc if facts.material else 0.0)))
        fixes.append(feed_change(op, float(int(wanted / 10.0) * 10) or wanted))
    field, words = (
        ("depth_mm", "Cut {step} a side")
        if isinstance(op.operation, TurnFace | TurnRough)
        else ("step_down_mm", "Step down {step}")
    )
    step = getattr(op.operation, field, None)
    if step is not None and share < 0.9:
        lower = max(0.1, int(10 * step * share) / 10)
        fixes.append(
            Proposal(
                words,
                (Change(on=f"operation:{id}", fields={field: lower}),),
                {"step": Shown(lower, "length")},
            )
        )
    return tuple(fixes)


def move_after(op: OperationFacts, last: OperationFacts) -> Proposal:
    at = [each.id for each in last.setup.planned.operations].index(last.operation.id)
    same = op.setup is last.setup
    edit = MoveOperation(
        operation=op.operation.id,
        setup=last.setup.planned.id,
        index=at if same and op.number < last.number else at + 1,
    )
    return Proposal(
        "Move it after operation {number}", (edit,), {"number": Shown(str(last.number))}
    )


def tool_name(op: OperationFacts) -> Shown:
    return Shown(f"T{op.loaded.number}" if op.loaded else "")


def suits(op: OperationFacts, tool: Tool) -> bool:
    return unsuited(op, tool) is None


def corner_fits(op: OperationFacts, tool: Tool) -> bool:
    return (
        op.work is None
        or op.work.corner_radius is None
        or tool.diameter_mm / 2.0 <= op.work.corner_radius
    )
