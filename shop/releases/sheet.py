"""A setup sheet made from a release's record: one body for the screen and for paper."""

from __future__ import annotations

import atexit
import json
import re
from functools import lru_cache
from pathlib import Path
from typing import Any

import segno
from django.conf import settings
from django.template.loader import render_to_string

from machining.drawing.holding import holding_drawing
from machining.exchange import plan_json
from machining.facts.route import walk
from machining.findings.finding import Shown, fill
from machining.memo import Memo
from machining.quantities.display import clock, number, sizes
from machining.world.library import Library

HERE = Path(__file__).parent
PAGE = """
@page{size:PAPER;margin:7mm 10mm 9mm 10mm;
 @bottom-left{content:string(sheet);font:6.4pt "Fx Text";color:#434b63}
 @bottom-right{content:"page " counter(page) " of " counter(pages);font:6.4pt "Fx Text";color:#434b63}}
"""


def body_of(record: dict[str, Any], sha256: str, setup_number: int) -> str:
    """The sheet's HTML without head; everything in it comes from the record."""
    return render_to_string("releases/sheet.html", content(record, sha256, setup_number))


def content(record: dict[str, Any], sha256: str, setup_number: int) -> dict[str, Any]:
    plan, library = plan_json.read(json.dumps(record["export"]).encode())
    answer = record["evaluation"]["setups"][setup_number - 1]
    setup = plan.setups[setup_number - 1]
    facts = walk(plan, library, Memo())
    machine = library.machines[setup.machine]
    release, job = record["release"], record["job"]
    url = f"{settings.URL}/s/{release['code']}/{setup_number}"
    return {
        "job": job, "material": library.materials[plan.material].name if plan.material in library.materials else "", "quantity": plan.quantity,
        "release": release, "sha256": sha256, "of": len(plan.setups), "setup": answer, "note": setup.note,
        "machine": machine.name, "work_offset": setup.work_offset, "turns": machine.kind == "lathe", **_held(setup, library, answer),
        "cycle": clock(answer["cycle_s"]), "drawing": holding_drawing(facts.setups[setup_number - 1], facts), "qr": _qr(url), "url": url,
        "loading": _loading(plan, setup, library, answer), "tools": _tools(plan, setup, library, answer), "operations": _operations(setup, answer, machine.kind == "lathe"),
        "measure": _measure(plan, setup),
        "care": [*_care(record, setup.id), *_of_machine(setup, machine), *_of_spindle(setup, library)], "at": release["at"].replace("T", " ")[:16], "shop": "Tidewrack Instruments",
    }


def _qr(url: str) -> str:
    return segno.make(url, error="m").svg_inline(scale=3, border=0, dark="#14192b", omitsize=True, svgclass="qr", lineclass=None)


def _held(setup: Any, library: Library, answer: dict[str, Any]) -> dict[str, Any]:
    """What holds the part, with what force, how deep: words and figures of the sheet's head."""
    if setup.in_chuck:
        chuck = library.chucks.get(setup.in_chuck.chuck)
        return {
            "held": chuck.name if chuck else "not held", "clamp": number(setup.in_chuck.force_per_jaw_n, "force"), "clamp_unit": "N", "clamp_where": "each jaw, at rest",
            "grip": number(setup.in_chuck.grip_mm, "length"), "seat": f"in the jaws, {setup.in_chuck.grips}",
        }
    vise = library.vises.get(setup.in_vise.vise) if setup.in_vise else None
    seat = f"on parallels {answer['parallels_mm']:g} high" if answer["parallels_mm"] else "on the seat"
    if vise is None:
        return {"held": "not held", "clamp": "", "clamp_unit": "", "clamp_where": "", "grip": "", "seat": ""}
    return {
        "held": vise.name if "jaws" in vise.name else f"{vise.name}, {vise.jaws} jaws", "clamp": number(setup.in_vise.torque_nm, "torque"), "clamp_unit": "N·m", "clamp_where": "at the screw",
        "grip": number(setup.in_vise.grip_depth_mm, "length"), "seat": seat,
    }


def _most_rpm(setup: Any, library: Library) -> float:
    chuck = library.chucks.get(setup.in_chuck.chuck) if setup.in_chuck else None
    return min(library.machines[setup.machine].max_rpm, chuck.max_rpm if chuck else 1e9, (setup.in_chuck.limit_rpm if setup.in_chuck else None) or 1e9)


