"""A setup sheet made from a release's record: one body for the screen and for paper."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime
from math import inf
from typing import Any

import segno
from django.conf import settings
from django.template.loader import render_to_string
from django.utils import formats, translation

from machining.drawing.holding import holding_drawing
from machining.exchange import plan_json
from machining.facts import holdings
from machining.facts.holdings.base import HeldWords
from machining.facts.route import walk
from machining.memo import Memo
from machining.quantities.display import System, clock, number, show, sizes, unit
from machining.quantities.said import Said, Shown, fill
from machining.quantities.units import INCH_MM
from machining.world.capability import rig, turns_work
from machining.world.library import Library


def body_of(record: dict[str, Any], sha256: str, setup_number: int) -> str:
    """The sheet's HTML without head; everything in it comes from the record."""
    return render_to_string("releases/sheet.html", content(record, sha256, setup_number))


@dataclass(frozen=True)
class Written:
    """Figures of a sheet in its system, the other one small beside what is measured, typed or set
    at the machine.
    """

    system: System

    @property
    def others(self) -> System:
        return "inch" if self.system == "metric" else "metric"

    def n(self, value: float, quantity: str) -> str:
        return number(value, quantity, self.system)

    def unit(self, quantity: str) -> str:
        return unit(quantity, self.system)

    def show(self, value: float, quantity: str) -> str:
        return show(value, quantity, self.system)

    def other(self, value: float, quantity: str) -> str:
        """The same in the other system, with its unit; empty where both write it alike."""
        said = show(value, quantity, self.others)
        return "" if said == self.show(value, quantity) else said

    def both(self, value: float, quantity: str) -> str:
        """``1.339 in (34.0 mm)``, for a sentence."""
        other = self.other(value, quantity)
        return self.show(value, quantity) + (f" ({other})" if other else "")

    def said(self, sentence: Said) -> str:
        return fill(sentence.text, sentence.values, self.system)

    def said_both(self, sentence: Said) -> str:
        """A sentence with its values in both systems, as a setter needs them; what there ``had``
        been to choose from stays in one.
        """
        both = {
            name: Shown(self.both(float(each.value), each.quantity))
            if each.quantity and not name.startswith("had")
            else each
            for name, each in sentence.values.items()
        }
        return fill(sentence.text, both, self.system)


def content(record: dict[str, Any], sha256: str, setup_number: int) -> dict[str, Any]:
    plan, library = plan_json.read(json.dumps(record["export"]).encode())
    answer = _of_one_station(record["evaluation"]["setups"][setup_number - 1])
    setup = plan.setups[setup_number - 1]
    station = setup.stations[0]
    facts = walk(plan, library, Memo())
    w = Written(plan.units or library.settings.units or "metric")
    machine, words = library.machines[setup.machine], _words(setup, library, answer)
    release, job = record["release"], record["job"]
    url = f"{settings.URL}/s/{release['code']}/{setup_number}"
    return {
        "job": job,
        "material": (
            library.materials[plan.material].name if plan.material in library.materials else ""
        ),
        "quantity": plan.quantity,
        "release": release,
        "sha256": sha256,
        "of": len(plan.setups),
        "setup": answer,
        "note": setup.note,
        "machine": machine.name,
        "work_offset": station.work_offset,
        "turns": turns_work(machine, station.place),
        **_held(station, words, w),
        "length_unit": w.unit("length"),
        "feed_unit": w.unit("feed"),
        "speed_unit": w.unit("cutting_speed"),
        "cycle": clock(answer["cycle_s"]),
        "drawing": holding_drawing(facts.setups[setup_number - 1].first, facts, w.system),
        "qr": _qr(url),
        "url": url,
        "loading": _loading(setup, words, answer, w),
        "tools": _tools(plan, setup, library, answer, w),
        "operations": _operations(setup, answer, turns_work(machine, station.place), w),
        "measure": _measure(plan, setup, w),
        "care": [
            *_care(record, setup.id, w),
            *_of_machine(setup, machine),
            *_of_spindle(words, w),
        ],
        "at": dated(release["at"], library.settings.date_language),
        "shop": library.settings.shop_name,
        "address": library.settings.address,
    }


