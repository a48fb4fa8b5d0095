"""What to take care of: what was accepted or kept, and what machine and spindle ask."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from machining.facts import requirement
from machining.facts.context import PlanFacts, SetupFacts
from machining.facts.covered import words_for
from machining.facts.flaps import flap_of
from machining.facts.hazards import hazards
from machining.facts.holdings.base import HeldWords
from machining.facts.lasts import SURE, lasts
from machining.facts.outside import WORDS, just_after, just_before, where
from machining.facts.sharp import treatment
from machining.facts.tabs import cut_out_before
from machining.findings.travel.lift import lift
from machining.plan.document import Setup
from machining.plan.operation import CutOut
from machining.quantities.said import Said, Shown, fill, length
from machining.world.machine import Machine

from .written import Written

Notes = Mapping[str, tuple[str, str]]


def of_machine(setup: Setup, machine: Machine) -> list[dict[str, str]]:
    """What this machine's spindle asks of a facing cut."""
    lean = machine.leans
    if lean is None or not any(op.kind == "face" for op in setup.operations):
        return []
    read = "" if lean.read_on is None else f" (read on {lean.read_on.isoformat()})"
    axis, way = lean.towards[0].upper(), lean.towards[1].replace("-", "−")
    return [
        {
            "where": f"{machine.name}.",
            "sentence": f"Its spindle leans {lean.high_mm:g} mm in {lean.over_mm:g} mm{read},"
            f" lower at {axis}{way}: the edge leads in passes towards there.",
            "note": "Check the step between passes.",
        }
    ]


def of_setup(setup: SetupFacts, facts: PlanFacts, w: Written) -> list[dict[str, str]]:
    """What comes of the part, of what it weighs and of how it is held, first and last."""
    return [
        *of_material(setup, facts),
        *of_outside(setup, facts, w),
        *of_weight(setup, facts, w),
        *of_first_run(setup),
        *of_batch(setup, facts),
        *of_tabs(setup),
        *of_flaps(setup, facts, w),
    ]


def of_material(setup: SetupFacts, facts: PlanFacts) -> list[dict[str, str]]:
    """What its chips, dust and fumes do; on the sheet of every setup, nobody has to ask for it."""
    name = facts.material.name if facts.material is not None else ""
    return [
        {"where": f"{name}.", "sentence": each.sentence, "note": each.care}
        for each in hazards(setup, facts)
    ]


def of_holding(words: HeldWords | None, w: Written) -> list[dict[str, str]]:
    """The usual caution of what holds the part."""
    if words is None or not words.caution:
        return []
    return [
        {
            "where": words.caution_of,
            "sentence": w.said(words.caution),
            "note": words.caution_note,
        }
    ]


def of_first_run(setup: SetupFacts) -> list[dict[str, str]]:
    """What was built for the part and has not held one as it is planned now."""
    if not any(requirement.fixture(e) and requirement.state(e) != "ran" for e in setup.stations):
        return []
    return [
        {
            "where": "First run.",
            "sentence": "The first part at reduced feed, a hand at the stop; check what holds it"
            " again after that.",
            "note": "Whoever is qualified for it looks at the holding before.",
        }
    ]


def of_batch(setup: SetupFacts, facts: PlanFacts) -> list[dict[str, str]]:
    """How often what holds the part is checked, where the batch may well not run without a slip."""
    rows = []
    for station in setup.stations:
        found = lasts(station, facts)
        if found is None or found.runs >= SURE:
            continue
        often = f"every {found.sure_parts} parts" if found.sure_parts > 1 else "every part"
        number = next(op.number for op in station.operations if op.id == found.operation)
        rows.append(
            {
                "where": "Holding.",
                "sentence": f"Operation {number} is stood least, ×{found.factor:.1f}: check torque"
                f" or pressure and what the jaws or clamps touch after the first part and {often}.",
                "note": "A planning aid: the maker’s limits and who is qualified come first.",
            }
        )
    return rows


