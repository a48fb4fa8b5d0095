"""Short names of operations as the ledger and the sheet write them."""

from __future__ import annotations

from machining.plan.operation import (
    BackChamfer,
    Chamfer,
    Counterbore,
    Countersink,
    Engrave,
    FinishWalls,
    Lines,
    MillHole,
    MillThread,
    OnFeatures,
    Outside,
    Points,
    Rectangle,
    RoundEdge,
    Slope,
    Spot,
    SpotFace,
    Tap,
    Text,
    Top,
    Undercut,
)
from machining.plan.turned import PartOff, TurnFace, TurnFinish, TurnGroove, TurnRough, TurnThread
from machining.quantities.names import drill_name, thread_name
from machining.world.feature import Hole, Pocket

from .context import OperationFacts, PlanFacts

Named = tuple[str, str, dict[str, float]]


def title(op: OperationFacts, facts: PlanFacts) -> Named:
    """Verb, detail with ``{names}`` and the lengths (mm) behind them: ("Drill", "4 × {d} through",
    {"d": 6.8}).
    """
    kind, on = op.operation, op.operation.on
    own = _own_words(op)
    if own is not None:
        return type(kind).VERB, *own
    if isinstance(kind, Chamfer) and isinstance(on, Top):
        return type(kind).VERB, "{s}", {"s": kind.size_mm}
    if isinstance(on, OnFeatures):
        found = [feature for id in on.ids if (feature := facts.geometry.feature(id)) is not None]
        pocket = next((f for f in found if isinstance(f, Pocket)), None)
        if pocket is not None:
            xs, ys, zs = zip(*pocket.loops[0], strict=True)
            long, short = sorted((max(v) - min(v) for v in (xs, ys, zs)), reverse=True)[:2]
            if isinstance(kind, Chamfer):
                return (
                    type(kind).VERB,
                    "{s} round {l} × {w}",
                    {"s": kind.size_mm, "l": long, "w": short},
                )
            return (
                "Finish pocket" if isinstance(kind, FinishWalls) else type(kind).VERB,
                "{l} × {w}",
                {"l": long, "w": short},
            )
        holes = [f for f in found if isinstance(f, Hole)]
        if holes:
            return type(kind).VERB, *_holes(op, len(holes), holes[0].diameter_mm, holes[0].through)
    if isinstance(on, Points):
        return type(kind).VERB, *_holes(op, len(on.at_mm), on.diameter_mm, on.through)
    if isinstance(on, Rectangle):
        return type(kind).VERB, "{l} × {w}", {"l": on.length_mm, "w": on.width_mm}
    if isinstance(kind, FinishWalls) and isinstance(on, Outside):
        return "Finish outside", f"{kind.passes} passes" if kind.passes > 1 else "", {}
    return type(kind).VERB, "", {}


def _own_words(op: OperationFacts) -> tuple[str, dict[str, float]] | None:
    """What a kind with sizes of its own is called after, None for the others."""
    kind, on = op.operation, op.operation.on
    count = (
        len(on.ids)
        if isinstance(on, OnFeatures)
        else len(on.at_mm)
        if isinstance(on, Points | Lines)
        else 1
    )
    if isinstance(kind, Spot | Countersink):
        return f"{{d}} on {count} holes" if count > 1 else "{d}", {"d": kind.mouth_diameter_mm}
    if isinstance(kind, Counterbore | SpotFace):
        return f"{count} × {{d}}, {{z}} deep", {"d": kind.diameter_mm, "z": kind.depth_mm}
    if isinstance(kind, BackChamfer):
        return f"{{s}} on {count} holes" if count > 1 else "{s}", {"s": kind.size_mm}
    if isinstance(kind, MillHole):
        return f"{count} × {{d}}", {
            "d": op.work.hole_diameter if op.work else kind.diameter_mm or 0.0
        }
    if isinstance(kind, MillThread):
        return (
            f"{count} × {thread_name(kind.major_mm, kind.pitch_mm)}"
            + (" tapered" if kind.taper_per_mm else "")
            + (" left" if kind.hand == "left" else ""),
            {},
        )
    if isinstance(kind, Undercut):
        return f"{{w}} in {kind.passes} passes" if kind.passes > 1 else "{w}", {"w": kind.width_mm}
    if isinstance(kind, Engrave):
        return (
            (on.text.upper(), {})
            if isinstance(on, Text)
            else (f"{count} lines" if count > 1 else "a line", {})
        )
    if isinstance(kind, TurnRough | TurnFinish):
        sizes = [d for _, d in kind.on.at_mm]
        wide = {"a": max(sizes), "b": min(sizes)}
        return ("inside, " if kind.on.side == "inside" else "") + (
            "Ø{a}" if wide["a"] == wide["b"] else "Ø{b} to {a}"
        ), wide
    if isinstance(kind, TurnGroove):
        return "{w} wide", {"w": kind.on.width_mm}
    if isinstance(kind, TurnThread):
        return (
            thread_name(kind.diameter_mm, kind.pitch_mm)
            + (f", {kind.starts} starts" if kind.starts > 1 else "")
            + (" left" if kind.hand == "left" else ""),
            {},
        )
    if isinstance(kind, PartOff | TurnFace):
        return "", {}
    if isinstance(kind, RoundEdge):
        return "R {r}", {"r": kind.radius_mm}
    if isinstance(kind, Slope):
        return f"{{s}} at {kind.angle_deg:g}°", {"s": kind.size_mm}
    return None


def _holes(
    op: OperationFacts, count: int, diameter: float, through: bool
) -> tuple[str, dict[str, float]]:
    tool = op.kit.tool if op.kit else None
    if isinstance(op.operation, Tap) and tool is not None and tool.pitch_mm is not None:
        return f"{count} × {thread_name(tool.diameter_mm, tool.pitch_mm)}", {}
    if isinstance(op.operation, Chamfer):
        return f"{{s}} on {count} holes", {"s": op.operation.size_mm}
    size = tool.diameter_mm if tool is not None and op.operation.kind == "drill" else diameter
    called = drill_name(size) if op.operation.kind == "drill" else ""
    return f"{count} × " + (f"{called}, " if called else "") + "{d}" + (
        " through" if through else ""
    ), {"d": size}
