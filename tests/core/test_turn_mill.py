"""A machine with two spindles for the work and driven tools: who turns for what, what a driven cut
asks of the jaws, and what is not worked out of handing the part over.
"""

from __future__ import annotations

import numpy as np
import pytest

from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.plan.apply import apply
from machining.plan.document import Orientation, Station
from machining.plan.edit import Change
from machining.plan.operation import Drill, Slot
from machining.plan.places import Points, Rectangle
from machining.plan.turned import Plane, TurnFace
from machining.plan.zero import in_the_middle
from machining.world.capability import carrier_of, place_of, rig, turns_work, usual_rig

from . import lathe
from .lathe import CHUCK, LIBRARY, answer, finding, result

GANNET = LIBRARY.machines["gannet"]
TOOLS = tuple(
    each.model_copy(update={"machine": "gannet"})
    for each in (
        *lathe.TOOLS,
        lathe.tool(11, "drill-6-8", 60.0),
        lathe.tool(12, "end-mill-8-z3", 30.0),
    )
)
BESIDE = Drill(
    id="beside",
    tool="t11",
    on=Points(at_mm=((0.0, 19.0), (0.0, -19.0)), top_mm=-32.0, diameter_mm=6.8, depth_mm=20.0),
)
FLAT = Slot(
    id="flat",
    tool="t12",
    step_down_mm=1.0,
    on=Rectangle(x_mm=0.0, y_mm=15.0, length_mm=20.0, width_mm=8.0, depth_mm=3.0),
)


def on_gannet(*operations, **fields):
    setup = lathe.setup(*operations, machine="gannet")
    return lathe.plan(setups=(setup,), tools=TOOLS, **fields)


def test_who_turns_is_said_by_the_place_and_the_tool():
    assert turns_work(GANNET) and turns_work(GANNET, "sub") and not turns_work(None)
    assert rig(GANNET).spindle.id == "main" and rig(GANNET, "sub").spindle.id == "sub"
    assert rig(GANNET, "sub", still=False).spindle.id == "driven"
    assert rig(GANNET, "main", "lower", still=False).spindle.id == "main"  # it drives no tools
    assert rig(GANNET, "table") is None and rig(GANNET, "main", "tower") is None
    assert place_of(GANNET).id == "main" and carrier_of(GANNET).id == "upper"
    heron = LIBRARY.machines["heron"]
    assert not turns_work(heron) and rig(heron, still=True).spindle.turns == "tool"


def test_turning_on_it_is_answered_as_on_a_lathe():
    seen = answer(on_gannet(*lathe.GOOD))
    for op in seen.setups[0].operations:
        assert {each.state for each in op.answers.values()} <= {"fine", "look"}, op.id
        assert op.spindle == "main"
    assert not [f for f in seen.findings if f.severity == "stop"]


def test_driven_tools_are_answered_beside_the_axis():
    seen = answer(on_gannet(lathe.FACE, lathe.ROUGH, BESIDE, FLAT))
    for id in ("beside", "flat"):
        op = result(on_gannet(lathe.FACE, lathe.ROUGH, BESIDE, FLAT), id)
        assert op.spindle == "driven" and op.time_s > 0
        # the part has neither, so that cutting them goes into it
        assert {f.id for f in seen.findings if f.operation == id and f.severity == "stop"} == {
            "reach.gouges"
        }
        others = {name: each.state for name, each in op.answers.items() if name != "reach"}
        assert set(others.values()) <= {"fine", "look"}, op.answers
    assert seen.figures["flat.travel_y"].value == pytest.approx(100 / 2 - 15)
    assert seen.figures["beside.travel_y"].value == pytest.approx(100 / 2 - 19)
    assert "face.travel_y" not in seen.figures
    assert seen.setups[0].stations[0].unknown == {}


def test_a_driven_cut_pushes_and_turns_the_part_in_jaws_that_stand_still():
    """No speed takes anything of their force, and twice the force stands twice as much."""
    of = on_gannet(lathe.FACE, FLAT)
    figures = answer(of).figures
    assert figures["flat.centrifugal"].value == 0.0
    assert figures["flat.jaw_at_speed"].value == pytest.approx(CHUCK.force_per_jaw_n)
    half = {"holding.force_per_jaw_n": CHUCK.force_per_jaw_n / 2.0}
    weaker = answer(apply(of, [Change(on="station:st1", fields=half)])).figures
    assert weaker["flat.holding"].value == pytest.approx(figures["flat.holding"].value / 2.0)
    light = lathe.FACE, FLAT.model_copy(update={"rpm": 1000.0})
    slower = answer(on_gannet(*light)).figures
    assert slower["flat.jaw_at_speed"].value == figures["flat.jaw_at_speed"].value


def test_loose_jaws_are_told_and_closed_for_a_driven_cut_too():
    loose = apply(
        on_gannet(FLAT),
        [Change(on="station:st1", fields={"holding.force_per_jaw_n": 60.0})],
    )
    found = finding(loose, "hold.slips")
    closed = apply(loose, found.fixes[0].edits)
    assert closed.stations[0].holding.force_per_jaw_n > 60.0
    assert "hold.slips" not in lathe.ids(closed)


def test_a_carrier_that_drives_nothing_says_so():
    below = apply(
        on_gannet(lathe.FACE, BESIDE), [Change(on="tool:t11", fields={"carrier": "lower"})]
    )
    told = dict(result(below, "beside").answers)
    assert told.pop("travel").state == "stop"  # it is longer than the lower turret takes
    assert {each.state for each in told.values()} == {"unknown"}
    assert "not driven tools" in told["cut"].reason


