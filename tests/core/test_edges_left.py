"""Edges that the drawing breaks and nobody did are told, with what breaks them as drawn."""

from __future__ import annotations

import pytest

from machining.ask.finishing import finishing
from machining.evaluate import evaluate
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import RemoveOperation
from machining.quantities.said import fill
from tools.demo_parts import box, cut, turned

from .by_offers import planned
from .shapes_in_step import at_height, chamfered, plate, read, rounded
from .test_shapes_found import recess, rim

MEMO = Memo()


def without(kinds, name, shape):
    plan, library, _ = planned(read(shape), f"edges-left-{name}", MEMO)
    gone = [
        RemoveOperation(operation=op.id)
        for setup in plan.setups
        for op in setup.operations
        if op.kind in kinds
    ]
    assert gone
    return apply(plan, gone), library


@pytest.mark.parametrize(
    ("name", "shape", "kind", "words"),
    [
        (
            "top",
            lambda: chamfered(plate(8), 1, at_height(25)),
            "chamfer",
            "on edges that have a chamfer of 1.0 mm",
        ),
        (
            "rim",
            lambda: chamfered(cut(plate(), recess()), 1, rim),
            "chamfer",
            "on edges that have a chamfer of 1.0 mm",
        ),
        (
            "round",
            lambda: rounded(plate(8), 2, at_height(25)),
            "round_edge",
            "on edges that have a round of 2.0 mm",
        ),
        (
            "slope",
            lambda: cut(plate(), turned(box(40, -50, 25, 60, 100, 40), 30, (0, 1, 0), (40, 0, 25))),
            "slope",
            "on a face slanted by 30.0°",
        ),
    ],
)
def test_what_stands_on_an_edge_is_told_with_what_breaks_it_as_drawn(name, shape, kind, words):
    plan, library = without({kind}, name, shape())
    (left,) = evaluate(plan, library, MEMO).left
    assert fill(left.where.text, left.where.values) == words
    (row,) = finishing(plan, library, MEMO)
    offered = [
        edit for fix in row["offers"] for edit in fix["edits"] if edit["do"] == "add_operation"
    ]
    assert {each["operation"]["kind"] for each in offered} == {kind}
