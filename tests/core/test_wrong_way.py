"""A part that goes in the wrong way round: what the cut takes of it then, and what keeps it out."""

from __future__ import annotations

from math import pi

import pytest

from machining.facts.route import walk
from machining.facts.wrong_way import every_way
from machining.findings.finding import in_words
from machining.plan.clamped import Clamp
from machining.plan.document import Orientation
from machining.plan.holding import InChuck
from machining.plan.operation import Drill, RoughPocket
from machining.plan.places import OnFeatures, Rectangle
from machining.plan.turned import TurnFace
from machining.world.feature import Hole
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from . import lathe
from .build import HOLES, LIBRARY, MEMO, STOPPED, after_fix, finding, good, ids, plan, setup, whole
from .clamped import ON_TABLE

ID = "hold.wrong-way"
FLAT = sawn_block(x=(0, 0), y=(0, 0), z=(0, 0))
TOP = Hole(
    id="top",
    point=(20.0, 0.0, 10.0),
    axis="+z",
    diameter_mm=6.8,
    length_mm=10.0,
    through=False,
    opens=("+z",),
)
ONE = Part(size_mm=(80.0, 50.0, 20.0), typed=(HOLES[0], TOP))
FIRST = Drill(id="one", tool="t4", on=OnFeatures(ids=("hole0",)), peck_mm=7.0)
BLIND = Drill(id="blind", tool="t4", on=OnFeatures(ids=("top",)))


def moved_on(*second, holding, first=(FIRST,), **fields):
    """Put on another place as it lies, to go on there."""
    later = setup(*second, id="s2", takes="st1", holding=holding, work_offset="G55")
    return plan(setups=(setup(*first), later), part=ONE, stock=FLAT, **fields)


def ways(of, station: str = "st2"):
    facts = walk(of, LIBRARY, MEMO)
    found = every_way(facts.station(station), facts)
    assert found is not None and len(found) == 23
    return found


def test_a_part_that_was_not_turned_over_loses_what_should_have_been_up():
    """8 of 80 x 50 with its recess of 40 x 24 (corners of 4) and two holes of 6.8."""
    harmful = [each for each in ways(whole()) if each.harms]
    assert [each.words.split(",")[0] for each in harmful] == [
        "Turn over away from you",
        "Turn over sideways",
    ]
    recess = 40.0 * 24.0 - (4.0 - pi) * 16.0
    said = 8.0 * (80.0 * 50.0 - recess - 2.0 * pi / 4.0 * 6.8**2)
    assert harmful[0].spoils_mm3 == pytest.approx(said, rel=0.02)
    assert ID not in ids(whole())  # the mark at its corner tells, on the sheet


def test_a_blank_that_looks_the_same_all_round_can_be_put_in_as_it_comes():
    every = ways(good(), "st1")
    assert sum(each.same for each in every) == 3
    assert not any(each.harms for each in every) and ID not in ids(good())


def test_what_is_longer_on_another_axis_does_not_go_in():
    out = {each.words: each.why_not for each in ways(whole()) if each.why_not}
    assert out["Turn a quarter clockwise on the table"] == "shorter along X"
    assert len([each for each in ways(whole()) if each.why_not]) == 20


def test_a_hole_that_was_drilled_first_tells_a_pin_which_way_it_lies():
    """Turned half round the blind hole comes 20 on the other side of the middle."""
    of = moved_on(BLIND, holding=ON_TABLE)
    half = next(each for each in ways(of) if each.words == "Turn half round on the table")
    assert half.spoils_mm3 == pytest.approx(pi / 4.0 * 6.8**2 * 10.0, rel=0.10)
    assert half.at[0] == pytest.approx(20.0, abs=3.5) and half.at[1] == pytest.approx(0, abs=3.5)
    assert half.pin is not None and half.pin.diameter == 5.0
    assert half.pin.at == pytest.approx((-32.0, 0.0), abs=0.3)
    found = finding(of, ID)
    assert found.severity == "look" and "ways of putting it in do harm" in in_words(found)
    assert [fix.values["words"].value.split(" ")[:2] for fix in found.fixes] == [
        ["a", "pin"],
        ["it", "is"],
    ]
    for place in (0, 1):
        assert ID not in ids(after_fix(of, found, place))


