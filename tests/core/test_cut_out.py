"""A part cut out of a plate: what is taken, what tabs leave and carry, how it leaves its frame."""

from __future__ import annotations

from math import pi, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.facts.route import walk
from machining.facts.tabs import hands_on
from machining.geometry.solids import section
from machining.holding.tabs import tabs_lift, tabs_shear, tabs_stand
from machining.motion.paths.tabs import Raised, between, spread
from machining.plan.clamped import Clamped
from machining.plan.operation import CutOut, Drill
from machining.plan.places import Outside, Points
from machining.quantities.errors import OutOfRange
from machining.sheet.care import of_tabs
from machining.world.stock.block import sawn_block

from .build import LIBRARY, MEMO, PART, after_fix, answer, changed, finding, ids, tool
from .clamped import PINS, held_by, operation, strap

PLATE = sawn_block(x=(30, 30), y=(30, 30), z=(0, 0))
BARE = PART.model_copy(update={"typed": ()})
ON = Clamped(
    base="on-table",
    raised_mm=6.0,
    dowels=tuple(each.model_copy(update={"high_mm": 14.0}) for each in PINS),
    clamps=(strap("c1", "-x"), strap("c2", "+x")),
)
SQUARE = ((0.0, 0.0), (40.0, 0.0), (40.0, 20.0), (0.0, 20.0), (0.0, 0.0))
RADIUS, KERF, DEEP = 4.0, 8.0, 20.0


def out(**fields):
    own = {"tool": "t3", "step_down_mm": 4.0, **fields}
    return CutOut(id="out", on=Outside(depth_mm=DEEP), **own)


def plate(*operations, **fields):
    own = {"stock": PLATE, "part": BARE, **fields}
    return held_by(ON, *(operations or (out(),)), **own)


# -- where tabs stand


@given(st.integers(1, 8), st.floats(2.0, 10.0))
def test_property_tabs_stand_apart_and_are_as_long_as_asked(count, window):
    if count * window > 0.8 * 120.0:
        return
    stretches = spread(SQUARE, count, window)
    assert len(stretches) == count
    assert all(high - low == pytest.approx(window) for low, high in stretches)
    starts = [low for low, _ in stretches]
    gaps = np.diff([*starts, starts[0] + 120.0])
    assert (gaps > window).all()
    left = sum(piece.length for piece in between(SQUARE, stretches))
    assert left == pytest.approx(120.0 - count * window)


def test_the_first_stands_in_the_middle_of_the_longest_side_and_none_round_a_corner():
    assert spread(SQUARE, 1, 6.0) == ((17.0, 23.0),)
    for low, high in spread(SQUARE, 4, 6.0):
        side = next(k for k, end in enumerate((40.0, 60.0, 100.0, 120.0)) if low % 120.0 < end)
        assert (high - 1e-9) % 120.0 <= (40.0, 60.0, 100.0, 120.0)[side]


def test_more_than_the_line_has_room_for_are_refused():
    with pytest.raises(ValueError, match="12 of 10 along 120"):
        spread(SQUARE, 12, 10.0)
    told = walk(plate(out(tabs=24, tab_mm=20.0)), LIBRARY, MEMO).operations()[0].work_problem
    assert isinstance(told, OutOfRange) and "stand apart" in str(told)


def test_a_way_rises_over_its_stretches_and_comes_down_behind_them():
    raised = Raised(((10.0, 16.0),), -3.0, 120.0)
    nodes = raised.over([(0.0, -4.0), (120.0, -4.0)])
    assert nodes == [(0, -4), (10, -4), (10, -3), (16, -3), (16, -4), (120, -4)]
    sloping = raised.over([(0.0, 0.0), (40.0, -4.0)])  # it is over -3 till there anyway
    assert min(z for s, z in sloping if 10.0 < s < 16.0 or s in (10.0, 16.0)) > -3.0
    assert raised.over([(0.0, -2.0), (120.0, -2.0)]) == [(0.0, -2.0), (120.0, -2.0)]


# -- what is taken


def test_it_takes_a_kerf_round_the_part_and_no_more():
    op = operation(plate())
    taken = op.before.volume() - op.after.volume()
    round_it = 2 * (80 + 50) * KERF + pi * KERF**2  # a ring, its outer corners round
    assert taken == pytest.approx(round_it * DEEP, rel=2e-3)
    assert op.found.trace.volume() == pytest.approx(taken, rel=5e-3)


