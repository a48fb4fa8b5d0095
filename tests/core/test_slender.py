"""Cuts on thin walls and bars: found slender, braced by an earlier order, carried by what holds the
part, and counted in what a finished wall measures.
"""

from __future__ import annotations

from dataclasses import replace
from importlib import import_module

import pytest

from machining.ask.trying import tried_fixes
from machining.facts.context import Ready
from machining.facts.route import walk
from machining.facts.thin import box_of
from machining.facts.thin_seen import thin_seen
from machining.findings.finding import in_words
from machining.plan.operation import Drill, FinishWalls, RoughPocket
from machining.plan.places import Points, Rectangle
from machining.world.stock.block import sawn_block

from .build import (
    FACE,
    LIBRARY,
    MEMO,
    VISE,
    after_fix,
    answer,
    changed,
    finding,
    ids,
    plan,
    result,
    setup,
    with_settings,
)
from .clamped import ON_TABLE, held_by

SLENDER, BRACE = "hold.slender", "hold.brace-gone"
FLAT = sawn_block(x=(0, 0), y=(0, 0), z=(0, 1))


def pocket(id: str, x: float, long: float, deep: float, **fields) -> RoughPocket:
    """36 wide, its walls left as they come."""
    on = Rectangle(
        x_mm=x, y_mm=0.0, length_mm=long, width_mm=36.0, depth_mm=deep, corner_radius_mm=4.5
    )
    given = {"step_down_mm": 4.0, "step_over_mm": 2.0, "leave_mm": 0.0, **fields}
    return RoughPocket(id=id, tool="t3", on=on, **given)


def windows(deep: float = 20.2) -> tuple[RoughPocket, RoughPocket]:
    """Two of 29 beside each other, with 2 between them."""
    return pocket("left", -15.5, 29.0, deep), pocket("right", 15.5, 29.0, deep)


LOWER = pocket("lower", 0.0, 60.0, 4.0, step_down_mm=2.0)


def op(of, id: str) -> Ready:
    found = next(each for each in walk(of, LIBRARY, MEMO).operations() if each.id == id)
    assert isinstance(found, Ready)
    return found


def test_a_bar_whose_sides_were_cut_first_is_cut_before_them_instead():
    """16 high, 2 thick and 36 long, lowered by 4 when both windows are through."""
    wrong = plan(FACE, *windows(), LOWER, stock=FLAT)
    found = finding(wrong, BRACE)
    assert found.severity == "stop" and found.operation == "lower"
    assert "operation 30 took it away, and 2.1 mm stands 16.4 mm" in in_words(found)
    tried = [each["label"] for each in tried_fixes(wrong, LIBRARY, MEMO, found.key)["fixes"]]
    assert "Move operation {number} after it" in tried
    for place in (0, 1):
        right = after_fix(wrong, found, place)
        assert BRACE not in ids(right)
        assert op(right, "lower").seen.thin == ()


def test_a_wall_between_two_pockets_has_no_better_order():
    for first, second in (windows(18.0), windows(18.0)[::-1]):
        of = plan(FACE, first, second, stock=FLAT)
        found = finding(of, SLENDER)
        assert found.operation == second.id and BRACE not in ids(of)
        assert "this cut bends it 0.1" in in_words(found)
        assert SLENDER not in ids(after_fix(of, found))


def test_what_it_bends_is_the_force_on_the_wall_of_a_worn_edge():
    right = op(plan(FACE, *windows(), stock=FLAT), "right")
    (thin,) = right.seen.thin
    force = 1.3 * right.figures["wall_force"].value
    assert thin.force_n == pytest.approx(force)
    assert right.figures["wall_bends"].value == pytest.approx(thin.gives * force)
    # at its edge more than a beam of all its height, 31 long between its round ends, 2.1 thick
    beam = 31.0**3 / (192.0 * 70e3 * 20.0 * 2.1**3 / 12.0)
    assert beam < thin.gives < 4.0 * beam


def test_the_shop_says_from_when_on_a_wall_is_slender():
    of = plan(FACE, *windows(), stock=FLAT)
    assert SLENDER in ids(of)
    assert SLENDER not in ids(of, with_settings(wall_ratio=9.0))
    assert SLENDER not in ids(of, with_settings(wall_bends_mm=0.2))
    # twice as slender is told however little it bends
    assert SLENDER in ids(of, with_settings(wall_bends_mm=0.2, wall_ratio=3.5))
    gauge = next(g for g in result(answer(of), "right").gauges if g.name == "Wall bends")
    assert gauge.value > gauge.limit == 0.02


def test_how_far_it_bends_is_not_known_without_the_modulus():
    aluminium = LIBRARY.materials["en-aw-6082"].model_copy(update={"modulus_gpa": None})
    library = replace(LIBRARY, materials={**LIBRARY.materials, "en-aw-6082": aluminium})
    found = finding(plan(FACE, *windows(), stock=FLAT), SLENDER, library)
    assert "how far that bends is not known" in in_words(found) and found.why == ""


def test_a_thin_floor_is_carried_by_the_table_but_not_between_parallels():
    """1.5 of floor under a pocket of 34 x 36."""
    deep = pocket("deep", 0.0, 34.0, 18.5)
    on_table = held_by(ON_TABLE, deep, stock=FLAT)
    raised = held_by(ON_TABLE.model_copy(update={"raised_mm": 10.0}), deep, stock=FLAT)
    assert SLENDER not in ids(on_table)
    found = finding(raised, SLENDER)
    assert "1.5 mm thick" in in_words(found)
    floor = next(e for e in op(raised, "deep").seen.thin if e.axis == 2)
    axial = op(raised, "deep").figures[floor.by].value
    assert floor.by.endswith("axial_force") and floor.force_n == pytest.approx(1.3 * axial)