def _loading(plan: Any, setup: Any, library: Library, answer: dict[str, Any]) -> list[str]:
    """What the setter does, in order, numbered as in the drawing."""
    steps = []
    reason = f" ({setup.holding.reason})" if setup.holding and setup.holding.reason else ""
    if setup.in_chuck:
        out = answer["stock_high"][2] - answer["jaws"][0]["top"] if answer["jaws"] else 0.0
        steps.append("Wipe jaws and stock. The key out of the chuck.")
        steps.append(f"{answer['handling']}. {number(out, 'length')} stands out of the jaws." + (f" {setup.note}" if setup.note else ""))
        steps.append(f"Close with {number(setup.in_chuck.force_per_jaw_n, 'force')} N each jaw.{reason} Jaw 1 at {setup.in_chuck.jaw_angle_deg:g}°.")
        steps.append(f"Limit the spindle to {number(_most_rpm(setup, library), 'spindle_speed')} rpm before the first cut at a kept cutting speed.")
    else:
        seat = "Wipe jaws and seat."
        if answer["parallels_mm"]:
            seat = f"Wipe jaws. Parallels {answer['parallels_mm']:g} high, pushed out to the jaws."
        steps.append(seat)
        steps.append(f"{answer['handling']}. {answer['up']}." + (f" {setup.note}" if setup.note else ""))
    if setup.in_vise:
        steps.append(f"Tighten to {number(setup.in_vise.torque_nm, 'torque')} N·m with the torque wrench.{reason}")
        steps.append("Tap down. Parallels must not move by hand." if answer["parallels_mm"] else "Tap down. The part must sit on the seat.")
    sideways, upright = answer["zero_words"]
    over = answer["stock_high"][2] - answer["part_high"][2]
    under = f", {number(over, 'length')} below the blank's" if over > 0.05 and setup.zero.z_of == "part" and setup.zero.z == "top" else ""
    because = f" ({setup.zero.reason})" if setup.zero.reason else ""
    steps.append(f"{setup.work_offset}: {sideways}. {upright}{under}.{because}")
    return steps


def _tools(plan: Any, setup: Any, library: Library, answer: dict[str, Any]) -> list[dict[str, Any]]:
    used = {op.tool for op in setup.operations if op.tool}
    needs = {}
    for op, result in zip(setup.operations, answer["operations"], strict=True):
        for gauge in result["gauges"]:
            if gauge["name"] == "Stick-out":
                needs[op.tool] = max(needs.get(op.tool, 0.0), gauge["limit"])
    rows = []
    for loaded in sorted((t for t in plan.tools if t.id in used), key=lambda t: t.pocket):
        assembly = library.assemblies[loaded.assembly]
        tool, holder = library.tools[assembly.tool], library.holders[assembly.holder]
        note = f"holder clears from {number(needs[loaded.id], 'length')}" if loaded.id in needs and loaded.stick_out_mm - needs[loaded.id] < 5.0 else tool.note
        rows.append({
            "pocket": loaded.pocket, "number": f"T{loaded.number}", "name": tool.name, "holder": holder.name, "stick_out": number(loaded.stick_out_mm, "length"),
            "length": f"{loaded.stick_out_mm + holder.length_mm:.0f}", "h": f"H{loaded.h:02d}", "d": f"D{loaded.d:02d}" if tool.kind not in ("drill", "tap", "reamer", "boring_head") else "–",
            "note": note,
        })
    return rows


def _operations(setup: Any, answer: dict[str, Any], turns: bool) -> list[dict[str, Any]]:
    rows = []
    for op, result in zip(setup.operations, answer["operations"], strict=True):
        rows.append({
            "number": result["number"], "title": result["title"], "detail": sizes(result["detail"], result["sizes"]),
            "tool": f"T{result['tool_number']}", **_speeds(result, turns),
            "z": number(result["z_to_mm"], "length") if result["z_to_mm"] is not None else "–",
            "leaves": number(result["leaves_mm"], "length") if result["leaves_mm"] is not None else "–", "time": clock(result["time_s"]),
            "done": clock(result["starts_s"] + result["change_s"] + result["time_s"]), "stop": op.stop_after, "reason": op.reason, "coolant": op.coolant, "also": _also(op, result),
        })
    return rows


def _speeds(result: dict[str, Any], turns: bool) -> dict[str, str]:
    """Speed and feed as the control takes them: per turn where the work turns."""
    rpm = number(result["rpm"] or 0, "spindle_speed")
    if turns and result.get("feed_per_rev_mm") is None and result["rpm"]:
        return {"rpm": f"{rpm} rpm", "feed": f"{number((result['feed_mm_min'] or 0) / result['rpm'], 'feed_per_tooth')} a turn"}
    if result.get("feed_per_rev_mm") is None:
        return {"rpm": rpm, "feed": number(result["feed_mm_min"] or 0, "feed")}
    kept = result.get("cutting_speed_m_min")
    return {"rpm": f"{number(kept, 'cutting_speed')} m/min" if kept else f"{rpm} rpm", "feed": f"{number(result['feed_per_rev_mm'], 'feed_per_tooth')} a turn"}


