"""A part that is clamped down: what presses on it and where, what stands round it, and what holds
it against a cut, by hand.
"""

from __future__ import annotations

from math import cos, radians, sin

import numpy as np
import pytest
from shapely import Point

from machining.evaluate import evaluate
from machining.facts import hold
from machining.facts.held import located_by
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.holding.cut import Pushes
from machining.holding.held import counted, factor
from machining.plan.apply import apply
from machining.plan.clamped import Clamp, Clamped, Dowel
from machining.plan.operation import Face
from machining.plan.trade import Hold
from machining.ways.trade import meaning
from machining.world.clamping import Base, ScrewDown, SideClamp
from machining.world.part import Part
from machining.world.stock import Round
from machining.world.stock.block import sawn_block

from . import build
from .build import DRILL, LIBRARY, MEMO, POCKET, TOOLS, after_fix, answer, finding, ids, tool
from .clamped import ON_PALLET, ON_TABLE, PINS, TWO, edge, held_by, operation, strap

DISC = Face(id="top", tool="t1", step_over_mm=35.0)
STRAP = 1000.0 * 8.0 / (0.2 * 6.0) * 20.0 / 38.0  # 8 N·m at M6, 18 before and 20 behind the stud
EDGE = 420.0 * 8.0


def contacts(held, *operations, **fields):
    """Where it is touched as it comes in."""
    return contacts_of_plan(held_by(held, *(operations or (POCKET,)), **fields))


def contacts_of_plan(of):
    facts = walk(of, LIBRARY, MEMO)
    found = hold.as_it_comes(facts.setups[0].first, facts)
    assert found is not None, facts.setups[0].first.unknown
    return found


def by(found, body):
    return [each for each in found.every if each.body == body]


def stood(found, *force):
    """How large a force (N) it stands in a direction, in the middle of what it lies on."""
    low = min(each.at[2] for each in found.every)
    way = np.array(force, dtype=float)
    wrench = np.concatenate([way, np.cross([0.0, 0.0, low], way) / found.length_mm])
    return factor(counted(found), Pushes(way[None] / np.linalg.norm(way), wrench[None])).factor


def test_what_a_strap_presses_with_is_its_screw_s_by_the_lever():
    figures = answer(held_by(ON_TABLE, POCKET)).figures
    assert figures["s1.stud_1"].value == pytest.approx(6666.667, rel=1e-6)
    assert figures["s1.clamp_1"].value == pytest.approx(STRAP) == pytest.approx(3508.77, rel=1e-5)
    beside = ON_TABLE.model_copy(update={"clamps": (edge("c1", "-y"),)})
    assert answer(held_by(beside, POCKET)).figures["s1.clamp_1"].value == pytest.approx(EDGE)


def test_it_lies_and_is_pressed_where_bodies_touch_it():
    """84 x 54 of stock: a strap 10 over it presses with 8 of it, 2 in from its edge and 20 wide."""
    found = contacts(ON_TABLE)
    rests = sorted(each.at[:2] for each in by(found, "table"))
    assert rests == [(x, y) for x in (-28.0, 28.0) for y in (-18.0, 18.0)]
    top = max(each.at[2] for each in found.every)
    clamp = by(found, "clamp 1")
    assert {(each.normal[2], each.at[2]) for each in clamp} == {(-1.0, top)}
    # its nose from 40 to 32 of 42 and 20 wide: two thirds of that between the points
    assert sorted({each.at[0] for each in clamp}) == pytest.approx([-38.6667, -33.3333])
    assert sorted({each.at[1] for each in clamp}) == pytest.approx([-6.6667, 6.6667])
    pin = by(found, "dowel 1")
    assert {each.normal for each in pin} == {(0.0, -1.0, 0.0)}
    assert {each.at[:2] for each in pin} == {(-25.0, 27.0)}
    low = by(found, "table")[0].at[2]
    assert sorted(each.at[2] - low for each in pin) == pytest.approx([8 / 6, 40 / 6], abs=1e-3)


