"""What a cut can't be worked out from says so, and the rest of the plan is answered."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from pydantic import ValidationError

from machining.ask.savings import savings
from machining.facts.along import along
from machining.facts.route import walk
from machining.geometry.columns import Grid
from machining.geometry.mesh import Mesh
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import Change
from machining.plan.operation import Chamfer, Engrave, RoughOutside, Slot
from machining.plan.places import Drawn, Lines, Outside
from machining.ways.choices import choices
from machining.world.geometry import PartGeometry
from machining.world.part import Part
from machining.world.stock.block import sawn_block
from machining.world.tool import Tool
from shop.demo import latch, manifold

from .build import DRILL, FACE, LIBRARY, MEMO, ROUGH, TOOLS, answer, plan, result, tool

MORE = (*TOOLS, tool(8, "chamfer-8-90"), tool(9, "engraver-6-60"))


@pytest.mark.parametrize("place", [Lines, Drawn])
def test_a_path_of_no_length_is_refused_with_the_line_it_is_of(place):
    lines = (((0.0, 0.0), (9.0, 0.0)), ((3.0, 3.0), (3.0, 3.0)))
    fields = {"at_mm": lines} if place is Lines else {"file": "a.svg", "lines": lines}
    with pytest.raises(ValidationError, match="line 2 passes the same corner twice in a row"):
        place(**fields)


@pytest.mark.parametrize(
    "cut",
    [
        Slot(
            id="odd",
            tool="t3",
            on=Lines(at_mm=(((0.0, 0.0), (1e-7, 0.0)),)),
            step_down_mm=1.0,
            depth_mm=2.0,
        ),
        Engrave(id="odd", tool="t9", on=Lines(at_mm=(((0.0, 0.0), (1e-7, 0.0)),)), depth_mm=0.3),
        Chamfer(id="odd", tool="t8", on=Lines(at_mm=(((0.0, 0.0), (1e-7, 0.0)),)), size_mm=0.3),
    ],
    ids=lambda op: op.kind,
)
def test_next_to_no_length_is_answered_or_says_why_not(cut):
    seen = answer(plan(FACE, cut, DRILL, tools=MORE))
    mine, others = result(seen, "odd"), (result(seen, "face"), result(seen, DRILL.id))
    assert all(each.reason for each in mine.answers.values() if each.state == "unknown")
    assert all(each.time_s > 0 for each in others)


def test_round_a_blank_of_the_part_s_own_size_there_is_nothing_to_choose():
    """Nor anything to save by cutting it otherwise."""
    none = sawn_block((0, 0), (0, 0), (0, 0), tolerance=0.0)
    of = plan(FACE, ROUGH, stock=none)
    facts = walk(of, LIBRARY, MEMO)
    for op in facts.operations():
        said = {each.because.text for each in choices(op, facts)}
        assert said == {"By the size of the blank nothing stands here to be taken off."}
    assert savings(of, LIBRARY, MEMO, most=3)["tried"] == 3


def test_a_solid_that_is_not_closed_is_told_for_the_plan():
    mesh = walk(plan(FACE), LIBRARY, MEMO).geometry.mesh
    torn = Mesh(mesh.vertices, mesh.triangles[:-1], mesh.faces[:-1])
    library = replace(LIBRARY, geometries={"torn": PartGeometry("torn", torn, 1.0, ())})
    seen = answer(plan(FACE, part=Part(geometry="torn")), library)
    assert "it must be closed" in seen.problem


@pytest.mark.parametrize("field", ["diameter_mm", "flutes", "flute_length_mm"])
def test_a_tool_without_a_profile_is_no_tool(field):
    known = LIBRARY.tools["end-mill-8-z3"].model_dump()
    with pytest.raises(ValidationError, match=field):
        Tool.model_validate({**known, field: 0})


def test_a_field_of_too_many_cells_is_looked_at_more_coarsely_and_says_so():
    """500 × 400 in cells of 0.1 would be 20 million."""
    grid = Grid.over(np.zeros(2), np.array([500.0, 400.0]), 0.1)
    assert grid.nx * grid.ny <= 2_000_000 and grid.wanted == 0.1
    rough = RoughOutside(
        id="r", tool="t3", on=Outside(depth_mm=20), step_down_mm=10, step_over_mm=0.4
    )
    for size, coarse in (((500.0, 400.0, 30.0), True), ((80.0, 50.0, 30.0), False)):
        facts = walk(plan(FACE, rough, part=Part(size_mm=size), tools=MORE), LIBRARY, Memo())
        op = facts.operations()[-1]
        told = along(op, facts)
        assert op.found.trace.coarse == coarse
        assert told.coarse_mm == (pytest.approx(op.found.trace.cell) if coarse else 0.0)


def test_what_a_spot_cuts_away_whole_stands_beside_nobody():
    """Its mouth is wider than the part, on a tombstone with others beside it."""
    of = manifold.draft()
    wide = Change(on="operation:c20", fields={"mouth_diameter_mm": 3040.0})
    told = answer(apply(of, [wide]))
    stops = {(f.id, f.operation) for f in told.open if f.severity == "stop"}
    assert not told.problem
    assert {("reach.tool-impossible", "c20"), ("hold.grips-nothing", "c25")} <= stops


def test_a_stop_against_what_leans_is_no_fault(caplog):
    """Nobody knows where the part is found by it, and all else is answered."""
    leans = Change(on="station:st2", fields={"orientation.raised_deg": 30.0})
    told = answer(apply(latch.draft(), [leans]))
    assert not told.problem and caplog.records == []
    assert {each.state for each in result(told, "c10").answers.values()} <= {"fine", "look", "stop"}
