"""What may be asked of a plan, the process that answers, tables and records that prove
themselves.
"""

from __future__ import annotations

import csv
import io
import json
import socket
import subprocess
import sys
import tempfile
from dataclasses import replace

import pytest

from machining.ask import QUESTIONS
from machining.ask.trying import SOON, tried_fixes, tried_soon
from machining.cli import main
from machining.evaluate import evaluate
from machining.evaluation import ENGINE, to_plain
from machining.exchange import plan_json, tool_csv, tool_library_csv
from machining.exchange.cells import guarded, unguarded
from machining.exchange.release_record import NotARecord, canonical, check
from machining.plan.apply import apply
from machining.plan.at import Row
from machining.plan.edit import Edit
from machining.quantities.errors import Missing, OutOfRange
from machining.world.geometry import from_json, of_block, to_json
from tests.at_length import some

from . import build, every_pick, lathe
from .build import GOOD, LIBRARY, MEMO, changed, good
from .test_findings_of_cutting import CASES, names

STATIONS = ("zero", "hold", "wrong-way", "lasts", "place-ways")


GONE = {
    "fixes": {"finding": "x"},
    "offers": {"setup": "x"},
    "load": {"setup": "x"},
    "carry-over": {"machine": "x"},
    "order": {"setup": "x"},
    "order-further": {"setup": "x"},
    "magazine": {"machine": "x"},
    "offsets": {"setup": "x"},
    "zero": {"station": "x"},
    "hold": {"station": "x"},
    "place-ways": {"station": "x"},
    "measured": {"setup": "x", "text": ""},
    "how-many": {"setup": "x"},
    "read": {"points": [], "station": "x", "near_mm": 1.0},
    "tools": {"operation": "x"},
    "ways": {"operation": "x"},
    "thin": {"operation": "x"},
    **{each: {"station": "x"} for each in ("wrong-way", "lasts")},
    "along": {"operation": "x"},
    "stock": {"key": "x"},
    "what-if": {"figure": "x", "changed": []},
}


def test_every_question_answers_with_bytes_and_what_is_not_there_is_missing():
    short = changed(good(), "tool:t3", stick_out_mm=8.0)
    about = {
        "preview": {
            "edits": [{"do": "change", "on": "operation:rough", "fields": {"step_down_mm": 6.0}}]
        },
        "fixes": {"finding": "reach.stick-out-short@pocket"},
        "what-if": {"figure": "rough.power", "changed": []},
        **{each: {"setup": "s1"} for each in ("offers", "load", "offsets")},
        **{each: {"station": "st1"} for each in STATIONS},
        "measured": {
            "setup": "s1",
            "text": "setup,station,position,code,reference,x_mm,y_mm,z_mm,a_deg,b_deg,c_deg",
        },
        "how-many": {"setup": "s1"},
        "order": {"setup": "s1"},
        "order-further": {"setup": "s1"},
        "magazine": {"machine": "heron"},
        "carry-over": {"machine": "dunlin"},
        "compare": {"other": short.model_dump(mode="json")},
        "read": {"points": [([0.0, 0.0, 0.0], None)], "station": "st1", "near_mm": 1.0},
        "meant": {"edits": [{"do": "hold", "station": "st1", "item": "vise-125"}]},
        "tools": {"operation": "drill"},
        "ways": {"operation": "rough"},
        "thin": {"operation": "rough"},
        "savings": {"most": 2},
        "along": {"operation": "rough"},
        "sheets": {"notes": {}},
        "stock": {"key": build.answer(short).setups[0].stations[0].stock_key},
    }
    for name, ask in QUESTIONS.items():
        assert ask(short, LIBRARY, MEMO, **about.get(name, {}))
    for name, wrong in GONE.items():
        with pytest.raises(Missing):
            QUESTIONS[name](short, LIBRARY, MEMO, **wrong)


