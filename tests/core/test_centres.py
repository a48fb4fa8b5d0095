"""A shaft between centres: what holds and drives it, how it bends, what is refused."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import numpy as np
import pytest
from pydantic import ValidationError

from machining.evaluate import evaluate
from machining.facts.holdings.centres import DRIVER
from machining.facts.route import walk
from machining.facts.shaft import _given, free_of
from machining.findings.finding import in_words
from machining.geometry.solids import bar, to_mesh
from machining.holding.cut import Pushes
from machining.holding.held import factor
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.holding import BetweenCentres
from machining.plan.trade import Hold
from machining.plan.turned import Profile, TurnFace, TurnFinish, TurnRough
from machining.ways.trade import structural
from machining.world.geometry import PartGeometry
from machining.world.part import Part
from machining.world.stock.shaped import Shaped
from machining.world.workholding import Driver

from . import lathe
from .build import changed

LONG, HOLE = 150.0, 6.0


def drum(diameter, holes=(True, True), over=0.0):
    """Round about Z, with a hole for a centre in either end."""
    high = LONG + over
    solid = bar(0.0, 0.0, diameter / 2.0, 0.0, high)
    if holes[0]:
        solid = solid - bar(0.0, 0.0, HOLE / 2.0, -1.0, 8.0)
    if holes[1]:
        solid = solid - bar(0.0, 0.0, HOLE / 2.0, high - 8.0, high + 1.0)
    return solid


def geometry(key, solid):
    return PartGeometry(key, to_mesh(solid), float(solid.volume()), ())


def library(holes=(True, True), **driver):
    solids = {
        "shaft": geometry("shaft", drum(30.0)),
        "raw": geometry(f"raw{holes}", drum(34.0, holes, over=1.0)),
    }
    item = lathe.LIBRARY.holdings["driver-20"].model_copy(update=driver)
    held = {**lathe.LIBRARY.holdings, "driver-20": item}
    return replace(lathe.LIBRARY, geometries=solids, holdings=held)


LIBRARY = library()
HELD = BetweenCentres(driver="driver-20", tailstock_n=4000.0)
OUTSIDE = Profile(at_mm=((0.0, 30.0), (-LONG, 30.0)))
ROUGH = TurnRough(id="rough", tool="t1", on=OUTSIDE)
FINISH = TurnFinish(id="finish", tool="t2", on=OUTSIDE)


def of(*operations, **fields):
    held = HELD.model_copy(update=fields)
    return lathe.plan(
        part=Part(geometry="shaft"),
        stock=Shaped(geometry="raw"),
        setups=(lathe.setup(*(operations or (ROUGH, FINISH)), holding=held),),
    )


def first(plan, own=LIBRARY):
    memo = lathe.MEMO if own is LIBRARY else Memo()
    return walk(plan, own, memo).operations()[0]


def test_teeth_bear_on_a_ring_and_both_centres_keep_it_on_the_axis():
    contacts = first(of()).seen.held.contacts
    low = float(first(of()).lie.stock_low[2])
    teeth = [each for each in contacts.every if each.body == DRIVER]
    assert {(round(np.hypot(*each.at[:2]), 6), each.at[2], each.normal) for each in teeth} == {
        (10.0, low, (0.0, 0.0, 1.0))
    }
    own = [each for each in contacts.every if each.body == "driver's centre"]
    assert [np.hypot(*e.at[:2]) for e in own] == pytest.approx([HOLE / 2.0] * len(own), abs=0.01)
    assert all(each.friction == 0.0 and each.normal[2] == 0.0 for each in own)
    tail = [each for each in contacts.every if each.group]
    assert sum(-each.normal[2] for each in tail) / len(tail) == pytest.approx(0.5)
    (force,) = contacts.groups.values()
    assert force * 0.5 == pytest.approx(4000.0)  # along the axis


def test_it_drives_by_what_presses_its_teeth_in():
    """A torque alone about the axis: friction of 0.6 on a ring of Ø20 under 4 kN is 24 N·m."""
    contacts = first(of()).seen.held.contacts
    contacts = replace(contacts, weight=None)
    turn = np.zeros((1, 6))
    turn[0, 5] = 1000.0 / contacts.length_mm  # 1 N·m
    stood = factor(contacts, Pushes(np.array([[0.0, 0.0, 1.0]]), turn))
    chord = 1.0 - np.cos(pi / 16.0)  # the cone of friction by 16 corners
    assert stood.factor == pytest.approx(0.6 * 4000.0 * 0.010, rel=chord + 0.01)
    twice = first(of(tailstock_n=8000.0)).seen.held.contacts
    again = factor(replace(twice, weight=None), Pushes(np.array([[0.0, 0.0, 1.0]]), turn))
    assert again.factor == pytest.approx(2.0 * stood.factor, rel=1e-6)


def test_a_cut_that_it_does_not_drive_slips_until_it_is_pressed_on_harder():
    weak = of(tailstock_n=300.0)
    found = [f for f in evaluate(weak, LIBRARY, lathe.MEMO).findings if f.id == "hold.slips"]
    assert found and "The driver stands" in in_words(found[0])
    fix = next(each for each in found[0].fixes if each.label == "Press it on with {force}")
    firmer = apply(weak, fix.edits)
    still = {f.key for f in evaluate(firmer, LIBRARY, lathe.MEMO).open if f.id == "hold.slips"}
    assert found[0].key not in still


def test_with_its_end_faced_the_centre_is_out_and_nothing_holds_it():
    facing = of(TurnFace(id="face", tool="t1"), ROUGH)
    op = first(facing)
    assert not op.stand.of("centre")
    assert "Nothing presses the part on its driver" in op.unknown["hold"]
    rough = walk(facing, LIBRARY, lathe.MEMO).operations()[1]
    assert rough.stand.of("centre") and "hold" not in rough.unknown


# -- how it bends


def test_between_centres_it_bends_as_a_beam_that_leans_at_both_ends():
    """F·a²·b²/(3·E·I·l): in its middle F·l³/(48·E·I), where one that is clamped gives half."""
    heights = np.linspace(0.0, 100.0, 61)
    radii = np.column_stack([np.zeros(60), np.full(60, 10.0)])
    inertia = pi / 4.0 * 10.0**4
    for at in (15, 30, 45):
        a, b = heights[at], 100.0 - heights[at]
        closed = 1000.0 * a**2 * b**2 / (3.0 * 200_000.0 * inertia * 100.0)
        assert _given(heights, radii, 200.0, [100.0], True)[at] == pytest.approx(closed, rel=0.01)
    clamped = 1000.0 * 7.0 * 100.0**3 / (768.0 * 200_000.0 * inertia)
    assert _given(heights, radii, 200.0, [100.0], False)[30] == pytest.approx(clamped, rel=1e-3)


def test_all_of_its_outside_is_free_and_lies_between_two_rests():
    op = first(of())
    (free,) = free_of(op)
    assert free.between
    assert free.long == pytest.approx(LONG + 1.0, abs=0.5)
    finish = walk(of(), LIBRARY, lathe.MEMO).operations()[1]
    assert finish.value("part_bends") > 0.0
    assert "hold.jaw-in-cut" not in {f.id for f in evaluate(of(), LIBRARY, lathe.MEMO).findings}


# -- what is refused


@pytest.mark.parametrize(
    ("own", "said"),
    [
        (library(holes=(False, True)), "centre hole at the driven end is 0"),
        (library(from_mm=40.0), "driven end is 34"),
    ],
)
def test_an_end_it_does_not_drive_is_refused(own, said):
    assert said in first(of(), own).station.unknown["hold"]


def test_without_a_hole_at_its_free_end_no_centre_is_in():
    own = library(holes=(True, False))
    assert not first(of(), own).stand.of("centre")
    told = evaluate(of(), own, Memo())
    assert "hold.no-centre" in {f.id for f in told.findings}


def test_a_driver_whose_teeth_lie_beside_the_part_is_none():
    good = lathe.LIBRARY.holdings["driver-20"].model_dump()
    for fields in ({"teeth_mm": 30.0}, {"centre_mm": 25.0}, {"to_mm": 10.0}):
        with pytest.raises(ValidationError, match="each must be over"):
            Driver(**{**good, **fields})


def test_it_is_offered_and_taken_for_what_has_both_holes():
    chucked = lathe.plan(
        part=Part(geometry="shaft"), stock=Shaped(geometry="raw"), setups=(lathe.setup(ROUGH),)
    )
    edits = structural(chucked, LIBRARY, lathe.MEMO, [Hold(station="st1", item="driver-20")])
    held = apply(chucked, tuple(edits)).setups[0].stations[0].holding
    assert (held.kind, held.driver) == ("centres", "driver-20")
    assert held.tailstock_n == pytest.approx(4000.0)
    assert changed(of(), "station:st1", holding__limit_rpm=800.0).setups[0].stations[0].holding
