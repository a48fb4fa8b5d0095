"""What stands beside the work in the same load: the way of a tool against it, and how far apart
positions must stand, against brute force.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import LineString, MultiPoint, Point, box, distance, linestrings, unary_union
from shapely.affinity import translate

from machining.facts.beside import Neighbour, between, stock_then
from machining.facts.discs import discs
from machining.facts.pitch import pitch
from machining.facts.route import walk
from machining.geometry.solids import outline, prism, swept
from machining.memo import Memo
from machining.motion.beside import Disc, Standing, apart, met, moves_of, swept_below
from machining.motion.path import Leg, Path
from machining.ordering.rules import reasons_of
from machining.plan.apply import apply
from machining.plan.at import One, Row, Spots
from machining.plan.document import Orientation, Station
from machining.plan.edit import Change, MoveOperation
from tests.at_length import often

from .build import (
    FACE,
    GOOD,
    LIBRARY,
    MEMO,
    ROUGH,
    TOOLS,
    VISE,
    after_fix,
    finding,
    ids,
    plan,
    setup,
    with_settings,
)
from .test_stations import both_sides

ROOM = LIBRARY.settings.between_mm
SIZES = st.floats(-30.0, 30.0)
OUTLINE_MM = 0.01  # as far as outlines of what a disc reaches are simplified
CORNERS = st.lists(st.tuples(SIZES, SIZES), min_size=4, max_size=8)


def hull(corners):
    return MultiPoint(corners).convex_hull.buffer(1.0)


@settings(max_examples=often(60))
@given(CORNERS, CORNERS, CORNERS, st.sampled_from([0, 1]))
def test_property_things_are_apart_where_the_last_touch_is(a, b, c, axis):
    """Carried a step at a time from far away, until both touch."""
    here, there = hull(a).union(hull(c)), hull(b)
    found = apart(here, there, axis)

    def touches(way: float) -> bool:
        x, y = (way, 0.0) if axis == 0 else (0.0, way)
        return translate(there, x, y).distance(here) < 1e-7

    far = 200.0
    while far > -200.0 and not touches(far):
        far -= 0.5
    if far <= -200.0:
        assert found is None or not touches(found - 0.01)
        return
    low, high = far, far + 0.5
    for _ in range(30):
        middle = (low + high) / 2.0
        low, high = (middle, high) if touches(middle) else (low, middle)
    assert found == pytest.approx(low, abs=1e-3)


@settings(max_examples=often(40), derandomize=True)
@given(
    st.lists(st.tuples(SIZES, SIZES, st.floats(-10.0, 20.0)), min_size=2, max_size=6),
    CORNERS,
    st.floats(1.0, 12.0),
    st.floats(0.0, 15.0),
)
def test_property_a_disc_is_as_low_as_its_lowest_point_within_reach(points, corners, radius, above):
    """A thousand points along each move, and the distance from each to what stands."""
    path, region, top = Path((Leg("cut", np.array(points)),)), hull(corners), 12.0
    found = met(moves_of(path), Standing.of([region], [top]), Disc(radius, above))
    lowest = np.inf
    for a, b in zip(points, points[1:], strict=False):
        way = np.linspace(a, b, 1000)
        near = np.array([region.distance(Point(x, y)) < radius for x, y, _ in way])
        lowest = min(lowest, way[near, 2].min(initial=np.inf))
    by_hand = top - above - lowest
    steep = max(abs(b[2] - a[2]) for a, b in zip(points, points[1:], strict=False)) / 500.0
    if found is None:
        assert by_hand <= steep + OUTLINE_MM
    else:
        assert by_hand - OUTLINE_MM <= found.low <= by_hand + steep + 0.2


def test_what_a_disc_covers_under_a_height():
    path = Path(
        (Leg("rapid", np.array([[0, 0, 20.0], [50, 0, 20.0], [50, 0, 4.0], [90, 0, 4.0]])),)
    )
    assert swept_below(path, 4.0, 3.0).is_empty
    assert swept_below(path, 5.0, 3.0).equals_exact(
        LineString([(50, 0), (90, 0)]).buffer(3.0, quad_segs=24), 0.02
    )
    assert swept_below(path, 21.0, 3.0).area == pytest.approx(90 * 6 + 9 * np.pi, rel=0.01)


def test_room_under_and_beside_a_holder_counts():
    """20 high, 5 beside a holder of 30 that is 24 over the tip: 2 under it are wanted."""
    path = Path((Leg("cut", np.array([[0.0, 0.0, -5.0], [100.0, 0.0, -5.0]])),))
    jaw = Standing.of([box(40, 20, 60, 30)], [20.0])
    assert met(moves_of(path), jaw, Disc(15.0, 24.0)) is None
    assert met(moves_of(path), jaw, Disc(15.0, 24.0, beside=6.0)).low == pytest.approx(1.0)
    assert met(moves_of(path), jaw, Disc(15.0, 24.0, beside=6.0, below=2.0)).low == 3.0
    assert met(moves_of(path), jaw, Disc(21.0, 25.0)) is None


def in_row(pitch_mm, along="x", count=3, **fields):
    return plan(
        setups=(setup(*GOOD, at=Row(count=count, pitch_mm=pitch_mm, along=along), **fields),)
    )


def station_of(of):
    return walk(of, LIBRARY, MEMO).stations[0]


def test_vises_in_a_row_stand_as_wide_as_they_are():
    """Along their jaws 125 mm and the room between them, across them the length of a vise."""
    vise = LIBRARY.holdings[VISE.vise]
    seen, facts = station_of(in_row(200.0)), walk(in_row(200.0), LIBRARY, MEMO)
    along, across = (pitch(seen, facts, MEMO, axis) for axis in (0, 1))
    assert along.mm == pytest.approx(max(vise.jaw_width_mm, vise.base_width_mm) + ROOM)
    assert across.mm == pytest.approx(vise.base_length_mm + ROOM)
    assert not along.operation


@pytest.mark.parametrize("along", ["x", "y"])
def test_a_row_that_is_too_close_is_told_and_the_fix_is_the_pitch(along):
    axis = "xy".index(along)
    wide, facts = in_row(500.0, along, 2), walk(in_row(500.0, along, 2), LIBRARY, MEMO)
    least = pitch(facts.stations[0], facts, MEMO, axis).mm
    assert "travel.neighbour" not in ids(wide)
    for pitch_mm, told in ((least - ROOM - 0.5, True), (least + 0.5, False)):
        assert ("travel.neighbour" in ids(in_row(pitch_mm, along, 2))) == told
    close = in_row(least - ROOM - 0.5, along, 2)
    found = finding(close, "travel.neighbour")
    fixed = after_fix(close, found)
    assert "travel.neighbour" not in ids(fixed)
    assert fixed.setups[0].stations[0].at.pitch_mm == pytest.approx(np.ceil(least), abs=1.0)


NO_ROOM = with_settings(side_margin_mm=1e-6, below_margin_mm=1e-6, jaw_margin_mm=1e-6)
LOW = FACE.model_copy(update={"step_down_mm": 5.0})
SCRAPES_MM = 0.02  # as facets of a tool are off its circle
SHORT = tuple(
    each.model_copy(update={"stick_out_mm": 20.0}) if each.id == "t2" else each for each in TOOLS
)


def neighbours(op, position):
    """All other positions of a station, near or far, each with its stock then."""
    [station] = op.setup.stations
    for other in {*range(station.planned.positions)} - {position}:
        stock = stock_then(op, position, station, other).seen_in(station.lie)
        at = between(station, position, station, other)
        yield Neighbour(station, other, stock, at, np.eye(3))


def solids_of(station, stock, at):
    """What stands at a position, the parallels under it left out."""
    held = [body for body in station.stand.bodies if body.role != "parallel"]
    things = [stock.solid, *(prism(each.region, each.bottom, each.top) for each in held)]
    return [each.translate(at.tolist()) for each in things]


def solids_gap(op, beside):
    """The least distance (mm) between the tool, move by move, and what stands beside it: solids."""
    things = solids_of(beside.station, beside.stock, beside.at)
    shadow = unary_union([outline(each) for each in things])
    moves, least = moves_of(op.path), np.inf
    away = distance(linestrings(moves[:, :, :2]), shadow)
    for _, disc in discs(op, walk(plan(), NO_ROOM, MEMO)):
        above = disc.above + SCRAPES_MM
        profile = [(above, disc.radius), (above + 150.0, disc.radius)]
        for move in moves[away < disc.radius + 1.0]:
            tool = swept(profile, move, facets=96)
            least = min(least, *(tool.min_gap(each, 5.0) for each in things))
    return least


def two_at_random(seed, west, east):
    x, y = np.random.default_rng(seed).uniform((west, -60.0), (east, 60.0)).round(2).tolist()
    at = Spots(at_mm=((0.0, 0.0), (x, y)))
    return walk(plan(setups=(setup(LOW, ROUGH, at=at),), tools=SHORT), NO_ROOM, Memo()).setups[0]


@pytest.mark.parametrize("seed", range(10))
def test_what_meets_is_what_the_solids_say(seed):
    """Two vises at random beside each other: a short tool's holder and an outside pass."""
    load = two_at_random(seed, 125.1, 160.0)
    assert not load.crossed
    for op in load.operations:
        gaps = [solids_gap(op, each) for k in (0, 1) for each in neighbours(op, k)]
        if op.meets is None:
            assert min(gaps) > 0.0, (op.id, gaps)
        elif op.meets.low_mm > 2.0 * SCRAPES_MM:
            assert min(gaps) < SCRAPES_MM, (op.id, op.meets)


