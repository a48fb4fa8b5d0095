"""Two plans side by side: break-evens by hand, and what is otherwise in words."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.ask.compare import break_even, compare
from machining.ask.differences import differences
from machining.ask.trying import EDITS
from machining.evaluate import evaluate
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import (
    Change,
    DuplicateOperation,
    MoveOperation,
    RemoveOperation,
    RemoveSetup,
)
from machining.plan.trade import Load, UseMachine
from machining.quantities.said import fill
from machining.ways.trade import structural

from .build import LIBRARY, MEMO, answer, changed, good, whole
from .cases_of_cutting import tools_like


def after(of: Plan, *edits) -> Plan:
    return apply(of, structural(of, LIBRARY, MEMO, edits))


def words(a: Plan, b: Plan) -> list[str]:
    return [fill(said.text, said.values) for said in differences(a, b, LIBRARY)]


def compared(a: Plan, b: Plan) -> dict:
    return compare(a, LIBRARY, MEMO, b.model_dump(mode="json"))


def test_a_side_that_falls_behind_again_is_not_ahead_yet():
    """In fours: 4 parts take no more than 1, but 5 take as long as 8."""
    found = break_even(lambda s, n: 10.0 * n if s == 0 else 20.0 - (-n // 4) * 10.0, step=4)
    ahead = {n: 20.0 - (-n // 4) * 10.0 < 10.0 * n for n in range(1, 30)}
    assert found == {"side": 1, "quantity": max(n for n in ahead if not ahead[n]) + 1}


@pytest.mark.parametrize(
    ("fixed", "each", "side", "quantity"),
    [
        ((100.0, 200.0), (10.0, 5.0), 1, 21),  # 100 + 10·20 is as much as 200 + 5·20
        ((200.0, 100.0), (5.0, 10.0), 0, 21),
        ((100.0, 101.0), (10.0, 5.0), 0, None),
        ((100.0, 200.0), (10.0, 10.0), 0, None),
        ((0.0, 10_000.0), (1.01, 1.0), 1, None),  # past what is looked for
        ((0.0, 9_990.0), (2.0, 1.0), 1, 9_991),
    ],
)
def test_who_is_behind_for_one_is_ahead_from_so_many_on(fixed, each, side, quantity):
    found = break_even(lambda s, n: fixed[s] + each[s] * n)
    assert found == (None if quantity is None else {"side": side, "quantity": quantity})


@given(
    st.lists(st.tuples(st.integers(2, 400), st.floats(0.5, 1.0), st.floats(0.5, 1.0)), max_size=4),
    st.floats(0.0, 500.0),
    st.floats(0.5, 1.5),
)
def test_prices_that_go_down_may_put_it_behind_again(breaks, more, share):
    """Against every quantity up to 500: a piece of either side costs less from some on."""

    def of(side: int, n: int) -> float:
        each = (2.0, 2.0 * share)[side]
        for least, *less in sorted(breaks):
            each *= less[side] if n >= least else 1.0
        return (100.0, 100.0 + more)[side] + each * n

    found = break_even(of, most=500, breaks={least for least, *_ in breaks})
    behind = 0 if of(0, 1) > of(1, 1) else 1
    late = [n for n in range(1, 501) if of(1 - behind, n) - of(behind, n) <= 0]
    expected = None if 500 in late else {"side": behind, "quantity": max(late, default=0) + 1}
    assert found == expected


def test_a_plan_and_itself_differ_in_nothing():
    told = compared(good(), good())
    assert told["differences"] == [] and told["sooner_from"] is None
    assert told["sides"][0] == told["sides"][1]
    assert told["sides"][0]["batch_s"] == answer(good()).batch_s


def test_more_at_a_time_is_ahead_from_where_the_batches_say_so():
    """Against every quantity up to it."""
    one = good()
    four = after(one, Load(station=one.setups[0].stations[0].id, parts=4))
    told = compared(one, four)
    found = told["sooner_from"]
    batch = {
        n: [answer(p.model_copy(update={"quantity": n})).batch_s for p in (one, four)]
        for n in range(1, 41)
    }
    behind = 0 if batch[1][0] > batch[1][1] else 1
    back = [n for n, each in batch.items() if each[behind] >= each[1 - behind]]
    assert found == {"side": behind, "quantity": back[-1] + 1} and len(back) < 36
    assert "Setup 1: at a time 4 instead of 1" in words(one, four)
    at = next(each for each in told["curve"] if each["quantity"] == one.quantity)
    assert at["batch_s"] == [answer(one).batch_s, answer(four).batch_s]


def test_what_is_otherwise_is_told_with_both_values():
    of = good()
    drill = of.setups[0].operation("drill")
    other = apply(
        of,
        [
            Change(on="operation:pocket", fields={"step_down_mm": 1.5}),
            Change(on="operation:rough", fields={"rpm": 6000.0}),
            DuplicateOperation(operation="drill", new_id="again"),
            RemoveOperation(operation="tap"),
            Change(on=f"tool:{drill.tool}", fields={"stick_out_mm": 44.0}),
        ],
    )
    told = words(of, other)
    assert "Setup 1/30 Rough pocket: Step down 1.5 mm instead of 4.0 mm" in told
    assert any(t.startswith("Setup 1/20 Rough outside: Speed 6000 ") for t in told)
    assert "Setup 1: without Tap (70)" in told
    assert "Setup 1: Drill (70) as well" in told
    assert any("/60 Drill: stick-out 44.0 mm instead of" in t for t in told)


def test_another_machine_order_and_setup_are_told():
    of = whole()
    machine = next(k for k in LIBRARY.machines if k not in (of.setups[0].machine, "plover"))
    name = LIBRARY.machines[machine].name
    other = after(of, UseMachine(setup="s1", machine=machine))
    assert any(f"Setup 1: machine {name} instead of" in each for each in words(of, other))
    assert any("tool none instead of" in each for each in words(of, other))
    fewer = apply(of, [RemoveSetup(setup="s2")])
    assert words(of, fewer) == ["Setup 2 is not there"]
    assert words(fewer, of)[0].startswith("Setup 2 on ")
    moved = apply(of, [MoveOperation(operation="drill", setup="s1", index=1)])
    assert words(of, moved) == ["Setup 1: Drill at place 20 instead of 60"]


def test_what_has_no_words_is_named():
    of = good()
    other = apply(
        of,
        EDITS.validate_python([{"do": "change", "on": "operation:drill", "fields": {"aim": "+z"}}]),
    )
    assert words(of, other) == ["Setup 1/60 Drill: set otherwise (aim)"]


def test_a_plan_without_a_part_is_told_as_that():
    told = compared(good(), Plan())
    assert told["curve"] == [] and told["cheaper_from"] is None
    assert told["problem"].startswith("One of them cuts nothing yet")
    assert told["sides"][1]["operations"] == 0


def test_what_was_timed_and_what_was_said_of_the_order_are_told():
    timed = changed(good(), "station:st1", load_s=33.0)
    assert words(good(), timed) == ["Setup 1: in and out by the watch 0:33 instead of not timed"]
    rule = {"first": "face", "then": "drill", "why": "as always"}
    said = changed(good(), "setup:s1", said_order=[rule])
    assert words(good(), said) == ["Setup 1: other reasons for its order are said"]


def test_blanks_out_of_remnants_are_told():
    some = good().model_copy(update={"remnants": 3})
    assert words(good(), some) == ["Remnants 3 instead of 0"]


def test_a_tool_that_is_made_first_counts_once_whatever_is_said_of_it():
    """For two operations, of which one keeps it with words."""
    library = tools_like("end-mill-12-z3", order_days=15, on_hand=0)
    of = good()
    (finding, *others) = [
        f for f in evaluate(of, library, Memo()).open if f.id == "cut.special-tool"
    ]
    assert others
    kept = apply(of, finding.fixes[-1].edits)
    told = compare(of, library, Memo(), kept.model_dump(mode="json"))
    assert [each["special"] for each in told["sides"]] == [1, 1]
    assert told["sides"][0]["looks"] == told["sides"][1]["looks"] + 1
    assert [each["special"] for each in compared(of, of)["sides"]] == [0, 0]