def _of_one_station(setup: dict[str, Any]) -> dict[str, Any]:
    """What was answered of a setup, with what is said of its station. No plan is released with
    more than one yet; releases of engine 2 and before have no stations.
    """
    return {**setup, **setup["stations"][0], "id": setup["id"]} if "stations" in setup else setup


def paper_of(record: dict[str, Any]) -> str:
    """The paper a release's sheets are printed on unless another is asked for."""
    return record["export"].get("settings", {}).get("paper") or "A4"


def dated(at: str, language: str) -> str:
    """A moment (ISO 8601) as the shop writes it."""
    moment = datetime.fromisoformat(at)
    if not language:
        return moment.strftime("%Y-%m-%d %H:%M")
    with translation.override(language):
        return f"{formats.date_format(moment, 'DATE_FORMAT', use_l10n=True)}, {moment:%H:%M}"


def _qr(url: str) -> str:
    return segno.make(url, error="m").svg_inline(
        scale=3, border=0, dark="#14192b", omitsize=True, svgclass="qr", lineclass=None
    )


def _words(setup: Any, library: Library, answer: dict[str, Any]) -> HeldWords | None:
    """What its holding says of itself; None where nothing holds the part."""
    held = setup.stations[0].holding
    item = library.holdings.get(held.item) if held else None
    if item is None or item.kind != held.kind:
        return None
    kind = holdings.kind_of(held)
    beside = answer.get("bodies") or answer["jaws"]  # older releases know of jaws alone
    return kind.words(
        held,
        item,
        holdings.Lying(
            answer["handling"],
            answer["up"],
            answer["stock_high"][2] - beside[0]["top"] if beside else 0.0,
            answer["parallels_mm"],
            bool(answer.get("parallels_to_make")),
            min(_most_rpm(setup, library), kind.most_rpm(held, item)),
            f" ({held.reason})" if held.reason else "",
            f" {setup.note}" if setup.note else "",
        ),
    )


def _most_rpm(setup: Any, library: Library) -> float:
    with_it = rig(library.machines[setup.machine], setup.stations[0].place)
    return with_it.spindle.max_rpm if with_it is not None else inf


def _held(station: Any, words: HeldWords | None, w: Written) -> dict[str, Any]:
    """What holds the part, with what force, how deep: words and figures of the sheet's head."""
    if words is None:
        nothing = dict.fromkeys(("clamp", "clamp_unit", "clamp_where", "grip", "seat"), "")
        return {"held": "not held", **nothing}
    force, quantity = float(words.force.value), words.force.quantity
    grip = holdings.kind_of(station.holding).gripped_mm(station.holding)
    return {
        "held": words.held,
        "clamp": w.n(force, quantity),
        "clamp_unit": w.unit(quantity),
        "clamp_other": w.other(force, quantity),
        "clamp_where": words.force_where,
        "grip": w.n(grip, "length"),
        "grip_other": w.other(grip, "length"),
        "seat": w.said(words.seat),
    }


def _loading(setup: Any, words: HeldWords | None, answer: dict[str, Any], w: Written) -> list[str]:
    """What the setter does, in order, numbered as in the drawing."""
    note = f" {setup.note}" if setup.note else ""
    steps = (
        [w.said_both(each) for each in words.steps]
        if words is not None
        else ["Wipe jaws and seat.", f"{answer['handling']}. {answer['up']}.{note}"]
    )
    station, (sideways, upright) = setup.stations[0], answer["zero_words"]
    over = answer["stock_high"][2] - answer["part_high"][2]
    under = (
        f", {w.both(over, 'length')} below the blank's"
        if over > 0.05 and station.zero.z_of == "part" and station.zero.z == "top"
        else ""
    )
    because = f" ({station.zero.reason})" if station.zero.reason else ""
    steps.append(f"{station.work_offset}: {sideways}. {upright}{under}.{because}")
    return steps


def _tools(
    plan: Any, setup: Any, library: Library, answer: dict[str, Any], w: Written
) -> list[dict[str, Any]]:
    used = {op.tool for op in setup.operations if op.tool}
    needs = {}
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


def _operations(
    setup: Any, answer: dict[str, Any], turns: bool, w: Written
) -> list[dict[str, Any]]:
    rows = []
    for op, result in zip(setup.operations, answer["operations"], strict=True):
        lowest, left = result["z_to_mm"], result["leaves_mm"]
        rows.append(
            {
                "number": result["number"],
                "title": result["title"],
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
                "reason": op.reason,
                "coolant": op.coolant,
                "also": _also(op, result, w),
            }
        )
    return rows


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