@pytest.mark.parametrize("seed", range(10))
def test_positions_take_the_same_room_where_their_solids_do(seed):
    load = two_at_random(seed, 110.0, 140.0)
    [station] = load.stations
    first = solids_of(station, station.arrives, np.zeros(3))
    second = solids_of(station, station.arrives, between(station, 0, station, 1))
    shared = sum((one ^ other).volume() for one in first for other in second)
    assert bool(load.crossed) == (shared > 1e-6)


@pytest.mark.parametrize("spread", [False, True])
def test_what_stands_out_of_the_travel_is_carried_back(spread):
    """X goes 400 either way; in a row the whole row comes back, by itself only the one."""
    row = Row(count=3, pitch_mm=200.0, at_mm=(150.0, 0.0))
    at = Spots(at_mm=row.spots) if spread else row
    out = plan(setups=(setup(*GOOD, at=at),))
    found = finding(out, "travel.axis")
    assert found.fixes[0].label == "Carry it to where {axis} goes"
    back = after_fix(out, found)
    assert not {"travel.axis", "travel.neighbour"} & ids(back)
    now, before = back.setups[0].stations[0].spots, at.spots
    assert now[2][0] < before[2][0]
    assert (now[:2] == before[:2]) == spread


def test_from_position_to_position_a_tool_goes_over_the_highest():
    """A stock 20 higher beside it: Z has to go up 20 more than for its own path."""
    here = FACE.model_copy(update={"station": "st1"})
    low = plan(setups=(setup(here, at=Row(count=2, pitch_mm=200.0)),))
    [op] = walk(low, LIBRARY, Memo()).setups[0].operations
    alone = walk(plan(setups=(setup(FACE),)), LIBRARY, Memo()).setups[0].operations[0]
    assert op.value("travel_up") == pytest.approx(alone.value("travel_up"))
    high = Station(
        id="high",
        holding=VISE.model_copy(update={"grip_depth_mm": 5.0, "vise": "vise-125"}),
        orientation=Orientation(up="+x"),
        work_offset="G55",
        at=One(at_mm=(260.0, 0.0)),
    )
    both = low.setups[0].model_copy(update={"stations": (low.setups[0].stations[0], high)})
    facts = walk(plan(setups=(both,)), LIBRARY, Memo())
    [face] = facts.setups[0].operations
    seen, tall = facts.stations
    taller = (tall.lie.stock_high[2] - tall.lie.stock_low[2] + tall.seat_mm) - (
        seen.lie.stock_high[2] - seen.lie.stock_low[2] + seen.seat_mm
    )
    assert taller > 40.0
    assert face.value("travel_up") == pytest.approx(alone.value("travel_up") - taller, abs=0.01)


