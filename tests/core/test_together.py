"""Edits of two people: what doesn't meet can go in either order; what can't is told. And one memo
for many threads.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import is_prepared

from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.geometry.regions import asked_often, disc
from machining.geometry.solids import block, to_mesh, top_surface
from machining.memo import Memo
from machining.motion.paths.clearing import fronts
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import (
    Change,
    DuplicateOperation,
    Edit,
    FlipStation,
    RemoveOperation,
    RemoveSetup,
    SetStock,
)
from machining.plan.touches import meet

from .build import GOOD, LIBRARY, STOCK, changed, good, plan, setup, turned_over

BASE = plan(setups=(setup(*GOOD), turned_over()))
IDS = [op.id for op in GOOD]
LINES = st.text(st.characters(exclude_categories=("Cc", "Cs", "Zl", "Zp")), max_size=12)
FIELDS = {
    "rpm": st.floats(500, 9000),
    "feed_mm_min": st.floats(100, 3000),
    "coolant": st.sampled_from(["air", "none"]),
    "stop_after": LINES,
}


@st.composite
def an_edit(draw) -> Edit:
    kind = draw(
        st.sampled_from(
            ["field", "field", "field", "tool", "setup", "plan", "flip", "remove", "copy", "stock"]
        )
    )
    if kind == "field":
        name = draw(st.sampled_from(sorted(FIELDS)))
        return Change(
            on=f"operation:{draw(st.sampled_from(IDS))}", fields={name: draw(FIELDS[name])}
        )
    if kind == "tool":
        return Change(
            on=f"tool:t{draw(st.integers(1, 6))}", fields={"stick_out_mm": draw(st.floats(20, 60))}
        )
    if kind == "setup":
        return Change(
            on=f"setup:{draw(st.sampled_from(['s1', 's2']))}", fields={"note": draw(LINES)}
        )
    if kind == "plan":
        return Change(on="plan", fields={"quantity": draw(st.integers(1, 500))})
    if kind == "flip":
        return FlipStation(station=draw(st.sampled_from(["st1", "st2"])), about="x")
    if kind == "remove":
        return RemoveOperation(operation=draw(st.sampled_from(IDS)))
    if kind == "copy":
        return DuplicateOperation(
            operation=draw(st.sampled_from(IDS)), new_id=f"copy{draw(st.integers(0, 10**6))}"
        )
    return SetStock(stock=STOCK.model_copy(update={"saw_tolerance_mm": draw(st.floats(0, 2))}))


def both(first: Edit, second: Edit) -> Plan | None:
    try:
        return apply(apply(BASE, [first]), [second])
    except EditRefused:
        return None


@given(an_edit(), an_edit())
def test_property_edits_that_do_not_meet_go_in_either_order(mine, theirs):
    assume(not meet([mine], [theirs]))
    one, other = both(mine, theirs), both(theirs, mine)
    assert one is not None
    assert one == other


@given(an_edit(), an_edit())
def test_property_meeting_is_mutual(mine, theirs):
    assert bool(meet([mine], [theirs])) == bool(meet([theirs], [mine]))


@given(an_edit())
def test_property_every_edit_meets_itself(edit):
    assert meet([edit], [edit])


def test_two_copies_under_one_name_meet():
    first, second = (DuplicateOperation(operation=id, new_id="copy") for id in ("face", "rough"))
    assert meet([first], [second]) == {"operation:copy"}
    assert not meet([first], [second.model_copy(update={"new_id": "other"})])


def test_a_removed_setup_meets_what_happens_in_it():
    gone = RemoveSetup(setup="s2")
    assert meet([gone], [Change(on="setup:s2", fields={"note": "x"})])
    assert not meet([gone], [Change(on="setup:s1", fields={"note": "x"})])


def test_threads_share_a_memo_without_mixing_answers():
    """Four plans answered at once by four threads with one small memo: each gets its own answer."""
    plans = [changed(good(), "operation:rough", step_over_mm=1.0 + 0.3 * k) for k in range(4)]
    alone = [to_bytes(evaluate(each, LIBRARY)) for each in plans]
    memo, start = Memo(40), Barrier(4)

    def answer(each: Plan) -> list[bytes]:
        start.wait()
        return [to_bytes(evaluate(each, LIBRARY, memo)) for _ in range(2)]

    with ThreadPoolExecutor(4) as pool:
        together = list(pool.map(answer, plans))
    for mine, expected in zip(together, alone, strict=True):
        assert mine == [expected] * 2


def test_what_fails_to_be_made_is_not_kept():
    memo = Memo()
    tries: list[int] = []

    def make() -> int:
        tries.append(1)
        if len(tries) == 1:
            raise ValueError("first time")
        return 7

    for _ in range(3):
        try:
            assert memo.get("key", make) == 7
        except ValueError:
            continue
    assert len(tries) == 2


def test_what_the_memo_keeps_of_an_equal_plan_read_again_is_the_same_tool():
    """A tool out too far is told once, also where one of its operations comes from the memo."""
    memo, plan = Memo(), changed(good(), "tool:t3", stick_out_mm=48.0)
    evaluate(plan, LIBRARY, memo)
    again = Plan.model_validate(plan.model_dump())
    other = changed(again, "operation:walls", width_mm=0.25)
    found = [f.operation for f in evaluate(other, LIBRARY, memo).findings]
    assert found == [f.operation for f in evaluate(other, LIBRARY).findings]
    told = [f for f in evaluate(other, LIBRARY, memo).findings if f.id == "reach.stick-out-long"]
    assert len(told) == 1


def test_a_region_that_is_asked_often_is_a_copy():
    """An index is built by the first questions: two threads asking one region would both build."""
    shared = disc(0.0, 0.0, 10.0)
    own = asked_often(shared)
    assert is_prepared(own) and not is_prepared(shared) and own.equals_exact(shared)
    surface = top_surface(to_mesh(block(np.zeros(3), np.array([30.0, 30.0, 5.0]))))
    assert surface.highest_within(shared) == 5.0
    assert list(fronts(shared, disc(0.0, 0.0, 5.0), shared, 5.0, 1.0))
    assert not is_prepared(shared)
