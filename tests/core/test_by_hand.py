"""What hands take of a batch: parts put in, setups built, sizes measured, edges changed."""

from __future__ import annotations

from dataclasses import replace
from math import exp, log

import numpy as np
import pytest

from machining.evaluate import evaluate
from machining.facts import ledger
from machining.facts.batch import shares, skipped_s
from machining.facts.gauging import one_in
from machining.facts.route import walk
from machining.facts.times import in_last_load
from machining.motion import by_hand, spread
from machining.plan.at import Row
from machining.plan.base import ClampChange
from machining.quantities.errors import OutOfRange
from machining.world.carrier import TimedRun
from machining.world.part import Requirement

from . import lathe
from .build import GOOD, LIBRARY, MEMO, answer, changed, plan, whole, with_settings
from .clamped import ON_TABLE, held_by

SHOP = LIBRARY.settings


def figure(of, name, library=LIBRARY):
    return evaluate(of, library).figures[name].value


def taken(of, library=LIBRARY):
    facts = walk(of, library, MEMO)
    return facts, shares(facts, {each.id: ledger.of_setup(each, facts) for each in facts.setups})


# -- closed forms


def test_elements_add_up():
    assert by_hand.put_in_time(15, 3, 10, 10, 20) == 45
    assert by_hand.bar_share(120, 24) == 5
    assert by_hand.build_time(900, 600, 120, 360) == 1980
    for name, refused in ("parts", (15, 0, 1, 1, 1)), ("door", (-1, 3, 1, 1, 1)):
        with pytest.raises(OutOfRange, match=name):
            by_hand.put_in_time(*refused)


@pytest.mark.parametrize(
    ("quantity", "every", "more"), [(48, 10, 4), (1, 1, 0), (5, 1, 4), (11, 10, 1)]
)
def test_the_first_part_is_measured_and_every_so_many_after_it(quantity, every, more):
    assert by_hand.gauged(quantity, every) == more == len(range(every, quantity, every))


@pytest.mark.parametrize(
    ("words", "every"),
    [
        ("1 in 5", 5),
        ("every part", 1),
        ("every 20th", 20),
        ("One in 3", 3),
        ("", None),
        ("each shift", None),
        ("every 2 hours", None),
        ("100 %", 1),
    ],
)
def test_a_drawing_says_how_often(words, every):
    assert one_in(words) == every


def test_one_in_ten_is_over_and_one_in_ten_under():
    """Against two hundred thousand batches drawn at random, each part log-normal."""
    parts = {"machine": 300.0, "hand": 60.0, "before": 90.0}
    off = {"machine_off": 0.12, "hand_off": 0.25, "before_off": 0.35}
    rng = np.random.default_rng(7)
    drawn = np.zeros(200_000)
    for (_, mean), sd in zip(parts.items(), off.values(), strict=True):
        sigma = np.sqrt(log(1.0 + sd**2))
        drawn += mean * exp(-(sigma**2) / 2.0) * np.exp(sigma * rng.standard_normal(len(drawn)))
    low, high = np.quantile(drawn, (0.1, 0.9))
    assert spread.under(**parts, **off) == pytest.approx(low, rel=0.005)
    assert spread.over(**parts, **off) == pytest.approx(high, rel=0.005)
    still = dict.fromkeys(off, 0.0)
    assert spread.under(**parts, **still) == spread.over(**parts, **still) == 450.0
    with pytest.raises(OutOfRange, match="seconds"):
        spread.under(0.0, 0.1, 0.0, 0.1, 0.0, 0.1)


# -- putting parts in


def test_a_part_in_a_vise_of_its_elements():
    assert figure(plan(*GOOD), "s1.put_in") == 15 + 10 + 10 + 20
    three = changed(plan(*GOOD), "station:st1", at=Row(count=3, pitch_mm=150.0).model_dump())
    assert figure(three, "s1.put_in") == 15 / 3 + 10 + 10 + 20
    second = changed(plan(*GOOD), "station:st1", holding__second_mm=200.0)
    assert figure(second, "s1.put_in") == 15 + 10 + 10 + 2 * 20


def test_what_one_person_does_not_lift_goes_in_by_a_hoist():
    light = with_settings(lift_kg=0.01)
    assert figure(plan(*GOOD), "s1.put_in", light) == 15 + 150 + 10 + 20


def test_clamps_go_on_and_come_off():
    assert figure(held_by(ON_TABLE, *GOOD), "s1.closing") == (2 + 2) * 20
    first, last = GOOD[0].model_copy(update={"clamps_after": ClampChange(on=("c2",))}), GOOD[1:]
    assert figure(held_by(ON_TABLE, first, *last), "s1.closing") == (1 + 2) * 20


def test_what_was_timed_goes_before_the_shop_s_elements():
    vise = plan(*GOOD).setups[0].stations[0].holding.item
    quick = LIBRARY.holdings[vise].model_copy(update={"close_s": 4.0})
    library = replace(LIBRARY, holdings={**LIBRARY.holdings, vise: quick})
    assert figure(plan(*GOOD), "s1.put_in", library) == 15 + 10 + 10 + 4
    here = changed(plan(*GOOD), "station:st1", load_s=33.0)
    assert figure(here, "s1.put_in", library) == 33.0
    assert figure(plan(*GOOD), "s1.put_in", with_settings(load_unload_s=60.0)) == 60.0
    assert figure(lathe.plan(*lathe.GOOD), "s1.put_in", lathe.LIBRARY) == 120 / 24


# -- building


