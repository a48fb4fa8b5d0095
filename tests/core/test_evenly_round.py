"""Flats and holes evenly round an axis: found as one, offered as one, changed as one, cut alike by
index, and none of what is left of them hides.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from itertools import count
from math import acos, cos, pi, sin

import pytest

from machining.evaluate import evaluate
from machining.facts.evenly_round import evenly_round
from machining.facts.left import left_over
from machining.facts.route import walk
from machining.geometry.laid import laid
from machining.geometry.solids import volume
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import (
    AddOperation,
    AddSetup,
    Change,
    DuplicateOperation,
    MoveOperation,
    SetStock,
)
from machining.plan.holding import InChuck
from machining.plan.operation import RoughPocket
from machining.ways.offers import offers
from machining.world.geometry import from_examined
from machining.world.stock import Round
from machining.world.stock.base import Side
from shop.demo import hub as demo
from tools.demo_parts import box, cut, drum, hub, turned

from .by_offers import begun
from .lathe import LIBRARY
from .shapes_in_step import hexagon
from .shapes_in_step import read as step

MEMO = Memo()
HOLD = InChuck(chuck="chuck-200", grip_mm=30.0, force_per_jaw_n=22000.0, jaw_angle_deg=30.0)


@cache
def bolt():
    """Ø50 x 40 with a hexagon of 41 across over its last 15."""
    away = [turned(box(20.5, -40, 25, 40, 80, 40), 60 * k, (0, 0, 1)) for k in range(6)]
    plan, library = begun(step(cut(drum(0, 0, 0, 50, 40), *away)), "bolt", MEMO)
    bar = Round(diameter_mm=50.0, low=Side(over_mm=54.0), high=Side(over_mm=0.0))
    edits = [
        SetStock(stock=bar),
        Change(on="setup:s1", fields={"machine": "gannet"}),
        Change(on="station:st1", fields={"place": "main", "holding": HOLD.model_dump()}),
    ]
    return apply(plan, edits), library


@cache
def planned_hub():
    geometry = from_examined("hub", laid(step(hub())))
    return demo.draft(geometry, "hub"), replace(LIBRARY, geometries={"hub": geometry})


def offered(plan, library, words):
    facts = walk(plan, library, MEMO)
    fresh = (f"n{k}" for k in count()).__next__
    return [each for each in offers(facts.stations[0], facts, fresh) if words in each.group]


def test_six_flats_of_a_hexagon_are_one_set():
    _, library = bolt()
    (found,) = evenly_round(library.geometries["bolt"])
    assert (found.axis, len(found.each), found.are_holes) == ("z", 6, False)
    assert found.out_mm == pytest.approx(20.5)
    assert {aim for _, aim in found.each} >= {"+x", "-x"}  # the others have no side's name


def test_three_flats_and_three_holes_are_two_sets():
    _, library = planned_hub()
    flats, holes = evenly_round(library.geometries["hub"])
    assert (len(flats.each), flats.out_mm) == (3, pytest.approx(15.5, abs=0.02))
    assert (len(holes.each), holes.are_holes) == (3, True)
    assert holes.first.diameter_mm == pytest.approx(6.8)


@pytest.mark.parametrize(
    "shape",
    [
        hexagon(24, 0, 30),  # a bar's outline, not cut from a round
        cut(drum(0, 0, 0, 50, 40), box(20.5, -40, 25, 40, 80, 40)),  # one alone
        cut(  # two that are not alike and one that stands elsewhere
            drum(0, 0, 0, 50, 40),
            *(
                turned(box(out, -40, 25, 40, 80, 40), at, (0, 0, 1))
                for out, at in ((20.5, 0), (20.0, 120), (20.5, 230))
            ),
        ),
    ],
)
def test_what_is_no_set(shape):
    geometry = from_examined("odd", laid(step(shape)))
    assert not [*evenly_round(geometry)]


def test_six_flats_are_cut_alike():
    """The first takes the segment of a circle of 50 beyond 20.5, 15 long, all of them what stands
    over the hexagon; those in between take as long.
    """
    plan, library = bolt()
    rough = next(each for each in offered(plan, library, "6 flats") if each.label == "Rough")
    assert rough.group == "6 flats round Z, 41 across"
    bare = [
        edit.model_copy(update={"operation": edit.operation.model_copy(update=NOTHING_LEFT)})
        if isinstance(edit, AddOperation)
        else edit
        for edit in rough.edits
    ]
    ops = walk(apply(plan, bare), library, MEMO).operations()
    gone = [volume(op.before.solid) - volume(op.after.solid) for op in ops]
    half = acos(20.5 / 25.0)
    segment = 25.0**2 * (half - sin(half) * cos(half))
    assert gone[0] == pytest.approx(15.0 * segment, rel=0.01)
    hexagonal = 3.0**0.5 / 2.0 * 41.0**2
    assert sum(gone) == pytest.approx(15.0 * (pi * 25.0**2 - hexagonal), rel=0.01)
    amid = [op.time.cutting_s for op in ops[1:5]]  # each between one that is cut and one to come
    assert amid == pytest.approx([amid[0]] * 4, rel=1e-3)
    found = evaluate(apply(plan, bare), library, MEMO).findings
    assert not {f.id for f in found if f.severity == "stop"}


NOTHING_LEFT = {"leave_mm": 0.0, "leave_floor_mm": 0.0, "step_over_mm": 7.0, "step_down_mm": 1.5}


def taken():
    plan, library = bolt()
    rough = next(each for each in offered(plan, library, "6 flats") if each.label == "Rough")
    return apply(plan, list(rough.edits)), library


def flats_of(plan):
    return [op for op in plan.setups[0].operations if isinstance(op, RoughPocket)]


def test_what_one_is_given_all_get_but_where_they_are():
    plan, _ = taken()
    flats = flats_of(plan)
    assert len({op.like for op in flats}) == 1 and len({op.aim for op in flats}) == 6
    fields = {"step_down_mm": 0.9, "rpm": 2500.0, "reason": "deburred here"}
    changed = flats_of(apply(plan, [Change(on=f"operation:{flats[2].id}", fields=fields)]))
    assert [op.step_down_mm for op in changed] == [0.9] * 6
    assert [op.rpm for op in changed] == [2500.0] * 6
    assert {op.proven_in for op in changed} == {plan.material}
    assert [op.reason for op in changed].count("deburred here") == 1
    assert [(op.aim, op.on) for op in changed] == [(op.aim, op.on) for op in flats]


def test_one_in_another_setup_is_left_as_it_is():
    """It may be on another machine, with other tools."""
    plan, _ = taken()
    first, second = plan.setups[0], plan.setups[0].operations[1]
    stations = (first.stations[0].model_copy(update={"id": "st9"}),)
    there = first.model_copy(update={"id": "s9", "stations": stations, "operations": ()})
    moved = [AddSetup(setup=there), MoveOperation(operation=second.id, setup="s9", index=0)]
    away = apply(plan, moved)
    one = Change(on=f"operation:{flats_of(plan)[0].id}", fields={"step_down_mm": 0.4})
    changed = apply(away, [one])
    assert [op.step_down_mm for op in flats_of(changed)].count(0.4) == 5
    assert changed.setups[1].operations[0].step_down_mm == second.step_down_mm


def test_one_on_its_own_is_changed_alone_and_a_copy_is_on_its_own():
    plan, _ = taken()
    flats = flats_of(plan)
    alone = apply(plan, [Change(on=f"operation:{flats[0].id}", fields={"like": ""})])
    one = Change(on=f"operation:{flats[0].id}", fields={"step_down_mm": 0.4})
    assert [op.step_down_mm for op in flats_of(apply(alone, [one]))].count(0.4) == 1
    rest = Change(on=f"operation:{flats[1].id}", fields={"step_down_mm": 0.4})
    assert [op.step_down_mm for op in flats_of(apply(alone, [rest]))].count(0.4) == 5
    copied = apply(plan, [DuplicateOperation(operation=flats[0].id, new_id="copy")])
    assert copied.setups[0].operation("copy").like == ""


def test_a_set_that_is_begun_is_not_offered_again_but_what_is_missing_is():
    plan, library = taken()
    labels = [each.label for each in offered(plan, library, "6 flats")]
    assert "Rough" not in labels and any(each.startswith("Finish floor") for each in labels)


def test_the_hub_of_the_demo_comes_out():
    plan, library = planned_hub()
    seen = evaluate(plan, library, MEMO)
    assert seen.ready and not seen.left
    assert {f.id for f in seen.open if f.severity != "note"} == set()
    index = [seen.figures[f"h{at}.index_time"].value for at in (50, 51, 52)]
    assert sorted(index) == pytest.approx([30 / 200 + 0.8, 90 / 200 + 0.8, 150 / 200 + 0.8])


def test_what_is_left_on_walls_does_not_hide_in_the_film_of_a_round():
    """0.3 on both walls of each flat: of the flat on a side as of those on none. The film that
    chords leave on the drum hangs on the first.
    """
    plan, library = planned_hub()
    left = apply(plan, [Change(on="operation:h50", fields={"leave_mm": 0.3})])
    found = left_over(walk(left, library, MEMO), MEMO)
    assert sum(each.place == "pocket" for each in found) == 2
    assert {each.name for each in found if each.place == "edge"} == {
        id for id, aim in evenly_round_of(library)[0].each if aim not in ("+y", "-y", "+x", "-x")
    }
    assert not left_over(walk(plan, library, MEMO), MEMO)


def evenly_round_of(library):
    return [*evenly_round(library.geometries["hub"])]
