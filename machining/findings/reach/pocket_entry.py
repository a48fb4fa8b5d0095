"""reach.entry, cut.plunge: how a pocket's rough gets down into full material."""

from __future__ import annotations

from collections.abc import Iterator

from machining.cutting.drilling import point_height
from machining.facts.at_hand import at_hand
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import KINDS
from machining.facts.kinds.pockets import entry_spot
from machining.plan.edit import AddOperation, Change
from machining.plan.operation import Drill, RoughPocket, Slot
from machining.plan.places import Points
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.world.tool import Tool

from ..finding import Finding, keep, of_operation
from ..tools import other_tools, suits, tool_name

TOO_STEEP = "{tool} does not cut over its centre and goes down at {ramp}; it takes {most} at most."
NO_WAY_DOWN = "{tool} neither cuts over its centre nor ramps: it can't get down into full material."
ON_ITS_MIDDLE = "{tool} does not cut over its centre: straight down it stands on its middle"
HARDLY_CUTS = "{tool} goes straight down: its middle hardly cuts, and the chips have nowhere to go."
SHALLOW = "straight down: shallow, and the chips come out"
HOLE_SHARE = 0.98  # of the tool's diameter that must stand open for it to go down


def pocket_entry(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    kind, tool = op.operation, op.tool
    if not isinstance(kind, RoughPocket | Slot) or tool.kind not in KINDS[kind.kind].tools:
        return
    if isinstance(kind, Slot):
        yield from _on_a_slope(op, facts, kind, tool)
        return
    if kind.enter == "hole":
        yield from _into_a_hole(op, facts, kind, tool)
    elif kind.enter == "plunge":
        yield from _straight_down(op, kind, tool)
    else:
        yield from _on_a_slope(op, facts, kind, tool)


def _slopes(kind: RoughPocket, tool: Tool) -> list[Proposal]:
    """Ramp or helix at what the tool allows."""
    if tool.max_ramp_deg <= 0:
        return []
    on, gentle = f"operation:{kind.id}", min(kind.ramp_deg, tool.max_ramp_deg)
    return [
        Proposal(
            words,
            (Change(on=on, fields={"enter": way, "ramp_deg": gentle}),),
            {"ramp": Shown(gentle, "angle")},
        )
        for words, way in (("Ramp at {ramp}", "ramp"), ("Helix at {ramp}", "helix"))
    ]


def _straight_down(op: Ready, kind: RoughPocket, tool: Tool) -> Iterator[Finding]:
    values = {"tool": tool_name(op)}
    hole = Proposal(
        "Into a drilled hole", (Change(on=f"operation:{kind.id}", fields={"enter": "hole"}),), {}
    )
    if not tool.centre_cutting:
        yield of_operation(
            op,
            "reach.entry",
            "stop",
            ON_ITS_MIDDLE + ".",
            values,
            "",
            (*_slopes(kind, tool), hole),
        )
    else:
        stay = keep(op, "cut.plunge", SHALLOW)
        yield of_operation(
            op,
            "cut.plunge",
            "look",
            HARDLY_CUTS,
            values,
            "plunge_feed",
            (*_slopes(kind, tool), hole, stay),
        )


def _into_a_hole(op: Ready, facts: PlanFacts, kind: RoughPocket, tool: Tool) -> Iterator[Finding]:
    """A hole as wide as the tool must stand open where it goes down."""
    stands = op.seen.entry_open_mm
    if stands is None or stands >= HOLE_SHARE * tool.diameter_mm:
        return
    x, y = entry_spot(kind, op.work, tool)
    fixes = _slopes(kind, tool)
    found = at_hand(
        facts,
        op.setup.planned.machine,
        lambda other: other.kind == "drill" and other.diameter_mm >= tool.diameter_mm,
        lambda other: -other.diameter_mm,
    )
    if found is not None:
        drill = found.tool
        deep = (
            op.work.top
            - op.work.floor
            - point_height(drill.diameter_mm, drill.point_angle_deg or 180.0)
        )
        if deep > 0:
            where = Points(
                at_mm=((round(x, 3), round(y, 3)),),
                top_mm=op.work.top,
                diameter_mm=drill.diameter_mm,
                depth_mm=round(deep, 3),
            )
            at = [each.id for each in op.setup.planned.operations].index(kind.id)
            add = AddOperation(
                setup=op.setup.planned.id,
                operation=Drill(id=f"{kind.id[:40]}entry", tool=found.loaded.id, on=where),
                index=at,
            )
            fixes.insert(
                0,
                Proposal(
                    "Drill {size} first", (*found.loads, add), {"size": length(drill.diameter_mm)}
                ),
            )
    yield of_operation(
        op,
        "reach.entry",
        "stop",
        "{tool}, {wide} wide, is to go down into a hole, and {open} stands open there.",
        {"tool": tool_name(op), "wide": length(tool.diameter_mm), "open": length(stands)},
        "",
        tuple(fixes),
    )


def _on_a_slope(
    op: Ready, facts: PlanFacts, kind: RoughPocket | Slot, tool: Tool
) -> Iterator[Finding]:
    most = tool.max_ramp_deg
    values = {"ramp": Shown(kind.ramp_deg, "angle"), "most": Shown(most, "angle")}
    gentle = Proposal(
        "Ramp at {ramp}",
        (Change(on=f"operation:{kind.id}", fields={"ramp_deg": most}),),
        {"ramp": Shown(most, "angle")},
    )
    if not tool.centre_cutting and kind.ramp_deg > max(most, 0.0):
        yield of_operation(
            op,
            "reach.entry",
            "stop",
            TOO_STEEP if most > 0 else NO_WAY_DOWN,
            {"tool": tool_name(op), **values},
            "",
            (*((gentle,) if most > 0 else ()), *_that_get_down(op, facts, kind, tool)),
        )
    elif most > 0 and kind.ramp_deg > most:
        yield of_operation(
            op,
            "cut.plunge",
            "look",
            "It goes down at {ramp}, steeper than the {most} this tool ramps at: chips pack under"
            " its centre.",
            values,
            "",
            (gentle,),
        )


def _that_get_down(
    op: Ready, facts: PlanFacts, kind: RoughPocket | Slot, tool: Tool
) -> list[Proposal]:
    least = min(kind.ramp_deg, 3.0)
    return other_tools(
        op,
        facts,
        lambda other: (
            (other.max_ramp_deg >= least or other.centre_cutting)
            and other.diameter_mm <= tool.diameter_mm
            and suits(op, other)
        ),
        None,
        KINDS[kind.kind].tools,
    )
