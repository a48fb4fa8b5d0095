"""A holding as JSON on the command line: answered, and refused with a sentence."""

from __future__ import annotations

import json

import pytest

from machining.cli import main
from machining.exchange import holding_case
from machining.quantities.errors import MachiningError

from .test_holding_model import vise


def plain(contact):
    return {name: getattr(contact, name) for name in ("at", "normal", "friction", "body", "group")}


PUSH = {"at": [0, 0, 25], "axis": [0, 0, 1], "force_n": 1195, "axial_n": 0, "torque_nm": 0}
CASE = {
    "frame_length_mm": 60,
    "contacts": [plain(each) for each in vise().every],
    "groups": {"P": 16700},
    "weight": {"kg": 0, "at": [0, 0, 0]},
    "cut": {**PUSH, "directions": [[1, 0, 0]]},
}
ALONE = {"at": [0, 0, 0], "normal": [0, 0, 1], "friction": 0.1}


def with_one(**fields):
    """A case with one contact of these."""
    return {"contacts": [{**ALONE, **fields}], "groups": {}}


def with_cut(**fields):
    return {"cut": {**PUSH, **fields}}


def test_the_command_answers_a_case(tmp_path, capsys):
    file = tmp_path / "case.json"
    file.write_text(json.dumps(CASE))
    assert main(["holding", str(file), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["factor"] == pytest.approx(5.003, rel=0.001)
    assert found["located_rank"] == 5 and found["free_motions"] == ["can slide along X"]
    assert found["seated"] and found["motion"] is None and found["residual"] < 1.0
    assert found["weakest"]["direction"] == [1.0, 0.0, 0.0] and found["weakest"]["contacts"]
    assert found["least_scale"] == pytest.approx(2.0 / found["factor"], rel=1e-6)
    assert main(["holding", str(file)]) == 0
    assert "located  5 of 6: can slide along X" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"frame_length_mm": 0}, "frame_length_mm is 0.0; it must be over 0."),
        ({"groups": {}}, "'P'"),
        ({"groups": {"P": -1}}, "force of group P is -1.0; it must be 0 or more."),
        ({"groups": {"P": 1, "Q": 2}}, "contacts of group Q is 0; it must be at least one."),
        (with_one(normal=[0, 0, 0]), "normal of contact 1"),
        (with_one(friction=-0.1), "friction of contact 1 is -0.1"),
        (with_one(at=[0, 0]), "contacts.0.at.2: 2: it is missing"),
        (with_cut(axis=[0, 0, 0]), "axis is [0.0, 0.0, 0.0]"),
        (with_cut(force_n=-5), "force_n is -5.0"),
        (with_cut(directions=[[0, 0, 0]]), "directions is"),
        ({"requirement": 0}, "required is 0.0"),
        ({"weight": {"kg": -1, "at": [0, 0, 0]}}, "kg is -1.0"),
    ],
)
def test_what_can_t_be_is_refused_with_a_sentence(change, told):
    with pytest.raises(MachiningError) as refused:
        holding_case.answer(holding_case.read(json.dumps({**CASE, **change}).encode()))
    assert told in str(refused.value)
    for text in (b"[]", b"{", b"[" * 100_000):
        with pytest.raises(MachiningError):
            holding_case.read(text)