def test_what_stands_from_the_setup_before_is_not_built_again():
    """The same vise and tools twice: papers and a zero once more, nothing else."""
    twice = whole()
    holding = twice.setups[0].stations[0].holding
    alike = changed(
        twice, f"station:{twice.setups[1].stations[0].id}", holding=holding.model_dump()
    )
    facts, found = taken(alike)
    first, second = (found[each.id].built for each in facts.setups)
    assert first.holding_s == SHOP.vise_set_s and second.holding_s == 0.0 and second.standing == 1
    mine = {op.loaded.id for op in facts.setups[1].operations}
    known = {op.loaded.id for op in facts.setups[0].operations}
    assert (second.tools, second.there) == (len(mine - known), len(mine & known))
    assert second.seconds == 900 + 60 + second.tools * 120


def test_further_vises_of_a_load_are_set_to_the_first():
    four = changed(plan(*GOOD), "station:st1", at=Row(count=4, pitch_mm=150.0).model_dump())
    [found] = taken(four)[1].values()
    assert found.built.holding_s == 600 + 3 * 240 and found.built.zeros == 1
    each = changed(four, "station:st1", offset_each=True)
    assert next(iter(taken(each)[1].values())).built.zeros == 4


# -- while it runs


def test_sizes_are_measured_after_the_last_operation_that_cuts_them():
    asked = (
        Requirement(id="a", what="width", feature="outside", upper_mm=0.1, how_often="1 in 4"),
        Requirement(id="b", what="as it comes", feature="outside"),
        Requirement(id="c", what="not cut here", feature="nothing", upper_mm=0.1),
    )
    of = whole().model_copy(update={"quantity": 21})
    of = of.model_copy(update={"part": of.part.model_copy(update={"requirements": asked})})
    facts, found = taken(of)
    cuts = [
        s.id for s in facts.setups if any(op.operation.on.kind == "outside" for op in s.operations)
    ]
    assert cuts
    assert {id: each.gauged.sizes for id, each in found.items() if each.gauged.sizes} == {
        cuts[-1]: 1
    }
    share = found[cuts[-1]]
    assert (share.first, share.gauging) == (20.0, 5 * 20.0)  # parts 5, 9, 13, 17 and 21
    assert share.machine < share.machine + share.gauging  # beside the running machine
    seen = answer(of)
    assert seen.figures["plan.first_part"].value == 20.0
    assert sum(each.machine for each in found.values()) == pytest.approx(seen.batch_s)


def test_edges_are_changed_as_the_cut_as_found_wears_them():
    of = whole().model_copy(update={"quantity": 2000})
    facts, found = taken(of)
    rows = {op.id: op for each in answer(of).setups for op in each.operations}
    for setup in facts.setups:
        lives = {op.id: op.value("edge_life") for op in facts.ready() if op.station.setup is setup}
        worn = sum(2000 * rows[id].in_cut_s / 60.0 / life for id, life in lives.items() if life)
        assert found[setup.id].worn.edges == pytest.approx(worn) and worn > 1
        assert found[setup.id].edges == pytest.approx(worn * SHOP.edge_s)
        lacks = {op.loaded.id for op in facts.ready() if lives.get(op.id, 1) is None}
        assert found[setup.id].worn.unknown == len(lacks)
    assert figure(of, "plan.edges") == pytest.approx(sum(each.edges for each in found.values()))


@pytest.mark.parametrize("order", ["by tool", "by part"])
def test_a_last_load_that_is_not_full(order):
    """Four at a time, ten ordered: the third load has two. A cycle of two, by itself, is what its
    programme of the filled places takes.
    """
    at = Row(count=4, pitch_mm=150.0).model_dump()
    of = changed(plan(*GOOD, quantity=10), "station:st1", at=at)
    of = changed(of, "setup:s1", order=order)
    assert in_last_load(of.setups[0], 10) == 2 and in_last_load(of.setups[0], 12) is None
    whole_load, filled = answer(of), answer(of, with_settings(last_load="filled"))
    two = changed(of, "station:st1", at=Row(count=2, pitch_mm=150.0).model_dump())
    cycle, short = (answer(each).setups[0].cycle_s for each in (of, two))
    running = {n: v for n, v, _ in filled.figures["plan.batch"].plain[2]}["running"]
    assert running == pytest.approx(2 * cycle + short)
    assert whole_load.batch_s - filled.batch_s == pytest.approx(cycle - short)
    facts = walk(of, LIBRARY, MEMO)
    [setup] = facts.setups
    saved = skipped_s(setup, ledger.of_setup(setup, facts), facts)
    assert saved == pytest.approx(cycle - short) and 0 < saved < cycle


def test_a_machine_that_was_timed_is_off_less():
    of = plan(*GOOD)
    plain = answer(of)
    low, high = (plain.figures[f"plan.one_part_{way}"].value for way in ("under", "over"))
    assert low < plain.one_part_s < high
    sure = evaluate(of, with_settings(spread_machine=0.0, spread_hand=0.0, spread_before=0.0))
    assert sure.figures["plan.batch_under"].value == pytest.approx(sure.batch_s)
    machine = of.setups[0].machine
    runs = (TimedRun(run="x-long", repeats=10, seconds=30.0),)
    timed = LIBRARY.machines[machine].model_copy(update={"timed": runs})
    library = replace(LIBRARY, machines={**LIBRARY.machines, machine: timed})
    seen = evaluate(of, library)
    assert seen.figures["plan.one_part_over"].value < high
    assert seen.one_part_s == pytest.approx(plain.one_part_s)
