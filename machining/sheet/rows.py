"""The tools of a setup and its operations, line by line."""

from __future__ import annotations

from typing import Any

from machining.plan.document import Plan, Setup
from machining.plan.operation import Operation, Slope
from machining.quantities.display import clock, number, sizes
from machining.quantities.units import INCH_MM
from machining.world.library import Library

from .written import Written


def tools(
    plan: Plan, setup: Setup, library: Library, answer: dict[str, Any], w: Written
) -> list[dict[str, Any]]:
    used = {op.tool for op in setup.operations if op.tool}
    needs: dict[str, float] = {}
    for op, result in zip(setup.operations, answer["operations"], strict=True):
        for gauge in result["gauges"]:
            if gauge["figure"] == f"{op.id}.stick_out_needed":
                needs[op.tool] = max(needs.get(op.tool, 0.0), gauge["limit"])
    rows = []
    for loaded in sorted((t for t in plan.tools if t.id in used), key=lambda t: t.pocket):
        assembly = library.assemblies[loaded.assembly]
        tool, holder = library.tools[assembly.tool], library.holders[assembly.holder]
        note = (
            f"holder clears from {w.n(needs[loaded.id], 'length')}"
            if loaded.id in needs and loaded.stick_out_mm - needs[loaded.id] < 5.0
            else tool.note
        )
        long = loaded.stick_out_mm + holder.length_mm
        rows.append(
            {
                "pocket": loaded.pocket,
                "number": f"T{loaded.number}",
                "name": tool.name,
                "holder": holder.name,
                "stick_out": w.n(loaded.stick_out_mm, "length"),
                "other": w.other(loaded.stick_out_mm, "length"),
                "length": f"{long:.0f}" if w.system == "metric" else f"{long / INCH_MM:.2f}",
                "h": f"H{loaded.h:02d}",
                "d": (
                    f"D{loaded.d:02d}"
                    if tool.kind not in ("drill", "tap", "reamer", "boring_head")
                    else "–"
                ),
                "note": note,
            }
        )
    return rows


def operations(
    setup: Setup,
    answer: dict[str, Any],
    turns: bool,
    changes: dict[str, dict[str, Any]],
    w: Written,
) -> list[dict[str, Any]]:
    rows, places, last = [], [each.id for each in setup.stations], ""
    for op, result in zip(setup.operations, answer["operations"], strict=True):
        lowest, left = result["z_to_mm"], result["leaves_mm"]
        rows.append(
            {
                "number": result["number"],
                "title": result["title"],
                "side": _side(result),
                "station": places.index(op.station) + 1 if len(places) > 1 else 0,
                "detail": sizes(result["detail"], result["sizes"], w.system),
                "other": (
                    sizes(result["detail"], result["sizes"], w.others) if result["sizes"] else ""
                ),
                "tool": f"T{result['tool_number']}",
                **_speeds(result, turns, w),
                "z": w.n(lowest, "length") if lowest is not None else "–",
                "z_other": (
                    w.other(lowest, "length").partition(" ")[0] if lowest is not None else ""
                ),
                "leaves": w.n(left, "length") if left is not None else "–",
                "time": clock(result["time_s"]),
                "done": clock(_ends(result)),
                "stop": op.stop_after,
                "change": changes.get(op.id),
                "reason": op.reason,
                "coolant": op.coolant,
                "also": [*_in_range(result, last), *_also(op, result, w)],
            }
        )
        last = result.get("spindle_range") or last
    return rows


def _in_range(result: dict[str, Any], last: str) -> list[str]:
    """The gear or belt it is cut in, where its spindle has several and it is not the last one."""
    now = result.get("spindle_range", "")
    return [f"Spindle range: {now}."] if result.get("ranges") and now not in ("", last) else []


def _side(result: dict[str, Any]) -> str:
    """What is turned to the tool, and how; older releases turn nothing."""
    turned = result.get("turned")
    if not turned or not turned["side"]:
        return ""
    plane = "; in the plane that is tilted so" if turned.get("askew") else ""
    loose = f"; {turned['loose']} not clamped" if turned.get("loose") else ""
    return f"from its {turned['side']}, {turned['index']}{plane}{loose}"


def _ends(result: dict[str, Any]) -> float:
    """When it is done at all its positions (s); older releases count up to the first."""
    until: float = result["starts_s"] + result["change_s"] + result["time_s"]
    return float(result.get("ends_s", until))


def _speeds(result: dict[str, Any], turns: bool, w: Written) -> dict[str, str]:
    """Speed and feed as the control takes them, per turn where the work turns; the other system
    beside.
    """
    rpm, feed = number(result["rpm"] or 0, "spindle_speed"), result["feed_mm_min"] or 0
    per_turn = result.get("feed_per_rev_mm")
    if turns and per_turn is None and result["rpm"]:
        per_turn = feed / result["rpm"]
        return {
            "rpm": f"{rpm} rpm",
            "feed": f"{w.n(per_turn, 'feed_per_tooth')} a turn",
            "feed_other": w.other(per_turn, "feed_per_tooth").partition(" ")[0],
        }
    if per_turn is None or not turns:
        return {
            "rpm": rpm,
            "feed": w.n(feed, "feed"),
            "feed_other": w.other(feed, "feed").partition(" ")[0],
        }
    kept = result.get("cutting_speed_m_min")
    said = {
        "feed": f"{w.n(per_turn, 'feed_per_tooth')} a turn",
        "feed_other": w.other(per_turn, "feed_per_tooth").partition(" ")[0],
    }
    return {
        "rpm": w.show(kept, "cutting_speed") if kept else f"{rpm} rpm",
        "rpm_other": w.other(kept, "cutting_speed") if kept else "",
        **said,
    }


def _also(op: Operation, result: dict[str, Any], w: Written) -> list[str]:
    """What the machine needs besides a line of the table: the feed of the tool's middle, and sizes
    pass by pass.
    """
    lines = [
        f"Where the control guides the tool's middle: feed {w.show(v['value'], v['quantity'])}."
        for v in result.get("worked", [])
        if v["figure"].endswith(".centre_feed")
    ]
    lean = next(
        (v["value"] for v in result.get("worked", []) if v["figure"].endswith(".lean")), None
    )
    if lean is not None:
        locked = isinstance(op, Slope) and op.axes == "locked"
        how = "locked for each edge" if locked else "live along the edges"
        lines.append(
            f"Tilted {number(abs(lean), 'angle')}°, axes {how}. Confirm the sense of tilt and turn"
            " at the machine, clear of the part, before the first cut."
        )
    table = result.get("table")
    if table:
        second = table["columns"][1]
        values = ", ".join(w.n(row[1], second["quantity"]) for row in table["rows"])
        after = (
            " Measure after each cut but the last, correct the wear value by half of what the size"
            " is off."
            if op.kind == "finish_walls"
            else ""
        )
        lines.append(f"{second['name']}, pass by pass: {values}.{after}")
    return lines
