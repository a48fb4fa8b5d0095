"""What a tool meets on a tombstone, against solids carried by hand; prisms that are turned."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import box, unary_union

from machining.facts import around
from machining.facts.beside import stock_then
from machining.facts.discs import discs
from machining.facts.route import walk
from machining.geometry.frames import Pose
from machining.geometry.prisms import turned
from machining.geometry.solids import outline, posed, prism, swept
from machining.memo import Memo
from machining.motion.beside import moves_of
from machining.placing.rotary import turn_about
from machining.plan.apply import apply
from machining.plan.edit import Change
from shop.demo import manifold

from ..at_length import some
from .build import LIBRARY, MEMO, with_settings
from .test_tombstone import about_y, by_hand, planned

NO_ROOM = with_settings(side_margin_mm=1e-6, below_margin_mm=1e-6, jaw_margin_mm=1e-6)
SCRAPES_MM = 0.02  # as facets of a tool are off its circle
BOXES_MM = 1.0


def everything(op, position):
    """Solids of all that stands on the table, in the frame of an operation at a position."""
    table_at = (
        op.station.turned_deg(position) + {None: 0.0, "-x": -90.0, "+x": 90.0}[op.operation.aim]
    )
    stands, _ = by_hand(op.station, position)
    origin = about_y(stands, table_at)
    turn = np.column_stack([about_y(axis, table_at) for axis in np.eye(3)])
    for body in around.carried_by(op.station):
        yield posed(prism(body.region, body.bottom, body.top), Pose(turn, -origin))
    for other in range(op.station.planned.positions):
        put, face = by_hand(op.station, other)
        back = np.column_stack([about_y(axis, -face) for axis in np.eye(3)])
        pose = Pose(turn @ back, turn @ put - origin)
        own = other == position
        held = [b for b in op.station.stand.bodies if op.aimed is not None or b.role != "parallel"]
        if not own or op.aimed is not None:
            for body in held:
                yield posed(prism(body.region, body.bottom, body.top), pose)
        if not own:
            stock = stock_then(op, position, op.station, other).seen_in(op.station.lie)
            yield posed(stock.solid, pose)


def least_gap(op, position):
    things = [*everything(op, position)]
    shadow = unary_union([outline(each) for each in things]).bounds
    least = np.inf
    for _, disc in discs(op, walk(manifold.draft(), NO_ROOM, MEMO)):
        above = disc.above + SCRAPES_MM
        profile = [(above, disc.radius), (above + 400.0, disc.radius)]
        for move in moves_of(op.path):
            tool = swept(profile, move, facets=96)
            least = min(least, *(tool.min_gap(each, 5.0) for each in things))
    assert shadow
    return least


def test_another_table_in_the_library_is_met_at_once():
    """The plan and the memo stay: what carries the parts is looked up by what it is."""
    memo, plan = Memo(), manifold.draft()

    def widest(library):
        op = next(op for op in walk(plan, library, memo).operations() if op.aimed is not None)
        bounds = (b.region.bounds for _, each in around.tables(op, memo) for b in each)
        return max(high - low for low, _, high, _ in bounds)

    curlew = LIBRARY.machines["curlew"]
    table = curlew.places[0]
    wider = curlew.model_copy(
        update={"places": (table.model_copy(update={"x_mm": table.x_mm + 500.0}),)}
    )
    before = widest(LIBRARY)
    other = replace(LIBRARY, machines={**LIBRARY.machines, "curlew": wider})
    assert widest(other) == pytest.approx(before + 500.0)


@pytest.mark.parametrize("seed", some(range(2, 10), 4))
def test_what_is_met_on_a_tombstone_is_what_the_solids_say(seed):
    """Two of two faces at random, one operation from above and one from a side."""
    random = np.random.default_rng(seed)
    x, y, pitch = random.uniform((-60.0, -110.0, 66.0), (60.0, 60.0, 90.0)).round(1).tolist()
    of = planned(faces=[1, 2], rows=2, at_mm=(x, y), row_pitch_mm=pitch)
    out = round(float(random.uniform(42.0, 75.0)), 1)
    of = apply(of, [Change(on=f"tool:t{n}", fields={"stick_out_mm": out}) for n in (3, 4)])
    load = walk(of, NO_ROOM, Memo()).setups[0]
    assert not load.crossed
    for op in load.operations[3:7]:
        gap = min(least_gap(op, k) for k in range(4))
        if op.meets is None:
            assert gap > 0.0, (op.id, gap)
        elif op.meets.low_mm > BOXES_MM:
            assert gap < SCRAPES_MM, (op.id, op.meets)


@given(st.sampled_from("xyz"), st.integers(0, 3), st.floats(-200.0, 200.0))
def test_property_a_prism_turned_by_quarters_is_the_solid_turned(axis, quarters, angle):
    """And at any other angle no less; what is nearer to quarters than a fiftieth counts as such."""
    assume(abs(angle - 90.0 * round(angle / 90.0)) > 0.02)
    region = outline(prism(_corner(), 0.0, 1.0))
    solid = prism(region, -3.0, 11.0)
    for degrees in (90.0 * quarters, angle):
        turn = turn_about(axis, degrees)
        seen = posed(solid, Pose(turn, np.zeros(3)))
        pieces = [prism(r, low, high) for r, low, high in turned((region, -3.0, 11.0), turn)]
        whole = sum(pieces[1:], pieces[0])
        missing = (seen - whole).volume()
        assert missing == pytest.approx(0.0, abs=1e-3)
        if degrees == 90.0 * quarters:
            assert (whole - seen).volume() == pytest.approx(0.0, abs=1e-3)


def _corner():
    return box(-20.0, -5.0, 10.0, 15.0).union(box(-20.0, -5.0, -10.0, 40.0))
