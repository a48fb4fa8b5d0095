"""Work offsets: an offset for each position, where each zero is, out as CSV and G10 and back."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from machining.cli import main
from machining.exchange import offset_table, plan_json
from machining.exchange.offset_block import NotWritten, from_g10, to_g10
from machining.exchange.offset_table import Line, differences, from_csv
from machining.facts.offsets import codes_of, offsets_of
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.plan.at import Grid, Row
from machining.quantities.errors import MachiningError
from machining.world.machine import Table

from . import lathe
from .build import LIBRARY, MEMO, changed, finding, good, ids, with_part
from .test_stations import both_sides

PITCH = 130.0
MIDDLE = (-400.0, -250.0, -620.0)


def loaded(count: int, first: str = "G54", **fields):
    row = Row(count=count, pitch_mm=PITCH, along="x").model_dump()
    return changed(good(), "station:st1", at=row, offset_each=True, work_offset=first, **fields)


def measured(middle=MIDDLE, block="g10"):
    """The library with its mill's table measured in."""
    x, y, z = middle
    library = with_part("heron", "places", middle_x_mm=x, middle_y_mm=y, top_z_mm=z)
    heron = library.machines["heron"].model_copy(update={"offset_block": block})
    return replace(library, machines={**library.machines, "heron": heron})


UNMEASURED = measured((None, None, None), "")


def table_of(plan, library=UNMEASURED) -> list[Line]:
    return offset_table.table(offsets_of(walk(plan, library, MEMO)))


def test_positions_keep_their_zeros_one_after_the_other_or_in_one():
    assert [line.code for line in table_of(loaded(3, "G55"))] == ["G55", "G56", "G57"]
    in_one = changed(loaded(3), "station:st1", offset_each=False)
    assert [line.code for line in table_of(in_one)] == ["G54", "G54", "G54"]


def test_more_than_the_machine_has_is_a_stop_until_they_share_one_or_begin_earlier():
    late = finding(loaded(3, "G58"), "route.offset-unknown")
    assert late.values["count"].value == "3" and late.values["left"].value == "2"
    assert [fix.values["code"].value for fix in late.fixes] == ["G54", "G58"]
    for fix in late.fixes:
        assert "route.offset-unknown" not in ids(apply(loaded(3, "G58"), fix.edits))
    many = finding(loaded(8), "route.offset-unknown")
    assert [fix.label.split()[2] for fix in many.fixes] == ["all"]
    assert table_of(loaded(8))[-1].code == ""
    assert "route.offset-unknown" not in ids(loaded(6))


def test_stations_beside_each_other_may_not_reach_into_each_others_offsets():
    plan = both_sides()
    assert "route.offset-duplicate" not in ids(plan)
    row = Row(count=2, pitch_mm=PITCH).model_dump()
    into = changed(plan, "station:st1", at=row, offset_each=True)
    found = finding(into, "route.offset-duplicate")
    assert found.values["code"].value == "G55"
    mended = apply(into, found.fixes[0].edits)
    assert "route.offset-duplicate" not in ids(mended)
    codes = [codes_of(each) for each in walk(mended, LIBRARY, MEMO).setups[0].stations]
    assert codes == [["G54", "G55"], ["G56"]]


def test_without_a_measured_table_they_are_differences_from_the_first():
    lines = table_of(loaded(3))
    assert {line.reference for line in lines} == {"first position"}
    assert [line.values for line in lines] == [
        pytest.approx({"x": k * PITCH, "y": 0.0, "z": 0.0}) for k in range(3)
    ]
    with pytest.raises(NotWritten, match="takes G10 is not known"):
        to_g10(lines, "metric")
    with pytest.raises(NotWritten, match="is not measured"):
        to_g10([replace(line, block="g10") for line in lines], "metric")


