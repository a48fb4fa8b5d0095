"""A tailstock and a steady: when they are in, what they carry, how much less the part bends."""

from __future__ import annotations

from math import pi

import numpy as np
import pytest

from machining.facts.holdings import rests
from machining.facts.route import walk
from machining.facts.shaft import free_of
from machining.holding.shaft import gives
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.turned import Profile, TurnFinish, TurnRough
from machining.world.stock.base import Side

from .lathe import CHUCK, FACE, LIBRARY, MEMO, STOCK, answer, ids, plan, setup

CENTRE = Drill(
    id="centre",
    tool="t7",
    on=Points(at_mm=((0.0, 0.0),), diameter_mm=12.0, depth_mm=8.0),
)
LONG = Profile(at_mm=((0.0, 30.0), (-32.0, 30.0)))
ROUGH = TurnRough(id="rough", tool="t1", on=LONG)
FINISH = TurnFinish(id="finish", tool="t2", on=LONG)
EVERY = (FACE, CENTRE, ROUGH, FINISH)
E = 200.0


def long_bar(*operations, longer=200.0, over=1.0, **holding):
    stock = STOCK.model_copy(update={"low": Side(over_mm=longer), "high": Side(over_mm=over)})
    held = CHUCK.model_copy(update={"grip_mm": 20.0, **holding})
    return plan(stock=stock, setups=(setup(*(operations or EVERY), holding=held),))


def ops(of):
    return {op.id: op for op in walk(of, LIBRARY, MEMO).operations()}


def beam(long, radius, rest=(), inner=0.0, pieces=60):
    heights = np.linspace(0.0, long, pieces + 1)
    full = np.full(pieces, radius)
    return gives(heights, full, np.full(pieces, inner), E, rest)


# -- the beam


def test_a_bar_that_stands_out_by_hand():
    """F·l³/(3·E·I), and F·a²·(3·l − a)/(6·E·I) nearer: here where it is pushed, a³/3."""
    inertia = pi / 4.0 * 10.0**4
    found = beam(120.0, 10.0)
    assert found[-1] == pytest.approx(1000.0 * 120.0**3 / (3.0 * E * 1000.0 * inertia), rel=1e-6)
    assert found[30] == pytest.approx(1000.0 * 60.0**3 / (3.0 * E * 1000.0 * inertia), rel=1e-6)


def test_between_grip_and_centre_by_hand():
    """Clamped and carried, pushed in the middle: 7·F·l³/(768·E·I); nothing at the centre."""
    inertia = pi / 4.0 * 10.0**4
    found = beam(120.0, 10.0, (120.0,))
    middle = 7.0 * 1000.0 * 120.0**3 / (768.0 * E * 1000.0 * inertia)
    assert found[30] == pytest.approx(middle, rel=1e-6) and found[-1] == 0.0


def test_a_steady_in_the_middle_stiffens_and_a_tube_gives_more():
    free, steadied = beam(120.0, 10.0), beam(120.0, 10.0, (60.0,))
    assert steadied[-1] < 0.3 * free[-1] and steadied[30] == 0.0
    assert beam(120.0, 10.0, inner=8.0)[-1] == pytest.approx(free[-1] / (1.0 - 0.8**4), rel=1e-6)


# -- when the centre is in


def test_the_centre_is_in_once_its_hole_is_there_and_out_for_the_end():
    of = long_bar(tailstock_n=1500.0)
    known = {id: bool(op.stand.of("centre")) for id, op in ops(of).items()}
    assert known == {"face": False, "centre": False, "rough": True, "finish": True}
    assert "hold.no-centre" not in ids(of)


def test_without_a_hole_it_never_is_and_that_is_a_stop():
    of = long_bar(FACE, ROUGH, FINISH, tailstock_n=1500.0)
    (told,) = [each for each in answer(of).findings if each.id == "hold.no-centre"]
    assert told.severity == "stop"
    assert "hold.no-centre" not in ids(apply(of, told.fixes[0].edits))


def test_a_bore_wider_than_the_centre_is_none():
    half = walk(long_bar(), LIBRARY, MEMO).operations()[2].before.half_section()
    assert rests.has_centre(half, 56.0) and not rests.has_centre(half, 14.0)


@pytest.mark.parametrize(
    ("holding", "words"),
    [
        ({"tailstock_n": 9000.0}, "up to 8000 N"),
        ({"steady_mm": 500.0}, "half its rollers before the end"),
    ],
)
def test_what_the_machine_has_not_is_not_held(holding, words):
    of = long_bar(**holding)
    assert words in walk(of, LIBRARY, MEMO).stations[0].unknown["hold"]


