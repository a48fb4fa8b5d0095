"""A held part as points of contact: the worked set, closed forms, and another solver."""

from __future__ import annotations

from math import cos, pi, sin

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import linprog

from machining.holding.contacts import CORNERS, Contact, Contacts, Weight, cones, wrenches
from machining.holding.cut import TURNS, Cut, Pushes, in_plane, pushes
from machining.holding.held import counted, factor, jams, least_scale, not_pressed, seat
from machining.holding.located import located, moves, said
from machining.quantities.said import fill

UP = (0.0, 0.0, 1.0)


def at_points(normal, friction, points, body="", group=None):
    return [Contact(each, normal, friction, body, group) for each in points]


def two_jaws(clamp=10_000.0):
    return Contacts(
        [
            Contact((0, -20, 0), (0, 1, 0), 0.15, "fixed"),
            Contact((0, 20, 0), (0, -1, 0), 0.15, "moving", "P"),
        ],
        {"P": clamp},
        50.0,
    )


def vise(top=5.0, clamp=16_700.0, weight=None, x=34.0):
    """Jaws 70 apart that grip up to 6 over parallels."""
    sides = [(a, z) for a in (-x, x) for z in (1.0, top)]
    return Contacts(
        [
            *at_points((0, 1, 0), 0.18, [(a, -35.0, z) for a, z in sides], "fixed"),
            *at_points((0, -1, 0), 0.18, [(a, 35.0, z) for a, z in sides], "moving", "P"),
            *at_points(UP, 0.18, [(a, b, 0.0) for a in (-x, x) for b in (-25.0, 25.0)], "parallel"),
        ],
        {"P": clamp},
        60.0,
        weight,
    )


def chuck(force=3 * 4324.0):
    round_ = [(cos(2 * pi * k / 3), sin(2 * pi * k / 3)) for k in range(3)]
    return Contacts(
        [
            Contact((45 * c, 45 * s, z), (-c, -s, 0.0), 0.15, f"jaw {k}", "P")
            for k, (c, s) in enumerate(round_)
            for z in (10 / 3, 50 / 3)
        ],
        {"P": force},
        50.0,
    )


def times(contacts, at, direction, force):
    cut = Cut(at, UP, force, directions=[direction])
    return factor(counted(contacts), pushes(cut, contacts.length_mm)).factor


def test_two_jaws_hold_twice_the_friction_of_their_force():
    """2·0.15·10 kN; half way between two corners of the cone cos(180°/16) of it."""
    assert times(two_jaws(), (0, 0, 0), (1, 0, 0), 1000.0) == pytest.approx(3.0, rel=1e-6)
    turn = pi / CORNERS
    between = times(two_jaws(), (0, 0, 0), (cos(turn), 0, sin(turn)), 1000.0)
    assert between == pytest.approx(3.0 * cos(turn), rel=1e-6)


@pytest.mark.parametrize(
    ("at", "direction", "expected"),
    [
        ((0, 0, 25), (0, 1, 0), 6.338),
        ((0, 0, 25), (0, -1, 0), 11.60),
        ((0, 0, 25), (1, 0, 0), 5.003),
        ((0, 0, 25), (0, 0, 1), 5.031),
        ((40, 0, 25), (0, 1, 0), 6.316),
        ((40, 0, 25), (0, 0, 1), 4.627),
    ],
)
def test_a_vise_on_parallels_holds_as_was_worked_out(at, direction, expected):
    assert times(vise(), at, direction, 1195.0) == pytest.approx(expected, rel=0.001)


def test_three_jaws_hold_a_push_from_beside_and_a_twist():
    """0.15·3·4324 N at 45 from the axis is 87.56 N·m."""
    assert times(chuck(), (0, 0, 60), (cos(pi / 3), sin(pi / 3), 0), 1000.0) == pytest.approx(
        2.011, rel=0.001
    )
    twist = Pushes(np.array([UP]), np.array([[0, 0, 0, 0, 0, 1000.0 / 50.0]]))
    assert factor(chuck(), twist).factor == pytest.approx(0.15 * 3 * 4324 * 0.045, rel=1e-6)


