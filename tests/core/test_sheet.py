"""What stands on a setup sheet: plain values, worked out once, in the plan's system."""

from __future__ import annotations

import json

import pytest

from machining.ask import QUESTIONS
from machining.evaluate import evaluate
from machining.evaluation import to_plain
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.plan.trade import AddStation, Load
from machining.sheet import sheets
from machining.sheet.written import Written
from machining.ways.trade import structural

from . import build, lathe
from .build import GOOD, LIBRARY, MEMO, changed, plan
from .cases_of_the_whole import PLUG, asking
from .test_findings import tight


def sheets_of(of, library=LIBRARY, notes=None):
    said = json.loads(json.dumps(to_plain(evaluate(of, library, MEMO))))
    return sheets(walk(of, library, MEMO), said, notes or {})


def test_a_sheet_is_plain_values_that_a_file_holds():
    (sheet,) = sheets_of(plan(*GOOD))
    assert json.loads(json.dumps(sheet, allow_nan=False)) == sheet
    assert (sheet["number"], sheet["of"], sheet["machine"]) == (1, 1, "Heron")
    assert sheet["drawing"].startswith("<svg") and sheet["turns"] is False
    assert len(sheet["operations"]) == len(GOOD)


def test_the_question_gives_the_same():
    of = plan(*GOOD)
    asked = json.loads(QUESTIONS["sheets"](of, LIBRARY, MEMO, notes={}))
    assert asked == sheets_of(of)


def test_tools_say_what_the_setter_needs_and_only_those_used():
    (sheet,) = sheets_of(plan(*GOOD))
    used = {op.tool for op in plan(*GOOD).setups[0].operations}
    assert {row["number"] for row in sheet["tools"]} == {
        f"T{each.number}" for each in plan(*GOOD).tools if each.id in used
    }
    assert [row["pocket"] for row in sheet["tools"]] == sorted(
        row["pocket"] for row in sheet["tools"]
    )
    drill = next(row for row in sheet["tools"] if row["name"].startswith("drill"))
    assert drill["d"] == "–" and drill["h"] == f"H{int(drill['number'][1:]):02d}"


def test_times_are_the_ledger_s():
    of = changed(plan(*GOOD), "operation:face", stop_after="Look.")
    seen = evaluate(of, LIBRARY, MEMO)
    (sheet,) = sheets_of(of)
    assert sheet["attended"] == "0:30" and sheets_of(plan(*GOOD))[0]["attended"] == ""
    assert sheet["operations"][-1]["done"] == sheet["cycle"]
    minutes, seconds = divmod(round(seen.setups[0].cycle_s), 60)
    assert sheet["cycle"] == f"{minutes}:{seconds:02d}"
    assert sheet["operations"][0]["stop"] == "Look."


def test_a_sheet_in_inches_has_the_other_beside():
    (sheet,) = sheets_of(plan(*GOOD, units="inch"))
    assert sheet["length_unit"] == "in"
    tool = sheet["tools"][0]
    assert float(tool["stick_out"]) < 5 and "mm" in tool["other"]
    assert Written("inch").both(25.4, "length") == "1.000 in (25.4 mm)"


def test_what_is_measured_is_what_the_setup_finishes():
    (sheet,) = sheets_of(tight(0.02))
    (row,) = sheet["measure"]
    assert (row["what"], row["size"], row["band"]) == ("Pocket", "40", "±0.02")
    assert sheets_of(plan(*GOOD))[0]["measure"] == []


@pytest.mark.parametrize(("how", "where"), [("", "as it is"), ("Kept. ", "Kept. as it is")])
def test_a_finding_that_was_decided_stands_there_with_its_words(how, where):
    of = changed(plan(*GOOD), "operation:walls", feed_mm_min=90.0)
    found = next(f for f in to_plain(evaluate(of, LIBRARY, MEMO))["findings"])
    (sheet,) = sheets_of(of, notes={found["key"]: (how, "as it is")})
    usual = {"Edges.", "Vise."}
    assert [row["note"] for row in sheet["care"] if row["where"] not in usual] == [where]
    assert {row["where"] for row in sheets_of(of)[0]["care"]} == usual


def test_what_was_decided_of_the_whole_plan_stands_on_every_sheet():
    of = asking(build.whole(), PLUG.model_copy(update={"measured_with": ""}))
    key = build.finding(of, "size.drawing-uncovered").key
    for sheet in sheets_of(of, notes={key: ("Kept: ", "the customer gauges it")}):
        row = next(row for row in sheet["care"] if row["note"] == "Kept: the customer gauges it")
        assert row["sentence"] == "Nothing says what Thread is measured with."