def test_a_tab_is_as_wide_in_its_middle_and_as_high_as_asked():
    """Between two rounds of the tool: 14 long where its middle is up, less a disc of its width."""
    op = operation(plate(out(tabs=4, tab_mm=6.0, tab_high_mm=1.0)))
    whole = operation(plate())
    left = op.after.volume() - whole.after.volume()
    each = (6.0 + KERF) * KERF - pi * RADIUS**2
    assert left == pytest.approx(4 * each * 1.0, rel=0.02)
    bottom = float(op.lie.part_low[2])
    for high, count in ((0.5, 1), (1.5, 2)):
        pieces = section(op.after.solid, bottom + high)
        assert len(getattr(pieces, "geoms", [pieces])) == count
    assert op.found.trace.volume() == pytest.approx(
        op.before.volume() - op.after.volume(), rel=5e-3
    )


def test_a_tool_that_does_not_cut_over_its_middle_can_not_go_down_behind_a_tab():
    roughing = tool(3, "face-mill-50")
    of = plate(out(tabs=4), tools=(roughing,))
    assert {"reach.tool-impossible"} & ids(of)


# -- whether it holds


def test_cut_out_without_tabs_it_comes_loose_and_with_them_it_stays():
    loose = plate()
    found = finding(loose, "hold.loose-piece")
    assert found.fixes[0].label == "Leave {count} tabs"
    tied = after_fix(loose, found)
    assert tied.setups[0].operations[0].tabs == 4
    assert not {"hold.loose-piece", "hold.grips-nothing"} & ids(tied)


def test_what_tabs_stand_by_hand():
    """4 of 6 × 1 over a kerf of 8, in a proof stress of 250."""
    assert tabs_shear(4, 6, 1, 250) == pytest.approx(4 * 6 * 250 / sqrt(3))
    assert tabs_lift(4, 6, 1, 8, 250) == pytest.approx(4 * 6 * 250 / 16)
    assert tabs_stand(1000, 3000, 100, 300) == pytest.approx(1.5)
    op = operation(plate(out(tabs=4)))
    side, lift = op.value("worn_force"), 1.3 * op.value("axial_force")
    by_hand = 1.0 / (side / (4 * 6 * 250 / sqrt(3)) + lift / (4 * 6 * 250 / 16))
    assert op.value("tabs_stand") == pytest.approx(by_hand, rel=1e-6)


def test_weak_tabs_are_a_stop_and_each_fix_makes_them_stand():
    weak = plate(out(tabs=4))
    found = finding(weak, "hold.tabs-weak")
    assert (found.severity, len(found.fixes)) == ("stop", 3)
    for place in range(3):
        stands = after_fix(weak, found, place)
        assert "hold.tabs-weak" not in ids(stands), found.fixes[place].label
        assert not {f.id for f in answer(stands).open if f.severity == "stop"} - {
            f.id for f in answer(weak).open
        }


def test_of_a_material_without_proof_stress_nobody_knows():
    of = plate(out(tabs=4), material="en-gjl-250")
    found = finding(of, "hold.tabs-weak")
    assert (found.severity, found.values["material"].value) == ("look", "EN-GJL-250")


def test_a_drill_after_it_lifts_them_as_it_breaks_through():
    hole = Drill(
        id="hole", tool="t4", on=Points(at_mm=((0.0, 0.0),), diameter_mm=6.8, depth_mm=DEEP)
    )
    of = plate(out(tabs=4), hole)
    op = operation(of, 1)
    assert op.value("tabs_stand") == pytest.approx(
        1.0 / max(op.value("worn_force") * 0.3 / (4 * 6 * 250 / 16), 1e-3), rel=0.7
    )
    before = plate(hole, out(tabs=4))
    assert operation(before, 0).value("tabs_stand") is None


# -- how it leaves


def test_it_leaves_its_frame_with_a_stub_for_each_tab():
    of = plate(out(tabs=4))
    facts = walk(of, LIBRARY, MEMO)
    station = facts.setups[0].first
    there = hands_on(station, facts.geometry)
    low, high = there.bounds()
    size = high - low
    assert size[0] == pytest.approx(80 + 2 * KERF, abs=0.2)
    each = (6.0 + KERF) * KERF - pi * RADIUS**2
    assert there.volume() == pytest.approx(80 * 50 * 20 + 4 * each, rel=1e-4)
    assert sum(row.count for row in answer(of).left) == 4
    told = of_tabs(facts.setups[0])
    assert "hangs by 4 tabs" in told[0]["sentence"]
    assert of_tabs(walk(plate(), LIBRARY, MEMO).setups[0]) == []


def test_nothing_changes_for_a_part_that_was_not_cut_out():
    whole = changed(plate(out(tabs=4)), "operation:out", tabs=0)
    facts = walk(whole, LIBRARY, MEMO)
    station = facts.setups[0].first
    assert hands_on(station, facts.geometry) is station.leaves
