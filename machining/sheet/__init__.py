"""The content of a setup sheet, worked out once and frozen with a release; whoever shows it only
lays it out.
"""

from __future__ import annotations

from typing import Any

from machining.drawing.holding import holding_drawing
from machining.facts.context import PlanFacts, SetupFacts, StationFacts
from machining.facts.offsets import codes_of
from machining.facts.zero import zero_said
from machining.quantities.display import clock
from machining.world.capability import turns_work

from .care import Notes, of_edges, of_findings, of_holding, of_machine, of_setup
from .changes import changes
from .holding import flipped, held, loading, words_of
from .load import load
from .measure import measure
from .rows import operations, tools
from .written import Written


def sheets(facts: PlanFacts, evaluation: dict[str, Any], notes: Notes) -> list[dict[str, Any]]:
    """What stands on the sheet of every setup, as plain values: figures are written in the plan's
    system. ``evaluation`` is the plan's, as it is sent; ``notes`` are how a finding was decided and
    in which words, by its key.
    """
    return [_sheet(facts, evaluation, place, notes) for place in range(len(facts.setups))]


def _sheet(
    facts: PlanFacts, evaluation: dict[str, Any], place: int, notes: Notes
) -> dict[str, Any]:
    plan, library, seen = facts.plan, facts.library, facts.setups[place]
    answer = _of_station(evaluation["setups"][place], 0)
    setup, station = seen.planned, seen.first.planned
    w = Written(plan.units or library.settings.units or "metric")
    machine, words = library.machines[setup.machine], words_of(setup, station, library, answer)
    turns, mass = turns_work(machine, station.place), seen.first.put_in_kg(facts)
    return {
        "number": answer["number"],
        "of": len(plan.setups),
        "up": answer["up"],
        "zero_words": _zero(seen.first, facts, w),
        "material": facts.material.name if facts.material is not None else "",
        "quantity": plan.quantity,
        "weight": w.both(mass, "mass") if mass is not None else "",
        "note": setup.note,
        "machine": machine.name,
        "work_offset": _offsets(seen.first),
        "turns": turns,
        **held(station, words, w),
        "length_unit": w.unit("length"),
        "feed_unit": w.unit("feed"),
        "speed_unit": w.unit("cutting_speed"),
        "cycle": clock(answer["cycle_s"]),
        "attended": clock(answer["by_hand_s"]) if answer.get("by_hand_s") else "",
        "drawing": holding_drawing(seen.first, facts, w.system),
        "loading": loading(seen.first, facts, words, answer, w),
        "flip": flipped(seen.first, facts, w),
        "others": [
            _further(seen, k, evaluation["setups"][place], facts, w)
            for k in range(1, len(seen.stations))
        ],
        "load": load(seen, facts, w),
        "tools": tools(plan, setup, library, answer, w),
        "operations": operations(setup, answer, turns, changes(seen, facts, w), w),
        "measure": measure(facts, setup, w),
        "care": [
            *of_setup(seen, facts, w),
            *of_findings(evaluation, setup.id, notes, w),
            *of_edges(facts, place == len(plan.setups) - 1, w),
            *of_machine(setup, machine),
            *of_holding(words, w),
        ],
        "shop": library.settings.shop_name,
        "address": library.settings.address,
    }


def _further(
    seen: SetupFacts, k: int, setup: dict[str, Any], facts: PlanFacts, w: Written
) -> dict[str, Any]:
    """How a further station of a setup is held, loaded and picked up."""
    answer, station = _of_station(setup, k), seen.stations[k].planned
    words = words_of(seen.planned, station, facts.library, answer)
    return {
        "number": k + 1,
        "up": answer["up"],
        "zero_words": _zero(seen.stations[k], facts, w),
        "work_offset": _offsets(seen.stations[k]),
        **held(station, words, w),
        "drawing": holding_drawing(seen.stations[k], facts, w.system),
        "loading": loading(seen.stations[k], facts, words, answer, w),
        "flip": flipped(seen.stations[k], facts, w),
    }


def _zero(station: StationFacts, facts: PlanFacts, w: Written) -> list[str]:
    found = zero_said(station.planned.zero, station.turns, facts.geometry)
    return [w.said(each) for each in found]


def _offsets(station: StationFacts) -> str:
    """The code of its zero, or from which to which those of its positions go."""
    codes = [code for code in codes_of(station) if code] or [station.planned.work_offset]
    return codes[0] if codes[0] == codes[-1] else f"{codes[0]} to {codes[-1]}"


def _of_station(setup: dict[str, Any], k: int) -> dict[str, Any]:
    """What was answered of a setup, with what is said of one of its stations; releases of engine 2
    and before have no stations.
    """
    return {**setup, **setup["stations"][k], "id": setup["id"]} if "stations" in setup else setup
