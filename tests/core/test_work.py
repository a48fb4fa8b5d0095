"""Where each kind of operation works, seen from its setup; and that nothing depends on how the part
happens to be turned.
"""

from __future__ import annotations

from math import pi, radians, tan

import numpy as np
import pytest
from shapely import box

from machining.facts.place import NotFromHere
from machining.facts.route import walk
from machining.facts.titles import title
from machining.geometry.frames import Pose, orientation
from machining.geometry.solids import bounds, volume
from machining.memo import Memo
from machining.plan.document import Orientation
from machining.plan.operation import (
    Bore,
    Chamfer,
    Drill,
    Face,
    FinishFloor,
    FinishWalls,
    Ream,
    RoughOutside,
    RoughPocket,
    Tap,
)
from machining.plan.places import OnFeatures, Outside, Points, Rectangle
from machining.quantities.display import sizes
from machining.world.feature import Hole
from machining.world.stock import Round
from machining.world.stock.base import Side

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    MEMO,
    PART,
    POCKET,
    ROUGH,
    TAP,
    TOOLS,
    VISE,
    answer,
    plan,
    result,
    setup,
    tool,
    turned_over,
)
from .test_alike import BARE


def facts_of(operation, **fields):
    made = plan(
        setups=(setup(operation, **fields),),
        tools=(
            *TOOLS,
            tool(7, "reamer-6"),
            tool(8, "bore-20"),
            tool(9, "chamfer-8-90"),
            tool(10, "drill-5-8"),
        ),
    )
    return walk(made, LIBRARY, MEMO).operations()[0]


def test_facing_takes_the_whole_top_down_to_the_part():
    work = facts_of(FACE).work
    assert work.region.area == pytest.approx(84 * 54)
    assert (work.top, work.floor) == (1.0, 0.0)
    assert facts_of(FACE.model_copy(update={"leave_mm": 0.4})).work.floor == pytest.approx(0.4)


def test_roughing_the_outside_keeps_the_part_and_what_is_left():
    work = facts_of(ROUGH).work
    assert work.kept.bounds == pytest.approx((-40.3, -25.3, 40.3, 25.3), abs=0.02)
    assert work.floor == pytest.approx(-18)
    assert work.region.area == pytest.approx(84 * 54 - work.kept.area)


def test_what_can_be_seen_through_is_not_outside():
    """A large through hole stays inside the outline: the outside cut leaves it alone."""
    window = Hole(
        id="window",
        point=(0.0, 0.0, 0.0),
        axis="+z",
        diameter_mm=30.0,
        length_mm=20.0,
        through=True,
        opens=("+z", "-z"),
    )
    made = plan(part=PART.model_copy(update={"typed": (window,)}), setups=(setup(ROUGH),))
    op = walk(made, LIBRARY, Memo()).operations()[0]
    assert len(op.work.kept.interiors) == 0
    assert volume(op.before.solid) - volume(op.after.solid) == pytest.approx(
        (84 * 54 - op.work.kept.area) * 19.0, rel=1e-6
    )


def test_a_round_tool_reaches_a_pocket_less_its_corners():
    """A sharp-cornered floor of 40 x 24 less 0.3 all round, opened by a radius of 4: corners lose
    (4 − π)·r².
    """
    work = facts_of(POCKET).work
    assert work.region.area == pytest.approx(39.4 * 23.4 - (4 - pi) * 16, rel=2e-3)
    assert (work.top, work.floor) == (0.0, -8.0)


def test_a_floor_pass_takes_only_its_depth():
    work = facts_of(
        FinishFloor(
            id="f", tool="t3", on=OnFeatures(ids=("recess",)), depth_mm=0.3, step_over_mm=4.0
        )
    ).work
    assert (work.top, work.floor) == (pytest.approx(-7.7), -8.0)


def test_a_tool_too_large_for_the_pocket_is_told():
    problem = facts_of(POCKET.model_copy(update={"tool": "t1"})).work_problem
    assert "small enough to enter the pocket" in str(problem)


def test_a_through_hole_is_drilled_past_its_point():
    work = facts_of(DRILL).work
    point = 3.4 / tan(radians(70))
    assert [(x, y) for x, y, _, _ in work.holes] == [(-32.0, 0.0), (32.0, 0.0)]
    assert {round(mouth, 9) for _, _, mouth, _ in work.holes} == {0.0}
    assert work.holes[0][3] == pytest.approx(-20 - point - 1.0)