@pytest.mark.parametrize(("missing", "rank", "free"), [
    (None, 6, []),
    (5, 5, ["can slide along Y"]),
    (0, 5, None),
])  # fmt: skip
def test_three_two_one_stops_all_motions_and_a_pin_less_leaves_one(missing, rank, free):
    """Three below, two at the left, one in front."""
    pins = [
        *at_points(UP, 0.2, [(0, 0, 0), (100, 0, 0), (50, 60, 0)]),
        *at_points((1, 0, 0), 0.2, [(0, 10, 5), (0, 50, 5)]),
        *at_points((0, 1, 0), 0.2, [(50, 0, 5)]),
    ]
    pins = [each for k, each in enumerate(pins) if k != missing]
    found = located(Contacts(pins, {}, 60.0).along_normals, 60.0)
    assert found.rank == rank
    told = [fill(each.text, each.values) for each in map(said, found.free)]
    assert free is None or told == free
    assert len(told) == 6 - rank


def test_two_pins_at_one_side_less_leave_it_to_turn_about_the_other():
    pins = [
        *at_points(UP, 0.2, [(0, 0, 0), (100, 0, 0), (50, 60, 0)]),
        Contact((0, 10, 5), (1, 0, 0), 0.2),
        Contact((50, 0, 5), (0, 1, 0), 0.2),
    ]
    (motion,) = located(Contacts(pins, {}, 60.0).along_normals, 60.0).free
    told = said(motion)
    assert told.text == "can turn about Z at X {x}, Y {y}"
    assert (told.values["x"].value, told.values["y"].value) == pytest.approx((50.0, 10.0))


def test_a_round_part_between_jaws_turns_and_slides():
    found = located(chuck().along_normals, 50.0)
    assert found.rank == 4
    assert [said(each).text for each in found.free] == ["can slide along Z", "can turn about Z"]


def test_a_screw_that_pushes_against_what_it_is_not_fixed_to_lifts_the_pallet():
    """A pallet in a vise; a strap's screw stands on it and pushes up, nothing above."""
    held = vise()
    lifted = Contacts(
        [*held.every, Contact((10, 0, 12), UP, 0.2, "screw", "strap")],
        {**held.groups, "strap": 6000.0},
        60.0,
    )
    found = seat(lifted)
    assert not found.seated and moves(found.left).text == "lifts"
    assert found.left[2] == pytest.approx(6000.0, rel=1e-6)
    assert seat(held).seated and seat(held).residual_n == pytest.approx(0.0, abs=1e-6)


def test_a_clamp_beside_its_support_lifts_the_part_off_the_other_side():
    """1000 N down 20 beyond two of three pins that are 100 apart: the third would have to pull with
    200 N.
    """
    pins = at_points(UP, 0.2, [(0, 0, 0), (100, -30, 0), (100, 30, 0)])
    down = Contact((120, 0, 20), (0, 0, -1), 0.2, "strap", "strap")
    found = seat(Contacts([*pins, down], {"strap": 1000.0}, 60.0))
    assert not found.seated and found.residual_n == pytest.approx(1000 * 20 / 100, rel=1e-6)
    assert moves(found.left).text == "lifts"


def test_what_nothing_presses_is_told_and_weight_presses_it():
    assert not_pressed(vise()) == (8, 9, 10, 11)
    assert not_pressed(vise(weight=Weight(2.0, (0, 0, 10)))) == ()


def test_a_wedge_of_two_pins_jams_and_its_friction_counts_nothing():
    """Faces 10 degrees to each other hold by friction from tan 5 degrees on."""
    turn = pi / 36
    for friction, jammed in ((0.05, False), (0.15, True)):
        wedge = Contacts(
            [
                Contact((10, 0, 0), (-cos(turn), 0, sin(turn)), friction),
                Contact((-10, 0, 0), (cos(turn), 0, sin(turn)), friction),
                Contact((0, 0, 20), (0, 0, -1), 0.1, "screw", "screw"),
            ],
            {"screw": 1000.0},
            30.0,
        )
        assert jams(wedge) is jammed
        bearing = counted(wedge).friction[:2]
        assert bearing.tolist() == ([0.0, 0.0] if jammed else [friction, friction])


