"""How many parts at a time: each number as a plan of its own, up to where it goes no further."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.ask.how_many import how_many
from machining.plan.apply import apply
from machining.plan.trade import Load
from machining.ways import trade

from .build import LIBRARY, MEMO, answer, changed, good
from .test_stations import both_sides


@pytest.fixture(scope="module")
def found():
    plan = changed(good(), "plan", quantity=9)
    return plan, how_many(plan, LIBRARY, MEMO, "s1")


def test_each_number_is_what_its_own_plan_says(found):
    plan, told = found
    three = next(each for each in told if each["parts"] == 3)
    loaded = answer(
        apply(plan, trade.structural(plan, LIBRARY, MEMO, [Load(station="st1", parts=3)]))
    )
    assert three["cycle_s"] == pytest.approx(loaded.setups[0].cycle_s, abs=1e-3)
    assert three["one_part_s"] == pytest.approx(loaded.one_part_s, abs=1e-3)
    assert three["batch_part_s"] == pytest.approx(loaded.batch_s / 9, abs=1e-3)
    an_hour = LIBRARY.machines["heron"].hourly_cost
    assert three["cost"] == pytest.approx(loaded.batch_s / 9 / 3600 * an_hour, abs=1e-3)


def test_without_a_machine_s_price_a_part_costs_nothing_said():
    heron = LIBRARY.machines["heron"].model_copy(update={"hourly_cost": 0.0})
    free = replace(LIBRARY, machines={**LIBRARY.machines, "heron": heron})
    told = how_many(changed(good(), "plan", quantity=2), free, MEMO, "s1")
    assert {each["cost"] for each in told} == {0.0}


def test_a_tool_change_less_a_part_and_a_last_load_that_is_not_full(found):
    _, told = found
    by = {each["parts"]: each for each in told}
    assert by[2]["one_part_s"] < by[1]["one_part_s"]
    assert (by[4]["cycles"], by[4]["last"]) == (3, 1) and (by[3]["cycles"], by[3]["last"]) == (3, 3)
    assert by[3]["one_less_s"] == pytest.approx(by[3]["cycle_s"] - by[2]["cycle_s"], abs=2e-3)


def test_it_ends_where_two_numbers_in_a_row_do_not_go_and_says_why():
    """Five stand in a row; behind them is no room on a table 500 deep for vises 380 long."""
    told = how_many(changed(good(), "plan", quantity=24), LIBRARY, MEMO, "s1")
    assert [(each["parts"], bool(each["stops"])) for each in told][-3:] == [
        (5, False),
        (6, True),
        (8, True),
    ]
    assert not any(each["stops"] for each in told[:-2])
    assert any("nothing there holds it" in each["text"] for each in told[-1]["stops"])


def test_a_part_that_goes_through_two_stations_needs_a_cycle_more():
    told = how_many(changed(both_sides(), "plan", quantity=2), LIBRARY, MEMO, "s1")
    assert [(each["parts"], each["cycles"], each["last"]) for each in told] == [
        (1, 3, 1),
        (2, 2, 2),
    ]