def test_a_depth_of_one_s_own_ends_there():
    work = facts_of(DRILL.model_copy(update={"depth_mm": 12.0})).work
    assert work.holes[0][3] == pytest.approx(-12 - 3.4 / tan(radians(70)))
    assert not work.passes_bottom


def test_tapping_reaming_and_boring_end_where_they_say():
    assert facts_of(TAP).work.holes[0][3] == pytest.approx(-20.0)
    ream = facts_of(Ream(id="r", tool="t7", on=OnFeatures(ids=("hole0",)), depth_mm=15.0)).work
    assert ream.holes[0][3] == pytest.approx(-15.0)
    bore = facts_of(Bore(id="b", tool="t8", on=OnFeatures(ids=("hole0",)), past_mm=0.5)).work
    assert bore.holes[0][3] == pytest.approx(-20.5)


def test_edges_are_broken_round_the_part_or_at_holes():
    outline = facts_of(Chamfer(id="c", tool="t9", size_mm=0.5)).work
    assert outline.region.area == pytest.approx(80 * 50)
    assert (outline.top, outline.floor) == (0.0, -0.5)
    holes = facts_of(
        Chamfer(id="c", tool="t9", on=OnFeatures(ids=("hole0", "hole1")), size_mm=0.5)
    ).work
    # Ø6.8 at the mouth opens to 7.8 under 90°: half of that, less half the tip of 0.5
    assert [hole[3] for hole in holes.holes] == pytest.approx([-3.65, -3.65])


def test_typed_regions_are_measured_from_the_zero():
    typed = Rectangle(
        x_mm=10, y_mm=-5, top_mm=0, length_mm=30, width_mm=20, corner_radius_mm=5, depth_mm=4
    )
    work = facts_of(
        RoughPocket(id="r", tool="t3", on=typed, step_down_mm=2, step_over_mm=2, leave_mm=0)
    ).work
    assert work.region.bounds == pytest.approx((-5, -15, 25, 5), abs=0.02)
    assert work.corner_radius == 5
    points = Points(at_mm=((1.0, 2.0), (3.0, 4.0)), top_mm=-2, diameter_mm=6, depth_mm=9)
    holes = facts_of(Drill(id="d", tool="t4", on=points)).work.holes
    assert holes[1][:3] == (3.0, 4.0, -2)
    assert holes[1][3] == pytest.approx(-11 - 3.4 / tan(radians(70)))


def test_a_blind_hole_below_is_not_seen_from_the_top():
    problem = facts_of(Drill(id="d", tool="t10", on=OnFeatures(ids=("below",)))).work_problem
    assert isinstance(problem, NotFromHere)
    assert problem.opens == ("-z",)
    assert (
        facts_of(
            Drill(id="d", tool="t10", on=OnFeatures(ids=("below",))),
            orientation=Orientation(up="-z"),
        ).work_problem
        is None
    )


@pytest.mark.parametrize(
    ("ids", "words"),
    [
        (("nobody",), "a feature of the part; the part has changed"),
        (("hole0", "below"), "holes of one diameter"),
        (("recess", "hole0"), "it must be holes of one diameter"),
    ],
)
def test_features_that_do_not_go_together_are_told(ids, words):
    assert words in str(facts_of(Drill(id="d", tool="t4", on=OnFeatures(ids=ids))).work_problem)


TITLES = [
    (FACE, "Face top", ""),
    (ROUGH, "Rough outside", ""),
    (POCKET, "Rough pocket", "40 × 24"),
    (DRILL, "Drill", "2 × 6.8 through"),
    (TAP, "Tap", "2 × M8"),
    (
        FinishWalls(id="w", tool="t2", on=Outside(depth_mm=10), step_down_mm=10, passes=2),
        "Finish outside",
        "2 passes",
    ),
    (
        FinishWalls(id="w", tool="t3", on=OnFeatures(ids=("recess",)), step_down_mm=8),
        "Finish pocket",
        "40 × 24",
    ),
    (Chamfer(id="c", tool="t9", size_mm=0.4), "Break edges", "0.4"),
    (
        Chamfer(id="c", tool="t9", on=OnFeatures(ids=("hole0",)), size_mm=0.4),
        "Break edges",
        "0.4 on 1 holes",
    ),
    (
        RoughPocket(
            id="r",
            tool="t3",
            on=Rectangle(x_mm=0, y_mm=0, length_mm=30, width_mm=20, depth_mm=4),
            step_down_mm=2,
            step_over_mm=2,
        ),
        "Rough pocket",
        "30 × 20",
    ),
    (
        Drill(
            id="d",
            tool="t10",
            on=Points(at_mm=((0.0, 0.0),), diameter_mm=5.8, depth_mm=5, through=True),
        ),
        "Drill",
        "1 × 5.8 through",
    ),
]


