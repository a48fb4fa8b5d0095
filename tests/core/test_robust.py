"""Whatever a planner writes: an answer or a sentence, never an exception, never NaN, and every fix
can be taken.
"""

from __future__ import annotations

import logging
from math import isfinite

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.facts.pace import Pace
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import (
    Change,
    Edit,
    FlipStation,
    MoveOperation,
    RemoveOperation,
    SetStock,
)
from machining.plan.operation import (
    BackChamfer,
    Counterbore,
    Countersink,
    Engrave,
    MillHole,
    MillThread,
    RoundEdge,
    Slope,
    Spot,
    SpotFace,
    Tap,
    Undercut,
)
from machining.plan.places import Lines, Points, Text
from machining.quantities.errors import MachiningError
from machining.quantities.said import fill
from machining.ways.choices import choices
from machining.ways.offers import offers
from machining.world.stock.block import sawn_block
from tests.at_length import ALL

from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    MEMO,
    POCKET,
    TOOLS,
    WALLS,
    plan,
    setup,
    tool,
    turned_over,
)

EDGE, HOLES, BLIND = (
    Lines(at_mm=(((-30.0, 0.0), (30.0, 0.0)),)),
    DRILL.on,
    Points(at_mm=((0.0, 0.0), (20.0, 8.0)), diameter_mm=6.8, depth_mm=18),
)
ODD = (
    Spot(id="spot", tool="t13", on=HOLES, mouth_diameter_mm=8),
    Countersink(id="sink", tool="t13", on=HOLES, mouth_diameter_mm=9, ball_diameter_mm=8),
    Counterbore(id="bore", tool="t3", on=HOLES, diameter_mm=12, depth_mm=5),
    SpotFace(id="seat", tool="t2", on=HOLES, diameter_mm=12),
    BackChamfer(id="behind", tool="t8", on=HOLES),
    Tap(id="tap", tool="t5", on=BLIND, depth_mm=14),
    MillThread(id="blind", tool="t11", on=BLIND, major_mm=8, pitch_mm=1.25, depth_mm=16),
    MillHole(id="helix", tool="t3", on=HOLES, diameter_mm=14),
    MillThread(
        id="thread",
        tool="t11",
        on=HOLES,
        major_mm=8,
        pitch_mm=1.25,
        depth_mm=16,
        passes=2,
        spring_passes=1,
    ),
    Undercut(id="under", tool="t8", on=EDGE, depth_mm=5, width_mm=2),
    Engrave(id="text", tool="t9", on=Text(text="HERON 1", x_mm=-30, y_mm=18)),
    RoundEdge(id="round", tool="t10", radius_mm=2),
    Slope(id="slope", tool="t14", size_mm=3, angle_deg=25),
    Slope(id="line", tool="t15", on=EDGE, size_mm=1, angle_deg=60),
)
TOOLS_TOO = (
    *TOOLS,
    tool(8, "undercut-mill-20-60"),
    tool(9, "engraver-6-60"),
    tool(10, "corner-rounder-10-r2"),
    tool(11, "thread-mill-m8-one"),
    tool(13, "spot-10-90"),
    tool(14, "ball-mill-8"),
    tool(15, "chamfer-10-60"),
)
BASE = plan(setups=(setup(*GOOD), turned_over()))
OPERATIONS = {op.id: op for op in GOOD}
SIZES = st.one_of(st.floats(0.01, 200.0), st.sampled_from([0.05, 0.3, 1.0, 6.0, 12.0, 24.0, 50.0]))
SLOW = settings(
    max_examples=600 if ALL else 4,
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)


KINDS_OF_CHANGE = (
    *3 * ("operation",),
    *("tool", "holding", "zero", "stock", "move", "flip", "material"),
)
HELD = [f"holding.{name}" for name in ("grip_depth_mm", "torque_nm", "shift_mm")]
EITHER = st.sampled_from(["stock", "part"])