def test_screws_through_its_holes_keep_it_out_where_the_holes_are_not():
    """Both 8 off its middle: turned half round they lie on the other side of it."""
    off = [hole.model_copy(update={"point": (hole.point[0], 8.0, 0.0)}) for hole in HOLES]
    both = FIRST.model_copy(update={"on": OnFeatures(ids=("hole0", "hole1"))})
    screws = tuple(
        Clamp(id=f"c{k}", clamp="screw-m6", side=side, over_mm=8.0, at_mm=8.0, torque_nm=8.0)
        for k, side in enumerate(("-x", "+x"), 1)
    )
    held = ON_TABLE.model_copy(update={"clamps": screws})
    of = moved_on(BLIND, holding=held, first=(both,))
    of = of.model_copy(update={"part": Part(size_mm=(80.0, 50.0, 20.0), typed=(*off, TOP))})
    assert half_round(of).why_not == "no hole for clamp 1"


def test_a_vise_takes_no_pin():
    found = finding(moved_on(BLIND, holding=STOPPED), ID)
    assert [fix.values["words"].value[:13] for fix in found.fixes] == ["it is stamped"]


def notched(width: float, **fields):
    """With a notch right through the end away from the stop, 19 deep."""
    notch = RoughPocket(
        id="notch",
        tool="t3",
        on=Rectangle(x_mm=36.0, y_mm=0.0, length_mm=30.0, width_mm=width, depth_mm=20.2),
        step_down_mm=5.0,
        step_over_mm=2.0,
        leave_mm=0.0,
    )
    return moved_on(BLIND, first=(FIRST, notch), **fields)


def half_round(of):
    return next(each for each in ways(of) if each.words == "Turn half round on the table")


def test_a_stop_that_goes_into_a_notch_lets_it_seat_farther_over():
    """The stop is 12 wide, the notch 40: turned half round the part goes on by 19."""
    half = half_round(notched(40.0, holding=STOPPED))
    assert not half.why_not and half.pushed == pytest.approx((-19.0, 0.0), abs=0.01)


def test_a_dowel_touches_the_end_of_the_notch_too():
    """It stands where its corner is rounded already."""
    half = half_round(notched(40.0, holding=ON_TABLE))
    assert -19.0 < half.pushed[0] < -18.0 and half.pushed[1] == 0.0


def nearly_square(width: float, holding):
    """A block of 80 by so much, a hole off its middle to be drilled."""
    part = Part(size_mm=(80.0, width, 20.0), typed=(TOP,))
    return plan(setups=(setup(BLIND, FIRST, holding=holding),), part=part, stock=FLAT)


@pytest.mark.parametrize(("width", "goes"), [(79.0, True), (77.5, True), (76.0, False)])
def test_nobody_sees_that_it_is_a_little_shorter_and_the_jaw_comes_on(width, goes):
    """A twentieth of 80 is 4, three is seen always."""
    facts = walk(nearly_square(width, STOPPED), LIBRARY, MEMO)
    every = every_way(facts.station("st1"), facts)
    quarter = next(e for e in every if e.words == "Turn a quarter clockwise on the table")
    assert (quarter.why_not == "") == goes
    assert quarter.why_not == ("" if goes else "shorter along X")


def test_what_is_chucked_can_only_be_turned_end_for_end():
    jaws = InChuck(chuck="chuck-200", grip_mm=20.0, force_per_jaw_n=20000.0)
    face = TurnFace(id="again", tool="t1")
    over = Orientation(up="-z")
    again = lathe.setup(face, id="s2", takes="st1", holding=jaws, orientation=over)
    of = lathe.plan(setups=(lathe.setup(lathe.FACE, lathe.ROUGH), again))
    facts = walk(of, lathe.LIBRARY, lathe.MEMO)
    found = every_way(facts.stations[1], facts)
    assert found is not None and [each.words for each in found] == ["Turn end for end"]


def test_nobody_knows_while_nothing_holds_it_or_nothing_is_cut():
    for of in (moved_on(BLIND, holding=None), moved_on(holding=ON_TABLE)):
        facts = walk(of, LIBRARY, MEMO)
        assert every_way(facts.station("st2"), facts) is None and ID not in ids(of)
