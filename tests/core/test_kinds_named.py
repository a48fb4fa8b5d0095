"""Kinds of operation by the words of the trade, offered and listed."""

from __future__ import annotations

import pytest

from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import apply
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
    Undercut,
)
from machining.plan.places import Text
from machining.ways.offers import offers

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    answer,
    plan,
    result,
    setup,
)
from .test_kinds import AT, EDGE, HOLES, with_

# -- how they are called, offered and listed

TITLES = [
    (Spot(id="k", tool="t13", on=HOLES, mouth_diameter_mm=8), "Spot", "{d} on 2 holes", {"d": 8}),
    (Countersink(id="k", tool="t13", on=AT, mouth_diameter_mm=9), "Countersink", "{d}", {"d": 9}),
    (
        Counterbore(id="k", tool="t2", on=HOLES, diameter_mm=12, depth_mm=5),
        "Counterbore",
        "2 × {d}, {z} deep",
        {"d": 12, "z": 5},
    ),
    (
        SpotFace(id="k", tool="t2", on=AT, diameter_mm=14),
        "Spot-face",
        "1 × {d}, {z} deep",
        {"d": 14, "z": 0.5},
    ),
    (BackChamfer(id="k", tool="t8", on=HOLES), "Chamfer behind", "{s} on 2 holes", {"s": 0.4}),
    (
        MillHole(id="k", tool="t3", on=HOLES, diameter_mm=14, leave_mm=0.25),
        "Mill hole",
        "2 × {d}",
        {"d": 13.5},
    ),
    (
        MillThread(id="k", tool="t11", on=HOLES, major_mm=8, pitch_mm=1.25, depth_mm=16),
        "Mill thread",
        "2 × M8",
        {},
    ),
    (
        MillThread(
            id="k",
            tool="t11",
            on=AT,
            major_mm=8,
            pitch_mm=1.0,
            depth_mm=9,
            hand="left",
            taper_per_mm=0.0625,
        ),
        "Mill thread",
        "1 × M8×1 tapered left",
        {},
    ),
    (
        Undercut(id="k", tool="t8", on=EDGE, depth_mm=6, width_mm=3),
        "Undercut",
        "{w} in 3 passes",
        {"w": 3},
    ),
    (Engrave(id="k", tool="t9", on=Text(text="no 7")), "Engrave", "NO 7", {}),
    (Engrave(id="k", tool="t9", on=EDGE), "Engrave", "a line", {}),
    (RoundEdge(id="k", tool="t10", radius_mm=2), "Round edges", "R {r}", {"r": 2}),
    (Slope(id="k", tool="t14", size_mm=3, angle_deg=25), "Slope", "{s} at 25°", {"s": 3}),
]


@pytest.mark.parametrize(
    ("operation", "title", "detail", "sizes"),
    TITLES,
    ids=[f"{k}-{row[0].kind}" for k, row in enumerate(TITLES)],
)
def test_each_kind_is_called_by_what_it_makes(operation, title, detail, sizes):
    one = result(answer(with_(FACE, operation)), "k")
    assert (one.title, one.detail, one.sizes) == (title, detail, pytest.approx(sizes))
    assert not {"NaN", "inf"} & {str(each.value) for each in one.worked}


def test_the_rarer_jobs_are_offered_with_a_tool_that_suits_them():
    bare = plan(setups=(setup(),), tools=())
    facts, ids_ = walk(bare, LIBRARY, Memo()), (f"new{k}" for k in range(999))
    rare = [
        offer
        for offer in offers(facts.setups[0].first, facts, lambda: next(ids_))
        if offer.rare or offer.group == "By hand"
    ]
    assert {offer.label for offer in rare} >= {
        "Spot",
        "Countersink",
        "Counterbore",
        "Mill thread",
        "Round",
        "Slope at an angle",
        "Undercut",
        "Engrave a text",
        "Mill a hole",
    }
    for offer in rare:
        assert offer.tool, offer.label
        found = answer(apply(bare, offer.edits))
        assert "reach.tool-impossible" not in {f.id for f in found.findings}, offer.label
        assert all(op.time_s > 0 for op in found.setups[0].operations), offer.label


def test_the_worksheet_lists_its_arithmetic_by_name():
    names = {
        each.name
        for each in result(
            answer(
                with_(
                    FACE,
                    DRILL,
                    MillThread(
                        id="k", tool="t11", on=HOLES, major_mm=8, pitch_mm=1.25, depth_mm=16
                    ),
                )
            ),
            "k",
        ).worked
    }
    assert names >= {
        "Feed of the middle",
        "Turns",
        "Helix",
        "Thread of",
        "Thread deep",
        "First pass in",
    }
    face = {each.name: each.value for each in result(answer(with_(FACE)), "face").worked}
    assert face["Passes"] == 2 and face["Past the edge by"] == pytest.approx(25.0 + 2.0)
