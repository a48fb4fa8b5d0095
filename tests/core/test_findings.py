"""Each finding: a plan that has it, the same plan without it, and a fix that does what it says."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.evaluate import evaluate
from machining.findings.finding import in_words
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Orientation
from machining.plan.edit import Keep, MoveOperation
from machining.plan.in_vise import Holding
from machining.plan.operation import Bore, Chamfer, Drill, FinishWalls, RoughOutside
from machining.plan.places import OnFeatures, Outside, Points, Top
from machining.plan.zero import on_hole
from machining.world.part import Requirement
from machining.world.stock.block import sawn_block

from .build import (
    DRILL,
    FACE,
    GOOD,
    HOLES,
    LIBRARY,
    MEMO,
    OUTSIDE,
    PART,
    TAP,
    THICK,
    TOOLS,
    VISE,
    WALLS,
    after_fix,
    answer,
    changed,
    finding,
    good,
    ids,
    plan,
    result,
    rig,
    setup,
    tool,
    turned_over,
    whole,
    with_settings,
)
from .cases_of_findings import CASES as OF_ONE
from .cases_of_findings import on_dunlin, tight
from .cases_of_the_whole import CASES as OF_ALL
from .cases_of_the_whole import asking

CASES = (*OF_ONE, *OF_ALL)


def test_the_good_plan_has_nothing_wrong():
    seen = answer(good())
    assert [f.id for f in seen.findings] == []
    # but its bottom still stands in the vise: 84 x 54 of the blank, 8 deep, and 0.3 round its foot
    bottom = seen.left[0]
    assert bottom.where.values["side"].value == "sides" and bottom.count == 1
    assert bottom.volume > 84.0 * 54.0 * 8.0


@pytest.mark.parametrize("case", CASES, ids=lambda case: f"{case.id}-{CASES.index(case)}")
def test_the_finding_is_there_with_its_severity_and_words(case):
    found = finding(case.make(), case.id)
    assert found.severity == case.severity
    assert found.question == case.id.split(".")[0]
    sentence = in_words(found)
    assert "{" not in sentence
    if case.words:
        assert sentence == case.words


@pytest.mark.parametrize(
    "case",
    [c for c in CASES if c.fix is not None],
    ids=lambda case: f"{case.id}-{CASES.index(case)}",
)
def test_its_fix_settles_it(case):
    before = case.make()
    found = finding(before, case.id)
    after = after_fix(before, found, case.fix or 0)
    assert found.key not in {f.key for f in answer(after).findings}


@pytest.mark.parametrize(
    "case",
    [c for c in CASES if c.fix is not None],
    ids=lambda case: f"{case.id}-{CASES.index(case)}",
)
def test_every_fix_it_offers_can_be_applied(case):
    before = case.make()
    for place in range(len(finding(before, case.id).fixes)):
        assert after_fix(before, finding(before, case.id), place) != before


def test_what_nothing_else_mends_can_be_taken_out():
    """A hole that is tapped and never drilled, a travel no machine has: there is always one way."""
    for made in (
        plan(FACE, TAP),
        on_dunlin(200.0),
        plan(FACE, DRILL.model_copy(update={"peck_mm": None}), setups=(setup(DRILL),)),
    ):
        for found in answer(made).findings:
            assert found.fixes, found.id
    alone = finding(plan(FACE, TAP), "size.order")
    assert [fix.label for fix in alone.fixes] == ["Take the operation out"]
    assert "size.order" not in ids(after_fix(plan(FACE, TAP), alone))


def test_a_part_no_vise_takes_is_told():
    huge = plan(
        part=PART.model_copy(update={"size_mm": (400.0, 300.0, 20.0), "typed": ()}),
        setups=(setup(FACE, holding=None),),
    )
    on_table = after_fix(huge, finding(huge, "hold.none-chosen"))
    assert on_table.stations[0].holding.kind == "clamped"
    without = evaluate(huge, replace(LIBRARY, clamps={}), MEMO)
    found = next(each for each in without.findings if each.id == "hold.none-chosen")
    assert in_words(found).endswith("no vise of the library opens far enough.")
    assert after_fix(huge, found).setups == ()


def test_torque_has_its_own_limit():
    """A slow wide cut with a big cutter in steel on the small machine's high belt: torque, not
    power, is over.
    """
    heavy = RoughOutside(
        id="heavy",
        tool="d16",
        on=Outside(depth_mm=16.0),
        step_down_mm=16.0,
        step_over_mm=8.0,
        rpm=1200.0,
        feed_mm_min=500.0,
        reason="as proven",
    )
    tools = (tool(6, "end-mill-16-z3", machine="dunlin").model_copy(update={"id": "d16"}),)
    seen = plan(setups=(setup(heavy, machine="dunlin"),), tools=tools, material="c45", stock=THICK)
    found = [f for f in answer(seen).findings if f.id in ("cut.power", "cut.torque")]
    assert found
    assert found[0].severity == "stop"
    op = result(answer(seen), "heavy")
    power = next(g for g in op.gauges if g.name == "Spindle power")
    assert power.value > power.limit


def test_a_speed_outside_the_band_is_kept_with_words():
    fast = changed(good(), "operation:rough", rpm=2000.0, reason="coolant hole is on the left")
    assert "cut.speed-band" in ids(fast)
    kept = apply(
        fast,
        [
            Keep(
                on="operation:rough",
                finding="cut.speed-band",
                words="proven on this part since spring",
            )
        ],
    )
    assert "cut.speed-band" not in ids(kept)
    assert finding(kept, "cut.speed-band").kept == "proven on this part since spring"
    assert result(answer(kept), "rough").answers["cut"].state == "fine"
    with pytest.raises(EditRefused, match="Say in a few words"):
        apply(fast, [Keep(on="operation:rough", finding="cut.speed-band", words="ok")])


def test_thresholds_are_the_shop_s():
    generous = with_settings(holding_factor=1.0)
    slack = changed(good(), "station:st1", holding__torque_nm=12.0)
    strict = with_settings(holding_factor=4.0)
    factor = min(
        g.value for op in answer(slack).setups[0].operations for g in op.gauges if g.name == "Slip"
    )
    assert 1.0 < factor < 4.0
    assert "hold.slips" not in ids(slack, generous)
    assert "hold.slips" in ids(slack, strict)


def test_the_hold_fix_gives_just_the_asked_factor():
    slack = changed(good(), "station:st1", holding__torque_nm=2.0)
    worst = min(
        (f for f in answer(slack).findings if f.id == "hold.slips"),
        key=lambda f: float(f.values["factor"].value),
    )
    mended = after_fix(slack, worst)
    gauge = next(g for g in result(answer(mended), worst.operation).gauges if g.name == "Slip")
    assert gauge.limit <= gauge.value < gauge.limit * 1.2


def test_a_stick_out_fix_names_what_shares_the_tool():
    """The pocket's rougher and finisher share T3: the fix of one is the fix of both."""
    short = changed(good(), "tool:t3", stick_out_mm=8.0)
    found = [f for f in answer(short).findings if f.id == "reach.stick-out-short"]
    assert {f.operation for f in found} == {"pocket", "walls"}
    assert "reach.stick-out-short" not in ids(
        after_fix(short, max(found, key=lambda f: float(f.values["needed"].value)))
    )