def _also(op: Any, result: dict[str, Any], w: Written) -> list[str]:
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
        how = "locked for each edge" if op.axes == "locked" else "live along the edges"
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


def _plain(value: float, w: Written) -> str:
    """A size of the drawing, as many digits as it has."""
    digits = f"{value:.4f}" if w.system == "metric" else f"{value / INCH_MM:.4f}"
    return digits.rstrip("0").rstrip(".")


def _signed(value: float, w: Written) -> str:
    said = _plain(value, w)
    return "0" if said in ("0", "-0") else said if said.startswith("-") else f"+{said}"


def _measure(plan: Any, setup: Any, w: Written) -> list[dict[str, str]]:
    """Drawing requirements that this setup finishes."""
    finished: set[str] = set()
    for op in setup.operations:
        if op.kind in (
            "finish_walls",
            "finish_floor",
            "bore",
            "ream",
            "tap",
            "drill",
            "rough_pocket",
        ):
            finished |= (
                set(op.on.ids)
                if op.on.kind == "features"
                else {"outside"}
                if op.on.kind == "outside" and op.kind == "finish_walls"
                else set()
            )
        if op.kind == "turn_thread" or (op.kind == "turn_finish" and op.on.side == "outside"):
            finished.add("outside")
    rows = []
    for each in plan.part.requirements:
        if each.feature not in finished:
            continue
        said = (
            []
            if each.thread
            else [
                (_plain(each.nominal_mm, v) if each.nominal_mm is not None else "", _band(each, v))
                for v in (w, Written(w.others))
            ]
        )
        size, band = said[0] if said else (each.thread, "")
        other = (
            f"{said[1][0]} {said[1][1]}".strip() + f" {Written(w.others).unit('length')}"
            if said and size
            else ""
        )
        rows.append(
            {
                "what": each.what,
                "size": size,
                "band": band,
                "other": other,
                "with": each.measured_with,
                "often": each.how_often,
            }
        )
    return rows


def _band(each: Any, w: Written) -> str:
    if each.band_mm == 0:
        return ""
    return (
        f"±{_plain(each.upper_mm, w)}"
        if abs(each.upper_mm + each.lower_mm) < 1e-9
        else f"{_signed(each.upper_mm, w)} / {_signed(each.lower_mm, w)}"
    )


def _of_machine(setup: Any, machine: Any) -> list[dict[str, str]]:
    """What this machine's spindle asks of a facing cut."""
    if not machine.tram_note or not any(op.kind == "face" for op in setup.operations):
        return []
    way = (
        f" Face towards {machine.face_towards[0].upper()}{machine.face_towards[1]}."
        if machine.face_towards != "any"
        else ""
    )
    return [
        {
            "where": f"{machine.name}.",
            "sentence": f"Its spindle {machine.tram_note}.{way}",
            "note": "Check the step between passes.",
        }
    ]


def _of_spindle(words: HeldWords | None, w: Written) -> list[dict[str, str]]:
    """The usual caution of a turning part."""
    if words is None or not words.caution:
        return []
    return [
        {
            "where": "Chuck.",
            "sentence": w.said(words.caution),
            "note": "A bar that stands out behind needs its guide.",
        }
    ]


def _care(record: dict[str, Any], setup: str, w: Written) -> list[dict[str, str]]:
    """Findings of this setup that were accepted or kept, with the words of who did."""
    notes = {row["finding"]: (row["note"], "") for row in record["accepted"]} | {
        row["finding"]: (row["words"], "Kept. ") for row in record.get("kept", [])
    }
    rows = []
    for finding in record["evaluation"]["findings"]:
        if finding["setup"] == setup and finding["key"] in notes:
            values = {
                name: Shown(shown["value"], shown["quantity"])
                for name, shown in finding["values"].items()
            }
            op = next(
                (
                    o
                    for s in record["evaluation"]["setups"]
                    for o in s["operations"]
                    if o["id"] == finding["operation"]
                ),
                None,
            )
            words, how = notes[finding["key"]]
            rows.append(
                {
                    "where": f"Operation {op['number']}." if op else "",
                    "sentence": fill(finding["message"], values, w.system),
                    "note": f"{how}{words}",
                }
            )
    return rows