def test_a_machine_without_one_says_so():
    from dataclasses import replace

    plover = LIBRARY.machines["plover"]
    bare = plover.places[0].model_copy(update={"tailstock_n": None, "steady_to_mm": None})
    machine = plover.model_copy(update={"places": (bare, *plover.places[1:])})
    library = replace(LIBRARY, machines={**LIBRARY.machines, "plover": machine})
    for holding, words in (
        ({"tailstock_n": 900.0}, "no tailstock"),
        ({"steady_mm": 80.0}, "no steady"),
    ):
        station = walk(long_bar(**holding), library, MEMO).stations[0]
        assert words in station.unknown["hold"]


# -- what they carry


def test_what_stands_out_is_told_between_its_rests():
    free, centred = ops(long_bar())["finish"], ops(long_bar(tailstock_n=1500.0))["finish"]
    (out,) = free_of(free)
    (between,) = free_of(centred)
    assert (out.between, between.between) == (False, True)
    assert out.long == pytest.approx(between.long, abs=0.1)
    told = [
        ids(long_bar(CENTRE, ROUGH, FINISH, longer=150.0, over=0.0, **each))
        for each in ({}, {"tailstock_n": 1500.0})
    ]
    assert "hold.overhang" in told[0] - told[1]
    assert "hold.overhang" in ids(long_bar(longer=150.0, tailstock_n=1500.0))  # it is faced first


def test_a_steady_cuts_it_in_two():
    first, then = free_of(ops(long_bar(steady_mm=100.0))["finish"])
    whole = free_of(ops(long_bar())["finish"])[0].long
    assert first.long == pytest.approx(100.0) and first.between
    assert then.long == pytest.approx(whole - 100.0) and not then.between


def test_the_finish_bends_it_less_and_the_tailstock_is_offered():
    bare, centred = (
        long_bar(CENTRE, ROUGH, FINISH, longer=150.0, over=0.0, **each)
        for each in ({}, {"tailstock_n": 1500.0})
    )
    free, less = (ops(of)["finish"].value("part_bends") for of in (bare, centred))
    assert less < 0.2 * free
    (told,) = [each for each in answer(bare).findings if each.id == "hold.overhang"]
    (fix,) = [each for each in told.fixes if "tailstock" in each.label]
    mended = ids(apply(bare, fix.edits))
    assert "hold.overhang" not in mended and mended - ids(bare) <= {"hold.rest-in-cut"}


def test_it_holds_far_more_against_a_push_from_the_side():
    free, centred = (ops(long_bar(**each))["rough"] for each in ({}, {"tailstock_n": 1500.0}))
    assert centred.value("holding") > 1.5 * free.value("holding")


def test_a_centre_presses_along_the_axis_with_what_it_is_pressed_in_with():
    """Round a hole of 12; to the side it carries no more than 1.73 times that."""
    held = ops(long_bar(tailstock_n=1500.0))["rough"].seen.held.contacts
    cone = [each for each in held.every if each.group == rests.TAIL]
    assert {round(float(np.hypot(*each.at[:2])), 2) for each in cone} == {6.0}
    total = held.groups[rests.TAIL]
    assert {round(-each.normal[2] * total, 6) for each in cone} == {1500.0}
    most = max(each.normal[0] for each in cone) * total
    assert most == pytest.approx(1500.0 * 3.0**0.5)


def test_beside_a_thick_centre_it_is_told_that_nobody_looked():
    """Ø30 is turned up to the end, and Plover's centre is Ø56 behind its point."""
    of = long_bar(tailstock_n=1500.0)
    told = [each for each in answer(of).findings if each.id == "hold.rest-in-cut"]
    assert {each.operation for each in told} == {"rough", "finish"}
    assert all(each.severity == "look" for each in told)
    kept = apply(of, told[0].fixes[0].edits)
    again = [each for each in answer(kept).findings if each.id == "hold.rest-in-cut"]
    assert [bool(each.kept) for each in again].count(True) == 1


def test_a_steady_runs_on_what_is_round():
    from machining.world.stock import Hexagon

    hexagon = Hexagon(across_mm=50.0, low=Side(over_mm=200.0), high=Side(over_mm=1.0))
    of = long_bar(steady_mm=100.0, jaw_angle_deg=0.0).model_copy(update={"stock": hexagon})
    assert "where the part is round" in walk(of, LIBRARY, MEMO).stations[0].unknown["hold"]


def test_cutting_where_the_steady_stands_is_a_stop():
    of = long_bar(steady_mm=100.0)
    assert "hold.rest-in-cut" not in ids(of)
    far = long_bar(steady_mm=205.0)
    told = [each for each in answer(far).findings if each.id == "hold.rest-in-cut"]
    assert told and all(each.severity == "stop" for each in told)


def test_an_operation_that_is_added_later_finds_its_tailstock_too():
    """What is kept of a station knows which operations it was worked out for."""
    memo = Memo()
    walk(long_bar(FACE, CENTRE, ROUGH, tailstock_n=1500.0), LIBRARY, memo)
    later = walk(long_bar(FACE, CENTRE, ROUGH, FINISH, tailstock_n=1500.0), LIBRARY, memo)
    assert [bool(op.stand.of("centre")) for op in later.operations()] == [False, False, True, True]
