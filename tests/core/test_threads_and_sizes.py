"""Threads and holes as the drawing has them: of what is cut, and of the metal it is cut in."""

from __future__ import annotations

import json

import pytest

from machining.ask import ANY_EDITS, QUESTIONS
from machining.facts.hole_size import wrong_size
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.operation import Drill, MillThread, Ream
from machining.plan.places import OnFeatures, Points
from machining.plan.turned import TurnRough
from machining.quantities.names import thread_of
from machining.ways.fewer_tools import merges
from machining.world.part import Part, Requirement

from . import lathe
from .build import (
    DRILL,
    FACE,
    LIBRARY,
    PART,
    TAP,
    TOOLS,
    after_fix,
    finding,
    good,
    ids,
    plan,
    tool,
)

ASKED = Requirement(id="r", what="Neck", thread="M30x1.5", measured_with="ring gauge")
TURNED = (lathe.FACE, lathe.ROUGH, lathe.FINISH, lathe.RECESS)


@pytest.mark.parametrize(
    ("name", "size"),
    [
        ("M8", (8.0, 1.25)),
        ("M8×1 - 6H", (8.0, 1.0)),
        ("m30X1.5 6g LH", (30.0, 1.5)),
        ("1/4-20 UNC-2B", (6.35, 1.27)),
        ("10-32", (4.826, 25.4 / 32)),
        ("#10-32", (4.826, 25.4 / 32)),
        ("M7", None),
        ("M8 helical insert", None),
        ("G1/4", None),
        ("Tr 16x4", None),
    ],
)
def test_threads_by_their_names(name, size):
    assert thread_of(name) == (pytest.approx(size) if size else None)


def threaded(*before, asked: Requirement | None = ASKED, **fields):
    part = Part(geometry="gland", requirements=(asked,) if asked else ())
    return lathe.plan(*before, lathe.THREAD.model_copy(update=fields), part=part)


def of_metal(of):
    found = [f for f in lathe.answer(of).findings if f.id == "cut.thread" and "has" in f.values]
    return found[0] if found else None


@pytest.mark.parametrize(
    ("diameter", "share", "severity"),
    [
        # the thread is 0.6134 of its pitch deep, the neck Ø30 all along
        (45.0, 0.0, "stop"),
        (31.0, 1.0 - 0.5 / (0.6134 * 1.5), "stop"),
        (30.5, 1.0 - 0.25 / (0.6134 * 1.5), "look"),
        (30.2, None, ""),
        (30.0, None, ""),
        (29.8, None, ""),
    ],
)
def test_a_thread_wider_than_its_metal_has_no_crests(diameter, share, severity):
    found = of_metal(threaded(*TURNED, diameter_mm=diameter))
    assert (found.severity if found else "") == severity
    if found:
        assert found.values["share"].value == pytest.approx(share, abs=0.01)
        assert found.values["has"].value == pytest.approx(30.0)
        mended = apply(threaded(*TURNED, diameter_mm=diameter), found.fixes[0].edits)
        assert of_metal(mended) is None
        assert mended.setups[0].operation("thread").diameter_mm == 30.0


def test_every_way_to_the_relief_leaves_its_thread_a_neck(gland_plan):
    """Where the finish ends at the relief's wall a line of no width stands a little higher."""
    of, library = gland_plan
    for row in json.loads(QUESTIONS["ways"](of, library, lathe.MEMO, operation="g50")):
        taken = apply(of, ANY_EDITS.validate_python(row["edits"]))
        found = lathe.evaluate(taken, library, lathe.MEMO).findings
        assert not [f for f in found if f.severity == "stop"], row["name"]


