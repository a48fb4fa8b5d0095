"""A ring that jaws press out of round while it is turned."""

from __future__ import annotations

from dataclasses import replace
from math import cos, pi, sin, tan

import pytest

from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.geometry.solids import bar, to_mesh
from machining.holding.ring import out_of_round
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.holding import InChuck
from machining.plan.turned import Profile, TurnFace, TurnFinish
from machining.quantities.errors import OutOfRange
from machining.world.feature import Hole
from machining.world.geometry import PartGeometry
from machining.world.part import Part, Requirement
from machining.world.stock import Tube
from machining.world.stock.base import Side

from . import lathe

ID = "size.squeezed"
BORE = Hole(
    id="bore",
    point=(0.0, 0.0, 0.0),
    axis="+z",
    diameter_mm=70.0,
    length_mm=40.0,
    through=True,
    opens=("+z", "-z"),
)
SOLID = bar(0.0, 0.0, 40.0, 0.0, 40.0) - bar(0.0, 0.0, 35.0, -1.0, 41.0)
RING = PartGeometry("ring", to_mesh(SOLID), float(SOLID.volume()), (BORE,))
THICK_BORE = BORE.model_copy(update={"diameter_mm": 60.0})
_THICK = bar(0.0, 0.0, 40.0, 0.0, 40.0) - bar(0.0, 0.0, 30.0, -1.0, 41.0)
THICK = PartGeometry("thick", to_mesh(_THICK), float(_THICK.volume()), (THICK_BORE,))
LIBRARY = replace(lathe.LIBRARY, geometries={"ring": RING, "thick": THICK})
MEMO = Memo()


def by_hand(jaws):
    """Under a load and between two of them, F·R³/(E·I) (Roark: a ring under equal radial loads)."""
    t = pi / jaws
    under = (t / sin(t) ** 2 + cos(t) / sin(t)) / 4.0 - 1.0 / (2.0 * t)
    between = 1.0 / (2.0 * t) - (1.0 + t / tan(t)) / (4.0 * sin(t))
    return under + between


@pytest.mark.parametrize("jaws", [2, 3, 4, 6])
def test_lines_of_force_against_the_closed_form(jaws):
    found = out_of_round(1000.0, float(jaws), 40.0, 70.0, 200.0, 0.0)
    wanted = by_hand(jaws) * 1000.0 * 40.0**3 / (70_000.0 * 200.0)
    assert found == pytest.approx(wanted, rel=2e-3)


def test_two_jaws_are_the_ring_everybody_knows():
    """0.1488 and 0.1366 of the diameters' change under two loads across."""
    assert by_hand(2) == pytest.approx((0.1488 + 0.1366) / 2.0, abs=2e-4)


def test_jaws_all_round_press_it_round():
    """Three that bear over 60° each way leave nothing open between them."""
    line, half, all_round = (
        out_of_round(1000.0, 3.0, 40.0, 70.0, 200.0, arc) for arc in (0.0, 34.5, 60.0)
    )
    assert half < 0.6 * line and all_round == pytest.approx(0.0, abs=1e-12)


def test_one_jaw_is_no_chuck():
    with pytest.raises(OutOfRange, match="jaws"):
        out_of_round(1000.0, 1.0, 40.0, 70.0, 200.0, 0.0)


def plan(force=8000.0, chuck="chuck-200", tolerance=0.03, bore=70.0, **holding):
    asked = Requirement(
        id="r", what="Bore Ø", feature="bore", nominal_mm=bore, upper_mm=tolerance, lower_mm=0.0
    )
    finish = TurnFinish(
        id="bore",
        tool="t6",
        on=Profile(at_mm=((0.0, bore), (-40.0, bore)), side="inside"),
        width_mm=0.2,
    )
    held = InChuck(chuck=chuck, grip_mm=12.0, force_per_jaw_n=force, **holding)
    return lathe.plan(
        setups=(lathe.setup(TurnFace(id="face", tool="t1"), finish, holding=held),),
        part=Part(geometry="ring" if bore > 65.0 else "thick", requirements=(asked,)),
        stock=Tube(
            diameter_mm=80.0, bore_mm=bore - 0.4, low=Side(over_mm=0.0), high=Side(over_mm=1.0)
        ),
    )


def squeezed(of):
    return {op.id: op for op in walk(of, LIBRARY, MEMO).operations()}["bore"].value("squeezed")


def told(of):
    return [each for each in evaluate(of, LIBRARY, MEMO).findings if each.id == ID]


def stops(of):
    return {each.id for each in evaluate(of, LIBRARY, MEMO).open if each.severity == "stop"}


def test_a_thin_ring_in_hard_jaws_by_hand():
    """5 thick, 40 long: all of it lies within a radius of the jaws. E 200 of stainless steel."""
    modulus = LIBRARY.materials["x5crnimo17-12-2"].modulus_gpa
    thrown = {op.id: op for op in walk(plan(), LIBRARY, MEMO).operations()}["bore"]
    force = thrown.value("jaw_at_speed")
    wanted = by_hand(3) * force * 37.5**3 / (modulus * 1000.0 * 40.0 * 5.0**3 / 12.0)
    assert force < 8000.0
    assert squeezed(plan()) == pytest.approx(wanted, rel=0.02)


def test_told_against_the_drawing():
    (found,) = told(plan())
    assert found.severity == "stop" and found.values["tolerance"].value == pytest.approx(0.015)
    assert found.fixes[0].label == "Take the operation out"  # less force would not hold the facing


def test_closed_with_less_or_in_bored_jaws_it_is_mended():
    of = plan(tolerance=0.06, bore=60.0)
    (found,) = told(of)
    assert found.severity == "look" and len(found.fixes) == 2
    for fix in found.fixes:
        after = apply(of, fix.edits)
        assert not told(after), fix.label
        assert stops(after) <= stops(of), fix.label


def test_bored_jaws_press_it_less():
    soft = plan(chuck="chuck-200-soft", bored_mm=80.0, spacer_mm=72.0, left_mm=2.8)
    assert squeezed(soft) < 0.8 * squeezed(plan())


def test_a_solid_end_is_not_pressed_out_of_round():
    gland = lathe.plan(*lathe.GOOD)
    ops = walk(gland, lathe.LIBRARY, lathe.MEMO).operations()
    assert all(op.value("squeezed") is None for op in ops)


def test_a_wide_tolerance_is_left_alone():
    assert told(plan(tolerance=3.0)) == []
