"""Rapid moves that run into metal, and holes that begin over whatever stands there."""

from __future__ import annotations

import numpy as np
import pytest
from shapely import box

from machining.facts.route import walk
from machining.motion.path import Leg, Path
from machining.removal.turned import blade, sweep
from machining.removal.turned_loads import Turning, found_turned

from .build import DRILL, FACE, LIBRARY, MEMO, TAP, changed, finding, ids, plan
from .cases_of_cutting import DEEP, POCKET


def drilled(*before):
    facts = walk(plan(*before, DRILL.model_copy(update={"peck_mm": 5.0})), LIBRARY, MEMO)
    return facts.operations()[-1]


def lowest_rapid_outside(op):
    """The lowest a rapid comes before the first plunge."""
    first = next(k for k, leg in enumerate(op.path.legs) if leg.kind == "plunge")
    return min(float(leg.points[:, 2].min()) for leg in op.path.legs[:first])


def test_a_hole_begins_over_what_stands_over_its_mouth():
    """1 mm of the blank stands over the top that is to be faced: the drill is fed from there, and
    its pecks are counted from there.
    """
    clearance = LIBRARY.settings.first_clearance_mm
    faced, rough = drilled(FACE), drilled()
    ((_, _, mouth, bottom), *_) = faced.work.holes
    stands = float(rough.before.bounds()[1][2])
    assert stands - mouth == pytest.approx(8.0) or stands - mouth == pytest.approx(1.0)
    assert lowest_rapid_outside(faced) == pytest.approx(mouth + clearance)
    assert lowest_rapid_outside(rough) == pytest.approx(stands + clearance)
    plunges = [leg for leg in rough.path.legs if leg.kind == "plunge"]
    each = np.ceil((stands - bottom) / 5.0)
    assert len(plunges) == 2 * each
    assert rough.found.trace.volume("rapid") == 0


def test_into_a_hole_that_is_not_there_is_a_stop():
    into = plan(FACE, POCKET.model_copy(update={"enter": "hole", "on": DEEP}))
    found = finding(into, "cut.at-rapid")
    assert found.severity == "stop"
    assert found.values["taken"].value == pytest.approx(np.pi * 16 * (14 - 8), rel=0.05)
    assert "cut.at-rapid" not in ids(changed(into, "operation:pocket", enter="helix"))
    assert "cut.at-rapid" not in ids(plan(FACE, DRILL, TAP))


def test_a_turning_path_at_rapid_through_its_bar_is_found():
    """A blade 3 wide goes 2 deep into a bar of 40: at feed it cuts, at rapid it crashes."""
    bar = box(0.0, -50.0, 20.0, 0.0)
    ring = np.pi * (20**2 - 18**2) * 3
    for kind, taken in (("cut", 0.0), ("rapid", ring)):
        way = np.array([[22.0, 0.0, -20.0], [18.0, 0.0, -20.0]])
        path = Path((Leg(kind, way), Leg("cut", np.array([way[1], way[0]]))))
        swept, _ = sweep(path, blade(3.0, -1.5), bar)
        fed = np.array([leg.kind != "rapid" for leg in path.legs])[swept.leg]
        found = found_turned(swept, fed, Turning(None, 1000.0, 0.1))
        assert found.at_rapid == pytest.approx(taken, rel=1e-3)
        assert (found.rapid_at is None) == (taken == 0.0)