def test_on_a_measured_table_they_are_where_the_machine_stands():
    """By hand: a grid about the table's middle; zero in the middle of the blank, on top of the
    finished part, which stands on its seat.
    """
    grid = Grid(columns=2, rows=2, column_pitch_mm=200.0, row_pitch_mm=90.0).model_dump()
    plan = changed(loaded(2), "station:st1", at=grid)
    station = walk(plan, LIBRARY, MEMO).stations[0]
    high = station.seat_mm - float(station.lie.stock_low[2])
    expected = [(-100, -45), (100, -45), (-100, 45), (100, 45)]
    middle = (station.lie.stock_low + station.lie.stock_high)[:2] / 2.0
    lines = table_of(plan, measured())
    assert {line.reference for line in lines} == {"machine"}
    for line, (x, y) in zip(lines, expected, strict=True):
        assert line.values == pytest.approx(
            {
                "x": MIDDLE[0] + x - middle[0],
                "y": MIDDLE[1] + y - middle[1],
                "z": MIDDLE[2] + high,
            }
        )
    low = {"of": "stock", "at": "low"}
    corner = {"x": low, "y": low, "z": {"of": "part", "at": "high"}}
    first = table_of(changed(plan, "station:st1", zero=corner), measured())[0]
    size = station.lie.stock_high - station.lie.stock_low
    assert first.values["x"] == pytest.approx(MIDDLE[0] - 100 - size[0] / 2)
    assert first.values["y"] == pytest.approx(MIDDLE[1] - 45 - size[1] / 2)


def test_a_zero_stands_where_the_moves_of_its_part_do():
    """The same point, asked as an offset and as a place on the table."""
    plan = loaded(2)
    station = walk(plan, LIBRARY, MEMO).stations[0]
    first, second = (station.on_place(station.lie.part_high, k) for k in range(2))
    assert second - first == pytest.approx((PITCH, 0.0, 0.0))
    zero = next(each.at for each in offsets_of(walk(plan, measured(), MEMO)))
    assert first - station.lie.part_high + MIDDLE == pytest.approx(zero)


def test_before_a_spindle_that_turns_the_part_nothing_is_made_up():
    plan = lathe.plan(*lathe.GOOD)
    (line,) = table_of(plan, lathe.LIBRARY)
    assert line.values == {} and line.plain()["x_mm"] is None and line.reference == ""


def test_a_block_by_hand():
    library = measured((0.0, 0.0, 0.0))
    station = walk(loaded(2), library, MEMO).stations[0]
    high = station.seat_mm - float(station.lie.stock_low[2])
    middle = (station.lie.stock_low + station.lie.stock_high)[:2] / 2.0
    assert middle == pytest.approx((0.0, 0.0))
    assert to_g10(table_of(loaded(2), library), "metric") == (
        f"G21\nG90\nG10 L2 P1 X-65.000 Y0.000 Z{high:.3f}\nG10 L2 P2 X65.000 Y0.000 Z{high:.3f}\n"
    )
    inches = to_g10(table_of(loaded(2), library), "inch").splitlines()
    assert inches[0] == "G20" and inches[2].startswith("G10 L2 P1 X-2.5591 Y0.0000 Z")


CODES = st.one_of(
    st.sampled_from(["G54", "G55", "G56", "G57", "G58", "G59"]),
    st.integers(1, 300).map(lambda n: f"G54.1 P{n}"),
)
PLACES = st.floats(-3000, 3000, allow_nan=False)


@given(
    st.dictionaries(CODES, st.tuples(PLACES, PLACES, PLACES), min_size=1, max_size=12),
    st.sets(st.sampled_from("abc")),
    st.sampled_from(["metric", "inch"]),
)
def test_property_a_block_read_back_is_the_table(offsets, axes, units):
    angles = {axis: 90.0 * k for k, axis in enumerate(sorted(axes))}
    lines = [
        Line(1, "st1", k, code, "machine", {**dict(zip("xyz", at, strict=True)), **angles}, "g10")
        for k, (code, at) in enumerate(offsets.items(), 1)
    ]
    back = from_g10(to_g10(lines, units))
    assert list(back) == list(offsets)
    for line in lines:
        assert back[line.code] == pytest.approx(line.values, abs=0.0013)


