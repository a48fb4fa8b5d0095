"""Machines that wait for somebody, by hand, and as the flow where there is one at each."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.motion import attended as module
from machining.motion.attended import Attended, attended, machines_for_one
from machining.motion.flow import Step, flow
from machining.quantities.errors import OutOfRange


def step(machine: str, each: float, hand: float, **more) -> Step:
    return Step(machine, more.pop("build", 0.0), 0.0, each, hand_s=hand, **more)


def test_one_person_at_two_machines_that_need_little():
    """10 by hand, 30 by itself. The first cycles are watched to their ends, 0 to 40 and 40 to 80;
    from then on the two take turns and nobody waits: a ends at 80 + 4·40, b a little later.
    """
    a, b = attended([step("a", 40.0, 10.0), step("b", 40.0, 10.0)], 5, 1)
    # a is ready at 40, but somebody stands at b until 80
    assert a == Attended(0.0, 80.0 + 4 * 40.0, 0.0, 40.0)
    # b is ready at 80, when a is put in first, until 90
    assert b == Attended(40.0, 90.0 + 4 * 40.0, 0.0, 10.0)


def test_one_person_at_two_machines_that_need_much():
    """30 by hand, 20 by itself: 60 for a pair of parts, more than the 50 of one."""
    a, b = attended([step("a", 50.0, 30.0), step("b", 50.0, 30.0)], 4, 1)
    # watched to 50 and 100; then by hand a 100-130, b 130-160, a 160-190, b -220, a -250, b -280
    assert (a.ends_s, b.ends_s) == (250.0 + 20.0, 280.0 + 20.0)
    assert a.alone_s == 50.0 + 10.0 + 10.0


def test_what_is_done_beside_a_machine_keeps_somebody_from_the_other():
    plain = attended([step("a", 40.0, 10.0), step("b", 40.0, 10.0)], 50, 1)
    gauged = attended([step("a", 40.0, 10.0, beside_s=25.0), step("b", 40.0, 10.0)], 50, 1)
    assert gauged[1].ends_s > plain[1].ends_s and gauged[1].alone_s > plain[1].alone_s


def test_two_build_at_the_same_time_and_one_after_the_other():
    steps = [step("a", 10.0, 0.0, build=100.0), step("b", 10.0, 0.0, build=60.0)]
    assert [each.starts_s for each in attended(steps, 1, 2)] == [100.0, 60.0]
    assert [each.starts_s for each in attended(steps, 1, 1)] == [160.0, 170.0]


STEPS = st.lists(
    st.tuples(
        st.sampled_from("abc"),
        st.floats(0, 50),
        st.floats(0, 20),
        st.floats(0.5, 90),
        st.floats(0, 1),
        st.integers(1, 5),
        st.integers(0, 1),
        st.booleans(),
    ),
    min_size=1,
    max_size=4,
)


def steps_of(rows):
    return [
        Step(m, build, prove, each, parts, late, (k - 1,) if k and on else (), (), share * each)
        for k, (m, build, prove, each, share, parts, late, on) in enumerate(rows)
    ]


@given(STEPS, st.integers(1, 30))
def test_property_with_one_at_each_machine_nobody_is_waited_for(rows, quantity):
    steps = steps_of(rows)
    for of, run in zip(attended(steps, quantity, 3), flow(steps, quantity), strict=True):
        assert of.ends_s == pytest.approx(run.ends_s, abs=1e-6)
        assert of.starts_s == pytest.approx(run.starts_s, abs=1e-6)
        assert of.waits_s == pytest.approx(run.waits_s, abs=1e-6)
        assert of.alone_s == pytest.approx(0.0, abs=1e-6)


@given(STEPS, st.integers(1, 30))
def test_property_one_person_is_not_at_two_machines(rows, quantity):
    """All that needs somebody fits between the beginning and the end; what ends is no sooner than
    with one at each.
    """
    steps = steps_of(rows)
    seen = attended(steps, quantity, 1)
    hands = sum(
        each.build_s
        + each.each_s
        + each.prove_s
        + each.hand_s * (-(-quantity // each.parts) + each.late - 1)
        for each in steps
    )
    assert max(each.ends_s for each in seen) >= hands - 1e-6
    assert max(e.ends_s for e in seen) >= max(e.ends_s for e in flow(steps, quantity)) - 1e-6


def test_many_more_are_told_from_some(monkeypatch):
    steps = [step("a", 50.0, 30.0, build=100.0), step("b", 45.0, 20.0, takes=(0,))]
    exact = attended(steps, 2000, 1)
    monkeypatch.setattr(module, "MOST_CYCLES", 400)
    for of, told in zip(exact, attended(steps, 2000, 1), strict=True):
        assert told.ends_s == pytest.approx(of.ends_s, rel=1e-3)
        assert told.alone_s == pytest.approx(of.alone_s, rel=2e-2, abs=1.0)


def test_how_many_machines_one_person_keeps_running():
    assert machines_for_one(100.0, 30.0) == 3 and machines_for_one(90.0, 30.0) == 3
    assert machines_for_one(100.0, 0.0) is None and machines_for_one(40.0, 40.0) == 1
    with pytest.raises(OutOfRange, match="hand_s"):
        machines_for_one(10.0, 11.0)
    with pytest.raises(OutOfRange, match="people"):
        attended([step("a", 1.0, 0.0)], 1, 0)
    with pytest.raises(OutOfRange, match="hand_s"):
        attended([step("a", 1.0, 2.0)], 1, 1)
