"""A batch over several machines, by hand and against the same counted cycle by cycle."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.ask.quantities import quantities
from machining.facts import ledger
from machining.facts.batch import shares
from machining.facts.flows import bottleneck, steps_of
from machining.facts.route import walk
from machining.motion.flow import Run, Step, flow
from machining.plan.apply import apply
from machining.plan.trade import UseMachine
from machining.quantities.errors import OutOfRange
from machining.ways.trade import structural

from .build import LIBRARY, MEMO, answer, whole, with_settings


def step(machine: str, each: float, takes: tuple[int, ...] = (), **more) -> Step:
    return Step(machine, more.pop("build", 0.0), more.pop("prove", 0.0), each, takes=takes, **more)


def test_the_slower_one_after_the_quicker():
    """Ten parts of 60 and 100 s: the first waits 60 s for its part, then goes through."""
    assert flow([step("a", 60.0), step("b", 100.0, (0,))], 10) == [
        Run(0.0, 600.0, 0.0),
        Run(60.0, 1060.0, 0.0),
    ]


def test_the_quicker_one_after_the_slower_waits_for_every_part():
    """It stands 40 s after each of its parts but the last."""
    assert flow([step("a", 100.0), step("b", 60.0, (0,))], 10)[1] == Run(100.0, 1060.0, 360.0)


def test_a_load_that_is_not_full():
    """Ten parts, four at a time in 200 s, then one by one in 60: 200 + 4·60, 4·60, 2·60."""
    seen = flow([step("a", 200.0, parts=4), step("b", 60.0, (0,))], 10)
    assert seen == [Run(0.0, 600.0, 0.0), Run(200.0, 800.0, 0.0)]


def test_on_one_machine_they_come_one_after_the_other():
    """Built anew for the second side, its first cycle slower: 100 + 300 + (100 + 20 + 300)."""
    seen = flow([step("a", 30.0, build=100.0), step("a", 30.0, (0,), build=100.0, prove=20.0)], 10)
    assert seen == [Run(100.0, 400.0, 0.0), Run(500.0, 820.0, 0.0)]


def test_what_goes_away_comes_back_all_at_once():
    seen = flow([step("a", 60.0), step("b", 10.0, whole=(0,))], 10)
    assert seen[1] == Run(600.0, 700.0, 0.0)


def test_a_part_that_goes_round_in_a_setup_comes_out_a_cycle_later():
    seen = flow([step("a", 50.0, late=1), step("b", 10.0, (0,))], 4)
    assert seen[0].ends_s == 250.0 and seen[1].starts_s == 100.0


def test_no_step_takes_from_one_after_it_or_takes_no_time_back():
    with pytest.raises(OutOfRange, match="takes"):
        flow([step("a", 1.0, (1,)), step("b", 1.0)], 2)
    with pytest.raises(OutOfRange, match="each_s"):
        flow([step("a", -1.0)], 2)


@given(
    st.lists(
        st.tuples(
            st.sampled_from("ab"),
            st.floats(0, 50),
            st.floats(0, 20),
            st.floats(0.5, 90),
            st.integers(1, 5),
            st.integers(0, 1),
        ),
        min_size=1,
        max_size=4,
    ),
    st.integers(1, 30),
)
def test_property_it_is_what_is_counted_cycle_by_cycle(rows, quantity):
    steps = [
        Step(m, build, prove, each, parts, late, (k - 1,) if k else ())
        for k, (m, build, prove, each, parts, late) in enumerate(rows)
    ]
    free, come = {"a": 0.0, "b": 0.0}, [0.0] * quantity
    for of, run in zip(steps, flow(steps, quantity), strict=True):
        at, out, put_in, cycle = free[of.machine] + of.build_s, [], 0, 0
        while len(out) < quantity:
            put_in = min(put_in + of.parts, quantity)
            at = max(at, come[put_in - 1]) + of.each_s + (of.prove_s if cycle == 0 else 0.0)
            if cycle >= of.late:
                out += [at] * min(of.parts, quantity - len(out))
            cycle += 1
        free[of.machine], come = at, out
        assert run.ends_s == pytest.approx(at)
        assert run.waits_s >= -1e-6


def two_machines():
    of = whole()
    return apply(of, structural(of, LIBRARY, MEMO, [UseMachine(setup="s2", machine="curlew")]))


def test_a_plan_on_one_machine_takes_what_its_batch_says():
    facts = walk(whole(), LIBRARY, MEMO)
    taken = shares(facts, {each.id: ledger.of_setup(each, facts) for each in facts.setups})
    steps = steps_of(facts, taken)
    assert flow(steps, whole().quantity)[-1].ends_s == pytest.approx(answer(whole()).batch_s)


def test_two_machines_are_done_sooner_and_one_of_them_is_the_bottleneck():
    of = two_machines()
    facts = walk(of, LIBRARY, MEMO)
    taken = shares(facts, {each.id: ledger.of_setup(each, facts) for each in facts.setups})
    steps, batch = steps_of(facts, taken), answer(of).batch_s
    ends = flow(steps, of.quantity)[-1].ends_s
    longest = max(share.machine for share in taken.values())
    assert longest < ends < batch
    told = quantities(of, LIBRARY, MEMO)["at_once"]
    assert told["ends_with_enough_s"] == pytest.approx(ends) and told["people"] == 1
    assert told["bottleneck"] == of.setups[0].machine
    assert ends < told["ends_s"] < batch  # one person at both
    assert any(each["alone_s"] > 0 for each in told["runs"])
    two = quantities(of, with_settings(people=2), MEMO)["at_once"]
    assert two["ends_s"] == pytest.approx(ends)
    assert [each["setup"] for each in told["runs"]] == ["s1", "s2"]
    assert quantities(whole(), LIBRARY, MEMO)["at_once"] is None
    assert bottleneck(steps, of.quantity) == of.setups[0].machine
