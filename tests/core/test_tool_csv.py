"""Tools as CSV: what is written is read as the same, what would change is said, what is wrong names
its line and field.
"""

from __future__ import annotations

import csv
import io

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from machining.exchange.tool_library_csv import COLUMNS, NotATable, read, write
from machining.world.tool import Tool
from tests.at_length import often

from .build import LIBRARY

MILL = LIBRARY.tools["end-mill-12-z3"]


def lines(text: str, known=LIBRARY.tools):
    return read(text.encode(), known)


def test_what_is_written_is_read_as_the_same():
    text = write(LIBRARY.tools)
    found = lines(text)
    assert {line.does for line in found} == {"same"}
    assert len(found) == len(LIBRARY.tools)
    fresh = lines(text, {})
    assert {line.does for line in fresh} == {"new"}
    assert {line.key: line.tool for line in fresh} == LIBRARY.tools


def test_columns_are_the_standard_s_symbols_and_cover_the_record():
    head = next(csv.reader(io.StringIO(write(LIBRARY.tools))))
    assert {
        "DC_mm",
        "RE_mm",
        "ZEFP",
        "LCF_mm",
        "LU_mm",
        "DN_mm",
        "DMM_mm",
        "OAL_mm",
        "KAPR_deg",
        "FHA_deg",
        "TP_mm",
        "APMX_mm",
    } <= set(head)
    assert {field for field, _ in COLUMNS.values()} == set(Tool.model_fields)


def test_a_change_is_told_field_by_field_and_what_is_left_out_stays():
    line = lines("key,DC,on_hand\nend-mill-12-z3,11.9,7\n")[0]
    assert line.does == "changed"
    assert line.changes == (("diameter_mm", 12.0, 11.9), ("on_hand", MILL.on_hand, 7))
    assert line.tool == MILL.model_copy(update={"diameter_mm": 11.9, "on_hand": 7})


def test_an_empty_cell_empties_what_may_be_empty():
    line = lines("key,max_chip\nend-mill-12-z3,\n")[0]
    assert line.changes == (("max_chip_mm", MILL.max_chip_mm, None),)


@pytest.mark.parametrize(
    ("text", "diameter"),
    [
        ("key,DC_in\nend-mill-12-z3,0.5\n", 12.7),
        ("key,DC [in]\nend-mill-12-z3,0.5\n", 12.7),
        ("key;DC_mm\nend-mill-12-z3;11,9\n", 11.9),
        ("key,DC\nend-mill-12-z3,1/2in\n", 12.7),
        ("key\tdiameter_mm\nend-mill-12-z3\t12.5\n", 12.5),
        ("\ufeffkey,DC\nend-mill-12-z3,12.5\n", 12.5),
    ],
)
def test_units_separators_and_decimal_commas(text, diameter):
    assert lines(text)[0].tool.diameter_mm == pytest.approx(diameter)


@pytest.mark.parametrize(
    ("row", "field", "words"),
    [
        ("end-mill-12-z3,thick,3,28", "diameter_mm", "'thick' is not understood"),
        ("end-mill-12-z3,-1,3,28", "diameter_mm", "at least 0.05"),
        ("end-mill-12-z3,12,2.5,28", "flutes", "a whole number"),
        ("end-mill-12-z3,12,3,200", "flute_length_mm", "must be up to the overall length"),
        ("end-mill-12-z3,nan,3,28", "diameter_mm", "not understood"),
        (",12,3,28", "key", "a key of small letters"),
        ("New Tool,12,3,28", "key", "small letters, digits and -"),
        ("fresh,12,3,28", "name", "it is missing"),
        ("end-mill-12-z3,12,3,28,9", "line", "as many as headings"),
        ("end-mill-12-z3,1e400,3,28", "diameter_mm", "not understood"),
    ],
)
def test_what_is_wrong_names_line_and_field(row, field, words):
    line = lines(f"key,DC,ZEFP,LCF\nend-mill-8-z3,8,3,20\n{row}\n")[1]
    assert (line.number, line.does, line.field) == (3, "wrong", field)
    assert words in line.problem.lower() or words in line.problem


def test_a_key_twice_is_wrong():
    found = lines("key,DC\nend-mill-12-z3,12\nend-mill-12-z3,11\n")
    assert [line.does for line in found] == ["same", "wrong"]
    assert "line 2 has it too" in found[1].problem


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "empty"),
        (b"   \n", "empty"),
        (b"name,DC\nx,1\n", "no column 'key'"),
        (b"key,colour\nx,red\n", "'colour' is not known"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b"key\n" + b"x\n" * 5001, "up to 5000"),
    ],
)
def test_what_is_no_table_of_tools_is_told(content, words):
    with pytest.raises(NotATable, match=words):
        read(content, {})


@settings(max_examples=often(80), deadline=None)
@given(
    st.binary(max_size=200)
    | st.text(max_size=200).map(lambda text: ("key,DC,kind,CCC\n" + text).encode())
)
def test_property_anything_is_read_or_told(content):
    try:
        found = read(content, LIBRARY.tools)
    except NotATable:
        return
    assert all(bool(line.problem) != (line.tool is not None) for line in found)
