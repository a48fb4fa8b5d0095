"""Parts with shapes of the trade, planned by their offers alone: what is found is what is cut, the
part comes out, and nothing of it is cut away.
"""

from __future__ import annotations

import pytest

from machining.evaluate import evaluate
from machining.facts.covered import covered
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import Change
from tools.demo_parts import box, cut, drum

from .by_offers import all_taken, begun, planned
from .shapes_in_step import at_height, chamfered, fused, plate, read, rounded
from .test_shapes_found import recess, rim

MEMO = Memo()
SHAPES = {
    "island": lambda: fused(cut(plate(), recess()), drum(0, 0, 12, 16, 7)),
    "window": lambda: cut(plate(), recess(), box(-15, -10, -5, 30, 20, 40, 4)),
    "open": lambda: cut(plate(), box(20, -12, 10, 50, 24, 40, 4)),
    "bosses": lambda: fused(
        box(-50, -30, 0, 100, 60, 10),
        box(-40, -15, 0, 30, 30, 25, 6),
        box(10, -15, 0, 30, 30, 18, 6),
    ),
    "stairs": lambda: fused(
        box(-50, -30, 0, 100, 60, 5), box(-20, -30, 0, 70, 60, 15), box(20, -30, 0, 30, 60, 25)
    ),
    "lower wall": lambda: cut(plate(), recess(deep=20), box(-60, -40, 15, 40, 80, 30)),
    "over an edge": lambda: cut(plate(), drum(50, 0, -1, 20, 40)),
    "counterbore": lambda: cut(plate(), drum(0, 0, -1, 5.8, 40), drum(0, 0, 18, 11, 20)),
    "rim": lambda: chamfered(cut(plate(), recess()), 1, rim),
    "edges": lambda: rounded(plate(8), 2, at_height(25)),
}


@pytest.mark.parametrize("name", SHAPES)
def test_taken_as_they_come_the_offers_make_the_part(name):
    plan, library, taken = planned(read(SHAPES[name]()), f"by-offers-{name}", MEMO)
    answer = evaluate(plan, library, MEMO)
    told = {each.id for each in answer.findings}
    assert not told & {"reach.gouges", "reach.leftover", "hold.below"}, taken
    assert answer.left == []
    far = {place.stage for place in covered(walk(plan, library, MEMO), MEMO)}
    assert far == {"finished"}, taken


def test_a_counterbore_is_as_deep_as_it_is_drawn_below_the_face():
    """Its hole's wall ends at its floor: from there its depth would be counted twice."""
    plan, library, taken = planned(read(SHAPES["counterbore"]()), "by-offers-counterbore", MEMO)
    assert "1 × Ø11 7 deep, a counterbore: Counterbore" in taken
    assert not any("counterbore: Drill" in each for each in taken)
    facts = walk(plan, library, MEMO)
    bored = next(op for op in facts.operations() if op.operation.kind == "counterbore")
    ((_, _, mouth, bottom),) = bored.work.holes
    assert (mouth, bottom) == (pytest.approx(bored.lie.part_high[2]), pytest.approx(mouth - 7))


def test_a_square_corner_stays_clear_of_a_fillet():
    """No mill of the shop leaves its radius: it is roughed, nothing cuts into it, and what is left
    is told.
    """
    shape = cut(plate(), rounded(recess(), 2, at_height(13)))
    plan, library, taken = planned(read(shape), "by-offers-fillet", MEMO)
    assert [each for each in taken if each.startswith("Pocket")] == [
        "Pocket 60 × 40, 12 deep: Rough"
    ]
    answer = evaluate(plan, library, MEMO)
    assert "reach.gouges" not in {each.id for each in answer.findings}
    assert answer.left_mm3 > 0


def test_a_drawn_chamfer_cut_wider_than_it_is_drawn():
    """By 0.4 at 45°: 0.4·sin 45° deep, (1.4² − 1²)/2 along the recess's rim."""
    plan, library, _ = planned(read(SHAPES["rim"]()), "by-offers-rim", MEMO)
    edge = next(op for s in plan.setups for op in s.operations if op.kind == "chamfer")

    def told(of):
        return [f for f in evaluate(of, library, MEMO).findings if f.id == "reach.gouges"]

    def sized(size: float):
        return apply(plan, [Change(on=f"operation:{edge.id}", fields={"size_mm": size})])

    (found,) = told(sized(1.4))
    assert found.severity == "stop"
    assert found.values["deep"].value == pytest.approx(0.4 * 0.5**0.5)
    rim = next(each for each in library.geometries["by-offers-rim"].features if each.kind == "edge")
    assert found.values["volume"].value == pytest.approx(0.48 * rim.length_mm)
    assert told(sized(1.1)) == [] and told(plan) == []
    assert told(apply(sized(1.4), found.fixes[0].edits)) == []
    assert apply(sized(1.4), found.fixes[0].edits).setups[0].operation(edge.id).size_mm == 1.0


@pytest.mark.parametrize(
    ("material", "machine", "name"),
    [
        ("c45", "heron", "over an edge"),
        ("c45", "dunlin", "island"),
        ("x5crnimo17-12-2", "dunlin", "counterbore"),
    ],
)
def test_what_is_offered_asks_no_more_than_spindle_and_holding_give(material, machine, name):
    """2 mm with a shell mill, a tenth of the diameter at full depth and a large drill are too much
    for these.
    """
    plan, library = begun(read(SHAPES[name]()), f"gentle-{name}", MEMO, material)
    plan = apply(plan, [Change(on="setup:s1", fields={"machine": machine})])
    plan, taken = all_taken(plan, library, MEMO, 0)
    stops = {f.id for f in evaluate(plan, library, MEMO).findings if f.severity == "stop"}
    assert {"Top: Face", "Outside: Rough"} <= set(taken)
    assert not [id for id in stops if id.startswith(("cut.", "hold."))]