def test_a_holder_is_stopped_by_a_jaw_too():
    """Drilling near a jaw that stands higher than the part: only the jaw makes the
    stick-out short.
    """
    low = PART.model_copy(update={"typed": ()})
    flat = sawn_block(x=(2, 2), y=(2, 2))
    hole = Drill(id="d", tool="t4", on=Points(at_mm=((0.0, 20.0),), diameter_mm=6.8, depth_mm=6.0))
    held, unheld = (
        next(
            g.limit
            for g in result(
                answer(plan(part=low, stock=flat, setups=(setup(hole, holding=holding),))), "d"
            ).gauges
            if g.name == "Stick-out"
        )
        for holding in (VISE.model_copy(update={"grip_depth_mm": 20.0}), None)
    )
    deep = plan(
        part=low,
        stock=flat,
        setups=(setup(hole, holding=VISE.model_copy(update={"grip_depth_mm": 30.0})),),
    )
    above = next(g.limit for g in result(answer(deep), "d").gauges if g.name == "Stick-out")
    assert held == pytest.approx(unheld)  # jaws level with the top change nothing
    assert above == pytest.approx(unheld + 10.0)  # jaws 10 over it ask for 10 more


def test_moving_it_where_it_can_be_seen_settles_it():
    both = plan(
        setups=(
            setup(*GOOD, Drill(id="low", tool="t9", on=OnFeatures(ids=("below",)))),
            turned_over(),
        ),
        tools=(*TOOLS, tool(9, "drill-5-8")),
    )
    found = finding(both, "reach.not-in-this-setup")
    assert found.fixes[0].edits == (MoveOperation(operation="low", setup="s2", index=0),)
    assert "reach.not-in-this-setup" not in ids(apply(both, found.fixes[0].edits))