@st.composite
def a_value(draw) -> Edit:
    id = draw(st.sampled_from(sorted(OPERATIONS)))
    names = [
        n
        for n in type(OPERATIONS[id]).model_fields
        if n.endswith(("_mm", "_deg")) or n in ("rpm", "feed_mm_min")
    ]
    name = draw(st.sampled_from(names))
    value = draw(st.floats(1.0, 20_000.0)) if name in ("rpm", "feed_mm_min") else draw(SIZES)
    return Change(on=f"operation:{id}", fields={name: value})


@st.composite
def a_change(draw) -> Edit:
    kind = draw(st.sampled_from(KINDS_OF_CHANGE))
    if kind == "operation":
        return draw(a_value())
    if kind == "tool":
        return Change(on=f"tool:t{draw(st.integers(1, 6))}", fields={"stick_out_mm": draw(SIZES)})
    if kind == "holding":
        return Change(on="station:st1", fields={draw(st.sampled_from(HELD)): draw(SIZES)})
    if kind == "zero":
        x = draw(st.sampled_from(["low", "middle", "high"]))
        fields = {"zero.x.of": draw(EITHER), "zero.x.at": x, "zero.z.of": draw(EITHER)}
        return Change(on="station:st1", fields=fields)
    if kind == "stock":
        over = draw(st.lists(st.floats(0.0, 12.0), min_size=6, max_size=6))
        x, y, z = (tuple(over[k : k + 2]) for k in (0, 2, 4))
        return SetStock(stock=sawn_block(x, y, z, tolerance=draw(st.floats(0.0, 3.0))))
    if kind == "move":
        return MoveOperation(
            operation=draw(st.sampled_from(sorted(OPERATIONS))),
            setup=draw(st.sampled_from(["s1", "s2"])),
            index=draw(st.integers(0, 7)),
        )
    if kind == "flip":
        about = draw(st.sampled_from(["x", "y", "z"]))
        return FlipStation(station=draw(st.sampled_from(["st1", "st2"])), about=about)
    material = draw(st.sampled_from(["", "c45", "ti-6al-4v", "pom-c", "gone"]))
    return Change(on="plan", fields={"material": material})


def after(edits: list[Edit]) -> Plan:
    at = BASE
    for each in edits:
        try:
            at = apply(at, [each])
        except EditRefused as refused:
            assert "{" not in str(refused)
    return at


def test_a_width_over_the_cutter_s_diameter_is_answered():
    bare = RemoveOperation(operation="pocket")
    wide = Change(on="operation:walls", fields={"width_mm": 9.0})
    seen = evaluate(after([bare, wide]), LIBRARY, MEMO)
    assert "size.push-off" in {f.id for f in seen.findings}


@SLOW
@given(st.lists(a_change(), min_size=1, max_size=5))
def test_property_every_plan_has_an_answer(edits):
    seen = evaluate(after(edits), LIBRARY, MEMO)
    assert to_bytes(seen)  # refuses NaN and infinity
    for each in seen.setups:
        assert each.cycle_s >= 0
        for op in each.operations:
            assert op.time_s >= 0
            assert op.removed_mm3 >= -1e-3
            assert all(isfinite(gauge.value) for gauge in op.gauges)
            assert set(op.answers) == {"hold", "reach", "travel", "cut", "size"}
            assert all(answer.reason for answer in op.answers.values() if answer.state == "unknown")


PICKS = {
    "enter": ("ramp", "helix", "plunge", "hole"),
    "lead": ("straight", "angle", "arc"),
    "equal": ("step", "load"),
    "cuts": ("up", "down"),
    "hand": ("right", "left"),
    "ways": ("both", "one"),
    "passes": (1, 2, 5),
    "spring_passes": (0, 2),
    "chain": (1, 3),
    "material": ("", "c45", "ti-6al-4v"),
}


@st.composite
def an_odd_change(draw) -> Edit:
    """One value of one operation, of any size, or one of its words, or another tool."""
    op = draw(st.sampled_from([*ODD, POCKET, WALLS, FACE]))
    fields = type(op).model_fields
    names = (
        [n for n in fields if n.endswith(("_mm", "_deg", "_per_mm")) and n != "hole_at_mm"]
        + [n for n in PICKS if n in fields]
        + ["tool", "rpm"]
    )
    name = draw(st.sampled_from(names))
    if name in PICKS:
        return Change(on=f"operation:{op.id}", fields={name: draw(st.sampled_from(PICKS[name]))})
    if name == "tool":
        return Change(
            on=f"operation:{op.id}",
            fields={"tool": draw(st.sampled_from([each.id for each in TOOLS_TOO] + [""]))},
        )
    return Change(on=f"operation:{op.id}", fields={name: draw(SIZES)})