def test_all_friction_holds_it_where_no_dowel_stands():
    """Straps and what it lies on, with its weight, slip at once; up only straps and weight hold."""
    found = contacts(ON_TABLE.model_copy(update={"dowels": ()}))
    weight = found.weight.kg * 9.80665
    assert stood(found, 100.0, 0.0, 0.0) == pytest.approx(0.15 * (4 * STRAP + weight) / 100.0)
    assert stood(found, 0.0, 0.0, 200.0) == pytest.approx((2 * STRAP + weight) / 200.0)
    pinned = contacts(ON_TABLE)
    assert stood(pinned, 100.0, 0.0, 0.0) < 1.2 * stood(found, 100.0, 0.0, 0.0)
    assert stood(pinned, -100.0, 0.0, 0.0) > 2.0 * stood(found, -100.0, 0.0, 0.0)  # a dowel


def test_a_clamp_from_beside_presses_down_as_well():
    toe = Clamp(id="c1", clamp="toe-m8", side="-y", torque_nm=10.0)
    found = contacts(ON_TABLE.model_copy(update={"clamps": (toe,)}))
    normals = {each.normal for each in by(found, "clamp 1")}
    assert len(normals) == 1
    assert normals.pop() == pytest.approx((0.0, cos(radians(15)), -sin(radians(15))))
    assert {each.at[1] for each in by(found, "clamp 1")} == {-27.0}


def test_three_dowels_and_a_face_stop_all_six_motions():
    assert located_by(contacts(ON_TABLE)).rank == 6
    two = ON_TABLE.model_copy(update={"dowels": PINS[:2]})
    assert "hold.not-located" in ids(held_by(two, POCKET))
    found = finding(held_by(two, POCKET), "hold.not-located")
    assert in_words(found).endswith("the part can slide along X.")
    assert "hold.not-located" not in ids(after_fix(held_by(two, POCKET), found))
    assert "hold.not-located" not in ids(held_by(ON_TABLE, POCKET))


def test_dowels_at_opposite_sides_fight():
    fourth = Dowel(id="d4", side="-y", at_mm=0.0)
    of = held_by(ON_TABLE.model_copy(update={"dowels": (*PINS, fourth)}), POCKET)
    found = finding(of, "hold.over-located")
    assert "Dowel 1, dowel 2, dowel 4 fight" in in_words(found)
    for k in range(3):
        assert "hold.over-located" not in ids(after_fix(of, found, k))
    assert "hold.over-located" not in ids(held_by(ON_TABLE, POCKET))


def test_a_round_part_touches_two_dowels_aslant():
    """Ø40 against Ø8 pins 20 beside its middle: the line of centres is 24 long."""
    disc = {"part": Part(size_mm=(40.0, 40.0, 20.0), typed=()), "stock": Round(diameter_mm=40.0)}
    held = Clamped(
        base="on-table",
        dowels=(Dowel(id="d1", side="-y", at_mm=-14.0), Dowel(id="d2", side="-y", at_mm=14.0)),
        clamps=(strap("c1", "+y"),),
    )
    found = contacts(held, **disc)
    for name, sign in (("dowel 1", -1.0), ("dowel 2", 1.0)):
        normal = by(found, name)[0].normal
        assert normal[0] == pytest.approx(-sign * 14.0 / 24.0, abs=0.01)
        assert np.hypot(*normal[:2]) == pytest.approx(1.0)


def on_pallet(*clamps, **vise):
    under = ON_PALLET.vise.model_copy(update=vise)
    return held_by(ON_PALLET.model_copy(update={"clamps": clamps, "vise": under}), POCKET)


def test_a_screw_beside_the_pallet_pushes_it_off_and_one_in_it_does_not():
    """Along the jaws only friction holds the pallet; 3.36 kN at 4° find nothing."""
    beside = on_pallet(edge("c1", "-y"), edge("c2", "+x", fixed_in="under"))
    found = finding(beside, "hold.not-seated")
    assert "Pallet 160 × 110 slides towards −X" in in_words(found)
    assert found.values["left"].value == pytest.approx(EDGE * cos(radians(4.0)), rel=1e-4)
    assert operation(beside).seen.held.seat.seated  # the part itself is pressed as it should be
    mended = after_fix(beside, found)
    assert "hold.not-seated" not in ids(mended)
    assert {each.fixed_in for each in mended.stations[0].holding.clamps} == {"base"}