def _also(op: Any, result: dict[str, Any]) -> list[str]:
    """What the machine needs besides a line of the table: the feed of the tool's middle, and sizes pass by pass."""
    lines = [f"Where the control guides the tool's middle: feed {number(w['value'], w['quantity'])} mm/min." for w in result.get("worked", []) if w["figure"].endswith(".centre_feed")]
    lean = next((w["value"] for w in result.get("worked", []) if w["figure"].endswith(".lean")), None)
    if lean is not None:
        how = "locked for each edge" if op.axes == "locked" else "live along the edges"
        lines.append(f"Tilted {number(abs(lean), 'angle')}°, axes {how}. Confirm the sense of tilt and turn at the machine, clear of the part, before the first cut.")
    table = result.get("table")
    if table:
        second = table["columns"][1]
        values = ", ".join(number(row[1], second["quantity"]) for row in table["rows"])
        after = " Measure after each cut but the last, correct the wear value by half of what the size is off." if op.kind == "finish_walls" else ""
        lines.append(f"{second['name']}, pass by pass: {values}.{after}")
    return lines


def _signed(value: float) -> str:
    return f"{value:+g}" if value else "0"


def _measure(plan: Any, setup: Any) -> list[dict[str, str]]:
    """Drawing requirements that this setup finishes."""
    finished: set[str] = set()
    for op in setup.operations:
        if op.kind in ("finish_walls", "finish_floor", "bore", "ream", "tap", "drill", "rough_pocket"):
            finished |= set(op.on.ids) if op.on.kind == "features" else {"outside"} if op.on.kind == "outside" and op.kind == "finish_walls" else set()
        if op.kind == "turn_thread" or (op.kind == "turn_finish" and op.on.side == "outside"):
            finished.add("outside")
    rows = []
    for each in plan.part.requirements:
        if each.feature not in finished:
            continue
        size = each.thread or (f"{each.nominal_mm:.3f}".rstrip("0").rstrip(".") if each.nominal_mm is not None else "")
        band = "" if each.thread or each.band_mm == 0 else f"±{each.upper_mm:g}" if abs(each.upper_mm + each.lower_mm) < 1e-9 else f"{_signed(each.upper_mm)} / {_signed(each.lower_mm)}"
        rows.append({"what": each.what, "size": size, "band": band, "with": each.measured_with, "often": each.how_often})
    return rows


def _of_machine(setup: Any, machine: Any) -> list[dict[str, str]]:
    """What this machine's spindle asks of a facing cut."""
    if not machine.tram_note or not any(op.kind == "face" for op in setup.operations):
        return []
    way = f" Face towards {machine.face_towards[0].upper()}{machine.face_towards[1]}." if machine.face_towards != "any" else ""
    return [{"where": f"{machine.name}.", "sentence": f"Its spindle {machine.tram_note}.{way}", "note": "Check the step between passes."}]


def _of_spindle(setup: Any, library: Library) -> list[dict[str, str]]:
    """The usual caution of a turning part."""
    if not setup.in_chuck:
        return []
    limit = number(_most_rpm(setup, library), "spindle_speed")
    sentence = f"Guard closed before the spindle turns; never over {limit} rpm, nor over what the chuck's maker allows for these jaws."
    return [{"where": "Chuck.", "sentence": sentence, "note": "A bar that stands out behind needs its guide."}]


def _care(record: dict[str, Any], setup: str) -> list[dict[str, str]]:
    """Accepted findings of this setup with the approver's words."""
    notes = {row["finding"]: row["note"] for row in record["accepted"]}
    rows = []
    for finding in record["evaluation"]["findings"]:
        if finding["setup"] == setup and finding["key"] in notes:
            values = {name: Shown(shown["value"], shown["quantity"]) for name, shown in finding["values"].items()}
            op = next((o for s in record["evaluation"]["setups"] for o in s["operations"] if o["id"] == finding["operation"]), None)
            rows.append({"where": f"Operation {op['number']}." if op else "", "sentence": fill(finding["message"], values), "note": notes[finding["key"]]})
    return rows


@lru_cache(maxsize=4)
def _print_style(paper: str) -> Any:
    from weasyprint import CSS
    from weasyprint.text.fonts import FontConfiguration

    fonts = FontConfiguration()
    css = (HERE / "static" / "sheet" / "sheet.css").read_text().replace("/static/", settings.WEB_BUILD.as_uri() + "/")
    # the printer knows no range of weights: the face is declared once as it is drawn, once as it is bold
    ranges = re.compile(r"(@font-face\{[^}]*?)font-weight:\d+ \d+;([^}]*\})")
    css = ranges.sub(lambda face: f"{face[1]}font-weight:400;{face[2]}{face[1]}font-weight:700;{face[2]}", css)
    return [CSS(string=css + PAGE.replace("PAPER", paper), font_config=fonts)], fonts


atexit.register(_print_style.cache_clear)  # the printer's fonts go before the interpreter does


def pdf_of(body: str, paper: str) -> bytes:
    """The body on A4 or Letter."""
    from weasyprint import HTML

    styles, fonts = _print_style(paper)
    html = f'<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Setup sheet</title></head><body class="print">{body}</body></html>'
    return HTML(string=html).write_pdf(stylesheets=styles, font_config=fonts)