def test_without_a_push_there_is_no_factor_and_without_a_balance_it_is_nought():
    none = pushes(Cut((0, 0, 0), UP, 0.0), 50.0)
    assert factor(two_jaws(), none) is None
    alone = Contacts([Contact((0, 20, 0), (0, -1, 0), 0.15, "moving", "P")], {"P": 5000.0}, 50.0)
    found = factor(alone, pushes(Cut((0, 0, 0), UP, 100.0), 50.0))
    assert found.factor == 0.0 and not found.seated
    little = factor(two_jaws(), pushes(Cut((0, 0, 0), UP, 0.1, directions=[(1, 0, 0)]), 50.0))
    assert little.factor == 100.0


def test_a_taller_part_is_held_less_as_statics_says():
    """A push across the jaws at a height h tips it over the edge of the lower jaw contacts. With
    the push along them the twist about Y grows with h: both jaws stand it by friction on their
    corners. Each by hand as Coulomb and levers give it, jaws 10 deep, push at the top.
    """
    told = []
    for high in (60.0, 150.0, 200.0):
        cut = pushes(Cut((0, 0, high), UP, 1500.0), 60.0)
        told.append(factor(counted(vise(top=8.33)), cut).factor)
    assert told == sorted(told, reverse=True)
    away = {
        high: times(vise(top=8.33), (0, 0, high), (0, -1, 0), 1500.0) for high in (150.0, 200.0)
    }
    # pushed onto the fixed jaw at its upper corners: parallels can't pull, friction holds down
    clamp, friction, top = 16_700.0, 0.18, 8.33
    for high, found in away.items():
        assert found == pytest.approx(_tips(clamp, friction, top, high) / 1500.0, rel=0.02), high


def _tips(clamp, friction, top, high):
    """The push F towards the fixed jaw (at y −35) at which the part turns over the jaws' edge.

    About the line where the fixed jaw's upper corners touch (y −35, z top): the push turns it with
    F·(high − top), the moving jaw can press between its lower and upper corners, at most with its
    lever (top − 1) against it, and hold down by friction at 70 away, the fixed jaw by none (it goes
    through the line) and parallels by none, since they lift.
    """
    lever = clamp * (top - 1.0) + friction * clamp * 70.0
    return lever / (high - top)


@pytest.mark.parametrize("seed", range(200))
def test_random_holdings_as_another_solver_finds_them(seed):
    rng = np.random.default_rng(seed)
    contacts = _random(rng)
    reckoned = counted(contacts)
    cut = pushes(
        Cut(
            tuple(rng.uniform(-40, 40, 3)),
            tuple(rng.normal(size=3)),
            float(rng.uniform(50, 3000)),
            float(rng.uniform(-500, 500)),
            float(rng.uniform(-20, 20)),
        ),
        contacts.length_mm,
    )
    ours, theirs = factor(reckoned, cut), _by_scipy(reckoned, cut)
    assert ours.factor == pytest.approx(theirs, rel=1e-6, abs=1e-6)
    scale = least_scale(reckoned, cut, 2.0)
    assert (scale is None) == (_scale_by_scipy(reckoned, cut, 2.0) is None)
    if scale is not None:
        assert scale == pytest.approx(_scale_by_scipy(reckoned, cut, 2.0), rel=1e-5, abs=1e-6)


def _random(rng):
    count = int(rng.integers(3, 12))
    groups = {f"g{k}": float(rng.uniform(500, 20_000)) for k in range(int(rng.integers(1, 3)))}
    every = []
    for k in range(count):
        at = rng.uniform(-50, 50, 3)
        inwards = -at + rng.normal(scale=10.0, size=3)
        own = [*groups][k] if k < len(groups) else None
        normal = inwards / np.linalg.norm(inwards)
        every.append(Contact(tuple(at), tuple(normal), float(rng.uniform(0, 0.4)), "", own))
    return Contacts(every, groups, 60.0, Weight(float(rng.uniform(0, 5)), (1.0, 2.0, 3.0)))


def _columns(contacts):
    """Plain loops: forces and moments of each corner, then the sums of the groups."""
    rows = []
    for contact, corners in zip(
        contacts.every, cones(contacts.normals, contacts.friction), strict=True
    ):
        for force in corners:
            moment = np.cross(np.array(contact.at), force) / contacts.length_mm
            own = [1.0 if contact.group == name else 0.0 for name in contacts.groups]
            rows.append([*force, *moment, *own])
    return np.array(rows)


