"""Offsets measured at the machine against the plan's, and positions put where they were found."""

from __future__ import annotations

import pytest

from machining.ask.measured import measured
from machining.ask.trying import EDITS
from machining.exchange.offset_table import table, to_csv
from machining.facts.offsets import offsets_of
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.plan.at import Row
from machining.quantities.errors import Missing, NotUnderstood

from .build import LIBRARY, MEMO, changed, good

ROW = changed(good(), "station:st1", at=Row(count=3, pitch_mm=150.0).model_dump(), offset_each=True)


def lines(plan=ROW):
    return table(offsets_of(walk(plan, LIBRARY, MEMO)))


def found(*, x=0.0, position=2, **more):
    """The plan's table, with one position found elsewhere."""
    rows = []
    for line in lines():
        if line.position == position:
            line.values.update({"x": line.values["x"] + x, **more})
        rows.append(line)
    return measured(ROW, LIBRARY, MEMO, "s1", to_csv(rows))


def test_what_was_found_is_told_a_position_and_put_there_on_request():
    told = found(x=0.25)
    assert [each["off"] for each in told[:3]] == [
        [0.0, 0.0, 0.0],
        [pytest.approx(0.25), 0.0, 0.0],
        [0.0, 0.0, 0.0],
    ]
    after = apply(ROW, EDITS.validate_python(told[1]["edits"]))
    assert after.stations[0].spots == ((-150.0, 0.0), (0.25, 0.0), (150.0, 0.0))
    again = {(each.position): each.values["x"] for each in lines(after)}
    assert again[2] == pytest.approx(lines()[1].values["x"] + 0.25)


def test_the_last_line_puts_all_of_them_there():
    told = found(x=-0.5, position=3)
    assert (told[-1]["position"], len(told)) == (0, 4)
    after = apply(ROW, EDITS.validate_python(told[-1]["edits"]))
    assert after.stations[0].spots == ((-150.0, 0.0), (0.0, 0.0), (149.5, 0.0))


def test_a_table_of_another_plan_is_refused_with_what_is_wrong():
    text = to_csv(lines()).replace(",3,G56", ",4,G56")
    with pytest.raises(NotUnderstood, match="one that is planned"):
        measured(ROW, LIBRARY, MEMO, "s1", text)
    with pytest.raises(NotUnderstood, match="Columns"):
        measured(ROW, LIBRARY, MEMO, "s1", "a,b\n1,2\n")
    with pytest.raises(Missing):
        measured(ROW, LIBRARY, MEMO, "s9", text)
