"""A chuck: its jaws in the setup, what they keep at speed, what a cut asks of them, how the setter
sees it; and any turned plan.
"""

from __future__ import annotations

import xml.etree.ElementTree as ET
from math import hypot, isfinite, pi

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from machining.drawing.holding import holding_drawing
from machining.evaluation import to_bytes
from machining.exchange import plan_json
from machining.facts.holdings.chuck import needs
from machining.facts.route import walk
from machining.holding.cut import Pushes
from machining.holding.held import factor
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Orientation
from machining.plan.edit import Change, MoveOperation
from machining.plan.holding import InChuck
from machining.plan.turned import Profile, TurnRough
from machining.world.workholding import Chuck
from tests.at_length import ALL

from .build import changed
from .lathe import CHUCK, DRILL, FACE, GOOD, LIBRARY, MEMO, ROUGH, answer, ids, plan, setup

HARD = LIBRARY.chucks["chuck-200"]


def seen(of, number=0):
    return walk(of, LIBRARY, MEMO).setups[number].first


# -- statics


def test_the_force_that_is_needed_gives_the_factor():
    """Of jaws at rest: what has to be left at speed, and what speed takes or adds."""
    light = ROUGH.model_copy(update={"depth_mm": 0.5})
    of = changed(plan(FACE, light), "station:st1", holding__force_per_jaw_n=9000.0)
    op = walk(of, LIBRARY, MEMO).operations()[1]
    force = needs(op, 3.0)
    closed = changed(of, "station:st1", holding__force_per_jaw_n=force)
    again = walk(closed, LIBRARY, MEMO).operations()[1]
    assert again.value("holding") == pytest.approx(3.0, rel=1e-6)


def test_hard_jaws_touch_a_round_along_a_line_and_bored_ones_along_an_arc():
    """28 along the spindle: 4.67 in from both ends; bored jaws by their ends and middle."""
    low = float(seen(plan(FACE)).lie.stock_low[2])
    bored = changed(
        plan(FACE), "station:st1", holding__chuck="chuck-200-soft", holding__bored_mm=50.0
    )
    hard, soft = (
        [each for each in touched(of, "face") if each.group] for of in (plan(FACE), bored)
    )
    assert len(hard) == 6 and len(soft) == 18
    assert {round(each.at[2] - low, 2) for each in hard} == {4.67, 23.33}
    for each in (*hard, *soft):
        assert hypot(*each.at[:2]) == pytest.approx(25.0)
        assert np.dot(each.at[:2], each.normal[:2]) == pytest.approx(-25.0)


def test_a_pure_twist_is_stood_by_the_friction_of_all_jaws():
    op = walk(plan(FACE), LIBRARY, MEMO).operations()[0]
    rest = op.seen.held.contacts
    twist = Pushes(np.array([[0, 0, 1.0]]), np.array([[0, 0, 0, 0, 0, 1000.0 / rest.length_mm]]))
    by_hand = 3 * CHUCK.force_per_jaw_n * HARD.friction * 0.025
    assert factor(rest, twist).factor == pytest.approx(min(by_hand, 100.0), rel=1e-6)


def touched(of, operation):
    ops = {op.id: op for op in walk(of, LIBRARY, MEMO).operations()}
    return ops[operation].seen.held.contacts.every


# -- jaws


def test_jaws_stand_round_what_they_grip():
    facts = seen(plan(FACE))
    assert facts.stand.grips_at == pytest.approx(50.0)
    low = float(facts.lie.stock_low[2])
    for k, jaw in enumerate(facts.stand.of("jaw")):
        x, y = jaw.region.centroid.coords[0]
        assert hypot(x, y) == pytest.approx(25.0 + HARD.jaw_height_mm / 2)
        assert (jaw.top, jaw.bottom) == pytest.approx((low + 28.0, low + 28.0 - HARD.jaw_length_mm))
        assert jaw.name == str(k + 1)
    turned = seen(
        plan(FACE, setups=(setup(FACE, holding=CHUCK.model_copy(update={"jaw_angle_deg": 90.0})),))
    )
    assert turned.stand.bodies[0].region.centroid.coords[0] == pytest.approx(
        (0.0, 25.0 + HARD.jaw_height_mm / 2), abs=1e-9
    )