def test_straight_down_beside_a_jaw_counts():
    """A drill goes down to -20 at 4 beside what is 5 high; its holder of 15 is 22 over the tip."""
    path = Path((Leg("plunge", np.array([[0.0, 0.0, 30.0], [0.0, 0.0, -20.0]])),))
    jaw = Standing.of([box(4, -20, 20, 20)], [5.0])
    assert met(moves_of(path), jaw, Disc(3.0, 0.0)) is None
    assert met(moves_of(path), jaw, Disc(15.0, 22.0)).low == pytest.approx(3.0)


def test_a_body_no_wider_than_a_line_asks_for_no_room():
    assert apart(box(0, 0, 10, 10), LineString([(0, 0), (0, 10)]), 0) is None
    assert apart(box(0, 0, 10, 10), box(2, 0, 5, 10), 0) == pytest.approx(8.0)


# -- the order of what stands beside each other


def two_sides(grip_mm):
    """First and second side beside each other, the first so deep in its vise."""
    of = both_sides(first_at=One(at_mm=(0.0, 0.0)), second_at=One(at_mm=(128.0, 0.0)))
    return apply(of, [Change(on="station:st1", fields={"holding.grip_depth_mm": grip_mm})])


@pytest.mark.parametrize(
    ("grip_mm", "met_mm", "said"), [(13.5, 1.5, False), (14.2, 0.8, True), (15.2, None, False)]
)
def test_a_part_is_in_the_way_of_the_next_until_it_is_faced(grip_mm, met_mm, said):
    """The second side is faced 8 mm down, 1 mm is faced off the first: between 14 and 15 mm deep
    that has to be gone by then. Less deep it is met in either order.
    """
    of = two_sides(grip_mm)
    facts = walk(of, LIBRARY, MEMO)
    found = {(e.first, e.then): e for e in reasons_of(facts.setups[0], facts)}
    assert (("face", "face2") in found) == said
    if said:
        words = found["face", "face2"].said
        assert words.text.endswith("stands beside it till then, in the way of its tool.")
    first = apply(of, [MoveOperation(operation="face2", setup="s1", index=0)])
    (op, *_) = walk(first, LIBRARY, MEMO).setups[0].operations
    assert op.id == "face2"
    low = op.meets.low_mm if op.meets is not None else None
    assert low == (None if met_mm is None else pytest.approx(met_mm, abs=0.01))


def test_one_part_after_the_other_none_waits_for_what_is_done_beside_it():
    of = apply(two_sides(14.2), [Change(on="setup:s1", fields={"order": "by part"})])
    facts = walk(of, LIBRARY, MEMO)
    found = {(e.first, e.then) for e in reasons_of(facts.setups[0], facts)}
    assert ("face", "face2") not in found
