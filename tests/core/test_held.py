"""What a vise stands against a cut: where it touches the part, and what its rules tell."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import linprog
from shapely import Polygon, box

from machining.facts.held import scale_for
from machining.facts.route import walk
from machining.geometry.solids import block, to_mesh
from machining.holding.contacts import cones
from machining.holding.patch import bearing
from machining.memo import Memo
from machining.plan.document import Orientation
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.quantities.said import fill
from machining.world.geometry import PartGeometry
from machining.world.part import Part
from machining.world.stock.block import sawn_block
from machining.world.stock.shaped import Shaped

from .build import FACE, LIBRARY, VISE, after_fix, answer, changed, finding, good, ids, plan, setup
from .build import tool as loaded

JAWS = LIBRARY.holdings["vise-125"]


def held_at(of, operation, library=LIBRARY):
    op = next(op for op in walk(of, library, Memo()).operations() if op.id == operation)
    return op, op.seen.held


def points(contacts, body):
    return sorted(tuple(float(x) for x in c.at) for c in contacts.every if c.body == body)


def tall(high, **holding):
    """A bare block of 100 x 60 that is faced, gripped 10 deep."""
    return plan(
        part=Part(size_mm=(100.0, 60.0, high)),
        stock=sawn_block(x=(0, 0), y=(0, 0), z=(0, 2)),
        setups=(setup(FACE, holding=VISE.model_copy(update={"grip_depth_mm": 10.0, **holding})),),
    )


def test_jaws_touch_the_corners_of_what_they_grip_a_sixth_in():
    """100 along the jaws and 10 up: 33.3 from the middle, 1.67 and 8.33 up; the parallels' strips
    span 96 by 54: 32 and 18.
    """
    op, held = held_at(tall(60.0), "face")
    low = float(op.station.lie.stock_low[2])
    for body, y in (("fixed jaw", 30.0), ("moving jaw", -30.0)):
        across = [(x, y, low + z) for x in (-100 / 3, 100 / 3) for z in (10 / 6, 50 / 6)]
        assert points(held.contacts, body) == [pytest.approx(each, abs=0.01) for each in across]
    rests = points(held.contacts, "parallels")
    assert [each[:2] for each in rests] == [
        pytest.approx((x, y), abs=0.01) for x in (-32.0, 32.0) for y in (-18.0, 18.0)
    ]
    assert held.contacts.groups == {"moving jaw": pytest.approx(VISE.torque_nm * 440.0)}


def test_how_a_face_was_meshed_changes_nothing():
    """More points along its sides, a little off, and another first one: the same four corners."""
    plain = bearing(box(0.0, 0.0, 30.0, 12.0))
    messy = [(30, 12), (30, 5), (30, 0), (17.3, 0.00004), (0, 0), (0, 4.1), (0, 12), (9, 12.00002)]
    assert bearing(Polygon(messy)).tolist() == plain.tolist()
    assert plain.tolist() == [[5.0, 2.0], [5.0, 10.0], [25.0, 10.0], [25.0, 2.0]]


@pytest.mark.parametrize("high", [60.0, 150.0, 200.0])
def test_the_factor_is_that_of_the_same_holding_worked_out_by_hand(high):
    """Contacts, directions and places as they are counted here, by another solver."""
    of = tall(high)
    op, held = held_at(of, "face")
    seat = float(op.station.lie.stock_low[2])
    worn, lift = op.value("worn_force"), 1.3 * op.value("axial_force")
    torque = 1.3 * op.value("torque") * 1000.0
    path = np.vstack([leg.points for leg in op.path.legs if leg.kind in ("cut", "ramp", "plunge")])
    low, high_end = path.min(axis=0), path.max(axis=0)
    corners = [(x, y) for x in (low[0], high_end[0]) for y in (low[1], high_end[1])]
    half = op.seen.depth_mm / 2.0
    columns, amount = _vise_by_hand(seat, of)
    least = 100.0
    for z in (low[2] + half, high_end[2] + half):
        for x, y in corners:
            for k in range(24):
                turn = 2 * np.pi * k / 24
                over = worn / np.cos(np.pi / 24)
                force = np.array([over * np.cos(turn), over * np.sin(turn), lift])
                moment = np.cross([x, y, z], force) - [0.0, 0.0, torque]
                least = min(least, _most(columns, amount, force, moment))
    assert held.factor == pytest.approx(least, rel=0.01)


def _vise_by_hand(seat, of):
    """Fixed jaw at y 30, moving one opposite with 17.6 kN, parallels at y ±26 over 96."""
    friction, length = JAWS.friction, 1.0
    jaws = [(x, seat + z) for x in (-100 / 3, 100 / 3) for z in (10 / 6, 50 / 6)]
    at = [
        *((x, 30.0, z, (0, -1, 0), 0) for x, z in jaws),
        *((x, -30.0, z, (0, 1, 0), 1) for x, z in jaws),
        *((x, y, seat, (0, 0, 1), 0) for x in (-32.0, 32.0) for y in (-18.0, 18.0)),
    ]
    rows = []
    for x, y, z, normal, pressed in at:
        (corners,) = cones(np.array([normal], dtype=float), np.array([friction]))
        for force in corners:
            rows.append([*force, *(np.cross([x, y, z], force) / length), pressed])
    size = of.part.size_mm
    kg = size[0] * size[1] * size[2] * 2.7e-6  # what is left of the blank
    middle = seat + size[2] / 2.0
    weight = np.array([0.0, 0.0, -9.80665 * kg])
    wrench = [*weight, *(np.cross([0.0, 0.0, middle], weight))]
    clamp = of.setups[0].stations[0].holding.torque_nm * JAWS.force_per_torque
    return np.array(rows), np.array([*(-np.array(wrench)), clamp])


def _most(columns, amount, force, moment):
    way = np.array([*force, *moment, 0.0])
    worth = np.append(np.zeros(len(columns)), -1.0)
    scale = np.array([1.0, 1.0, 1.0, 0.02, 0.02, 0.02, 1.0])  # so that all rows are alike
    rows = (np.vstack([columns, way]) * scale).T
    found = linprog(worth, A_eq=rows / 1000.0, b_eq=amount * scale / 1000.0)
    return -found.fun if found.status == 0 else 0.0


def test_a_taller_part_is_stood_less():
    told = [held_at(tall(high), "face")[1].factor for high in (60.0, 150.0, 200.0)]
    assert told[0] > 2.0 * told[1] > 2.0 * told[2]


def test_a_part_wholly_outside_the_jaws_is_a_stop_and_put_in_their_middle():
    """Jaws 125 wide, shifted by 130 along a part 84 long."""
    out = changed(good(), "station:st1", holding__shift_mm=130.0)
    found = finding(out, "hold.grips-nothing")
    assert found.severity == "stop" and "no jaw" in found.message
    assert "hold.slips" not in ids(out)  # nothing to slip
    back = after_fix(out, found)
    assert back.station("st1").holding.shift_mm == 0.0
    assert "hold.grips-nothing" not in ids(back)


def test_half_in_the_jaws_it_is_stood_less_than_in_their_middle():
    half = changed(good(), "station:st1", holding__shift_mm=70.0)
    factors = [held_at(of, "rough")[1].factor for of in (half, good())]
    assert factors[0] < 0.7 * factors[1]


def test_more_torque_than_the_vise_takes_is_a_stop_and_counts_no_more():
    most = JAWS.max_torque_nm
    over = changed(good(), "station:st1", holding__torque_nm=200.0)
    found = finding(over, "hold.over-torque")
    assert found.severity == "stop"
    figure = answer(over).figures["s1.clamping"]
    assert figure.value == pytest.approx(most * JAWS.force_per_torque)
    fixed = after_fix(over, found)
    assert fixed.station("st1").holding.torque_nm == most
    assert "hold.over-torque" not in ids(fixed)


def test_a_weak_grip_slips_and_says_where_and_more_torque_holds():
    weak = changed(good(), "station:st1", holding__torque_nm=10.0)
    found = next(f for f in answer(weak).findings if f.id == "hold.slips")
    op, held = held_at(weak, found.operation)
    assert held.factor < 2.0
    text = fill(found.message, found.values)
    assert "towards" in text and "with the tool at X" in text
    tighter = after_fix(weak, found)
    torque = tighter.station("st1").holding.torque_nm
    assert torque == pytest.approx(np.ceil(scale_for(op, 2.0) * 10.0))
    left = [(f.id, f.operation) for f in answer(tighter).findings]
    assert ("hold.slips", op.id) not in left


def test_a_drill_is_stood_least_as_it_pulls_back_and_a_tap_as_it_twists():
    _, drilled = held_at(good(), "drill")
    assert drilled.towards.tolist() == [0.0, 0.0, 1.0]
    thrust, pull = drilled.loads
    assert thrust.axial_n < 0.0 < pull.axial_n == pytest.approx(-0.3 * thrust.axial_n)
    op, tapped = held_at(good(), "tap")
    assert op.value("worn_torque") == pytest.approx(1.3 * op.value("cutting_torque"))
    assert {load.force_n for load in tapped.loads} == {0.0}


def beside(**holding):
    """Faced, then drilled from the right side on a machine that turns it up."""
    at = Points(at_mm=((0.0, 10.0),), diameter_mm=6.8, depth_mm=10.0)
    drill = Drill(id="beside", tool="t4", aim="+x", on=at)
    return plan(
        tools=tuple(
            loaded(number, name, machine="petrel")
            for number, name in ((1, "face-mill-50"), (4, "drill-6-8"))
        ),
        setups=(setup(FACE, drill, machine="petrel", holding=VISE.model_copy(update=holding)),),
    )


def test_drilled_from_beside_it_pushes_along_the_jaws():
    """The thrust pushes to the left, and a stop there stands what friction does not."""
    factors = []
    for stop in ("", "low", "high"):
        op, found = held_at(beside(stop=stop), "beside")
        assert op.aimed is not None
        assert found.loads[0].axis == pytest.approx([1.0, 0.0, 0.0], abs=1e-9)
        factors.append(found.factor)
        if not stop:
            assert found.towards == pytest.approx([-1.0, 0.0, 0.0], abs=1e-9)
    without, left, right = factors
    assert left > 1.2 * without and right == pytest.approx(without, rel=1e-6)


def test_a_stop_where_it_is_pushed_to_is_offered():
    """So loose that friction alone stands it 1.9 times."""
    without = held_at(beside(), "beside")[1].factor
    of = beside(torque_nm=VISE.torque_nm * 1.9 / without)
    found = next(f for f in answer(of).findings if f.operation == "beside" and f.id == "hold.slips")
    labels = [fill(each.label, each.values) for each in found.fixes]
    stop = labels.index("A stop at the left end in setup 1")
    assert "A stop at the right end in setup 1" not in labels
    stopped = after_fix(of, found, stop)
    left = [(f.id, f.operation) for f in answer(stopped).findings]
    assert ("hold.slips", "beside") not in left


def stepped():
    """A block undercut in front and cut away above at its back: jaws meet it at other heights."""
    low, high = np.array([-40.0, -30.0, 0.0]), np.array([40.0, 30.0, 30.0])
    solid = block(low, high)
    solid = solid - block(np.array([-50.0, -40.0, -1.0]), np.array([50.0, -25.0, 4.5]))
    solid = solid - block(np.array([-50.0, 25.0, 1.5]), np.array([50.0, 40.0, 40.0]))
    return PartGeometry("stepped", to_mesh(solid), float(solid.volume()), ())


def test_jaws_that_press_at_different_heights_turn_the_part_off_its_seat():
    library = replace(LIBRARY, geometries={"stepped": stepped()})
    of = plan(
        part=Part(geometry="stepped"),
        stock=Shaped(geometry="stepped"),
        setups=(setup(FACE, holding=VISE),),
    )
    found = finding(of, "hold.not-seated", library)
    assert found.severity == "stop" and "turns about" in found.message
    deeper = after_fix(of, found, -1)
    assert deeper.station("st1").holding.grip_depth_mm > VISE.grip_depth_mm


def test_what_leans_is_touched_as_it_was_upright():
    """A vise on a sine plate: contacts turn with all of it."""
    leans = Orientation(raised="+x", raised_deg=20.0, raised_by="vise")
    _, upright = held_at(good(), "drill")
    of = changed(good(), "station:st1", orientation=leans.model_dump())
    op, turned = held_at(of, "face")
    turn = op.station.stand.turn
    lie = op.station.stand.lie.pose
    for before, now in zip(upright.contacts.every, turned.contacts.every, strict=True):
        assert turn @ before.normal == pytest.approx(np.array(now.normal), abs=1e-6)
    assert lie is not None
