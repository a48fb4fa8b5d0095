"""Twenty plans that would go wrong, each in its own way, and ten that are sound: what the floor
would find out is said before, with a way out that was tried; what is right is left alone.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import pytest

from machining.ask.trying import tried_fixes
from machining.evaluate import evaluate
from machining.plan.document import Plan
from machining.plan.operation import Drill, FinishWalls, Ream, RoughPocket, Tap
from machining.plan.places import OnFeatures, Outside, Points, Rectangle
from machining.plan.turned import Plane, Profile, TurnFinish, TurnRough
from machining.world.library import Library
from tests.at_length import some

from . import build, lathe
from .build import DRILL, FACE, OUTSIDE, ROUGH, TAP, TOOLS, changed, plan, tool, whole
from .cases_of_the_whole import (
    ON_HOLE,
    PLUG,
    asking,
    backwards,
    meeting,
    one_offset,
    without,
    zero_on,
)

MORE = (
    *TOOLS,
    tool(7, "drill-5-8"),
    tool(8, "drill-8-5"),
    tool(9, "reamer-6"),
    tool(10, "drill-19"),
)
SPIGOT = Profile(at_mm=((0.0, 26.6), (-32.0, 26.6), (-32.0, 48.0), (-44.0, 48.0)))


@dataclass(frozen=True)
class Wrong:
    name: str
    finding: str
    make: Callable[[], Plan]
    library: Library = build.LIBRARY
    severity: str = "stop"


def milled(*operations, **fields) -> Plan:
    return plan(*operations, **{"tools": MORE, **fields})


def turned(*operations) -> Plan:
    return lathe.plan(*operations)


def of_lathe(name: str, finding: str, *operations) -> Wrong:
    return Wrong(name, finding, lambda: turned(*operations), lathe.LIBRARY)


DEEP = Rectangle(x_mm=0, y_mm=0, top_mm=0, length_mm=38, width_mm=22, depth_mm=12)
HOLE = OnFeatures(ids=("hole0",))
WRONG = [
    Wrong(
        "a drill of 19 in a hole of 6.8",
        "reach.gouges",
        lambda: milled(FACE, DRILL.model_copy(update={"tool": "t10"})),
    ),
    Wrong(
        "a pocket 4 mm too deep",
        "reach.gouges",
        lambda: milled(
            FACE, RoughPocket(id="p", tool="t3", on=DEEP, step_down_mm=4.0, step_over_mm=1.6)
        ),
    ),
    Wrong(
        "an outside cut down into the vise",
        "hold.jaw-in-cut",
        lambda: milled(FACE, ROUGH.model_copy(update={"on": Outside(depth_mm=24.0)})),
    ),
    of_lathe(
        "a spigot turned 1.7 mm too small",
        "reach.gouges",
        lathe.FACE,
        TurnRough(id="rough", tool="t1", on=SPIGOT),
        TurnFinish(id="finish", tool="t2", on=SPIGOT),
    ),
    of_lathe(
        "an end faced too far",
        "reach.gouges",
        lathe.FACE.model_copy(update={"on": Plane(z_mm=-1.0)}),
    ),
    of_lathe(
        "work after parting off", "size.order", lathe.FACE, lathe.ROUGH, lathe.OFF, lathe.FINISH
    ),
    of_lathe(
        "a thread before its diameter",
        "size.order",
        lathe.FACE,
        lathe.ROUGH,
        lathe.THREAD,
        lathe.FINISH,
    ),
    Wrong(
        "a tap in a hole too wide for it",
        "size.hole-before",
        lambda: milled(
            FACE,
            Drill(
                id="d", tool="t8", on=Points(at_mm=((0.0, 20.0),), diameter_mm=8.5, depth_mm=7.0)
            ),
            Tap(
                id="t",
                tool="t5",
                on=Points(at_mm=((0.0, 20.0),), diameter_mm=8.5, depth_mm=5.0),
                depth_mm=5.0,
            ),
        ),
    ),
    Wrong(
        "a reamer with nothing to ream",
        "size.hole-before",
        lambda: milled(FACE, DRILL, Ream(id="r", tool="t9", on=HOLE)),
    ),
    Wrong("tapped before it is drilled", "size.order", lambda: milled(FACE, TAP, DRILL)),
    Wrong("finished before it is roughed", "size.order", lambda: milled(FACE, OUTSIDE, ROUGH)),
    Wrong(
        "an outside finished with all of it standing",
        "cut.more-than-planned",
        lambda: milled(
            FACE,
            FinishWalls(
                id="w", tool="t2", on=Outside(depth_mm=18.0), step_down_mm=18.0, width_mm=0.3
            ),
            stock=build.THICK,
        ),
        severity="any",
    ),
    Wrong(
        "two tools read one register",
        "route.offset-register",
        lambda: changed(whole(), "tool:t4", h=5),
    ),
    Wrong(
        "two tools in one pocket",
        "route.pocket-twice",
        lambda: changed(whole(), "tool:t4", pocket=5),
    ),
    Wrong(
        "a pocket the magazine hasn't",
        "route.tools-over",
        lambda: changed(whole(), "tool:t4", pocket=99),
    ),
    Wrong(
        "an offset the machine hasn't",
        "route.offset-unknown",
        lambda: changed(whole(), "station:st1", work_offset="G54.1 P7"),
    ),
    Wrong("one offset for two parts", "route.offset-duplicate", one_offset),
    Wrong("a setup before what it takes", "route.takes", backwards),
    Wrong(
        "a zero on a hole not yet drilled",
        "route.zero-not-there",
        lambda: zero_on(whole(), x=ON_HOLE, y=ON_HOLE),
    ),
    Wrong(
        "a thread nobody cuts",
        "size.drawing-uncovered",
        lambda: without(asking(whole(), PLUG), "tap"),
    ),
]
IDS = {each.finding for each in WRONG} | {"size.repeat-missing", "size.chain", "sheet.units"}
SOUND: dict[str, tuple[Callable[[], Plan], Library]] = {
    "as planned": (whole, build.LIBRARY),
    "one side": (build.good, build.LIBRARY),
    "lighter": (lambda: changed(whole(), "operation:rough", step_over_mm=1.0), build.LIBRARY),
    "in two levels": (
        lambda: changed(whole(), "operation:outside", step_down_mm=5.0),
        build.LIBRARY,
    ),
    "in brass": (lambda: changed(whole(), "plan", material="cuzn39pb3"), build.LIBRARY),
    "one part": (lambda: changed(whole(), "plan", quantity=1), build.LIBRARY),
    "its thread asked for": (lambda: asking(whole(), PLUG), build.LIBRARY),
    "turned": (lambda: lathe.plan(*lathe.GOOD), lathe.LIBRARY),
    "turned plain": (lambda: lathe.plan(lathe.FACE, lathe.ROUGH, lathe.FINISH), lathe.LIBRARY),
    "turned and threaded": (
        lambda: lathe.plan(lathe.FACE, lathe.ROUGH, lathe.FINISH, lathe.RECESS, lathe.THREAD),
        lathe.LIBRARY,
    ),
}
MEMOS = {id(build.LIBRARY): build.MEMO, id(lathe.LIBRARY): lathe.MEMO}
TRIED = some(WRONG, each=5)  # of these the fixes


def test_they_are_twenty_and_ten():
    assert (len({each.name for each in WRONG}), len(SOUND)) == (20, 10)


@pytest.mark.parametrize("wrong", WRONG, ids=lambda each: each.name)
def test_what_would_go_wrong_is_said(wrong):
    seen = evaluate(wrong.make(), wrong.library, MEMOS[id(wrong.library)])
    found = next((f for f in seen.open if f.id == wrong.finding), None)
    assert found is not None, [f.key for f in seen.open]
    assert wrong.severity in (found.severity, "any")
    assert not seen.ready


@pytest.mark.parametrize("wrong", TRIED, ids=lambda each: each.name)
def test_with_a_way_out_that_was_tried_and_keeps_its_word(wrong):
    before, memo = wrong.make(), MEMOS[id(wrong.library)]
    seen = evaluate(before, wrong.library, memo)
    found = next(f for f in seen.open if f.id == wrong.finding)
    assert tried_fixes(before, wrong.library, memo, found.key)["fixes"]


@pytest.mark.parametrize("name", SOUND)
def test_what_is_sound_has_none_of_these(name):
    make, library = SOUND[name]
    seen = evaluate(make(), library, MEMOS[id(library)])
    assert not IDS & {f.id for f in seen.open}
    assert seen.count("stop") == 0


def test_walls_from_two_sides_that_go_over_each_other_have_no_step():
    assert "size.blend" in build.ids(meeting(8.0))
    assert "size.blend" not in build.ids(meeting(8.5))
