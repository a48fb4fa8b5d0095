"""Entries as people type them, figures as they are shown, figures as they are explained."""

from __future__ import annotations

import json
from math import inf, isfinite, nan
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.quantities import checks
from machining.quantities.computed import FORMULAS, Given, formula, work_out
from machining.quantities.display import number, show, table
from machining.quantities.entry import drill_sizes, parse
from machining.quantities.errors import MachiningError, NotUnderstood, OutOfRange
from machining.quantities.units import INCH_MM, QUANTITIES, Millimetres

VECTORS = Path(__file__).parent.parent / "vectors"
ENTRIES = json.loads((VECTORS / "entry.json").read_text())
SHOWN = json.loads((VECTORS / "display.json").read_text())


@pytest.mark.parametrize("row", ENTRIES, ids=lambda row: f"{row['text']!r} as {row['quantity']}")
def test_entries_are_read_or_refused(row):
    more = {name: row[name] for name in ("unit", "drill") if name in row}
    if row["value"] is None:
        with pytest.raises(NotUnderstood) as refused:
            parse(row["text"], row["quantity"], field="Stick-out", **more)
        assert str(refused.value).startswith("Stick-out: ")
        assert "write" in str(refused.value)
    else:
        assert parse(row["text"], row["quantity"], **more).value == pytest.approx(
            row["value"], rel=1e-12
        )


@given(st.floats(-1e6, 1e6, allow_nan=False), st.sampled_from(sorted(QUANTITIES)))
def test_property_every_unit_of_a_quantity_goes_there_and_back(value, quantity):
    _, units = QUANTITIES[quantity]
    for name, factor in units.items():
        if name == "g" and quantity == "acceleration":
            continue
        read = parse(f"{value!r} {name}", quantity).value
        assert read == pytest.approx(value * factor, rel=1e-9, abs=1e-12)
    assert parse(f"{value!r}", quantity).value == pytest.approx(value, rel=1e-12)


@given(st.integers(0, 500), st.integers(1, 63), st.sampled_from([2, 4, 8, 16, 32, 64]))
def test_property_mixed_fractions_of_an_inch(whole, top, bottom):
    expected = (whole + top / bottom) * INCH_MM
    assert parse(f"{whole}-{top}/{bottom} in").value == pytest.approx(expected)
    assert parse(f'{whole} {top}/{bottom}"').value == pytest.approx(expected)


@given(st.text(max_size=30), st.sampled_from(sorted(QUANTITIES)), st.booleans())
def test_property_any_text_gives_a_finite_value_or_one_sentence(text, quantity, drill):
    try:
        assert isfinite(parse(text, quantity, drill=drill).value)
    except NotUnderstood as refused:
        assert str(refused).endswith(".")


def test_number_and_letter_drills_are_complete_and_in_order():
    sizes = drill_sizes()
    numbers = [sizes[f"#{k}"] for k in range(1, 81)]
    letters = [sizes[letter] for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ"]
    assert all(a > b for a, b in zip(numbers, numbers[1:], strict=False))
    assert all(a < b for a, b in zip(letters, letters[1:], strict=False))
    assert sizes["#1"] < sizes["A"]
    assert (sizes["E"], sizes["#80"], sizes["Z"]) == (0.25, 0.0135, 0.413)


@pytest.mark.parametrize("row", SHOWN, ids=lambda row: f"{row['value']} {row['quantity']}")
def test_figures_are_shown_in_both_systems(row):
    assert show(row["value"], row["quantity"]) == row["metric"]
    assert show(row["value"], row["quantity"], "inch") == row["inch"]


@given(st.floats(0, 1e5), st.sampled_from(sorted(set(table()) - {"time"})))
def test_property_what_is_shown_differs_by_half_a_digit_at_most(value, quantity):
    for system in ("metric", "inch"):
        row = table()[quantity][system]
        assert (
            abs(float(number(value, quantity, system)) * row["per"] - value)
            <= 0.5000001 * row["per"] * 10 ** -row["digits"] + 1e-9 * value
        )


BAD = [
    (checks.positive, 0.0),
    (checks.positive, -1.0),
    (checks.positive, nan),
    (checks.positive, inf),
    (checks.not_negative, -0.1),
    (checks.not_negative, nan),
    (checks.finite, inf),
]


@pytest.mark.parametrize(("check", "bad"), BAD)
def test_checks_name_field_value_and_range(check, bad):
    with pytest.raises(OutOfRange) as refused:
        check("diameter", bad)
    assert (refused.value.field, str(refused.value.value)) == ("diameter", str(bad))
    assert str(refused.value).startswith(f"diameter is {bad}; it must be ")


def test_within_says_which_ends_are_open():
    assert checks.within("share", 1.0, 0.0, 1.0) == 1.0
    with pytest.raises(OutOfRange, match="over 0 to 1"):
        checks.within("share", 0.0, 0.0, 1.0, low_open=True)
    with pytest.raises(OutOfRange, match="from 0 to under 1"):
        checks.within("share", 1.0, 0.0, 1.0, high_open=True)


def test_a_figure_keeps_its_inputs_and_their_origins():
    kc = work_out(
        FUNCTIONS["specific_force"],
        "x.kc",
        kc11=Given(700, "material:EN AW-6082"),
        mc=Given(0.25),
        chip=Given(0.0414),
    )
    power = work_out(
        FUNCTIONS["milling_power"],
        "x.power",
        depth=Given(26),
        width=Given(1.2),
        feed=Given(3348),
        kc=kc,
    )
    assert [(i.name, i.origin) for i in kc.inputs] == [
        ("kc11", "material:EN AW-6082"),
        ("mc", "entered"),
        ("chip", "entered"),
    ]
    assert power.inputs[3].origin == "figure:x.kc"
    assert power.inputs[3].value == kc.value


def test_a_formula_without_source_is_refused():
    with pytest.raises(TypeError, match="Source"):

        @formula(unit="mm")
        def bare(length: Millimetres) -> float:
            """L = L

            No word of where it is from.
            """
            return length


def test_work_out_refuses_what_is_not_finite():
    @formula(unit="mm", quantity="length")
    def endless(length: Millimetres) -> float:
        """L = ∞

        Never finite. Source: test.
        """
        return length * inf

    with pytest.raises(MachiningError, match="finite"):
        work_out(endless, "x.endless", length=Given(1.0))
    FORMULAS.pop(endless.__formula__.id)


def test_every_formula_can_be_explained():
    import machining.evaluate  # noqa: F401

    assert len(FORMULAS) > 40
    for known in FORMULAS.values():
        assert known.source
        assert known.text.endswith(".")
        assert known.quantity in table() or known.quantity == "time", known.id


from machining.cutting.specific_force import milling_power, specific_force  # noqa: E402

FUNCTIONS = {"specific_force": specific_force, "milling_power": milling_power}
