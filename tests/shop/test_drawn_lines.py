"""Lines of a drawing: read by the reader in a process of its own, refused in its sentence."""

from __future__ import annotations

import json

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from machining import cli
from machining.plan.operation import Engrave
from machining.plan.places import Text
from tests.core import build

from .conftest import put_plan

SQUARE = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40">'
    b'<path d="M0 0 H20 V20 H0 Z"/><text>x</text></svg>'
)


def send(caller, content: bytes, name: str = "mark.svg", meet: str = ""):
    return caller.client.post(f"/api/lines{meet}", {"file": SimpleUploadedFile(name, content)})


def test_a_file_s_lines_become_those_of_an_engraving(planner):
    read = send(planner, SQUARE).json()
    assert (read["file"], read["closed"], read["unit"], read["unit_said"]) == (
        "mark.svg",
        1,
        "mm",
        True,
    )
    assert read["lines"] == [[[0, 0], [20, 0], [20, -20], [0, -20], [0, 0]]]
    assert read["left_out"] == {"text": 1} and read["widest_gap_mm"] == 0
    engrave = Engrave(id="e", tool="t2", on=Text(text="A"), depth_mm=0.3)
    plan = put_plan(planner, build.plan(build.FACE, engrave), "J-9")
    on = {"kind": "drawn", "file": read["file"], "lines": read["lines"], "x_mm": -10, "y_mm": 10}
    edit = {"do": "change", "on": "operation:e", "fields": {"on": on}}
    at = planner.get(f"/plans/{plan.pk}")["revision"]
    answer = planner.post(f"/plans/{plan.pk}/edits", {"revision": at, "edits": [edit]})
    now = answer["plan"]["setups"][0]["operations"][1]["on"]
    assert (now["kind"], now["x_mm"], now["scale"]) == ("drawn", -10, 1.0)
    assert answer["evaluation"]["setups"][0]["operations"][1]["detail"] == "mark.svg"


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        (
            "a.dxf",
            b"nothing",
            "a.dxf can't be read: the file is something else; it must be a DXF drawing",
        ),
        ("a.txt", b"nothing", "it must be a DXF or SVG drawing"),
        ("a.svg", b"<svg/>", "lines in the file is 0"),
    ],
)
def test_what_cannot_be_read_says_why(planner, name, content, words):
    told = send(planner, content, name)
    assert told.status_code == 422 and words in told.json()["sentence"]


def test_ends_farther_apart_than_a_plan_may_ask_are_refused(planner):
    told = send(planner, SQUARE, meet="?meet_mm=6")
    assert told.status_code == 422 and "meet_mm" in told.content.decode()


def test_only_who_plans_reads_drawings(operator):
    assert send(operator, SQUARE).status_code == 403


def test_a_reader_that_never_ends_is_stopped(planner, monkeypatch):
    monkeypatch.setattr("shop.jobs.drawn.LONGEST_S", 0.001)
    told = send(planner, SQUARE)
    assert told.status_code == 422 and "was stopped" in told.json()["sentence"]


def test_lines_on_the_command_line(tmp_path, capsys):
    file = tmp_path / "mark.svg"
    file.write_bytes(SQUARE)
    assert cli.main(["read-lines", str(file)]) == 0
    assert json.loads(capsys.readouterr().out)["closed"] == 1
    file.write_bytes(b"<svg")
    assert cli.main(["read-lines", str(file)]) == 2
    assert "SVG drawing" in json.loads(capsys.readouterr().out)["problem"]
