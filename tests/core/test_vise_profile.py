"""Soft jaws of a vise that the part's outline is cut into."""

from __future__ import annotations

import numpy as np
import pytest

from machining.evaluation import to_plain
from machining.facts import hold
from machining.facts.held import located_by
from machining.facts.holdings.travel_of_jaws import refuses
from machining.facts.route import walk
from machining.facts.state import State
from machining.holding.cut import Pushes
from machining.holding.held import counted, factor
from machining.plan.in_vise import Holding
from machining.quantities.said import fill
from machining.sheet.holding import words_of
from machining.world.part import Part
from machining.world.stock import Round
from machining.world.stock.block import sawn_block

from .build import DRILL, FACE, LIBRARY, MEMO, POCKET, answer, changed, finding, ids, plan, setup
from .clamped import operation

SOFT = Holding(vise="vise-100-soft", fixed="+y", grip_depth_mm=8.0, torque_nm=25.0, profile_mm=4.0)
BARE = sawn_block(x=(0, 0), y=(0, 0), z=(0, 0))
WIDE, DEEP = 80.0, 50.0


def held(*operations, holding=SOFT, **fields):
    own = {"stock": BARE, **fields}
    return plan(setups=(setup(*(operations or (FACE,)), holding=holding),), **own)


def station(of):
    return walk(of, LIBRARY, MEMO).setups[0].first


def contacts(of):
    facts = walk(of, LIBRARY, MEMO)
    found = hold.as_it_comes(facts.setups[0].first, facts)
    assert found is not None, facts.setups[0].first.unknown
    return found


def test_they_stand_so_much_closer_and_their_floor_is_under_the_part():
    plain = station(held(holding=SOFT.model_copy(update={"profile_mm": 0.0})))
    cut = station(held())
    depth = LIBRARY.vises["vise-100-soft"].jaw_thickness_mm
    for before, now in zip(plain.stand.of("jaw"), cut.stand.of("jaw"), strict=True):
        assert (before.name, before.region.area) == (now.name, pytest.approx(100.0 * depth))
        assert now.region.area == pytest.approx(100.0 * depth - WIDE * 4.0)
    floors = cut.stand.of("step")
    assert sum(each.region.area for each in floors) == pytest.approx(2 * WIDE * 4.0)
    assert {each.top for each in floors} == {float(cut.lie.stock_low[2])}


def test_it_locates_along_the_jaws_without_a_stop():
    free = located_by(contacts(held(holding=SOFT.model_copy(update={"profile_mm": 0.0})))).free
    assert free
    assert not located_by(contacts(held())).free


def test_what_a_jaw_closes_against_takes_its_force_and_its_sides_only_bear():
    found = contacts(held())
    moving = [each for each in found.every if each.body == "moving jaw"]
    pressed = [each for each in moving if each.group]
    assert {each.normal for each in pressed} == {(0.0, 1.0, 0.0)}
    assert {each.normal for each in moving if not each.group} == {(1.0, 0.0, 0.0), (-1.0, 0.0, 0.0)}
    assert found.groups["moving jaw"] == pytest.approx(
        25.0 * LIBRARY.vises["vise-100-soft"].force_per_torque
    )
    low = float(station(held()).lie.stock_low[2])
    assert {round(each.at[2] - low, 3) for each in moving} == {
        round(8.0 / 6.0, 3),
        round(40.0 / 6.0, 3),
    }


def test_a_round_part_lies_against_an_arc():
    """Ø60, 4 into each jaw: as far up its side as 26 from its middle."""
    of = held(part=Part(size_mm=(60.0, 60.0, 20.0)), stock=Round(diameter_mm=60.0))
    found = [each for each in contacts(of).every if each.body == "fixed jaw"]
    assert found
    for each in found:
        x, y, _ = each.at
        assert np.hypot(x, y) == pytest.approx(30.0, abs=0.15)
        assert (each.normal[0], each.normal[1]) == pytest.approx((-x / 30.0, -y / 30.0), abs=0.12)
        assert y >= 26.0 - 0.2
    assert max(abs(each.at[0]) for each in found) <= (30.0**2 - 26.0**2) ** 0.5


