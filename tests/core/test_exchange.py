"""Open formats: what is written is read again, what is wrong is told in a sentence; the command
line.
"""

from __future__ import annotations

import csv
import io
import json
import struct
import xml.etree.ElementTree as ET
from dataclasses import replace

import numpy as np
import pytest

from machining.cli import main
from machining.drawing.holding import holding_drawing
from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.exchange import glb, plan_json, tool_csv
from machining.exchange.plan_json import NotAPlan
from machining.facts.route import walk
from machining.geometry.solids import block, to_mesh
from machining.memo import Memo
from machining.plan.document import Plan
from machining.plan.operation import FinishWalls
from machining.world.geometry import of_block
from machining.world.part import Part
from machining.world.stock import Block
from machining.world.stock.shaped import Shaped

from .build import LIBRARY, MEMO, changed, good, plan, setup
from .conftest import DEMO, PARTS


def test_an_export_stands_alone(gland_plan):
    whole, library = gland_plan
    text = plan_json.write(whole, library)
    read, brought = plan_json.read(text)
    assert read == whole
    assert brought.machines == library.machines
    assert brought.key == library.key
    assert to_bytes(evaluate(read, brought)) == to_bytes(evaluate(whole, library))
    assert plan_json.write(read, brought) == text


def test_an_export_names_only_what_is_used():
    used = plan_json.uses(good(), LIBRARY)
    assert used["materials"] == {"en-aw-6082"}
    assert "reamer-6" not in used["assemblies"]
    assert used["holders"] >= {"arbor-22", "collet-chuck-12"}


def broken(**changes):
    raw = json.loads(plan_json.write(good(), LIBRARY))
    for path, value in changes.items():
        *inner, last = path.split("__")
        at = raw
        for name in inner:
            at = at[int(name) if name.isdigit() else name]
        at[last] = value
    return json.dumps(raw).encode()


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (b"not json", "no JSON"),
        (b"[1, 2]", "no plan"),
        (b'{"format": "other"}', "no plan"),
        (broken(version=99), "version 99"),
        (
            broken(plan__setups__0__stations__0__holding__grip_depth_mm=-3),
            "Grip depth is -3: it must be at least 0.001",
        ),
        (broken(plan__quantity=0), "Quantity is 0"),
        (broken(plan__setups__0__operations__1__step_down_mm="deep"), "Step down"),
        (broken(library__machines=[]), "library.machines must map"),
        (broken(geometries=[{"key": "x"}]), "geometry is damaged"),
        (broken(version=2, geometry={"key": "x"}), "geometry is damaged"),
        (broken(geometries={"key": "x"}), "geometries must be a list"),
        (broken(settings__wear_factor=0.2), "Wear factor is 0.2"),
    ],
)
def test_a_file_that_is_no_plan_is_told_where(text, words):
    with pytest.raises(NotAPlan) as refused:
        plan_json.read(text)
    assert words in str(refused.value)


def test_the_tool_list_has_a_line_a_tool():
    rows = list(csv.DictReader(io.StringIO(tool_csv.write(good(), LIBRARY))))
    assert [row["T"] for row in rows] == ["1", "2", "3", "4", "5", "6"]
    drill = rows[3]
    assert (drill["tool"], drill["DC_mm"], drill["stick_out_mm"], drill["holder"]) == (
        "drill 6.8",
        "6.8",
        "58.0",
        "collet chuck 8",
    )
    assert float(drill["gauge_length_mm"]) == 58 + 72


def test_a_lost_tool_keeps_its_line():
    lost = good().model_copy(
        update={"tools": (good().tools[0].model_copy(update={"assembly": "gone"}),)}
    )
    row = next(csv.DictReader(io.StringIO(tool_csv.write(lost, LIBRARY))))
    assert (row["tool"], row["DC_mm"]) == ("gone", "")


def test_glb_holds_points_faces_and_triangles():
    mesh = to_mesh(block(np.zeros(3), np.array([30.0, 20.0, 10.0])))
    data = glb.write(mesh)
    magic, version, length = struct.unpack_from("<4sII", data)
    assert (magic, version, length) == (b"glTF", 2, len(data))
    (head,) = struct.unpack_from("<I", data, 12)
    described = json.loads(data[20 : 20 + head])
    points = described["accessors"][0]
    assert (points["min"], points["max"]) == ([0, 0, 0], [30, 20, 10])
    assert described["accessors"][2]["count"] == 36
    body = data[20 + head + 8 :]
    assert len(body) == described["buffers"][0]["byteLength"]
    triangles = np.frombuffer(body[described["bufferViews"][2]["byteOffset"] :], dtype=np.uint32)
    assert triangles.max() == points["count"] - 1


def svg_of(of, place=0):
    facts = walk(of, LIBRARY, MEMO)
    text = holding_drawing(facts.setups[place].first, facts)
    return text, ET.fromstring(text)


def test_the_holding_drawing_says_what_a_setter_asks():
    _, drawn = svg_of(good())
    words = {each.text for each in drawn.iter("{http://www.w3.org/2000/svg}text")}
    assert {
        "fixed jaw",
        "moving jaw",
        "G54",
        "X",
        "Y",
        "Z",
        "84",
        "54",
        "125",
        "6",
        "From above",
        "From the right end",
    } <= words
    assert "1" in words  # the blank stands 1 over the zero
    assert "34" in words  # parallels: jaw height 40 less grip 6


