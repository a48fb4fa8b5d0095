"""Cut: can spindle, tool and material take it?"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.plan.edit import Change, Edit

from .finding import Finding, Fix, Shown, about_operation, of_operation

NEARLY = 0.95
LIMITS = (("power", "power_limit", "power"), ("torque", "torque_limit", "torque"))


def _lighter(op: OperationFacts, facts: PlanFacts, share: float) -> tuple[Fix, ...]:
    """Slower feed, or a smaller step down, that brings power and torque to the share wanted.

    Thinner chips cut harder: power goes with feed^(1 − mc).
    """
    fixes: list[Fix] = []
    feed, id = op.value("feed"), op.operation.id
    if feed is not None and op.operation.kind != "tap":
        wanted = feed * share ** (1.0 / (1.0 - (facts.material.mc if facts.material else 0.0)))
        slower = float(int(wanted / 10.0) * 10) or wanted
        edit: Edit = Change(on=f"operation:{id}", fields={"feed_mm_min": slower})
        fixes.append(Fix("Feed {feed}", (edit,), {"feed": Shown(slower, "feed")}))
    step = getattr(op.operation, "step_down_mm", None)
    if step is not None and share < 0.9:
        lower = max(0.1, int(10 * step * share) / 10)
        fixes.append(Fix("Step down {step}", (Change(on=f"operation:{id}", fields={"step_down_mm": lower}),), {"step": Shown(lower, "length")}))
    return tuple(fixes)


@about_operation
def over_the_curve(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.power, cut.torque, cut.power-at-worst-stock"""
    allowed = facts.library.settings.power_share
    for name, limit_name, quantity in LIMITS:
        asked, limit = op.value(name), op.value(limit_name)
        if asked is None or limit is None or limit <= 0 or asked <= limit * allowed:
            continue
        yield of_operation(
            op, f"cut.{name}", "stop" if asked > limit else "look", "It asks {asked} of the spindle, which gives {limit} at this speed: {share}.",
            {"asked": Shown(asked, quantity), "limit": Shown(limit, quantity), "share": Shown(asked / limit, "percent")}, name, _lighter(op, facts, 0.98 * allowed * limit / asked),
        )
        return
    for name, limit_name, quantity in LIMITS:
        asked, limit = op.value(f"worst_{name}"), op.value(limit_name)
        if asked is None or limit is None or limit <= 0 or asked <= limit * allowed:
            continue
        extra = facts.plan.stock.saw_tolerance_mm
        yield of_operation(
            op, "cut.power-at-worst-stock", "stop" if asked > limit else "look", "With the blank sawn {extra} over it asks {asked} of {limit}: {share}.",
            {"extra": Shown(extra, "length"), "asked": Shown(asked, quantity), "limit": Shown(limit, quantity), "share": Shown(asked / limit, "percent")},
            f"worst_{name}", _lighter(op, facts, 0.98 * allowed * limit / asked),
        )
        return


@about_operation
def speed_band(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    speed, data = op.value("cutting_speed"), op.data
    if speed is None or data is None or op.operation.reason or data.speed_low * 0.999 <= speed <= data.speed_high * 1.001:
        return
    if op.operation.rpm is None:  # a limit of machine or tool, not the planner's choice
        return
    edit = Change(on=f"operation:{op.operation.id}", fields={"rpm": None})
    yield of_operation(
        op, "cut.speed-band", "look", "{speed} lies outside {low} to {high} for this material; say why, or follow the data.",
        {"speed": Shown(speed, "cutting_speed"), "low": Shown(data.speed_low, "cutting_speed"), "high": Shown(data.speed_high, "cutting_speed")}, "cutting_speed",
        (Fix("Follow the material's data", (edit,), {}),),
    )


@about_operation
def chip(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """cut.rubs, cut.chip-over"""
    per_edge, tool = op.value("chip"), op.tool
    if per_edge is None or tool is None or op.operation.kind in ("tap", "ream"):
        return
    if tool.max_chip_mm is not None and per_edge > tool.max_chip_mm:
        yield of_operation(
            op, "cut.chip-over", "stop", "A chip of {chip} is over what this tool takes, {most}.",
            {"chip": Shown(per_edge, "feed_per_tooth"), "most": Shown(tool.max_chip_mm, "feed_per_tooth")}, "chip", _other_feed(op, NEARLY * tool.max_chip_mm / per_edge),
        )
    elif per_edge < tool.edge_radius_mm:
        yield of_operation(
            op, "cut.rubs", "look", "A chip of {chip} is thinner than the edge is sharp, {edge}: it rubs.",
            {"chip": Shown(per_edge, "feed_per_tooth"), "edge": Shown(tool.edge_radius_mm, "feed_per_tooth")}, "chip", _other_feed(op, tool.edge_radius_mm / NEARLY / per_edge),
        )


def _other_feed(op: OperationFacts, times: float) -> tuple[Fix, ...]:
    """Follow the data where the feed was typed; and the feed that brings the chip just inside its limit."""
    on, feed = f"operation:{op.operation.id}", op.value("feed") or 0.0
    wanted = float(f"{feed * times:.3g}")
    fixes = [Fix("Follow the material's data", (Change(on=on, fields={"feed_mm_min": None}),), {})] if op.operation.feed_mm_min is not None else []
    return (*fixes, Fix("Feed {feed}", (Change(on=on, fields={"feed_mm_min": wanted}),), {"feed": Shown(wanted, "feed")}))
