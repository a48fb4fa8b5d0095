"""Pieces that are cut free: a slug, the part itself, and what still hangs together."""

from __future__ import annotations

import pytest

from machining.ask.trying import tried_fixes
from machining.facts.loose import apart, of_the_part
from machining.facts.route import walk
from machining.facts.tabs import hands_on
from machining.findings.finding import in_words
from machining.plan.operation import Slot
from machining.plan.places import Lines
from machining.sheet.care import of_flaps
from machining.sheet.written import Written
from machining.world.stock.block import sawn_block

from .build import GOOD, LIBRARY, MEMO, VISE, after_fix, answer, finding, ids, plan, setup
from .clamped import ON_TABLE, TWO, held_by, operation

ID = "hold.loose-piece"
THIN = sawn_block(x=(2, 2), y=(2, 2), z=(0, 0))
WIDE = sawn_block(x=(20, 20), y=(20, 20), z=(0, 0))


def ring(x: float, y: float, deep: float = 20.2, **fields) -> Slot:
    """8 wide along a rectangle of so much each way from the middle, 20 thick."""
    corners = ((-x, -y), (x, -y), (x, y), (-x, y), (-x, -y))
    lines = Lines(at_mm=(corners,), top_mm=0.0)
    return Slot(id="ring", tool="t3", on=lines, step_down_mm=2.0, depth_mm=deep, **fields)


def in_vise(*operations, stock=THIN):
    return plan(setups=(setup(*operations, holding=VISE),), stock=stock)


def test_a_slug_comes_loose_and_its_size_is_told():
    """15 and 9 each way, less half of the slot: 22 x 10 x 20."""
    of = in_vise(ring(15.0, 9.0))
    found = finding(of, ID)
    assert found.severity == "stop" and "22.0 mm × 10.0 mm × 20.0 mm comes loose" in in_words(found)
    kept = after_fix(of, found)
    assert kept.setups[0].operations[0].depth_mm == pytest.approx(19.5) and ID not in ids(kept)


@pytest.mark.parametrize("deep", [19.5, 10.0])
def test_what_hangs_together_below_is_not_loose(deep):
    assert ID not in ids(in_vise(ring(15.0, 9.0, deep)))


def test_what_is_held_is_the_piece_of_the_part():
    op = operation(in_vise(ring(15.0, 9.0)))
    pieces = apart(op.after)
    assert len(pieces) == 2 and pieces[0].volume() > pieces[1].volume()
    left = of_the_part(op.after, op.station.geometry)
    assert left.volume() == pytest.approx(pieces[0].volume())
    whole = operation(in_vise(ring(15.0, 9.0, 10.0))).after
    assert of_the_part(whole, op.station.geometry) is whole


def test_a_part_cut_out_of_its_clamped_frame_is_loose_itself():
    """Straps lie on what is left round it."""
    free = held_by(ON_TABLE, ring(44.0, 29.0), stock=WIDE)
    found = finding(free, ID)
    assert in_words(found).startswith("The part itself is cut free of what is clamped")
    held = operation(free).seen.held
    assert not held.contacts.groups  # no strap is on what becomes the part
    key = f"{ID}@ring"
    fixes = tried_fixes(free, LIBRARY, MEMO, key)["fixes"]
    assert any("snap it off" in each["label"] for each in fixes)
    over = tuple(each.model_copy(update={"over_mm": 40.0}) for each in TWO)
    refused = answer(held_by(ON_TABLE.model_copy(update={"clamps": over}), ring(44.0, 29.0)))
    assert "clears the part" in refused.setups[0].stations[0].unknown["hold"]


def test_a_plain_plan_has_none():
    assert ID not in ids(plan(setups=(setup(*GOOD),)))


# -- what hangs by a skin


def framed(deep: float, *after):
    """The part in a frame 20 wide, cut round as deep as that."""
    return held_by(ON_TABLE, ring(44.0, 29.0, deep), *after, stock=WIDE)


def test_what_hangs_by_a_skin_is_a_note_and_is_handed_on_without():
    """20 high and 84 x 54 inside of the cut; half a millimetre of skin all round it."""
    of = framed(19.5)
    found = finding(of, ID)
    assert found.severity == "note"
    assert in_words(found).startswith("What hangs by a skin 0.5 mm thick stays at the bottom")
    facts = walk(of, LIBRARY, MEMO)
    station = facts.setups[0].first
    there = hands_on(station, facts.geometry)
    assert there.volume() == pytest.approx(20.0 * (80.0 * 50.0), rel=1e-3)
    assert station.leaves.volume() > 20.0 * 100.0 * 70.0
    told = of_flaps(facts.setups[0], facts, Written("metric"))
    assert "A skin 0.5 mm thick" in told[0]["sentence"]
    assert "Gloves" in told[0]["note"]


@pytest.mark.parametrize("deep", [19.0, 10.0])
def test_a_floor_is_no_skin(deep):
    of = framed(deep)
    assert ID not in ids(of)
    facts = walk(of, LIBRARY, MEMO)
    station = facts.setups[0].first
    assert hands_on(station, facts.geometry) is station.leaves
    assert of_flaps(facts.setups[0], facts, Written("metric")) == []


def test_a_skin_that_is_cut_away_in_the_same_setup_is_none():
    assert (
        finding(framed(19.5, ring(44.0, 29.0).model_copy(update={"id": "through"})), ID).severity
        == "stop"
    )


def test_cut_through_it_would_be_free_and_is_not_offered():
    of = framed(19.5)
    found = finding(of, ID)
    assert [fix.label for fix in found.fixes] == ["Cut it through, {depth} deep"]
    assert found.fixes[0].edits[0].fields == {"depth_mm": 20.2}
    assert tried_fixes(of, LIBRARY, MEMO, found.key)["fixes"] == []