def test_bore_before_drill_is_out_of_order():
    early = plan(
        FACE,
        Bore(id="b", tool="t9", on=OnFeatures(ids=("hole0",))),
        DRILL,
        tools=(*TOOLS, tool(9, "bore-20")),
    )
    assert finding(early, "size.order").operation == "b"


@pytest.mark.parametrize(
    ("on", "wall", "told"),
    [
        (Top(), OUTSIDE, True),
        (Top(), WALLS, False),
        (OnFeatures(ids=("recess",)), WALLS, True),
        (OnFeatures(ids=("recess",)), OUTSIDE, False),
        (OnFeatures(ids=("hole0",)), WALLS, False),
    ],
)
def test_an_edge_is_broken_after_its_own_wall_is_cut(on, wall, told):
    """Else a burr comes back on it; on a hole's mouth it does not matter."""
    edge = Chamfer(id="edge", tool="t9", on=on, size_mm=0.3)
    early = plan(FACE, edge, wall, tools=(*TOOLS, tool(9, "chamfer-8-90")))
    found = [each for each in answer(early).findings if each.id == "size.order"]
    assert [each.severity for each in found if each.operation == "edge"] == ["look"] * told
    if told:
        assert "size.order" not in ids(after_fix(early, found[0]))


def test_push_off_is_eased_by_each_of_its_fixes():
    pushed = tight(0.012)
    found = finding(pushed, "size.push-off")
    base = next(g.value for g in result(answer(pushed), "walls").gauges if g.name == "Push-off")
    for place, fix in enumerate(found.fixes):
        after = next(
            g.value
            for g in result(answer(after_fix(pushed, found, place)), "walls").gauges
            if g.name == "Push-off"
        )
        again = "once more" in fix.label
        assert after < base or again


def test_what_is_not_known_is_said_and_never_fine():
    nothing = plan(FACE.model_copy(update={"tool": ""}))
    states = {a.state for a in result(answer(nothing), "face").answers.values()}
    assert states == {"unknown"}
    assert not answer(nothing).ready
    lost = plan(
        FACE, tools=(tool(1, "face-mill-50").model_copy(update={"assembly": "sold-last-year"}),)
    )
    assert "no assembly 'sold-last-year'" in result(answer(lost), "face").answers["reach"].reason
    bare = plan(FACE, material="")
    assert result(answer(bare), "face").answers["cut"].reason == "No material is chosen."
    away = plan(setups=(setup(FACE.model_copy(update={"tool": ""}), machine="scrapped"),))
    assert "no machine 'scrapped'" in answer(away).setups[0].stations[0].unknown["travel"]