def test_a_drill_beside_a_wall_pushes_nothing_aside_but_its_thrust_bends_a_floor():
    deep = pocket("deep", 0.0, 34.0, 18.5)
    hole = Points(at_mm=((0.0, 0.0),), diameter_mm=6.8, top_mm=-18.5, depth_mm=1.5, through=True)
    through = plan(FACE, deep, Drill(id="hole", tool="t4", on=hole), stock=FLAT)
    (floor,) = op(through, "hole").seen.thin
    assert floor.by == "thrust"
    edge = Points(at_mm=((0.0, 21.0),), diameter_mm=6.8, top_mm=0.0, depth_mm=20.0, through=True)
    beside = plan(FACE, Drill(id="hole", tool="t4", on=edge), stock=FLAT)
    assert all(each.force_n == 0.0 for each in op(beside, "hole").seen.thin)


def test_a_wall_that_gives_counts_in_the_size_of_what_is_finished():
    walls = FinishWalls(id="walls", tool="t3", on=windows()[1].on, step_down_mm=20.2, width_mm=0.3)
    rough = [each.model_copy(update={"leave_mm": 0.3}) for each in windows()]
    of = plan(FACE, *rough, walls, stock=FLAT)
    found = finding(of, "size.push-off", with_settings(push_off_share=0.1))
    assert "and the wall it cuts gives 0.0" in in_words(found)
    alone = op(of, "walls").figures["push_off"].value
    assert found.values["pushed"].value == pytest.approx(alone)
    gives = op(of, "walls").seen.thin[0].gives * op(of, "walls").figures["wall_force"].value
    assert found.values["wall"].value == pytest.approx(gives)


def test_what_is_drawn_of_a_wall_says_where_it_is_cut_and_carried():
    of = plan(FACE, *windows(), stock=FLAT)
    facts = walk(of, LIBRARY, MEMO)
    (seen,) = thin_seen(op(of, "right"), facts)
    assert (seen.thin_along, seen.across, seen.up) == ("X", "Y", "Z") and seen.cut and seen.slender
    wide = max(i for i, _, _ in seen.cells) + 1
    assert {side for _, _, side in seen.carried} == {0, 1}
    assert {i for i, _, side in seen.carried if side == 1} == {wide - 1}
    assert min(t for _, _, t in seen.cells) == pytest.approx(2.0, abs=0.02)
    assert seen.worst is not None and abs(seen.worst[0] - wide / 2) < 2
    xs = [x for x, _ in seen.outline]
    assert max(xs) < 3.0 and min(xs) > -3.0
    # once it is there it is shown where nothing cuts it, too
    after = plan(FACE, *windows(), Drill(id="far", tool="t4", on=_FAR), stock=FLAT)
    (also,) = thin_seen(op(after, "far"), walk(after, LIBRARY, MEMO))
    assert not also.cut and also.bends_mm is None and also.worst is None


_FAR = Points(at_mm=((-36.0, 0.0),), diameter_mm=6.8, top_mm=0.0, depth_mm=5.0)


def test_a_jaw_that_lies_against_a_wall_carries_it():
    """2 thick along the fixed jaw, 40 long: 9 of its 20 stand over the jaws, or 14."""
    on = Rectangle(x_mm=0.0, y_mm=12.0, length_mm=40.0, width_mm=22.0, depth_mm=18.0)
    beside = RoughPocket(
        id="beside", tool="t3", on=on, step_down_mm=4.0, step_over_mm=2.0, leave_mm=0.0
    )
    ratios = []
    for deep in (6.0, 12.0):
        holding = VISE.model_copy(update={"grip_depth_mm": deep})
        of = plan(setups=(setup(beside, holding=holding),), stock=FLAT)
        ratios.append(max(each.ratio for each in op(of, "beside").seen.thin))
    assert ratios[1] < ratios[0]


@pytest.mark.parametrize("step", [1.0, 1.5])
def test_lower_steps_bend_it_less(step):
    of = plan(FACE, *windows(), stock=FLAT)
    lower = changed(of, "operation:right", step_down_mm=step)
    before, after = (op(each, "right").seen.thin[0].bends_mm for each in (of, lower))
    assert after < before


@pytest.mark.parametrize("first", [0, 1])
def test_only_what_met_the_wall_is_put_back_to_see(monkeypatch, first):
    """A hole in a corner has carried nothing between the windows: it is not asked, and where it is
    the answer is the same.
    """
    braced = import_module("machining.facts.braced")
    ask, asked = braced._braced, list[str]()
    corner = Points(at_mm=((36, 22),), diameter_mm=6.8, depth_mm=6.0)
    work = [*windows()]
    work.insert(first, Drill(id="corner", tool="t4", on=corner))
    facts = walk(plan(FACE, *work, LOWER, stock=FLAT), LIBRARY, MEMO)
    here = next(each for each in facts.ready() if each.id == "lower")
    monkeypatch.setattr(braced, "_braced", lambda *of: asked.append(of[1].id) or ask(*of))
    other, worst = braced.brace_of(here, facts)
    assert other.id == "right" and "corner" not in asked
    before = {each.id: each for each in facts.ready()}
    assert not ask(here, before["corner"], worst, facts)
    low, high = box_of(worst, here.after, facts)
    assert (low < worst.at).all() and (worst.at < high).all()
    assert high[0] - low[0] < 20.0  # 2 thick, with what may lie beside it