def test_tools_come_with_those_that_suit_first():
    told = json.loads(QUESTIONS["tools"](good(), LIBRARY, MEMO, operation="drill"))
    assert (told[0]["name"], told[0]["number"], told[0]["why_not"]) == ("drill 6.8", 4, "")
    first_wrong = next(place for place, each in enumerate(told) if each["why_not"])
    assert all(each["why_not"] for each in told[first_wrong:])
    assert {each["assembly"] for each in told} == set(LIBRARY.assemblies)
    long = next(each for each in told if each["assembly"] == "drill-6-8-long")
    assert apply(good(), build_edits(long["edits"])).setups[0].operation("drill").tool != "t4"


def test_a_process_nobody_waits_for_any_more_ends_without_a_word():
    ours, theirs = socket.socketpair()
    with theirs, tempfile.TemporaryFile() as byte:
        byte.truncate(1)
        fds = (theirs.fileno(), byte.fileno())
        started = subprocess.Popen(
            [sys.executable, "-m", "machining.ask.process", *map(str, (*fds, 4 * 1024**3))],
            pass_fds=fds,
            stderr=subprocess.PIPE,
        )
    ours.close()
    assert started.communicate(timeout=120) == (None, b"")
    assert started.returncode == 0


def build_edits(raw: list[dict]) -> list[Edit]:
    from machining.ask.trying import EDITS

    return EDITS.validate_python(raw)


TRIED = some(CASES, each=9)


@pytest.mark.parametrize("case", TRIED, ids=names)
def test_only_fixes_that_keep_their_word_are_offered_the_cheapest_first(case):
    before = case.make()
    found = build.finding(before, case.id, case.library)
    told = tried_fixes(before, case.library, MEMO, found.key)
    stops = {f.key for f in evaluate(before, case.library, MEMO).open if f.severity == "stop"}
    for fix in told["fixes"]:
        after = evaluate(apply(before, build_edits(fix["edits"])), case.library, MEMO)
        assert found.key not in {f.key for f in after.open}
        assert {f.key for f in after.open if f.severity == "stop"} <= stops
    mends = [
        fix
        for fix in told["fixes"]
        if {each["do"] for each in fix["edits"]} - {"keep", "remove_operation", "remove_setup"}
    ]
    seconds = [fix["one_part_s"] for fix in mends]
    assert seconds == sorted(seconds)
    assert told["fixes"][: len(mends)] == mends


def test_once_there_is_a_way_out_the_rest_is_tried_only_where_there_is_time():
    of = changed(good(), "tool:t3", stick_out_mm=8.0)
    found = build.finding(of, "reach.stick-out-short")
    whole = tried_fixes(of, LIBRARY, MEMO, found.key)
    soon = tried_fixes(of, LIBRARY, MEMO, found.key, lambda tried: True)
    assert whole["untried"] == 0 and len(whole["fixes"]) > 1
    assert len(soon["fixes"]) == 1 and soon["untried"] == whole["tried"] - soon["tried"] > 0
    assert soon["fixes"][0] in whole["fixes"]


