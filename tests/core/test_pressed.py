"""What jaws and clamps press on where nothing stands behind it."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import pytest

from machining.plan.operation import RoughPocket
from machining.plan.places import OnFeatures
from machining.world.feature import Pocket
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from .build import (
    LIBRARY,
    POCKET,
    TOOLS,
    VISE,
    after_fix,
    answer,
    changed,
    finding,
    ids,
    plan,
    setup,
)
from .clamped import ON_TABLE, held_by, operation, strap

ID = "hold.presses-thin"
FLOOR = 3.0


def hollow(wall: float, grip: float = 15.0, torque: float = 40.0):
    """80 x 50 x 20 with one pocket that leaves walls so thick, held by its long sides."""
    x, y = 40.0 - wall, 25.0 - wall
    deep = Pocket(
        id="deep",
        loops=(((-x, -y, FLOOR), (x, -y, FLOOR), (x, y, FLOOR), (-x, y, FLOOR)),),
        opens="+z",
        depth_mm=20.0 - FLOOR,
        corner_radius_mm=4.0,
    )
    rough = RoughPocket(
        id="deep",
        tool="t3",
        on=OnFeatures(ids=("deep",)),
        step_down_mm=4.0,
        step_over_mm=1.6,
        leave_mm=0.0,
    )
    vise = VISE.model_copy(update={"grip_depth_mm": grip, "torque_nm": torque})
    return plan(
        rough,
        part=Part(size_mm=(80.0, 50.0, 20.0), typed=(deep,)),
        stock=sawn_block(x=(0, 0), y=(0, 0), z=(0, 0)),
        setups=(setup(rough, holding=vise),),
        tools=TOOLS,
    )


def test_a_hollow_part_bends_between_the_jaws_once_it_is_hollow():
    found = finding(hollow(2.5), ID)
    assert (found.severity, found.operation) == ("look", "deep")
    assert found.values["thick"].value == pytest.approx(2.5, abs=0.05)
    assert found.values["bends"].value > 0.05
    pressed = operation(hollow(2.5)).seen.pressed
    assert pressed.body.endswith("jaw")
    assert pressed.force_n == pytest.approx(VISE.torque_nm * 440.0 / 4.0)


def test_it_bends_in_proportion_to_the_force_and_more_the_thinner_it_is():
    """A plate: with the cube of its thickness, where the same stands round it."""
    now, half = (operation(hollow(2.5, torque=t)).seen.pressed for t in (40.0, 20.0))
    assert now.bends_mm == pytest.approx(2.0 * half.bends_mm, rel=1e-6)
    bends = [operation(hollow(wall)).seen.pressed.bends_mm for wall in (2.0, 2.5, 3.0)]
    for thinner, thicker in pairwise(bends):
        assert thinner > 1.3 * thicker


def test_a_solid_part_or_a_wall_over_the_grip_is_nothing_to_tell():
    assert operation(hollow(2.5, grip=FLOOR - 0.5)).seen.pressed is None
    assert ID not in ids(hollow(9.0))


def test_less_torque_is_offered_only_where_every_cut_is_still_held():
    thick = hollow(3.4, torque=40.0)
    found = finding(thick, ID)
    eased = [k for k, fix in enumerate(found.fixes) if fix.label == "Tighten to {torque}"]
    assert eased
    after = after_fix(thick, found, eased[0])
    assert ID not in ids(after)
    assert "hold.slips" not in ids(after)
    weak = changed(hollow(2.0), "station:st1", holding__torque_nm=20.0)
    assert "Tighten to {torque}" not in {fix.label for fix in finding(weak, ID).fixes}


def test_it_is_told_where_it_begins_and_not_again():
    of = hollow(2.5)
    rough = of.setups[0].operations[0]
    again = rough.model_copy(update={"id": "again", "tool": "t3"})
    twice = of.model_copy(
        update={"setups": (of.setups[0].model_copy(update={"operations": (rough, again)}),)}
    )
    told = [f.operation for f in answer(twice).findings if f.id == ID]
    assert told == ["deep"]


# -- dents


def soft(material="pom-c", torque=40.0, grip=4.0):
    vise = VISE.model_copy(update={"grip_depth_mm": grip, "torque_nm": torque})
    return plan(POCKET, material=material, setups=(setup(POCKET, holding=vise),))


def test_a_vise_dents_plastic_by_its_force_over_the_face_it_touches():
    """17.6 kN over 84 by 4: 52 N/mm² of the 65 that POM stands; half as deep a grip dents it."""
    force, stands = 40.0 * 440.0, 65.0
    assert force / (84.0 * 4.0) < stands < force / (84.0 * 2.0)
    assert "hold.crushes" not in ids(soft())
    found = finding(soft(grip=2.0), "hold.crushes")
    assert found.values["pressure"].value == pytest.approx(force / (84.0 * 2.0), rel=0.02)
    assert found.values["stands"].value == stands
    eased = after_fix(soft(grip=2.0), found)
    assert "hold.crushes" not in ids(eased)
    assert eased.setups[0].stations[0].holding.torque_nm < 40.0 * stands / (force / 168.0)


def test_metal_is_not_dented_and_of_grey_iron_nobody_knows():
    assert "hold.crushes" not in ids(soft("en-aw-6082", grip=2.0))
    assert "hold.crushes" not in ids(soft("en-gjl-250", grip=2.0))


def test_a_strap_presses_on_its_pad_and_a_screw_on_the_ring_under_its_head():
    """A strap of M6 at 10 N·m over 20 by 8: 27 N/mm². It dents what stands less."""
    tight = ON_TABLE.model_copy(
        update={"clamps": (strap("c1", "-x", torque_nm=10.0), strap("c2", "+x", torque_nm=5.0))}
    )
    weak = LIBRARY.materials["pom-c"].model_copy(update={"proof_n_mm2": 20.0})
    library = replace(LIBRARY, materials={**LIBRARY.materials, "pom-c": weak})
    of = held_by(tight, POCKET, material="pom-c")
    found = finding(of, "hold.crushes", library)
    force = 1000.0 * 10.0 / (0.2 * 6.0) * 20.0 / 38.0
    assert found.values["pressure"].value == pytest.approx(force / (20.0 * 8.0), rel=0.05)
    eased = after_fix(of, found).setups[0].stations[0].holding.clamps
    assert eased[0].torque_nm < 10.0 * 20.0 / (force / 160.0)
    assert eased[1].torque_nm == 5.0
    assert "hold.crushes" not in ids(of)