@pytest.mark.parametrize(
    ("holding", "words"),
    [
        ({"grip_mm": 40.0}, "up to 32, the length of the jaws"),
        ({"force_per_jaw_n": 30_000.0}, "up to 24000 N"),
        ({"chuck": "chuck-300"}, "no chuck 'chuck-300'"),
    ],
)
def test_a_grip_that_the_chuck_does_not_have_is_unknown(holding, words):
    of = plan(FACE, setups=(setup(FACE, holding=CHUCK.model_copy(update=holding)),))
    assert words in answer(of).setups[0].stations[0].unknown["hold"]


def test_a_bar_that_is_too_thin_is_not_gripped():
    thin = plan(FACE, stock=plan().stock.model_copy(update={"diameter_mm": 10.0}))
    assert "from 18 to 180" in answer(thin).setups[0].stations[0].unknown["hold"]


def test_jaws_open_into_a_bore_grip_harder_at_speed():
    """Turned end for end, the second side is held from inside the bore that the first left."""
    bored = TurnRough(
        id="bore",
        tool="t6",
        on=Profile(at_mm=((0.0, 46.0), (-60.0, 46.0)), side="inside"),
        leave_mm=0.0,
        depth_mm=1.0,
    )
    drilled = DRILL.model_copy(
        update={"on": DRILL.on.model_copy(update={"diameter_mm": 20.0, "depth_mm": 95.0})}
    )
    second = setup(
        FACE.model_copy(update={"id": "face2"}),
        id="s2",
        takes="st1",
        orientation=Orientation(up="-z"),
        holding=InChuck(chuck="chuck-200", grips="inside", grip_mm=10.0, force_per_jaw_n=9000.0),
    )
    of = plan(setups=(setup(FACE, drilled, bored), second))
    facts = seen(of, 1)
    assert facts.stand.grips_at == pytest.approx(46.0, abs=0.01)
    assert all(
        jaw.region.centroid.distance(jaw.region.centroid.__class__(0, 0)) < 23.0
        for jaw in facts.stand.of("jaw")
    )
    now = {
        name: figure.value
        for name, figure in answer(of).figures.items()
        if name.startswith("face2.")
    }
    assert now["face2.jaw_at_speed"] > 9000.0
    middle = (23.0 - HARD.jaw_radius_mm) / 1000
    assert now["face2.centrifugal"] == pytest.approx(
        HARD.jaw_mass_kg * middle * (2 * pi * now["face2.rpm"] / 60) ** 2, abs=1e-6
    )
    assert answer(of).setups[1].stations[0].handling == "Turn end for end"


def test_jaws_that_let_go_have_no_factor_but_a_finding():
    weak = plan(
        FACE,
        ROUGH,
        setups=(setup(FACE, ROUGH, holding=CHUCK.model_copy(update={"force_per_jaw_n": 300.0})),),
    )
    fast = changed(weak, "operation:face", cutting_speed_m_min=600.0)
    found = [
        f for f in answer(fast).findings if f.operation == "face" and f.id == "hold.chuck-speed"
    ]
    assert found and found[0].values["left"].value < 300.0


def test_a_chuck_that_cannot_be_is_refused():
    with pytest.raises(ValueError, match="must be under max_grip_mm, 180"):
        Chuck(**{**HARD.model_dump(), "min_grip_mm": 200.0})


# -- how it is kept and drawn


def test_a_turned_plan_goes_out_and_comes_in_with_its_chucks():
    text = plan_json.write(plan(*GOOD), LIBRARY)
    again, library = plan_json.read(text)
    assert again == plan(*GOOD) and library.chucks == LIBRARY.chucks
    assert plan_json.uses(again, library)["holdings"] == {"chuck-200"}
    assert plan_json.write(again, library) == text