def test_a_turned_sheet_speaks_of_turns_and_of_the_chuck():
    (sheet,) = sheets_of(lathe.plan(*lathe.GOOD), lathe.LIBRARY)
    assert sheet["turns"] and sheet["clamp_where"] == "each jaw, at rest"
    rough = next(row for row in sheet["operations"] if row["title"].startswith("Rough turn"))
    assert rough["feed"].endswith("a turn") and "m/min" in rough["rpm"]
    assert any(row["where"] == "Chuck." for row in sheet["care"])


def test_what_leans_out_of_true_is_told_with_a_facing_cut():
    of = build.on_machine(plan(*GOOD), "dunlin")
    (sheet,) = sheets_of(of)
    assert any("leans 0.02 mm in 200 mm" in row["sentence"] for row in sheet["care"])
    (heron,) = sheets_of(plan(*GOOD))
    assert not any("leans" in row["sentence"] for row in heron["care"])


@pytest.mark.parametrize(
    ("material", "coolant", "said"),
    [
        ("en-aw-6082", "flood", []),
        ("en-aw-6082", "mist", ["Mist"]),
        ("en-gjl-250", "air", ["Dust"]),
        ("en-gjl-250", "flood", ["Dust in the coolant"]),
        ("ti-6al-4v", "flood", ["Chips burn"]),
    ],
)
def test_hazards_stand_on_every_sheet_by_themselves(material, coolant, said):
    """Nobody has to put them there, and a note that says them already takes nothing away."""
    operations = [op.model_copy(update={"coolant": coolant}) for op in GOOD]
    foot = build.FACE.model_copy(update={"id": "foot", "coolant": coolant})
    first = build.setup(*operations, note="Dust, chips burn, mist: all known.")
    of = plan(material=material, setups=(first, build.turned_over(foot)))
    name = LIBRARY.materials[material].name
    for sheet in sheets_of(of):
        told = [row["note"] for row in sheet["care"] if row["where"] == f"{name}."]
        assert [each.partition(":")[0] for each in told] == said


def loaded(*edits):
    made = changed(plan(*GOOD), "station:st1", offset_each=True)
    for edit in edits:
        made = apply(made, structural(made, LIBRARY, MEMO, [edit]))
    return made


def test_a_load_is_drawn_with_the_offset_of_every_position():
    """Heron's table has its middle at −400, −250, its top at −620: vises 140 apart along X."""
    (alone,) = sheets_of(plan(*GOOD))
    assert alone["load"] is None and alone["others"] == []
    (sheet,) = sheets_of(loaded(Load(station="st1", parts=3)))
    load = sheet["load"]
    assert [row["code"] for row in load["rows"]] == ["G54", "G55", "G56"]
    assert (alone["work_offset"], sheet["work_offset"]) == ("G54", "G54 to G56")
    x = [float(row["at"][0]) for row in load["rows"]]
    assert x == [-540.0, -400.0, -260.0] and len({row["at"][2] for row in load["rows"]}) == 1
    up = 1.0 + LIBRARY.settings.retract_mm  # over the blank, 1 over the finished part
    assert load["between"] == [f"G54 to G56: at Z {Written('metric').both(up, 'length')} or higher"]
    assert ">140<" in load["drawing"] and ">G56<" in load["drawing"]
    assert json.loads(json.dumps(sheet, allow_nan=False)) == sheet
    one = changed(loaded(Load(station="st1", parts=3)), "station:st1", offset_each=False)
    second = sheets_of(one)[0]["load"]["rows"][1]
    assert (second["code"], second["at"]) == ("from the first", ["+140.0", "+0.0", "+0.0"])


def test_every_station_of_a_setup_says_how_it_is_held_and_picked_up():
    (sheet,) = sheets_of(loaded(AddStation(setup="s1", id="b"), Load(station="b", parts=2)))
    (other,) = sheet["others"]
    assert (other["number"], other["up"], other["held"]) == (2, "Bottom up", sheet["held"])
    assert other["loading"][-1].startswith("G55:") and other["drawing"].startswith("<svg")
    assert {row["station"] for row in sheet["load"]["rows"]} == {1, 2}
    assert {row["station"] for row in sheet["operations"]} == {1}