def test_of_positions_in_one_offset_the_first_is_set():
    lines = table_of(changed(loaded(3), "station:st1", offset_each=False), measured())
    assert list(from_g10(to_g10(lines, "metric"))) == ["G54"]
    assert from_g10(to_g10(lines, "metric"))["G54"]["x"] == pytest.approx(lines[0].values["x"])


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("G90\nG10 L2 P1 X1", "G20 or G21 before it"),
        ("G21\nG91\nG10 L2 P1 X1", "Line 2"),
        ("G21\nG10 L2 P7 X1", "Line 2: 'G10 L2 P7 X1'"),
        ("G21\nG10 L1 P1 X1", "Line 2"),
        ("G21\nG10 L2 P1 X1 F5", "Line 2"),
        ("G21\nG0 X1", "Line 2"),
        ("G21\nG10 L2 P1 X#101", "Line 2"),
        ("G21\nG10 L2 P1 X1 Y", "Line 2"),
        ("G21\nG10 G91 L2 P1 X1", "Line 2"),
        ("G21\nG10 L2 P1.5 X1", "Line 2"),
        ("G21\nG10 L2 P1 X1 X2", "Line 2"),
        ("G21\nG10 L2 P0 X1", "Line 2"),
        ("G21\nO12", "Line 2"),
        ("!\nG21", "Line 1"),
        ("G20 G21\nG10 L2 P1 X1", "Line 1"),
    ],
)
def test_what_sets_no_offset_is_told_by_its_line(text, words):
    with pytest.raises(MachiningError, match=words):
        from_g10(text)
    assert from_g10("%\nG21 G90 (jaws)\n\nG10 L20 P4 X1. Y-.5 ; vise") == {
        "G54.1 P4": {"x": 1.0, "y": -0.5}
    }


def test_a_code_that_means_two_places_is_not_written():
    """Two setups begin in G54 each, and so may two stations by mistake."""
    (line,) = table_of(changed(good(), "station:st1", at=None), measured())
    for other in ({"setup": 2}, {"station": "st2"}):
        with pytest.raises(NotWritten, match="G54 can't be written: another setup or station"):
            to_g10([line, replace(line, **other)], "metric")


def test_a_code_of_another_kind_is_not_written():
    line = Line(1, "st1", 1, "E12", "machine", {"x": 0.0}, "g10")
    with pytest.raises(NotWritten, match="E12 can't be written"):
        to_g10([line], "metric")


def test_as_csv_a_line_a_position():
    rows = list(csv.DictReader(io.StringIO(offset_table.to_csv(table_of(loaded(2), measured())))))
    assert [row["code"] for row in rows] == ["G54", "G55"]
    assert float(rows[1]["x_mm"]) - float(rows[0]["x_mm"]) == pytest.approx(PITCH)
    assert rows[0]["a_deg"] == ""
    assert offset_table.to_csv([]).startswith("setup,station,position,code,reference,x_mm")


@pytest.mark.parametrize("missing", ["middle_x_mm", "middle_y_mm", "top_z_mm"])
def test_a_table_is_measured_whole_or_not_at_all(missing):
    table = LIBRARY.machines["heron"].places[0].model_dump()
    known = {"middle_x_mm": 1.0, "middle_y_mm": 2.0, "top_z_mm": 3.0}
    assert Table(**{**table, **known}).middle == (1.0, 2.0, 3.0)
    with pytest.raises(ValidationError, match=f"{missing} is empty"):
        Table(**{**table, **known, missing: None})