def test_the_drawing_of_a_chuck_says_what_a_setter_measures():
    facts = walk(plan(*GOOD), LIBRARY, MEMO)
    text = holding_drawing(facts.setups[0].first, facts)
    words = [
        each.text for each in ET.fromstring(text).iter() if each.tag.endswith("text") and each.text
    ]
    for asked in (
        "From the side",
        "Into the chuck",
        "28",
        "63",
        "Ø50",
        "G54",
        "X",
        "Z",
        "1",
        "2",
        "3",
    ):
        assert asked in words, (asked, words)
    assert "fixed jaw" not in words
    loose = walk(plan(FACE, setups=(setup(FACE, holding=None),)), LIBRARY, MEMO)
    assert "Into the chuck" not in holding_drawing(loose.setups[0].first, loose)


# -- anything a planner may type

MANY = settings(
    max_examples=400 if ALL else 8,
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)
SIZES = st.one_of(st.floats(0.01, 120.0), st.sampled_from([0.05, 0.3, 1.5, 3.0, 24.0, 50.0]))
WORDS = {
    "towards": ("chuck", "tail"),
    "ends": ("relief", "pulled"),
    "hand": ("right", "left"),
    "passes": (1, 3),
    "starts": (1, 2),
    "spring_passes": (0, 2),
    "tool": ("t1", "t2", "t3", "t5", "t6", "t8"),
}


@st.composite
def a_turned_change(draw):
    if draw(st.integers(0, 5)) == 0:
        field = draw(
            st.sampled_from(
                [
                    "holding.grip_mm",
                    "holding.force_per_jaw_n",
                    "holding.limit_rpm",
                    "holding.jaw_angle_deg",
                ]
            )
        )
        return Change(
            on="setup:s1",
            fields={
                field: (
                    draw(st.floats(0.1, 30_000.0)) if field.endswith(("_n", "rpm")) else draw(SIZES)
                )
            },
        )
    if draw(st.integers(0, 5)) == 0:
        return MoveOperation(
            operation=draw(st.sampled_from([op.id for op in GOOD])),
            setup="s1",
            index=draw(st.integers(0, 6)),
        )
    op = draw(st.sampled_from(GOOD))
    fields = type(op).model_fields
    names = (
        [n for n in fields if n.endswith(("_mm", "_m_min")) and n != "feed_mm_min"]
        + [n for n in WORDS if n in fields]
        + ["rpm"]
    )
    names += [f"on.{n}" for n in type(op.on).model_fields if n.endswith("_mm")]
    name = draw(st.sampled_from(names))
    if name in WORDS:
        return Change(on=f"operation:{op.id}", fields={name: draw(st.sampled_from(WORDS[name]))})
    if name == "on.at_mm":
        corners, z = [], 0.0
        for _ in range(draw(st.integers(2, 5))):
            corners.append((z, draw(st.floats(0.0, 60.0))))
            z -= draw(st.floats(0.0, 25.0))
        return Change(on=f"operation:{op.id}", fields={name: corners})
    value = -draw(SIZES) if name == "on.z_mm" and draw(st.booleans()) else draw(SIZES)
    return Change(on=f"operation:{op.id}", fields={name: value})


@MANY
@given(st.lists(a_turned_change(), min_size=1, max_size=5))
def test_property_every_turned_plan_has_an_answer(edits):
    of = plan(*GOOD)
    for each in edits:
        try:
            of = apply(of, [each])
        except EditRefused as refused:
            assert "{" not in str(refused)
    got = answer(of)
    assert to_bytes(got)
    for op in got.setups[0].operations:
        assert op.time_s >= 0 and op.removed_mm3 >= -1e-3
        assert all(isfinite(gauge.value) for gauge in op.gauges)
        assert all(each.reason for each in op.answers.values() if each.state == "unknown")
    assert "" not in ids(of)
