"""A part pulled down by vacuum, or stuck down: how hard, what it stands, and when air comes in."""

from __future__ import annotations

import pytest

from machining.facts.held import contacts_of
from machining.facts.hold import layers
from machining.facts.holdings import pulled
from machining.facts.route import walk
from machining.facts.stack_up import located
from machining.plan.apply import apply
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.pulled import Pulled
from machining.world.workholding import Puller

from .build import LIBRARY, MEMO, POCKET, answer, finding, ids, plan, setup

VACUUM, TAPE = Pulled(plate="vacuum-300", against="-x-y"), Pulled(plate="tape-on-plate")
HOLE = Drill(
    id="through",
    tool="t2",
    on=Points(at_mm=((20.0, 10.0),), diameter_mm=6.8, depth_mm=18.0),
)


def on(held, *operations):
    return plan(setups=(setup(*(operations or (POCKET,)), holding=held),))


def station(of):
    return walk(of, LIBRARY, MEMO).stations[0]


def test_it_pulls_with_its_pressure_over_what_is_inside_the_seal():
    """The block as it comes, 6 in from its edges all round."""
    low, high = station(on(VACUUM)).lie.stock_low, station(on(VACUUM)).lie.stock_high
    x, y = (float(high[k] - low[k]) for k in (0, 1))
    wanted = 0.070 * (x - 12.0) * (y - 12.0)
    assert station(on(VACUUM)).figures["pull"].value == pytest.approx(wanted, rel=1e-3)
    taped = 0.120 * x * y
    assert station(on(TAPE)).figures["pull"].value == pytest.approx(taped, rel=1e-3)


def test_a_plate_smaller_than_the_part_pulls_where_it_is():
    small = LIBRARY.holdings["vacuum-300"].model_copy(update={"x_mm": 40.0, "y_mm": 30.0})
    from dataclasses import replace

    library = replace(LIBRARY, holdings={**LIBRARY.holdings, "vacuum-300": small})
    found = walk(on(VACUUM), library, MEMO).stations[0].figures["pull"].value
    assert found == pytest.approx(0.070 * 40.0 * 30.0, rel=1e-3)


def test_it_is_seated_and_stands_a_push_by_friction_and_edges():
    """Along −X and −Y edges stand; against the other ways friction alone."""
    facts = walk(on(VACUUM), LIBRARY, MEMO)
    contacts = contacts_of(
        facts.stations[0], facts.stations[0].arrives, layers(facts.stations[0])[0], facts
    )
    assert contacts.groups["pull"] == pytest.approx(facts.stations[0].figures["pull"].value)
    bodies = {each.body for each in contacts.every}
    assert bodies == {"Vacuum plate 300 × 200", "left edge", "front edge", "pull"}
    assert "hold.not-seated" not in ids(on(VACUUM))


def test_without_edges_it_can_slide_and_they_are_offered():
    bare = VACUUM.model_copy(update={"against": ""})
    told = finding(on(bare), "hold.not-located")
    after = apply(on(bare), told.fixes[0].edits)
    assert "hold.not-located" not in ids(after)
    assert after.stations[0].holding.against == "-x-y"


def test_edges_and_plate_bring_the_next_part_to_the_same_place():
    facts = walk(on(VACUUM), LIBRARY, MEMO)
    for axis, key in ((0, "stop"), (1, "stop"), (2, "seat")):
        links, _ = located(facts.stations[0], axis, facts)
        assert links[0].key == f"again:{facts.stations[0].id}:{key}"


def through():
    """Deep enough to come out at the bottom."""
    low = float(station(on(VACUUM)).lie.stock_high[2] - station(on(VACUUM)).lie.stock_low[2])
    return HOLE.model_copy(update={"on": HOLE.on.model_copy(update={"depth_mm": low + 1.0})})


def test_a_hole_through_the_face_lets_air_in_and_nothing_holds_after():
    of = on(VACUUM, through(), POCKET)
    told = finding(of, "hold.leaks")
    assert (told.severity, told.operation) == ("stop", "through")
    ops = {op.id: op for op in walk(of, LIBRARY, MEMO).operations()}
    assert ops[POCKET.id].value("holding") < 0.1
    assert "hold.leaks" not in ids(on(VACUUM, HOLE, POCKET))


def test_tape_loses_only_what_is_gone():
    of = on(TAPE, through(), POCKET)
    assert "hold.leaks" not in ids(of)
    _, last = walk(of, LIBRARY, MEMO).operations()
    seen = last.after.seen_in(last.station.lie)
    area = pulled.pulls(last.station, LIBRARY.holdings["tape-on-plate"], seen)
    whole = pulled.sealed(last.station, LIBRARY.holdings["tape-on-plate"]).area
    assert whole - area == pytest.approx(3.1416 * 6.0**2, rel=0.02)


def test_half_a_size_is_no_plate():
    with pytest.raises(ValueError, match="y_mm is 0"):
        Puller(
            key="p",
            name="p",
            x_mm=100.0,
            thick_mm=20.0,
            pull_kpa=70.0,
            friction=0.2,
            source="a test",
        )


def test_before_a_spindle_it_is_not_worked_out():
    assert pulled.PULLED.fits(LIBRARY.machines["plover"], LIBRARY.machines["plover"].places[0])


def test_its_first_run_asks_more():
    assert "hold.first-run" in {each.id for each in answer(on(VACUUM)).findings}