def of_tabs(setup: SetupFacts) -> list[dict[str, str]]:
    """A part that leaves its setup in a frame."""
    by = [cut_out_before(op) for op in setup.operations]
    found = next((each.operation for each in by if each is not None), None)
    if not isinstance(found, CutOut):
        return []
    return [
        {
            "where": "Tabs.",
            "sentence": f"The part hangs by {found.tabs} tabs when the cycle ends: saw or snap them"
            " off at the bench, not in the machine, and file the stubs flush.",
            "note": "Gloves on: what is snapped off is sharp.",
        }
    ]


def of_flaps(setup: SetupFacts, facts: PlanFacts, w: Written) -> list[dict[str, str]]:
    """A skin that stays at the bottom, with what hangs by it."""
    found = (flap_of(each, facts.geometry) for each in setup.stations)
    return [
        {
            "where": "Skin.",
            "sentence": w.said(
                Said(
                    "A skin {thin} thick stays at the bottom: take it out gently, snap off at the"
                    " bench what hangs by it, and file the edge.",
                    {"thin": length(round(each.thin, 2))},
                )
            ),
            "note": "The last pass slowly, nobody’s hand near. Gloves on: the edges are sharp.",
        }
        for each in found
        if each is not None
    ]


def of_outside(setup: SetupFacts, facts: PlanFacts, w: Written) -> list[dict[str, str]]:
    """What was done to the part elsewhere since the setup before, and what is done to it next."""
    rows = []
    for station in setup.stations:
        for step in just_before(station, facts):
            note = " Nothing bites, marks or scratches it there." if step.on_surface else ""
            sentence = f"It comes in {WORDS[step.kind]}: {w.said(where(step, facts))}.{note}"
            rows.append({"where": "Before.", "sentence": sentence, "note": step.words})
        for step in just_after(station, facts):
            sentence = f"It goes out from here and is {WORDS[step.kind]}: "
            sentence += f"{w.said(where(step, facts))}."
            sentence += f" Away {step.days} days." if step.days else ""
            rows.append({"where": "After.", "sentence": sentence, "note": step.words})
    return rows


def of_weight(setup: SetupFacts, facts: PlanFacts, w: Written) -> list[dict[str, str]]:
    """What one person does not lift, by the shop's own limit."""
    heavy = [f for station in setup.stations for f in lift(station, facts)]
    return [
        {"where": "Weight.", "sentence": fill(f.message, f.values, w.system), "note": ""}
        for f in heavy
    ]


EDGES = {
    "hand": "Break by hand what no operation breaks.",
    "machine": "Break by hand what no tool gets to.",
}


def of_edges(facts: PlanFacts, last: bool, w: Written) -> list[dict[str, str]]:
    """What becomes of edges no operation breaks, when the part comes off; and what stays sharp."""
    rows = []
    words = EDGES.get(treatment(facts), "")
    if last and words:
        rows.append({"where": "Edges.", "sentence": words, "note": ""})
    for id in facts.plan.part.sharp:
        feature = facts.geometry.feature(id)
        if feature is not None:
            place = fill(words_for(feature).text, words_for(feature).values, w.system)
            rows.append(
                {"where": "Edges.", "sentence": f"Those of {place} stay sharp.", "note": ""}
            )
    return rows


def of_findings(
    evaluation: dict[str, Any], setup: str, notes: Notes, w: Written
) -> list[dict[str, str]]:
    """Findings of this setup, and of the whole plan, that were accepted or kept: ``notes`` are how,
    and the words of who did, by a finding's key.
    """
    rows = []
    for finding in evaluation["findings"]:
        if finding["setup"] in (setup, "") and finding["key"] in notes:
            values = {
                name: Shown(shown["value"], shown["quantity"])
                for name, shown in finding["values"].items()
            }
            op = next(
                (
                    o
                    for s in evaluation["setups"]
                    for o in s["operations"]
                    if o["id"] == finding["operation"]
                ),
                None,
            )
            how, words = notes[finding["key"]]
            rows.append(
                {
                    "where": f"Operation {op['number']}." if op else "",
                    "sentence": fill(finding["message"], values, w.system),
                    "note": f"{how}{words}",
                }
            )
    return rows
