"""Tools of every kind: what each can't be without, what can't be, and what the seeded
shop holds.
"""

from __future__ import annotations

from typing import get_args

import pytest
from pydantic import ValidationError

from machining.facts.kinds import KINDS as DESCRIBED
from machining.plan.operation import KINDS
from machining.plan.refusal import first_problem
from machining.world.tool import BUILT_TO_LENGTH, DRILLS, FACES, TURNING, Tool, ToolKind

from .build import LIBRARY

TOOLS = LIBRARY.tools


def refused(key: str, **change) -> tuple[str, str]:
    with pytest.raises(ValidationError) as problem:
        Tool(**{**TOOLS[key].model_dump(), **change})
    field, _, sentence = first_problem(problem.value)
    return field, sentence


@pytest.mark.parametrize(
    ("key", "field", "words"),
    [
        ("tap-m8", "pitch_mm", "a tap needs its pitch"),
        ("thread-mill-m8-one", "pitch_mm", "a thread mill needs its pitch"),
        ("turn-thread-16", "pitch_mm", "a threading tool needs its pitch"),
        ("drill-6-8", "point_angle_deg", "a drill needs its point angle"),
        ("insert-drill-20", "point_angle_deg", "180 where it cuts flat"),
        ("spot-10-90", "point_angle_deg", "a spot drill needs its point angle"),
        ("turn-drill-12", "point_angle_deg", "a drill needs its point angle"),
        ("chamfer-8-90", "included_angle_deg", "a chamfer mill needs its angle"),
        ("engraver-6-60", "included_angle_deg", "an engraver needs its angle"),
        ("undercut-mill-20-60", "included_angle_deg", "an undercut mill needs its angle"),
        ("high-feed-20-z3", "max_depth_mm", "needs the depth its edge allows"),
        ("groove-3", "insert_width_mm", "a grooving tool needs its width"),
        ("face-groove-3", "insert_width_mm", "a grooving tool needs its width"),
        ("part-off-3", "insert_width_mm", "a parting tool needs its width"),
        ("slot-mill-63-4", "insert_width_mm", "a slot mill needs its width"),
    ],
)
def test_what_a_kind_cant_be_without(key, field, words):
    place, sentence = refused(key, **{field: None})
    assert place == field
    assert words in sentence


@pytest.mark.parametrize(
    ("key", "change", "field", "words"),
    [
        (
            "end-mill-12-z3",
            {"flute_length_mm": 90.0},
            "flute_length_mm",
            "up to the overall length, 83",
        ),
        (
            "end-mill-12-z3",
            {"usable_length_mm": 20.0},
            "usable_length_mm",
            "at least the flute length, 28",
        ),
        ("end-mill-12-z3", {"tip_diameter_mm": -0.1}, "tip_diameter_mm", "at least 0"),
        (
            "end-mill-12-z3",
            {"corner_radius_mm": 6.1},
            "corner_radius_mm",
            "up to half the diameter, 6",
        ),
        (
            "end-mill-12-z3",
            {"edge_angle_deg": 95.0},
            "edge_angle_deg",
            "up to 90 for a tool that turns",
        ),
        ("end-mill-12-z3", {"max_depth_mm": 30.0}, "max_depth_mm", "up to the flute length, 28"),
        (
            "high-feed-20-z3",
            {"edge_angle_deg": 45.0},
            "edge_angle_deg",
            "up to 30 for a high-feed mill",
        ),
        (
            "corner-rounder-10-r2",
            {"corner_radius_mm": 0.0},
            "corner_radius_mm",
            "over 0 for this kind of tool",
        ),
        (
            "turn-finish-dn11",
            {"corner_radius_mm": 0.0},
            "corner_radius_mm",
            "over 0 for this kind of tool",
        ),
        ("chamfer-8-90", {"tip_diameter_mm": 9.0}, "tip_diameter_mm", "up to the diameter, 8"),
        ("end-mill-12-z3", {"helix_deg": 80.0}, "helix_deg", "at most 70"),
        ("thread-mill-m8-full", {"rows": 0}, "rows", "at least 1"),
    ],
)
def test_what_cant_be_is_explained(key, change, field, words):
    place, sentence = refused(key, **change)
    assert place == field
    assert words in sentence


def test_the_seeded_shop_has_a_tool_of_every_kind():
    assert {tool.kind for tool in TOOLS.values()} == set(get_args(ToolKind))
    assert len(LIBRARY.materials) >= 25
    assert {"heron", "dunlin", "curlew", "petrel", "plover", "gannet"} == set(LIBRARY.machines)


def test_kinds_are_grouped_without_gaps():
    kinds = set(get_args(ToolKind))
    assert kinds > (DRILLS | FACES | TURNING | BUILT_TO_LENGTH)
    assert not DRILLS & TURNING
    assert set(DESCRIBED) == KINDS
    assert all(each.tools <= kinds for each in DESCRIBED.values())


def test_a_turning_tool_s_edge_may_lead():
    assert TOOLS["turn-rough-cn12"].edge_angle_deg == 95


@pytest.mark.parametrize("key", sorted(TOOLS))
def test_lengths_of_every_seeded_tool_fit_one_another(key):
    tool = TOOLS[key]
    assert (
        tool.cutting_depth_mm
        <= tool.flute_length_mm
        <= tool.usable_length_mm
        <= tool.overall_length_mm
    )
    assert tool.behind_flutes_mm == (tool.neck_diameter_mm or tool.shank_diameter_mm)


def test_dust_and_fire_are_known_where_they_are():
    hazards = {
        key: material.hazards for key, material in LIBRARY.materials.items() if material.hazards
    }
    assert hazards["en-gjl-250"] == ("dust",)
    assert hazards["ti-6al-4v"] == hazards["mgal9zn1"] == ("fire",)