def test_from_the_command_line(tmp_path, capsys):
    file = tmp_path / "plan.json"
    file.write_bytes(plan_json.write(loaded(2), measured()))
    assert main(["offsets", str(file), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told == [line.plain() for line in table_of(loaded(2), measured())]
    assert {"setup", "station", "position", "code", "x_mm", "y_mm", "z_mm", "a_deg"} <= set(told[0])
    assert main(["offsets", str(file), "--setup", "1", "--g10", "metric"]) == 0
    assert capsys.readouterr().out.startswith("G21\nG90\nG10 L2 P1 X")
    assert main(["offsets", str(file)]) == 0
    assert capsys.readouterr().out.startswith("setup,")
    assert main(["offsets", str(file), "--setup", "2"]) == 2
    assert "Setup '2' doesn't exist" in capsys.readouterr().err
    file.write_bytes(plan_json.write(loaded(2), UNMEASURED))
    assert main(["offsets", str(file), "--g10", "inch"]) == 2
    assert "takes G10 is not known" in capsys.readouterr().err


def as_measured(lines, by=(0.0, 0.0, 0.0), scale=1.0) -> list[Line]:
    """The table as it comes back from the machine, its positions that far off."""
    moved = [
        replace(
            line,
            values={
                a: (v + dict(zip("xyz", by, strict=True)).get(a, 0.0)) * scale
                for a, v in line.values.items()
            },
        )
        for line in lines
    ]
    return from_csv(offset_table.to_csv(moved))


def test_what_was_measured_comes_back_as_differences():
    lines = table_of(loaded(2), measured())
    for each in differences(lines, as_measured(lines, (0.02, -0.05, 0.4))):
        assert each.by == pytest.approx({"x": 0.02, "y": -0.05, "z": 0.4}, abs=0.0011)
    (only,) = differences(lines, as_measured(lines[1:]))
    assert only.planned == lines[1] and only.off() < 0.001


def test_a_table_with_semicolons_and_commas_is_read_too():
    lines = table_of(loaded(2), measured())
    text = offset_table.to_csv(lines).replace(",", ";").replace(".", ",")
    assert "-465,0;" in text
    assert from_csv("\ufeff" + text.replace("\n", "\r\n")) == as_measured(lines)


def test_of_a_table_nobody_measured_the_differences_are_between_positions():
    """Wherever the first one was found: the second should be a pitch away, and is 0.3 more."""
    lines = table_of(loaded(2))
    there = [
        replace(line, values={"x": -412.0 + k * (PITCH + 0.3), "y": -90.0, "z": -555.0})
        for k, line in enumerate(lines)
    ]
    first, second = differences(lines, from_csv(offset_table.to_csv(there)))
    assert first.off() == 0.0
    assert second.by == pytest.approx({"x": 0.3, "y": 0.0, "z": 0.0}, abs=1e-9)
    (alone,) = differences(lines, there[1:])
    assert alone.off() == pytest.approx(0.0, abs=1e-9)
    third = table_of(loaded(3))
    (_, last) = differences(third, [there[1], replace(third[2], values=there[0].values)])
    assert last.by["x"] == pytest.approx(-(2 * PITCH + 0.3))


def test_what_does_not_belong_to_the_plan_is_refused_whole():
    lines = table_of(loaded(2), measured())
    with pytest.raises(MachiningError, match="Position '9 of st1 in setup 1' doesn't exist"):
        differences(lines, [lines[0], replace(lines[1], position=9)])
    with pytest.raises(MachiningError, match="Offset of position 2: 'G59' is not understood"):
        differences(lines, [lines[0], replace(lines[1], code="G59")])
    with pytest.raises(MachiningError, match="it once"):
        differences(lines, [lines[0], lines[0]])
    with pytest.raises(MachiningError, match="inches, it seems"):
        differences(lines, as_measured(lines, scale=1 / 25.4))


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (("x_mm", "x_in"), "write x_mm too"),
        (("-465.0", "here"), "Line 2, x_mm: 'here' is not understood; write a number, or nothing"),
        (("-465.0", "nan"), "Line 2, x_mm: 'nan'"),
        (("1,st1,2", "1,st1,2.5"), "Line 3, position: '2.5' is not understood; write a whole"),
        (("1,st1,2", ",st1,2"), "Line 3, setup: '' is not understood"),
    ],
)
def test_a_table_that_is_not_understood_says_where(change, words):
    text = offset_table.to_csv(table_of(loaded(2), measured()))
    assert change[0] in text
    with pytest.raises(MachiningError, match=words):
        from_csv(text.replace(*change, 1))
