"""Bores of a sleeve that were turned in two chuckings: how far their axes may lie apart."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.facts.stack_up import chains
from machining.geometry.solids import bar, to_mesh
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Orientation
from machining.plan.holding import InChuck
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.turned import Profile, TurnFace, TurnFinish
from machining.quantities.said import fill
from machining.world.feature import Boss, Hole
from machining.world.geometry import PartGeometry
from machining.world.part import Part, Requirement
from machining.world.stock import Round
from machining.world.stock.base import Side

from . import lathe

NEAR = Hole(
    id="near",
    point=(0.0, 0.0, 25.0),
    axis="+z",
    diameter_mm=30.0,
    length_mm=15.0,
    through=False,
    opens=("+z",),
)
FAR = NEAR.model_copy(
    update={"id": "far", "point": (0.0, 0.0, 0.0), "diameter_mm": 26.0, "opens": ("-z",)}
)
SOLID = (
    bar(0.0, 0.0, 22.0, 0.0, 40.0)
    - bar(0.0, 0.0, 10.0, -1.0, 41.0)
    - bar(0.0, 0.0, 15.0, 25.0, 41.0)
    - bar(0.0, 0.0, 13.0, -1.0, 15.0)
)
SLEEVE = PartGeometry("sleeve", to_mesh(SOLID), float(SOLID.volume()), (NEAR, FAR))
LIBRARY = replace(lathe.LIBRARY, geometries={"sleeve": SLEEVE})
MEMO = Memo()
ONE_AXIS = Requirement(
    id="c1", what="bores in line", feature="far", datum="near", upper_mm=0.03, lower_mm=-0.03
)
OUTSIDE = TurnFinish(id="outside", tool="t2", on=Profile(at_mm=((0.0, 44.0), (-30.0, 44.0))))
DRILLED = Drill(
    id="drill", tool="t7", on=Points(at_mm=((0.0, 0.0),), diameter_mm=20.0, depth_mm=42.0)
)


def bored(id, diameter):
    on = Profile(at_mm=((0.0, diameter), (-15.0, diameter)), side="inside")
    return TurnFinish(id=id, tool="t6", on=on)


def sleeve(*first, second="chuck-200-soft"):
    """The near bore in the first chucking, the far one after it is turned end for end."""
    hard = InChuck(chuck="chuck-200", grip_mm=8.0, force_per_jaw_n=14000.0)
    then = InChuck(chuck=second, grip_mm=20.0, force_per_jaw_n=9000.0)
    setups = (
        lathe.setup(
            TurnFace(id="face", tool="t1"), *first, DRILLED, bored("near", 30.0), holding=hard
        ),
        lathe.setup(
            bored("far", 26.0),
            id="s2",
            takes="st1",
            orientation=Orientation(up="-z"),
            holding=then,
        ),
    )
    plan = lathe.plan(
        setups=setups,
        part=Part(geometry="sleeve", requirements=(ONE_AXIS,)),
        stock=Round(diameter_mm=50.0, low=Side(over_mm=1.0), high=Side(over_mm=1.0)),
    )
    return plan


def chain_of(plan, library=LIBRARY):
    (chain,) = chains(walk(plan, library, MEMO))
    return chain


def told(chain):
    return {fill(link.said.text, link.said.values): link.mm for link in chain.links}


def test_gripped_on_what_was_turned_only_the_second_chuck_runs_out():
    """Half of what an indicator reads there: 0.02 of soft jaws."""
    chain = chain_of(sleeve(OUTSIDE))
    assert told(chain) == {
        "axis of what the 200 chuck, soft jaws grips in setup 2": pytest.approx(0.01)
    }
    assert chain.worst_mm == pytest.approx(0.01) and chain.allowed_mm == pytest.approx(0.03)


def test_gripped_on_the_bar_as_it_came_both_add_up():
    """0.08 of hard jaws in both chuckings: worst 0.08, mostly 0.04·√2."""
    chain = chain_of(sleeve(second="chuck-200"))
    assert sorted(told(chain).values()) == pytest.approx([0.04, 0.04])
    assert chain.worst_mm == pytest.approx(0.08)
    assert chain.mostly_mm == pytest.approx(0.04 * 2**0.5)


def test_a_bore_in_line_with_the_outside_is_a_chain_of_its_own():
    """Concentric to what is turned in the first chucking; the far bore is made in the second. The
    near one is made with the outside at once but with another tool: nothing adds up.
    """
    round_ = Boss(id="rim", point=(0.0, 0.0, 0.0), axis="+z", diameter_mm=44.0, length_mm=40.0)
    part = replace(SLEEVE, features=(NEAR, FAR, round_))
    library = replace(lathe.LIBRARY, geometries={"sleeve": part})
    plan = sleeve(OUTSIDE)
    for bore, off in (("far", 0.01), ("near", 0.0)):
        asked = ONE_AXIS.model_copy(update={"feature": bore, "datum": "rim"})
        of = plan.model_copy(update={"part": Part(geometry="sleeve", requirements=(asked,))})
        found = chains(walk(of, library, Memo()))
        assert sum(each.worst_mm for each in found) == pytest.approx(off), bore
        assert all(each.unknown is None for each in found)


def test_a_chuck_nobody_has_measured_leaves_it_open():
    soft = LIBRARY.holdings["chuck-200-soft"].model_copy(update={"run_out_mm": None})
    library = replace(LIBRARY, holdings={**LIBRARY.holdings, "chuck-200-soft": soft})
    chain = chain_of(sleeve(OUTSIDE), library)
    assert chain.unknown is not None and chain.about == "run-out"
    assert "nobody has measured" in chain.unknown.text


def test_the_fix_is_a_chuck_that_runs_out_less():
    """Hard jaws on what was turned: 0.04 of 0.03."""
    plan = sleeve(OUTSIDE, second="chuck-200")
    found = [f for f in evaluate(plan, LIBRARY, MEMO).findings if f.id == "size.stack-up"]
    assert [each.severity for each in found] == ["stop"]
    fix = found[0].fixes[0]
    assert (
        fill(fix.label, fix.values)
        == "Hold it in the 200 chuck, soft jaws, which runs out 0.020 mm"
    )
    mended = apply(plan, fix.edits)
    assert not [f for f in evaluate(mended, LIBRARY, MEMO).findings if f.id == "size.stack-up"]