def test_a_bar_that_stands_over_its_thread_is_turned_first():
    of = threaded(lathe.FACE)
    found = of_metal(of)
    assert found.severity == "stop" and found.values["has"].value == pytest.approx(50.0)
    assert [fix.label for fix in found.fixes] == ["Turn Ø {major} first"]  # M30 is what is drawn
    mended = apply(of, found.fixes[0].edits)
    assert of_metal(mended) is None
    turned = mended.setups[0].operations[-2]
    assert isinstance(turned, TurnRough) and turned.on.at_mm == ((0.0, 30.0), (-25.0, 30.0))
    assert "Thread Ø {major}" in [f.label for f in of_metal(threaded(lathe.FACE, asked=None)).fixes]


@pytest.mark.parametrize(
    ("fields", "words", "fix"),
    [
        ({"diameter_mm": 28.0}, "operation {number} cuts {other}", "Cut {thread}"),
        ({"pitch_mm": 2.0}, "operation {number} cuts {other}", "Cut {thread}"),
        ({"starts": 2}, "a {wanted}; operation {number} cuts a {other}", "Cut a {wanted}"),
        ({"hand": "left"}, "a {wanted}; operation {number} cuts a {other}", "Cut a {wanted}"),
    ],
)
def test_another_thread_than_the_drawing_s_is_told_and_becomes_it(fields, words, fix):
    of = threaded(*TURNED, **fields)
    found = lathe.finding(of, "size.drawing-uncovered")
    assert found.severity == "stop" and words in found.message
    assert [each.label for each in found.fixes] == [fix]
    assert "size.drawing-uncovered" not in lathe.ids(apply(of, found.fixes[0].edits))


def test_a_thread_that_is_not_known_is_not_called_cut():
    pipe = ASKED.model_copy(update={"thread": "G7/8"})
    found = lathe.finding(threaded(*TURNED, asked=pipe), "size.drawing-uncovered")
    assert found.severity == "note" and "was not checked" in found.message
    assert "size.drawing-uncovered" not in lathe.ids(threaded(*TURNED))
    left = ASKED.model_copy(update={"thread": "M30x1.5 LH"})
    assert (
        "left-hand"
        in lathe.finding(threaded(*TURNED, asked=left), "size.drawing-uncovered")
        .values["wanted"]
        .value
    )


def asking(*requirements: Requirement, **fields):
    part = PART.model_copy(update={"requirements": requirements})
    return {"part": part, **fields}


def test_a_tap_of_another_thread_is_changed_for_the_right_one():
    fine = Requirement(id="r", what="Thread", feature="hole0", thread="M6", measured_with="plug")
    of = plan(FACE, DRILL, TAP, **asking(fine))
    found = finding(of, "size.drawing-uncovered")
    assert (found.severity, found.values["other"].value) == ("stop", "M8")
    mill = MillThread(id="m", tool="t5", on=DRILL.on, major_mm=8.0, pitch_mm=1.0, depth_mm=15.0)
    milled = plan(FACE, DRILL, mill, **asking(fine.model_copy(update={"thread": "M8"})))
    assert finding(milled, "size.drawing-uncovered").values["other"].value == "M8×1"
    assert "size.drawing-uncovered" not in ids(
        after_fix(milled, finding(milled, "size.drawing-uncovered"))
    )


# -- tools that make a hole of their own size

HOLE = Points(at_mm=((0.0, -20.0),), diameter_mm=6.0, depth_mm=20.0, through=True)
LIMITS = {"low": pytest.approx(6.1), "high": pytest.approx(6.2)}
MORE = (*TOOLS, tool(7, "drill-5-8"), tool(8, "drill-8-5"), tool(9, "reamer-6"))


def test_a_drill_wider_than_the_hole_it_is_to_make():
    of = plan(FACE, Drill(id="d", tool="t8", on=HOLE), tools=MORE)
    found = finding(of, "size.fixed-size")
    assert (found.severity, found.values["has"].value) == ("stop", 8.5)
    assert "size.fixed-size" not in ids(after_fix(of, found, len(found.fixes) - 1))
    sound = HOLE.model_copy(update={"diameter_mm": 8.5})
    assert "size.fixed-size" not in ids(plan(FACE, Drill(id="d", tool="t8", on=sound), tools=MORE))