@pytest.mark.parametrize(
    ("operation", "verb", "detail"), TITLES, ids=lambda v: v if isinstance(v, str) else ""
)
def test_operations_are_named_in_the_words_of_the_trade(operation, verb, detail):
    made = plan(
        setups=(setup(operation),), tools=(*TOOLS, tool(9, "chamfer-8-90"), tool(10, "drill-5-8"))
    )
    facts = walk(made, LIBRARY, MEMO)
    said, template, lengths = title(facts.operations()[0], facts)
    assert (said, sizes(template, lengths)) == (verb, detail)


def test_names_carry_inches_too():
    facts = walk(plan(setups=(setup(POCKET, DRILL),)), LIBRARY, MEMO)
    _, template, lengths = title(facts.operations()[0], facts)
    assert sizes(template, lengths, "inch") == "1.575 × 0.945"
    _, template, lengths = title(facts.operations()[1], facts)
    assert sizes(template, lengths, "inch") == "2 × 0.268 through"


def test_round_stock_is_faced_and_turned_into_a_block():
    stock = Round(diameter_mm=100.0, low=Side(over_mm=2), high=Side(over_mm=1))
    seen = answer(
        plan(
            part=BARE,
            stock=stock,
            setups=(setup(FACE, ROUGH, holding=VISE.model_copy(update={"grip_depth_mm": 2.0})),),
        )
    )
    assert result(seen, "face").removed_mm3 == pytest.approx(pi * 50**2 * 1.0, rel=3e-3)
    assert result(seen, "rough").removed_mm3 > 0


def test_the_second_side_takes_what_the_jaws_held():
    """After the first side the grip is left at stock size; the second outside cut takes it."""
    first = setup(FACE, ROUGH.model_copy(update={"on": Outside(depth_mm=18.0)}))
    second = turned_over(
        FACE.model_copy(update={"id": "face2"}),
        ROUGH.model_copy(update={"id": "rough2", "on": Outside(depth_mm=4.0)}),
    )
    facts = walk(plan(part=BARE, setups=(first, second)), LIBRARY, Memo())
    end = facts.setups[1].operations[-1].after.solid
    low, high = bounds(end)
    assert (high - low)[2] == pytest.approx(20.0)
    assert volume(end) == pytest.approx(80.6 * 50.6 * 20.0, rel=0.02)


def test_a_pose_is_the_matrix_the_page_draws_with():
    seen = answer(plan(setups=(setup(FACE, orientation=Orientation(up="-z", turn=90)),)))
    seen = seen.setups[0].stations[0]
    matrix = np.array(seen.pose).reshape(3, 4)
    pose = Pose(matrix[:, :3], matrix[:, 3])
    assert matrix[:, :3] == pytest.approx(orientation("-z", 90))
    corners = pose.apply(np.array([[-40.0, -25.0, 0.0], [40.0, 25.0, 20.0]]))
    assert np.sort(corners, axis=0)[0] == pytest.approx(seen.part_low)
    assert box(*seen.part_low[:2], *seen.part_high[:2]).area == pytest.approx(4000)


def test_kinds_say_where_they_can_work():
    with pytest.raises(ValueError, match="must be top"):
        Face(id="f", on=Outside(depth_mm=3))
    with pytest.raises(ValueError, match="must be features or hole_circle or hole_grid or points"):
        Tap(id="t", on=Outside(depth_mm=3), depth_mm=4)
    with pytest.raises(ValueError, match="must be outside"):
        RoughOutside(id="r", on=OnFeatures(ids=("x",)), step_down_mm=1, step_over_mm=1)