def test_a_sawn_blank_s_size_says_how_much_larger_it_can_be():
    sawn = good().model_copy(
        update={"stock": good().stock.model_copy(update={"saw_tolerance_mm": 1.5})}
    )
    words = {each.text for each in svg_of(sawn)[1].iter("{http://www.w3.org/2000/svg}text")}
    assert {"84 +1.5", "54 +1.5"} <= words


def test_a_drawing_without_a_vise_shows_the_stock_alone():
    text, drawn = svg_of(plan(setups=(setup(*good().setups[0].operations, holding=None),)))
    assert "jaw" not in text
    assert drawn.attrib["role"] == "img"


def test_jaws_along_y_are_seen_from_the_front():
    turned = good().setups[0].stations[0].holding.model_copy(update={"fixed": "+x"})
    text, _ = svg_of(plan(setups=(setup(*good().setups[0].operations, holding=turned),)))
    assert "From the front" in text


def test_drawings_stay_on_their_sheet(demo):
    whole, library = demo
    facts = walk(whole, library, Memo())
    for seen in facts.stations:
        root = ET.fromstring(holding_drawing(seen, facts))
        for each in root.iter("{http://www.w3.org/2000/svg}text"):
            assert -2 <= float(each.attrib["x"]) <= 602
            assert 0 <= float(each.attrib["y"]) <= 258


def test_cli_evaluates_an_export_like_the_browser(tmp_path, capsys):
    whole, library = changed(good(), "tool:t3", stick_out_mm=8.0), LIBRARY
    file = tmp_path / "plan.json"
    file.write_bytes(plan_json.write(whole, library))
    assert main(["evaluate", str(file), "--json"]) == 0
    assert capsys.readouterr().out.encode() == to_bytes(evaluate(whole, library)) + b"\n"
    assert main(["evaluate", str(file)]) == 0
    words = capsys.readouterr().out
    assert "Setup 1  Top up" in words
    assert "stop: reach.stick-out-short: T3 stands out 8.0 mm" in words


@pytest.mark.parametrize(("content", "words"), [(b"{}", "no plan"), (None, "can't be read")])
def test_cli_tells_a_bad_file_and_ends_with_two(content, words, tmp_path, capsys):
    file = tmp_path / "plan.json"
    if content is not None:
        file.write_bytes(content)
    assert main(["evaluate", str(file)]) == 2
    assert words in capsys.readouterr().err


def test_cli_reads_step_files_with_progress(tmp_path, capsys):
    assert main(["read-step", str(PARTS / "hinge-plate.step"), "--out", str(tmp_path)]) == 0
    lines = [
        json.loads(line) for line in capsys.readouterr().out.splitlines() if line.startswith("{")
    ]
    assert [line["doing"] for line in lines][-1] == "done"
    assert lines[-1]["size"] == [80, 50, 20]
    assert (tmp_path / "mesh.glb").read_bytes()[:4] == b"glTF"
    assert main(["read-step", str(PARTS / "two-blocks.step")]) == 2
    assert json.loads(capsys.readouterr().out.splitlines()[-1])["sizes"] == [
        [40.0, 30.0, 10.0],
        [20.0, 30.0, 10.0],
    ]
    assert main(["read-step", str(PARTS / "two-blocks.step"), "--solid", "2"]) == 0
    assert main(["read-step", str(DEMO.parent / "clamp_block.py")]) == 2
    assert isinstance(good().setups[0].operations[3], FinishWalls)


def test_part_and_blank_travel_with_their_solids():
    """Version 3 holds a list of them; version 2 the one of the part."""
    part = replace(of_block(Part(size_mm=(40, 30, 10))), key="part")
    cast = replace(of_block(Part(size_mm=(50, 40, 16))), key="cast")
    library = replace(LIBRARY, geometries={part.key: part, cast.key: cast, "other": cast})
    made = Plan(part=Part(geometry=part.key), stock=Shaped(geometry=cast.key))
    read, known = plan_json.read(plan_json.write(made, library))
    assert read == made and set(known.geometries) == {part.key, cast.key}
    raw = json.loads(plan_json.write(made.model_copy(update={"stock": Block()}), library))
    old = {**raw, "version": 2, "geometry": raw.pop("geometries")[0]}
    assert set(plan_json.read(json.dumps(old).encode())[1].geometries) == {part.key}


def test_a_file_of_version_1_has_vises_and_chucks_in_a_table_each():
    raw = json.loads(plan_json.write(good(), LIBRARY))
    held = raw["library"].pop("holdings")
    for table, kind in (("vises", "vise"), ("chucks", "chuck")):
        raw["library"][table] = {key: each for key, each in held.items() if each["kind"] == kind}
    read, library = plan_json.read(json.dumps({**raw, "version": 1}).encode())
    assert read == good()
    assert (library.vises, library.chucks) == (LIBRARY.vises, LIBRARY.chucks)
    raw["library"]["chucks"] = []
    with pytest.raises(NotAPlan, match=r"library\.holdings must map keys to items"):
        plan_json.read(json.dumps({**raw, "version": 1}).encode())
