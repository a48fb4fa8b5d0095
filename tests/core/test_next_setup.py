"""What a setup leaves the next one to find the part by; a Z zero on the wrong side of a face."""

from __future__ import annotations

import pytest

from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.operation import Face
from machining.plan.zero import From, in_the_middle

from . import lathe
from .build import (
    DRILL,
    FACE,
    LIBRARY,
    POCKET,
    STOPPED,
    after_fix,
    answer,
    changed,
    finding,
    ids,
    plan,
    setup,
    turned_over,
    whole,
)
from .test_turned_axis import LIBRARY as SLEEVES
from .test_turned_axis import OUTSIDE, sleeve

LOSES, WRONG_WAY = "hold.loses-datum", "route.zero-direction"
ON_HOLE = From(of="hole", feature="hole0")
FOOT = Face(id="foot", tool="t1", step_over_mm=35.0)


def two_sides(*first, **second):
    """Cut from above by these operations, turned over onto a zero on the blank."""
    other = {"holding": STOPPED, "zero": in_the_middle("stock", top="stock"), **second}
    return plan(setups=(setup(*first), turned_over(FOOT, **other)))


def test_nothing_that_was_cut_finds_the_part_in_the_next_setup():
    found = finding(two_sides(POCKET), LOSES)
    assert (found.setup, found.station, found.severity) == ("s1", "st1", "look")
    assert found.values["setup"].value == "2"


@pytest.mark.parametrize(
    ("first", "second"),
    [
        ((FACE, POCKET), {}),  # it lies on the face
        (
            (POCKET, DRILL),
            {
                "zero": in_the_middle("stock").model_copy(
                    update={"x": From(of="hole", feature="hole0")}
                )
            },
        ),
        ((), {}),  # nothing is cut there
    ],
)
def test_one_cut_surface_is_enough_to_find_it_by(first, second):
    assert LOSES not in ids(two_sides(*first, **second))
    assert LOSES not in ids(whole())


def test_a_hole_that_was_drilled_is_offered_and_words_keep_it():
    of = two_sides(POCKET, DRILL)
    found = finding(of, LOSES)
    on_hole = after_fix(of, found)
    zero = on_hole.setups[1].stations[0].zero
    assert zero.x.of == zero.y.of == "hole" and LOSES not in ids(on_hole)
    kept = after_fix(of, found, -1)
    assert LOSES not in ids(kept)
    assert LOSES in {each.id for each in answer(kept).findings if each.kept}


@pytest.mark.parametrize(("turned", "told"), [((), 1), ((OUTSIDE,), 0)])
def test_a_bar_gripped_again_as_it_came_loses_its_axis(turned, told):
    """Turned at one end; for the other the chuck grips the drawn bar, or what was turned."""
    second = "chuck-200-soft" if turned else "chuck-200"
    found = evaluate(sleeve(*turned, second=second), SLEEVES, Memo()).findings
    assert [each.id for each in found].count(LOSES) == told


def test_what_is_held_is_what_the_setup_before_left():
    """Stock is carried and not typed: it can't differ from what is drawn, wherever it lies."""
    stations = walk(whole(), LIBRARY, Memo()).stations
    (first, second) = stations
    assert second.arrives.volume() == pytest.approx(first.leaves.volume(), rel=1e-9)
    apart = second.arrives.in_part().solid - first.leaves.in_part().solid
    assert abs(float(apart.volume())) < 1e-3
    for each in stations:
        low, high = each.arrives.bounds()
        assert (each.lie.stock_low, each.lie.stock_high) == (
            pytest.approx(low, abs=1e-6),
            pytest.approx(high, abs=1e-6),
        )


def z_zero(off, of="part", at="high"):
    taken = From(of=of, at=at, off_mm=off)
    return changed(whole(), "station:st1", **{"zero.z": taken.model_dump(mode="json")})


@pytest.mark.parametrize(
    ("off", "severity"),
    [
        (20.0, "stop"),  # 20 down is the bottom of the part
        (8.2, "look"),  # nothing is 8.2 down
        (1.0, None),  # the blank's top
        (-20.0, None),  # the bottom
        (-11.0, None),  # inside of the stock
    ],
)
def test_z_zero_so_far_from_the_top_of_a_part_20_high_under_1_of_stock(off, severity):
    found = [each.severity for each in answer(z_zero(off)).findings if each.id == WRONG_WAY]
    assert found == ([severity] if severity else [])


def test_below_the_stock_it_is_told_too_and_the_other_way_is_offered():
    of = z_zero(-20.0, at="low")
    found = finding(of, WRONG_WAY)
    assert found.severity == "stop" and found.values["beyond"].value == pytest.approx(12.0)
    after = after_fix(of, found)
    assert after.station("st1").zero.z.off_mm == 20.0 and WRONG_WAY not in ids(after)


def test_a_zero_on_purpose_in_the_air_keeps_its_words():
    of = z_zero(30.0)
    found = finding(of, WRONG_WAY)
    assert [each.label for each in found.fixes][:2] == [
        "As far the other way",
        "On the face itself",
    ]
    assert WRONG_WAY not in ids(after_fix(of, found, -1))


def test_a_shoulder_of_a_turned_part_measured_from_its_free_end():
    """22 from the free end towards the chuck; towards the tail it is in the air."""
    told = []
    for off in (22.0, -22.0):
        taken = From(of="part", at="high", off_mm=off).model_dump(mode="json")
        on = {"zero.z": taken}
        of = changed(lathe.plan(*lathe.GOOD), "station:st1", **on)
        told += [[each for each in lathe.answer(of).findings if each.id == WRONG_WAY]]
    (wrong,), right = told
    assert wrong.severity == "stop" and not right
    assert "towards the tail from the free end" in wrong.message