def test_a_narrower_one_comes_before_what_opens_the_hole():
    first = Drill(id="d", tool="t7", on=HOLE)
    assert finding(plan(FACE, first, tools=MORE), "size.fixed-size").severity == "look"
    then = Ream(id="r", tool="t9", on=HOLE)
    assert "size.fixed-size" not in ids(plan(FACE, first, then, tools=MORE))


def test_neither_a_wider_nor_a_narrower_one_is_chosen_for_its_work():
    """The narrower one only where another one comes after it."""
    drilled, reamed = Drill(id="d", tool="t4", on=HOLE), Ream(id="r", tool="t9", on=HOLE)
    alone, then = plan(FACE, drilled, tools=MORE), plan(FACE, drilled, reamed, tools=MORE)

    def of(document, key):
        facts = walk(document, LIBRARY, Memo())
        (op,) = (each for each in facts.operations() if each.id == "d")
        return wrong_size(op, facts, LIBRARY.tools[key])

    words, sizes = of(alone, "drill-5-8")
    assert words.startswith("Ø {has} is smaller") and sizes == {"has": 5.8, "drawn": 6.0}
    assert of(alone, "drill-8-5")[0].startswith("Ø {has} is larger")
    assert of(then, "drill-5-8") is None
    taken = {op.id for each in merges(MORE, walk(alone, LIBRARY, Memo())) for op in each.operations}
    assert taken == {"face"}


@pytest.mark.parametrize(("size", "told"), [(6.15, False), (6.25, True), (6.0, True)])
def test_what_the_drawing_s_limits_allow_suits_whatever_the_hole_is_drawn_at(size, told):
    """Drawn at Ø 6.8, to be 6.1 to 6.2."""
    limits = {"nominal_mm": 6.0, "lower_mm": 0.1, "upper_mm": 0.2, "measured_with": "plug gauge"}
    asked = Requirement(id="r", what="Pin", feature="hole0", **limits)
    facts = walk(plan(DRILL, **asking(asked)), LIBRARY, Memo())
    drill = LIBRARY.tools["drill-6-8"].model_copy(update={"diameter_mm": size})
    found = wrong_size(facts.operations()[0], facts, drill)
    assert found == (
        ("Ø {has}: the drawing wants the hole Ø {low} to Ø {high}.", {"has": size, **LIMITS})
        if told
        else None
    )


@pytest.mark.parametrize(("nominal", "told"), [(6.0, False), (5.98, True), (6.02, True)])
def test_a_reamer_is_held_against_what_the_drawing_asks(nominal, told):
    """Ø6 into a hole that is to be 0 to 0.012 over its nominal size."""
    part = PART.model_copy(
        update={
            "typed": tuple(
                each.model_copy(update={"diameter_mm": 6.0}) if each.id == "hole0" else each
                for each in PART.typed
            ),
            "requirements": (
                Requirement(
                    id="r",
                    what="Pin",
                    feature="hole0",
                    nominal_mm=nominal,
                    upper_mm=0.012,
                    measured_with="plug gauge",
                ),
            ),
        }
    )
    on = OnFeatures(ids=("hole0",))
    of = plan(
        FACE, Drill(id="d", tool="t7", on=on), Ream(id="r", tool="t9", on=on), tools=MORE, part=part
    )
    found = [
        f
        for f in lathe.evaluate(of, lathe.LIBRARY, lathe.MEMO).findings
        if f.id == "size.fixed-size"
    ]
    assert [f.severity for f in found] == (["stop"] if told else [])


def test_a_sound_plan_has_the_sizes_it_says():
    assert not {"size.fixed-size", "cut.thread", "size.drawing-uncovered"} & ids(good())
    assert not {"size.fixed-size", "cut.thread"} & lathe.ids(lathe.plan(*lathe.GOOD))
