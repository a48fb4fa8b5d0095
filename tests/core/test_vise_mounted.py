"""Jaws of a vise on the outer faces of what carries them."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.evaluation import to_plain
from machining.facts.holdings.vise import VISE as KIND
from machining.facts.parallels import grips
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.sheet.holding import words_of
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from .build import FACE, LIBRARY, MEMO, VISE, answer, changed, ids, plan, setup

OUT = VISE.model_copy(update={"jaws_on": "outside", "grip_depth_mm": 8.0})
RECORD = LIBRARY.vises["vise-125"]
BARE = sawn_block(x=(0, 0), y=(0, 0), z=(0, 1))


def wide(width=220.0, holding=OUT):
    part = Part(size_mm=(120.0, width, 30.0))
    return plan(part=part, stock=BARE, setups=(setup(FACE, holding=holding),))


def station(of, library=LIBRARY):
    return walk(of, library, MEMO).setups[0].first


def said_of(of, library=LIBRARY):
    return next(iter(station(of, library).unknown.values()))


def with_vise(**fields):
    other = RECORD.model_copy(update=fields)
    return replace(LIBRARY, holdings={**LIBRARY.holdings, other.key: other})


def test_a_part_wider_than_it_opens_goes_between_outer_jaws():
    plain = OUT.model_copy(update={"jaws_on": "inside"})
    assert "up to 160" in said_of(wide(holding=plain))
    held = station(wide())
    assert not held.unknown
    near, far = sorted(each.region.bounds[3] for each in held.stand.of("jaw"))
    assert far - near == pytest.approx(220.0 + RECORD.jaw_thickness_mm)


def test_it_lies_over_what_carries_the_jaws():
    """As high as before, on parallels from there: 40 of a jaw less 22, less the grip of 8."""
    held = station(wide())
    assert held.seat_mm == RECORD.bed_height_mm + RECORD.jaw_height_mm - 8.0
    parallels = held.stand.of("parallel")
    assert [each.top - each.bottom for each in parallels] == pytest.approx([10.0, 10.0])
    (bed,) = held.stand.of("bed")
    assert bed.top == pytest.approx(parallels[0].bottom)
    assert max(grips(held.item)) == pytest.approx(18.0)


@pytest.mark.parametrize(("width", "said"), [(320.0, "up to 300"), (120.0, "at least 140")])
def test_what_they_do_not_reach_is_refused(width, said):
    assert said in said_of(wide(width))


def test_a_vise_without_outer_faces_says_so():
    other = OUT.model_copy(update={"vise": "vise-60-slim"})
    assert "jaws_on is outside; it must be inside" in said_of(wide(50.0, other))


def test_the_moving_jaw_alone_on_its_back_opens_less_far():
    """230 then, and closed by its travel of 160 no further than 70; it lies as high."""
    back = OUT.model_copy(update={"jaws_on": "back"})
    held = station(wide(holding=back))
    assert not held.unknown
    assert held.seat_mm == RECORD.bed_height_mm + RECORD.jaw_height_mm - 8.0
    assert "up to 230" in said_of(wide(240.0, back))
    assert "at least 70" in said_of(wide(60.0, back))
    library = with_vise(back_opening_mm=None)
    assert "inside or outside, where 125 vise has" in said_of(wide(holding=back), library)


@pytest.mark.parametrize(("width", "jaws_on"), [(220.0, "back"), (250.0, "outside")])
def test_it_is_offered_for_wide_parts_and_can_be_taken(width, jaws_on):
    of = changed(wide(width), "station:st1", holding=None)
    fits = offered(of)
    assert [e.values["vise"].value for e in fits] == ["125 vise"]
    taken = apply(of, fits[0].edits)
    assert taken.setups[0].stations[0].holding.jaws_on == jaws_on
    assert "hold.none-chosen" not in ids(taken)
    assert not offered(changed(wide(100.0), "station:st1", holding=None))


def offered(of):
    facts = walk(of, LIBRARY, MEMO)
    return [e for e in KIND.offers(facts.stations[0], facts) if "its jaws" in e.label]


def test_the_sheet_says_where_the_jaws_are():
    of = wide()
    told = to_plain(answer(of))["setups"][0]["stations"][0]
    steps = words_of(of.setups[0], of.setups[0].stations[0], LIBRARY, told).steps
    assert any("on the outer faces" in step.text for step in steps)
    plain = replace(LIBRARY, holdings=dict(LIBRARY.holdings))
    assert station(of, plain).seat_mm == station(of).seat_mm