def _by_scipy(contacts, cut):
    columns, least = _columns(contacts), 100.0
    amount = np.append(-contacts.constant, contacts.forces)
    for each in cut.wrenches:
        way = np.append(each, np.zeros(len(contacts.forces)))
        worth = np.zeros(len(columns) + 1)
        worth[-1] = -1.0
        bounds = [(0, None)] * len(columns) + [(0, 100.0)]
        found = linprog(worth, A_eq=np.vstack([columns, way]).T, b_eq=amount, bounds=bounds)
        least = min(least, -found.fun if found.status == 0 else 0.0)
    return least


def _scale_by_scipy(contacts, cut, required):
    columns, worst = _columns(contacts), 0.0
    scale = np.append(np.zeros(6), -contacts.forces)
    for each in cut.wrenches:
        amount = np.append(-contacts.constant - required * each, np.zeros(len(contacts.forces)))
        worth = np.append(np.zeros(len(columns)), 1.0)
        found = linprog(worth, A_eq=np.vstack([columns, scale]).T, b_eq=amount)
        if found.status != 0:
            return None
        worst = max(worst, found.fun)
    return worst


directions = st.tuples(*[st.floats(-1.0, 1.0)] * 3).filter(lambda v: np.linalg.norm(v) > 0.1)


@given(normal=directions, friction=st.floats(0.0, 1.0), turn=st.floats(0.0, 2.0 * pi))
def test_a_cone_never_leaves_the_round_one_and_is_within_two_percent(normal, friction, turn):
    unit = np.array(normal) / np.linalg.norm(normal)
    (corners,) = cones(unit[None, :], np.array([friction]))
    assert corners @ unit == pytest.approx(np.ones(CORNERS))
    beside = corners - unit
    assert np.linalg.norm(beside, axis=1) == pytest.approx(np.full(CORNERS, friction), abs=1e-9)
    ways = in_plane(unit)
    way = cos(turn) * ways[0] + sin(turn) * ways[TURNS // 4]
    reaches = float((beside @ way).max())  # the most it gives that way, against μ
    assert reaches <= friction + 1e-9 and reaches >= 0.98 * friction - 1e-9


@pytest.mark.parametrize("at", [(0, 0, 25), (40, 10, 30)])
def test_the_factor_is_never_over_that_of_seven_hundred_and_twenty_directions(at):
    contacts = counted(vise(weight=Weight(1.0, (0, 0, 10))))
    cut = Cut(at, UP, 1195.0, axial_n=300.0, torque_nm=6.0)
    turns = [2.0 * pi * k / 720 for k in range(720)]
    every = Cut(at, UP, 1195.0, 300.0, 6.0, [(cos(a), sin(a), 0.0) for a in turns])
    ours, reference = (factor(contacts, pushes(each, 60.0)).factor for each in (cut, every))
    assert ours <= reference and ours == pytest.approx(reference, rel=0.012)


def test_turning_the_whole_holding_changes_nothing():
    """Held, located and seated do not hang on how the frame lies but for the cones' corners."""
    turn = np.array([[0.0, -1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0]])
    held = vise()
    turned = Contacts(
        [
            Contact(tuple(turn @ each.at), tuple(turn @ each.normal), 0.18, "", each.group)
            for each in held.every
        ],
        held.groups,
        60.0,
    )
    cut = Cut((40, 0, 25), UP, 1195.0)
    other = Cut((0, 40, 25), UP, 1195.0)
    ours, theirs = factor(held, pushes(cut, 60.0)), factor(turned, pushes(other, 60.0))
    assert ours.factor == pytest.approx(theirs.factor, rel=1e-6)
    assert located(turned.along_normals, 60.0).rank == located(held.along_normals, 60.0).rank


def test_twice_the_clamp_force_holds_twice_and_the_least_scale_says_so():
    cut = pushes(Cut((0, 0, 25), UP, 1195.0), 60.0)
    once, twice = (factor(vise(clamp=c), cut).factor for c in (16_700.0, 33_400.0))
    assert twice == pytest.approx(2.0 * once, rel=1e-6)
    assert least_scale(vise(), cut, 2.0) == pytest.approx(2.0 / once, rel=1e-6)


def test_wrenches_are_forces_and_moments_over_the_length():
    found = wrenches(np.array([2.0, 0.0, 0.0]), np.array([0.0, 3.0, 0.0]), 4.0)
    assert found.tolist() == [0.0, 3.0, 0.0, 0.0, 0.0, 1.5]