def test_how_many_are_tried_at_once_goes_by_operations_at_positions_never_by_a_clock():
    for of in (
        good(),
        build.plan(setups=(build.setup(*GOOD, at=Row(count=8, pitch_mm=200.0, along="x")),)),
    ):
        work = len(of.setups[0].operations) * of.setups[0].stations[0].positions
        most = -(-SOON // work)
        assert not tried_soon(of)(most - 1) and tried_soon(of)(most)


def fixed_shares() -> tuple[int, int]:
    """Of all fixes of stops over many plans: how many there are, and how many of those stops none
    settles.
    """
    tried = unsettled = 0
    for assembly in ("end-mill-12-z3", "tap-m8"):
        for plan in some(every_pick.plans(assembly), each=5):
            bench = lathe if plan.part.geometry else build
            for found in evaluate(plan, bench.LIBRARY, bench.MEMO).findings:
                if found.severity == "stop":
                    tried += 1
                    unsettled += not tried_fixes(plan, bench.LIBRARY, bench.MEMO, found.key)[
                        "fixes"
                    ]
    return tried, unsettled


def test_rules_are_held_to_the_fixes_they_make():
    """Over many plans with a wrong pick, every stop has a fix that settles it without
    another stop.
    """
    tried, unsettled = fixed_shares()
    assert tried > 12
    assert unsettled <= 0.05 * tried


@pytest.mark.parametrize(
    "text", ["=1+1", "+49", "-5", "@cell", "\tx", "'quoted", "'=x", "plain", "", "5-axis"]
)
def test_a_cell_is_text_to_a_spreadsheet_and_reads_back_the_same(text):
    assert unguarded(guarded(text)) == text
    assert not guarded(text).startswith(("=", "+", "-", "@", "\t", "\r"))


def test_tables_hold_nothing_a_spreadsheet_would_run():
    nasty = LIBRARY.tools["drill-6-8"].model_copy(
        update={"name": "=HYPERLINK(1)", "note": "-2 mm", "coating": "@x"}
    )
    tools = {**LIBRARY.tools, "drill-6-8": nasty}
    text = tool_library_csv.write(tools)
    assert not any(
        cell.startswith(("=", "@")) for row in csv.reader(io.StringIO(text)) for cell in row
    )
    assert {line.does for line in tool_library_csv.read(text.encode(), tools)} == {"same"}
    listed = tool_csv.write(good(), replace(LIBRARY, tools=tools))
    assert "'=HYPERLINK(1)" in listed


BLOCK = json.loads(to_json(of_block(build.PART)))


@pytest.mark.parametrize(
    "damage",
    [
        {"vertices": []},
        {"triangles": []},
        {"triangles": [0, 1, 10_000]},
        {"triangles": [0, 1, -1]},
        {"triangles": [0, 1]},
        {"vertices": [1.0, 2.0]},
        {"vertices": [[1, 2], [3]]},
        {"vertices": "a"},
        {"vertices": [None] * 24},
        {"faces": [0]},
        {"features": [{"kind": "nail"}]},
        {"volume_mm3": "x"},
        {"key": "k" * 500},
        {"vertices": [v * 1e5 for v in BLOCK["vertices"]]},
        {"vertices": [v * 1e-5 for v in BLOCK["vertices"]]},
        {"faces": {}},
        {"triangles": [0.5, 1e300, 2]},
    ],
    ids=str,
)
def test_a_damaged_solid_is_a_sentence(damage):
    with pytest.raises(OutOfRange):
        from_json(json.dumps({**BLOCK, **damage}).encode())
    export = json.loads(plan_json.write(good(), LIBRARY))
    with pytest.raises(plan_json.NotAPlan, match="damaged"):
        plan_json.read(json.dumps({**export, "geometries": [{**BLOCK, **damage}]}).encode())


def test_a_file_nested_without_end_is_no_plan():
    with pytest.raises(plan_json.NotAPlan, match="nested too deeply|no JSON"):
        plan_json.read(b"[" * 200_000)


def record() -> bytes:
    export = json.loads(plan_json.write(good(), LIBRARY))
    plan, library = plan_json.read(canonical(export))
    return canonical(
        {
            "format": "fabrotax-release",
            "version": 1,
            "engine": ENGINE,
            "job": {"number": "J-1"},
            "release": {"number": 1, "by": "approver", "at": "2026-11-26T08:00:00"},
            "export": export,
            "evaluation": json.loads(canonical(to_plain(evaluate(plan, library)))),
        }
    )


def test_a_record_is_checked_by_itself(tmp_path, capsys):
    file, whole = tmp_path / "record.json", record()
    file.write_bytes(whole)
    told = check(whole)
    assert (told.job, told.number, told.differs) == ("J-1", 1, "")
    assert main(["verify", str(file), "--sha256", told.sha256.upper()]) == 0
    assert "says the same" in capsys.readouterr().out
    assert main(["verify", str(file), "--sha256", "00"]) == 1
    assert "not the record it was made from" in capsys.readouterr().err
    other = json.loads(whole)
    other["evaluation"]["one_part_s"] += 1.0
    file.write_bytes(canonical(other))
    assert main(["verify", str(file)]) == 1
    assert "one_part_s" in capsys.readouterr().err
    for spoiled in (
        whole[:-1] + b" }",
        whole.replace(b'"J-1"', b'"J-\\u0031"'),
        b"{}",
        b"[" * 200_000,
        b"\xff",
    ):
        with pytest.raises(NotARecord):
            check(spoiled)