def test_y_runs_out_beside_the_axis():
    far = BESIDE.model_copy(
        update={"on": BESIDE.on.model_copy(update={"at_mm": ((0.0, 52.0),), "top_mm": 0.0})}
    )
    assert in_words(finding(on_gannet(far), "travel.axis")).startswith("Y runs out by 2")


def test_a_side_comes_round_with_the_work_s_own_spindle():
    """A quarter turn at 200 a second, clamped in 0.8 s."""
    side = Drill(
        id="side",
        tool="t11",
        aim="+y",
        on=Points(at_mm=((0.0, 0.0),), top_mm=20.0, diameter_mm=6.8, depth_mm=5.0),
    )
    seen = answer(on_gannet(lathe.FACE, side))
    assert seen.figures["side.index_time"].value == pytest.approx(90 / 200 + 0.8)
    end = side.model_copy(update={"aim": "-z"})
    assert "turns its work with C1" in in_words(finding(on_gannet(end), "travel.aim"))


def two_spindles():
    """Turned on the main spindle, taken over by the other and faced behind."""
    first = lathe.setup(lathe.FACE, lathe.ROUGH, machine="gannet")
    behind = Station(
        id="st2",
        takes="st1",
        place="sub",
        orientation=Orientation(up="-z"),
        holding=CHUCK.model_copy(update={"grip_mm": 20.0}),
        zero=in_the_middle("part"),
        work_offset="G55",
    )
    faced = TurnFace(id="behind", tool="t1", station="st2", on=Plane(z_mm=0.0))
    operations = tuple(each.model_copy(update={"station": "st1"}) for each in first.operations)
    setup = first.model_copy(
        update={"stations": (*first.stations, behind), "operations": (*operations, faced)}
    )
    return lathe.plan(setups=(setup,), tools=TOOLS)


def test_only_handing_over_is_not_worked_out():
    seen = answer(two_spindles())
    by_id = {op.id: op for op in seen.setups[0].operations}
    assert by_id["rough"].answers["travel"].state == "fine"
    told = by_id["behind"].answers
    assert told["travel"].state == "unknown" and "Handing a part over" in told["travel"].reason
    assert all(told[each].state != "unknown" for each in ("reach", "cut", "size"))
    assert by_id["behind"].spindle == "sub" and not seen.ready


def begins(of, operation):
    """How far (mm) its first cut begins outside the stock before its own spindle, and how far the
    way there stays over it.
    """
    op = next(each for each in walk(of, LIBRARY, lathe.MEMO).operations() if each.id == operation)
    outer = op.before.half_section().bounds[2]
    first = next(each for each in op.path.legs if each.kind == "cut")
    there = op.path.legs[0].points
    return (
        float(np.hypot(*first.points[0][:2])) - outer,
        float(there[1][2]) - float(first.points[0][2]),
        [leg.points.tolist() for leg in op.path.legs],
    )


def test_each_spindle_has_the_clearances_of_what_stands_before_it():
    """Ø50 of the bar before the main spindle and what was turned before the other: the way in
    stays as clear of both, and what one of them holds does not move the other's.
    """
    both = two_spindles()
    (main, over, way), (sub, end, other) = begins(both, "face"), begins(both, "behind")
    assert (sub, end) == (pytest.approx(main), pytest.approx(over)) and main > 0 < over
    assert other != way
    longer = apply(both, [Change(on="plan", fields={"stock.high.over_mm": 3.0})])
    thick = apply(both, [Change(on="plan", fields={"stock.diameter_mm": 56.0})])
    for of in (longer, thick):
        assert begins(of, "face")[:2] == (pytest.approx(main), pytest.approx(over))
        assert begins(of, "face")[2] != way
        assert begins(of, "behind")[:2] == (pytest.approx(main), pytest.approx(over))
    regripped = apply(both, [Change(on="station:st2", fields={"holding.grip_mm": 12.0})])
    assert begins(regripped, "face")[2] == way


def test_a_place_the_machine_does_not_have():
    nowhere = apply(on_gannet(lathe.FACE), [Change(on="station:st1", fields={"place": "balcony"})])
    told = result(nowhere, "face").answers
    assert told["cut"].reason == "Gannet has no place 'balcony'."


def test_a_carrier_the_machine_does_not_have():
    gone = apply(on_gannet(lathe.FACE), [Change(on="tool:t1", fields={"carrier": "tower"})])
    assert result(gone, "face").answers["cut"].reason == "Gannet has no carrier 'tower'."


def test_a_place_named_and_the_same_meant_is_no_other_spindle():
    both = two_spindles()
    named = apply(both, [Change(on="station:st1", fields={"place": "main"})])
    same = apply(both, [Change(on="station:st2", fields={"place": "main"})])
    for of, handed in ((named, True), (same, False)):
        reason = result(of, "behind").answers["travel"].reason
        assert ("Handing a part over" in reason) == handed
    assert answer(same).handling_s == 2 * answer(named).handling_s


def test_over_a_table_a_carrier_that_drives_nothing_does_nothing():
    heron = LIBRARY.machines["heron"]
    idle = heron.carriers[0].model_copy(update={"id": "rack", "drives": ""})
    two = heron.model_copy(update={"carriers": (idle, *heron.carriers)})
    assert rig(two) is None and rig(two, carrier="magazine").spindle.id == "main"
    assert usual_rig(two).carrier.id == "magazine"