def test_a_weak_vise_lets_the_pallet_tip():
    tips = on_pallet(edge("c1", "-y", fixed_in="under"), edge("c2", "+x"), torque_nm=5.0)
    assert "turns about −X" in in_words(finding(tips, "hold.not-seated"))
    assert "hold.not-seated" not in ids(on_pallet(*TWO, torque_nm=5.0))


def test_what_gives_way_first_counts():
    """A vise that hardly holds the pallet, and what mends it."""
    loose = on_pallet(*TWO, torque_nm=2.0)
    held = operation(loose).seen.held
    assert held.weakest is held.under and held.under.of == "Pallet 160 × 110"
    assert held.under.factor < held.factor
    found = finding(loose, "hold.slips")
    assert in_words(found).startswith("Pallet 160 × 110 stands in its vise")
    tight = after_fix(loose, found)
    assert tight.stations[0].holding.vise.torque_nm > 2.0 and "hold.slips" not in ids(tight)
    assert answer(loose).figures["pocket.holding"].value == pytest.approx(held.under.factor)


def test_a_pallet_that_is_pushed_off_hides_no_loose_part():
    loose = edge("c1", "-y", torque_nm=1.0)
    of = on_pallet(loose, edge("c2", "+x", torque_nm=1.0, fixed_in="under"))
    held = operation(of).seen.held
    assert held.unseated is held.under and held.weakest is held
    assert {"hold.not-seated", "hold.slips"} <= ids(of)
    assert answer(of).figures["pocket.holding"].value == pytest.approx(held.factor)


def test_all_its_clamps_are_tightened_alike():
    loose = held_by(
        ON_TABLE.model_copy(
            update={"clamps": tuple(each.model_copy(update={"torque_nm": 2.0}) for each in TWO)}
        ),
        POCKET,
    )
    found = finding(loose, "hold.slips")
    tight = after_fix(loose, found)
    torques = {each.torque_nm for each in tight.stations[0].holding.clamps}
    assert len(torques) == 1 and torques.pop() > 2.0
    assert "hold.slips" not in ids(tight)


def test_no_clamp_is_reckoned_with_more_than_it_takes():
    hard = (strap("c1", "-x", torque_nm=40.0), TWO[1])
    of = held_by(ON_TABLE.model_copy(update={"clamps": hard}), POCKET)
    assert answer(of).figures["s1.clamp_1"].value == pytest.approx(STRAP * 10.0 / 8.0)
    found = finding(of, "hold.over-torque")
    assert in_words(found).startswith("40.0 N·m at the screw; clamp 1, M6 strap, short, takes 10.0")
    assert "hold.over-torque" not in ids(after_fix(of, found))


def test_a_screw_goes_through_a_hole_of_the_part():
    """Into stock that comes with its holes, Ø6.8 at 10 from its ends."""
    screws = tuple(
        Clamp(id=f"c{k}", clamp="screw-m6", side=side, over_mm=10.0, torque_nm=8.0)
        for k, side in enumerate(("-x", "+x"), 1)
    )
    none = held_by(ON_TABLE.model_copy(update={"clamps": screws}), POCKET)
    assert "no hole for its thread" in answer(none).setups[0].stations[0].unknown["hold"]


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"clamps": (strap("c1", "-x", at_mm=60.0),)}, "beside the stock"),
        ({"clamps": (strap("c1", "-x", over_mm=40.0),)}, "its stud clears the part"),
        ({"clamps": (strap("c1", "-x"), strap("c2", "-x", at_mm=5.0))}, "where clamp 1 stands"),
        ({"dowels": (Dowel(id="d1", side="+y", at_mm=70.0),)}, "beside the stock"),
        ({"dowels": (PINS[0],), "raised_mm": 12.0}, "must be over 12"),
        ({"clamps": (Clamp(id="c1", clamp="gone", side="-x", torque_nm=5.0),)}, "no clamp 'gone'"),
        ({"base": "gone"}, "nothing 'gone' to clamp a part on"),
    ],
)
def test_what_can_not_stand_there_is_not_judged(change, said):
    of = held_by(ON_TABLE.model_copy(update=change), POCKET)
    seen = answer(of)
    assert said in seen.setups[0].stations[0].unknown["hold"]
    assert seen.setups[0].operations[0].answers["hold"].state == "unknown"