@SLOW
@given(st.lists(an_odd_change(), min_size=1, max_size=5), st.permutations(ODD))
def test_property_every_odd_job_has_an_answer_and_fixes_that_can_be_taken(edits, order):
    made = plan(FACE, POCKET, WALLS, DRILL, *order[:5], tools=TOOLS_TOO)
    for each in edits:
        try:
            made = apply(made, [each])
        except (EditRefused, MachiningError) as refused:
            assert "{" not in str(refused)
    seen = evaluate(made, LIBRARY, MEMO)
    assert to_bytes(seen)
    for op in seen.setups[0].operations:
        assert op.time_s >= 0 and op.removed_mm3 >= -1e-3
        assert all(answer.reason for answer in op.answers.values() if answer.state == "unknown")
    for found in seen.findings:
        assert "{" not in in_words(found) and found.fixes
        for fix in found.fixes:
            assert "{" not in fill(fix.label, {**found.values, **fix.values})
            assert apply(made, fix.edits) != made
    for op in walk(made, LIBRARY, MEMO).operations():
        for choice in choices(op, walk(made, LIBRARY, MEMO)):
            assert not choice.edits or apply(made, choice.edits) != made


@SLOW
@given(st.lists(a_change(), min_size=1, max_size=4))
def test_property_every_finding_reads_well_and_every_fix_can_be_taken(edits):
    made = after(edits)
    for found in evaluate(made, LIBRARY, MEMO).findings:
        for system in ("metric", "inch"):
            assert "{" not in in_words(found, system)
        assert found.fixes or not found.operation
        for fix in found.fixes:
            assert "{" not in fill(fix.label, {**found.values, **fix.values})
            assert apply(made, fix.edits) != made


@SLOW
@given(st.lists(a_change(), min_size=1, max_size=4))
def test_property_the_memo_never_changes_an_answer(edits):
    made, memo = after(edits), Memo(64)
    evaluate(BASE, LIBRARY, memo)
    assert to_bytes(evaluate(made, LIBRARY, memo)) == to_bytes(evaluate(made, LIBRARY))


@SLOW
@given(st.lists(a_change(), min_size=1, max_size=4), st.integers(0, 3))
def test_property_what_waits_is_answered_as_if_it_never_had(edits, at_once):
    """After any edit, whatever little of it is worked out at first; nothing fails on the way."""
    made, memo, faults = after(edits), Memo(), []
    known = {op.id: op for op in walk(BASE, LIBRARY, memo).operations()}
    watch = logging.Handler()
    watch.emit = faults.append
    logging.getLogger("machining").addHandler(watch)
    at_first = evaluate(made, LIBRARY, memo, Pace(known, at_once))
    logging.getLogger("machining").removeHandler(watch)
    assert not [each.getMessage() for each in faults]
    ops = [op for setup in at_first.setups for op in setup.operations]
    waits = [{each.state for each in op.answers.values()} == {"working"} for op in ops]
    assert at_first.working == any(waits)
    assert not (at_first.working and at_first.ready)
    fresh = evaluate(made, LIBRARY)
    assert to_bytes(evaluate(made, LIBRARY, memo)) == to_bytes(fresh)
    assert at_first.working or to_bytes(at_first) == to_bytes(fresh)


@SLOW
@given(st.lists(a_change(), max_size=4))
def test_property_every_offer_can_be_taken(edits):
    made = after(edits)
    fresh = iter(f"new{k}" for k in range(10_000))
    for seen in walk(made, LIBRARY, MEMO).stations:
        for offer in offers(seen, walk(made, LIBRARY, MEMO), lambda: next(fresh)):
            grown = apply(made, offer.edits)
            assert len(grown.setup(seen.setup.id).operations) == len(seen.work) + 1