def test_a_moving_jaw_never_gives_more_than_its_force_however_round_it_is_cut():
    """Pushed straight at it, the part stands the jaw's force and what friction its floor has."""
    of = held(
        part=Part(size_mm=(60.0, 60.0, 20.0)),
        stock=Round(diameter_mm=60.0),
    )
    found = contacts(of)
    moving = [each for each in found.every if each.body == "moving jaw"]
    assert moving and all(each.group for each in moving)
    force = found.groups["moving jaw"]
    way = np.array([[0.0, -1.0, 0.0]])
    wrench = np.concatenate([way[0], np.cross([0.0, 0.0, 0.0], way[0]) / found.length_mm])
    stood = factor(counted(found), Pushes(way, wrench[None]))
    assert stood is not None
    assert stood.factor <= 1.5 * force


def test_only_soft_jaws_thick_enough_are_cut():
    hard = held(holding=SOFT.model_copy(update={"vise": "vise-125"}))
    assert "are hard" in next(iter(station(hard).unknown.values()))
    thick = LIBRARY.vises["vise-100-soft"].jaw_thickness_mm
    deep = held(holding=SOFT.model_copy(update={"profile_mm": 0.7 * thick}))
    assert "a wall of the jaws stays" in next(iter(station(deep).unknown.values()))


def test_it_is_asked_like_a_first_run_and_stands_more_than_plain_jaws():
    plain = held(POCKET, holding=SOFT.model_copy(update={"profile_mm": 0.0}))
    assert "hold.first-run" in {f.id for f in answer(held(POCKET)).findings}
    assert "hold.first-run" not in {f.id for f in answer(plain).findings}
    assert "hold.jams" not in {f.id for f in answer(held(POCKET)).findings}
    now, before = operation(held(POCKET)), operation(plain)
    assert now.value("holding") >= before.value("holding")


def test_a_drill_that_comes_out_over_their_floor_is_told():
    beside = DRILL.model_copy(update={"past_mm": 3.0, "on": DRILL.on})
    assert "hold.below" not in ids(held(beside))
    wide = SOFT.model_copy(update={"fixed": "+x"})
    assert operation(held(beside, holding=wide)).stand.of("step")
    assert "hold.below" in ids(held(beside, holding=wide.model_copy(update={"profile_mm": 12.0})))


def test_what_lies_otherwise_does_not_go_into_them():
    """The same part 3 aside: into the wall of the jaws."""
    seen = station(held(POCKET))
    assert refuses(seen, seen.arrives) == ""
    turned = State(lambda: seen.arrives.solid.translate([3.0, 0.0, 0.0]), "moved", MEMO, seen.lie)
    assert "does not go into the outline" in refuses(seen, turned)
    plain = station(held(POCKET, holding=SOFT.model_copy(update={"profile_mm": 0.0})))
    assert refuses(plain, turned) == ""


def test_the_sheet_says_how_they_are_cut():
    of = held()
    told = to_plain(answer(of))["setups"][0]["stations"][0]
    words = words_of(of.setups[0], of.setups[0].stations[0], LIBRARY, told)
    said = " ".join(fill(step.text, step.values) for step in words.steps)
    assert "cut into them where they stand" in said and "4.0 mm into each jaw, 8.0 mm deep" in said
    assert words.seat.text == "on the floor of the soft jaws"


def test_left_out_it_is_a_plain_pair_of_jaws():
    assert finding(changed(held(), "station:st1", holding__torque_nm=500.0), "hold.over-torque")
    assert Holding(vise="v", grip_depth_mm=5.0, torque_nm=5.0).profile_mm == 0.0