def test_a_plate_that_is_too_small_for_its_clamps():
    wide = tuple(each.model_copy(update={"clamp": "strap-m12"}) for each in TWO)
    of = held_by(ON_PALLET.model_copy(update={"clamps": wide}), POCKET)
    assert "beside the plate" in answer(of).setups[0].stations[0].unknown["hold"]


@pytest.mark.parametrize(
    ("made", "said"),
    [
        (lambda: Clamped(base="b", clamps=(TWO[0], TWO[0])), "more than once"),
        (lambda: Clamped(base="b", clamps=(strap("c1", "+x", fixed_in="under"),)), "'under'"),
        (lambda: strap("c1", "+z"), "side"),
        (lambda: strap("c1", "+x", torque_nm=-1.0), "torque_nm"),
        (lambda: Base(key="b", name="B", x_mm=10.0, friction=0.2, source=""), "y_mm is 0"),
        (
            lambda: ScrewDown(**{**LIBRARY.clamps["screw-m6"].model_dump(), "head_mm": 5.0}),
            "over thread_mm",
        ),
        (
            lambda: SideClamp(**{**LIBRARY.clamps["toe-m8"].model_dump(), "high_mm": 5.0}),
            "at least low_mm",
        ),
    ],
)
def test_records_that_can_not_be(made, said):
    with pytest.raises(ValueError, match=said):
        made()


@pytest.mark.parametrize("base", ["on-table", "pallet-160"])
def test_it_is_mostly_held_under_two_straps_against_three_dowels(base):
    of = build.plan(setups=(build.setup(POCKET),))
    held = apply(of, meaning(Hold(station="st1", item=base), of, LIBRARY, MEMO))
    seen = answer(held)
    assert [each.side for each in held.stations[0].holding.clamps] == ["-x", "+x"]
    assert not [each for each in seen.findings if each.severity == "stop"]
    assert seen.setups[0].stations[0].unknown == {}
    assert held.stations[0].holding.item == base


def test_coming_out_below_it_is_laid_on_parallels():
    inside = tuple(each.model_copy(update={"at_mm": 15.0}) for each in TWO)
    flush = sawn_block(x=(2, 2), y=(2, 2), z=(0, 1))
    of = held_by(ON_TABLE.model_copy(update={"clamps": inside}), DRILL, stock=flush)
    found = finding(of, "hold.below")
    assert "into what it is clamped on" in in_words(found)
    raised = after_fix(
        of, found, next(k for k, fix in enumerate(found.fixes) if "parallels" in fix.label)
    )
    assert raised.stations[0].holding.raised_mm > 0.0


def test_figures_are_the_same_however_often_they_are_asked():
    of = held_by(ON_PALLET, POCKET)
    first = {id: each.value for id, each in answer(of).figures.items()}
    fresh = evaluate(of, LIBRARY)
    assert {id: each.value for id, each in fresh.figures.items()} == first


def test_a_block_as_high_as_the_part_stands_under_the_heel():
    tall = sawn_block(x=(2, 2), y=(2, 2), z=(20, 0))
    station = walk(held_by(ON_TABLE, POCKET, stock=tall), LIBRARY, MEMO).setups[0].first
    assert {round(each.top - each.bottom, 6) for each in station.stand.of("heel")} == {40.0}


def in_nest(diameter, **fields):
    """Round, against two Ø8 pins 14 beside the middle of a nest that was made for Ø40."""
    across = {
        "part": Part(size_mm=(diameter, diameter, 20.0), typed=()),
        "stock": Round(diameter_mm=diameter),
    }
    held = Clamped(
        base="on-table",
        nest_mm=40.0,
        dowels=tuple(Dowel(id=id, side="-y", at_mm=x) for id, x in (("d1", -14.0), ("d2", 14.0))),
        clamps=(strap("c1", "+y"),),
        **fields,
    )
    return held_by(held, DISC, **across)


