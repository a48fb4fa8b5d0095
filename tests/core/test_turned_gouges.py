"""What is turned away of the finished part, by hand on the gland."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest

from machining.findings.finding import in_words
from machining.geometry.contours import inside_of
from machining.geometry.solids import bar, revolved, to_mesh
from machining.plan.apply import apply
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.turned import Groove, PartOff, Plane, Profile, TurnFace, TurnGroove, TurnRough
from machining.world.geometry import PartGeometry

from . import lathe
from .lathe import FACE, FINISH, GOOD, ROUGH, finding, ids, plan, result

SMALL = Profile(at_mm=((0.0, 28.3), (-18.0, 28.3), (-18.0, 48.0), (-44.0, 48.0)))


def mended(of, library=lathe.LIBRARY):
    """The plan after the first fix of its gouge, which is gone; nothing new stops."""
    found = finding(of, "reach.gouges")
    after = apply(of, found.fixes[0].edits)
    assert "reach.gouges" not in ids(after)
    return after


def test_a_sound_turned_plan_leaves_the_part_whole():
    assert "reach.gouges" not in ids(plan(*GOOD))
    assert result(plan(*GOOD), "finish").gouge_mm == 0.0
    assert result(plan(*GOOD), "thread").gouge_mm is None  # it is no section


def test_a_spigot_turned_too_small_says_by_how_much_and_follows_the_part():
    of = plan(FACE, TurnRough(id="rough", tool="t1", on=SMALL, leave_mm=0.0))
    found = finding(of, "reach.gouges")
    assert found.severity == "stop"
    # 15 to 14.15 of radius over the 18 of its length above the recess
    assert found.values["deep"].value == pytest.approx(0.85, abs=0.05)
    assert found.values["volume"].value == pytest.approx(pi * (15.0**2 - 14.15**2) * 18.0, rel=0.01)
    assert "X" not in in_words(found).split("around")[0]
    on = mended(of).setups[0].operation("rough").on
    assert min(d for _, d in on.at_mm) == pytest.approx(30.0)


def test_an_end_faced_too_far_goes_back_to_the_part_s():
    of = plan(TurnFace(id="face", tool="t1", on=Plane(z_mm=-1.5)))
    assert finding(of, "reach.gouges").values["deep"].value == pytest.approx(1.5, abs=0.01)
    assert mended(of).setups[0].operation("face").on.z_mm == 0.0


def test_parted_off_too_short():
    off = PartOff(id="off", tool="t5", on=Plane(z_mm=-36.0, to_diameter_mm=20.0))
    of = plan(FACE, ROUGH, FINISH, off)
    assert finding(of, "reach.gouges").values["deep"].value >= 2.0
    assert mended(of).setups[0].operation("off").on.z_mm == -40.0


def test_a_groove_that_is_not_drawn_is_asked_about():
    groove = TurnGroove(
        id="relief", tool="t3", on=Groove(z_mm=-5.0, width_mm=3.0, diameter_mm=26.0)
    )
    found = finding(plan(FACE, ROUGH, FINISH, groove), "reach.gouges")
    assert (found.severity, found.values["deep"].value) == ("look", pytest.approx(2.0, abs=0.05))
    deeper = TurnGroove(
        id="relief", tool="t3", on=Groove(z_mm=-22.0, width_mm=10.0, diameter_mm=22.0)
    )
    found = finding(plan(FACE, ROUGH, FINISH, deeper), "reach.gouges")
    assert (found.severity, found.values["deep"].value) == ("stop", pytest.approx(1.0, abs=0.05))


def test_a_drill_wider_than_the_bore_along_the_spindle():
    narrow = revolved(inside_of(lathe.OUTSIDE)) - bar(0.0, 0.0, 4.0, -1.0, 41.0)
    part = PartGeometry("gland", to_mesh(narrow), float(narrow.volume()), ())
    library = replace(lathe.LIBRARY, geometries={"gland": part})
    on = Points(at_mm=((0.0, 0.0),), diameter_mm=12.0, depth_mm=46.0)
    of = plan(FACE, Drill(id="drill", tool="t7", on=on))
    seen = lathe.evaluate(of, library)
    found = next(f for f in seen.findings if f.id == "reach.gouges")
    assert found.values["deep"].value == pytest.approx(2.0, abs=0.05)
    assert found.values["volume"].value == pytest.approx(pi * (36.0 - 16.0) * 40.0, rel=0.02)