def test_jaws_close_on_what_they_grip_not_on_what_stands_over_it():
    """Turned over, the jaws meet the finished sides (50 across) under the rim that is still at
    stock size (54).
    """
    over = plan(setups=(setup(*GOOD), turned_over(FACE.model_copy(update={"id": "face2"}))))
    first, second = (each.stations[0] for each in answer(over).setups)
    across = [
        sorted({y for body in each.bodies if body["role"] == "jaw" for _, y in body["corners"]})
        for each in (first, second)
    ]
    assert across[0][1:3] == pytest.approx([-27, 27])
    assert across[1][1:3] == pytest.approx([-25, 25], abs=0.01)


def test_a_part_that_does_not_fit_the_vise_is_told():
    wide = changed(good(), "station:st1", holding__vise="vise-100-soft", holding__fixed="+x")
    small = plan(*GOOD, part=PART.model_copy(update={"size_mm": (140.0, 50.0, 20.0)}))
    reasons = answer(apply(small, [])).setups[0].stations[0].unknown
    assert "hold" not in reasons
    too_wide = changed(small, "station:st1", holding__fixed="+x", holding__vise="vise-100-soft")
    assert "up to 110, the opening of" in answer(too_wide).setups[0].stations[0].unknown["hold"]
    assert "hold" not in answer(wide).setups[0].stations[0].unknown


def test_a_zero_on_a_lying_hole_is_told_and_the_rest_goes_on():
    odd = changed(
        good(),
        "station:st1",
        zero=on_hole("hole0").model_dump(),
        orientation=Orientation(up="+x").model_dump(),
    )
    assert "stands upright" in answer(odd).setups[0].stations[0].unknown["travel"]


def test_the_library_holds_what_the_issue_asks():
    assert {"heron", "dunlin"} <= set(LIBRARY.machines)
    assert len(LIBRARY.assemblies) >= 15
    assert len(LIBRARY.vises) >= 2
    assert len(LIBRARY.materials) >= 8
    assert all(material.source for material in LIBRARY.materials.values())
    assert len(rig("dunlin").spindle.ranges) == 2
    assert rig("dunlin").carrier.pockets == 10
    assert isinstance(VISE, Holding)
    assert len(HOLES) == 2
    assert isinstance(OUTSIDE, FinishWalls)


def test_a_shop_that_counts_nothing_for_loading_is_told_once():
    ideal = with_settings(load_unload_s=0.0)
    told = [f for f in answer(good(), ideal).findings if f.id == "sheet.time-ideal"]
    assert [(f.severity, f.setup) for f in told] == [("look", "s1")]
    one = changed(good(), "plan", quantity=1)
    assert "sheet.time-ideal" not in ids(one, ideal) | ids(good())


def test_a_long_cut_has_no_place_to_start_again_from():
    hurried = with_settings(restart_min=0.1)
    told = [f.operation for f in answer(good(), hurried).findings if f.id == "route.restart"]
    seconds = {
        op.id: op.time_s for setup in answer(good(), hurried).setups for op in setup.operations
    }
    assert told == [id for id, takes in seconds.items() if takes > 6.0] != []
    assert "route.restart" not in ids(good())


@pytest.mark.parametrize(
    ("nominal", "band", "said"),
    [(8.0, 0.05, "depth micrometer"), (8.0, 0.2, "depth caliper"), (40.0, 0.05, "micrometer")],
)
def test_a_depth_is_measured_with_what_measures_depths(nominal, band, said):
    """The recess is 8 deep and 40 long."""
    asks = Requirement(id="r", what="It", feature="recess", nominal_mm=nominal, upper_mm=band)
    found = next(
        f for f in answer(asking(whole(), asks)).findings if f.id == "size.drawing-uncovered"
    )
    assert found.fixes[0].values["instrument"].value == said