def test_another_diameter_in_a_nest_wants_its_shim():
    """From the pins to the middle it is 24 for Ø40 and 22 for Ø36."""
    of = in_nest(36.0)
    found = finding(of, "hold.family-shim")
    assert found.values["wants"].value == pytest.approx(2.0, abs=0.005)
    off = np.sqrt(24.0**2 - 14.0**2) - np.sqrt(22.0**2 - 14.0**2)
    assert found.values["off"].value == pytest.approx(off, abs=0.01)
    shimmed = after_fix(of, found)
    assert shimmed.stations[0].holding.shim_mm == pytest.approx(2.0, abs=0.005)
    assert "hold.family-shim" not in ids(shimmed)
    pins = walk(shimmed, LIBRARY, MEMO).setups[0].first.stand.of("dowel")
    for pin in pins:  # they stand where the nest has them
        assert np.hypot(*pin.region.centroid.coords[0]) == pytest.approx(24.0, abs=0.02)
    assert {each.body for each in contacts_of_plan(shimmed).every} >= {"dowel 1", "dowel 2"}


def test_its_own_diameter_wants_none_and_a_larger_or_a_square_one_is_not_judged():
    assert "hold.family-shim" not in ids(in_nest(40.0))
    larger = answer(in_nest(42.0)).setups[0].stations[0].unknown["hold"]
    assert "up to 40, what the nest is made for" in larger
    square = held_by(ON_TABLE.model_copy(update={"nest_mm": 90.0}), POCKET)
    assert "must be round" in answer(square).setups[0].stations[0].unknown["hold"]
    over = answer(in_nest(40.0, raised_mm=30.0)).setups[0].stations[0].unknown["hold"]
    assert over.startswith("raised in the nest") and "less than its pins are high" in over


def test_the_way_over_a_part_goes_over_its_clamps():
    """A strap 10 thick with its nut lies on it: 9 over that, and the shop's retract over all."""
    inside = tuple(each.model_copy(update={"at_mm": 15.0}) for each in TWO)
    op = operation(held_by(ON_TABLE.model_copy(update={"clamps": inside}), DRILL))
    nut = max(body.top for body in op.stand.of("clamp"))
    assert nut == pytest.approx(op.lie.stock_high[2] + 10.0 + 1.5 * 6.0)
    across = [leg.points[:, 2] for leg in op.path.legs if leg.kind == "rapid"]
    highest = max(float(z.max()) for z in across)
    assert highest == pytest.approx(nut + LIBRARY.settings.retract_mm)
    # from one hole to the other it is lifted over both straps
    between = next(
        leg.points for leg in op.path.legs if leg.kind == "rapid" and np.ptp(leg.points[:, 0]) > 50
    )
    moving = between[1:-1] if len(between) > 3 else between
    assert float(moving[:, 2].min()) > nut
    free = operation(held_by(ON_TABLE.model_copy(update={"clamps": ()}), DRILL))
    low = max(float(leg.points[:, 2].max()) for leg in free.path.legs)
    assert low == pytest.approx(op.lie.stock_high[2] + LIBRARY.settings.retract_mm)


def test_what_a_holder_would_touch_is_named_with_a_place_of_it():
    """A pocket beside straps, by a tool drawn in as far as it goes: they stand over the stock."""
    short = held_by(ON_TABLE, POCKET, tools=(*TOOLS[:2], tool(3, "end-mill-8-z3", 9.0), *TOOLS[3:]))
    found, op = finding(short, "reach.stick-out-short"), operation(short)
    met = op.seen.in_way
    assert met is not None and found.values["what"].value == met.name == "clamp 1"
    x, y, top = met.at
    spot = Point(x, y)
    over = [each for each in op.stand.beside if each.region.distance(spot) < 1e-6]
    assert any(each.top == pytest.approx(top) for each in over)
    assert top > op.after.top().highest_within(op.after.outline())
