"""What a batch costs, by hand, and what of it nobody knows."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest
from pydantic import ValidationError

from machining.ask.costs import breaks_of, costs_of
from machining.ask.quantities import quantities
from machining.facts import ledger
from machining.facts.batch import shares
from machining.facts.found import in_cut_s
from machining.facts.route import walk
from machining.memo import Memo
from machining.motion import cost
from machining.plan.apply import apply
from machining.plan.edit import Change
from machining.plan.outside import OutsideStep
from machining.quantities.errors import OutOfRange
from machining.quantities.said import fill
from machining.world.price import PriceFrom

from . import lathe
from .build import LIBRARY, MEMO, answer, good, whole

BATCH = whole().model_copy(update={"quantity": 20})


def library_with(person=30.0, price=8.0, kerf=0.0):
    settings = LIBRARY.settings.model_copy(update={"person_hour": person, "saw_kerf_mm": kerf})
    key = BATCH.material
    material = LIBRARY.materials[key].model_copy(update={"price_kg": price})
    return replace(LIBRARY, settings=settings, materials={**LIBRARY.materials, key: material})


def parts_of(of, library=LIBRARY):
    return {each.name: each for each in costs_of(walk(of, library, MEMO)).parts}


def taken(of):
    facts = walk(of, LIBRARY, MEMO)
    found = shares(facts, {each.id: ledger.of_setup(each, facts) for each in facts.setups})
    return facts, found


@pytest.mark.parametrize("of", [good(), whole(), BATCH], ids=["good", "whole", "twenty"])
def test_what_each_setup_takes_adds_up_to_the_batch(of):
    _, found = taken(of)
    seen = answer(of)
    assert sum(each.machine for each in found.values()) == pytest.approx(seen.batch_s)
    before = sum(each.build + each.prove_out for each in found.values())
    assert before == pytest.approx(seen.build_s)
    for each in found.values():
        assert each.person <= each.machine + each.meanwhile


def test_each_part_of_the_cost_by_hand():
    """8 a kilogram of the blank; 78 an hour of the machine, 30 of who attends."""
    library = library_with()
    parts, seen = parts_of(BATCH, library), answer(BATCH)
    _, found = taken(BATCH)
    assert parts["Heron"].value == pytest.approx(seen.batch_s / 3600.0 * 78.0)
    attended = sum(each.person for each in found.values())
    assert parts["Who attends"].value == pytest.approx(attended / 3600.0 * 30.0)
    assert parts["Stock"].value == pytest.approx(20 * 8.0 * seen.stock_mass_kg)
    facts = walk(BATCH, LIBRARY, MEMO)
    worn = sum(
        in_cut_s(op) / 60.0 / op.value("edge_life") * 20 * op.tool.edges_cost
        for op in facts.ready()
        if op.value("edge_life") and op.tool.edges_cost
    )
    assert parts["Edges worn"].value == pytest.approx(worn) and worn > 0


def test_what_is_fed_from_bars_costs_its_share_of_a_bar():
    """Bars of 1200 give 24 parts each (see the ledger's test): not 24 times the blank as it is
    held, and the end that is left of each is paid too.
    """
    of = lathe.plan(*lathe.GOOD, quantity=100)
    material = lathe.LIBRARY.materials[of.material].model_copy(update={"price_kg": 8.0})
    library = replace(lathe.LIBRARY, materials={**lathe.LIBRARY.materials, of.material: material})
    (stock,) = (e for e in costs_of(walk(of, library, Memo())).parts if e.name == "Stock")
    bar_kg = pi / 4.0 * of.stock.diameter_mm**2 * 1200.0 * material.density_kg_dm3 / 1e6
    assert stock.value == pytest.approx(100 / 24 * bar_kg * 8.0)
    assert fill(stock.said.text, stock.said.values).startswith("4.2 bars of ")
    by_hand = lathe.plan(*lathe.GOOD[:-1], quantity=100)
    (alone,) = (e for e in costs_of(walk(by_hand, library, Memo())).parts if e.name == "Stock")
    assert "100 ×" in fill(alone.said.text, alone.said.values)


def by_price(breaks, price=8.0, **fields):
    library = library_with(price=price)
    material = library.materials[BATCH.material].model_copy(
        update={"price_breaks": tuple(PriceFrom(from_so_many=kg, price=p) for kg, p in breaks)}
    )
    return replace(library, materials={**library.materials, BATCH.material: material})


def test_stock_costs_less_a_kilogram_from_so_many_on():
    each = answer(BATCH).stock_mass_kg
    library = by_price([(15 * each, 7.0), (40 * each, 5.0)])
    stock = parts_of(BATCH, library)["Stock"]
    assert stock.value == pytest.approx(20 * each * 7.0)
    said = fill(stock.said.text, stock.said.values)
    assert said.endswith(f" at 7 a kilogram, from {15 * each:.2f} kg on")
    few = BATCH.model_copy(update={"quantity": 14})
    assert parts_of(few, library)["Stock"].value == pytest.approx(14 * each * 8.0)
    assert breaks_of(walk(BATCH, library, MEMO)) == {15, 40}


def test_what_the_saw_takes_is_paid_for():
    """A block 84 x 54 x 29 sawn all round with a cut of 2."""
    stock = parts_of(BATCH, library_with(price=8.0, kerf=2.0))["Stock"]
    kg_mm3 = LIBRARY.materials[BATCH.material].density_kg_dm3 / 1e6
    assert stock.value == pytest.approx(20 * 86.0 * 56.0 * 31.0 * kg_mm3 * 8.0)
    assert "with 2.0 mm for each saw cut" in fill(stock.said.text, stock.said.values)


@pytest.mark.parametrize(
    ("left", "value", "said"),
    [
        (0, 20 * 7.0, " at 7 a kilogram, from {least} on"),
        (5, 15 * 7.0 + 5 * 2.0, " at 7 a kilogram, from {least} on, 5 blanks out of remnants at 2"),
        (6, 14 * 8.0 + 6 * 2.0, " at 8 a kilogram, 6 blanks out of remnants at 2"),
        (20, 20 * 2.0, " out of remnants at 2 a kilogram"),
        (30, 20 * 2.0, " out of remnants at 2 a kilogram"),
    ],
)
def test_remnants_count_for_a_share_and_are_not_bought(left, value, said):
    """A quarter of 8; 15 bought are enough for the lower price, 14 are not."""
    each = answer(BATCH).stock_mass_kg
    library = by_price([(15 * each, 7.0)])
    settings = library.settings.model_copy(update={"remnant_share": 0.25})
    of = apply(BATCH, (Change(on="plan", fields={"remnants": left}),))
    stock = parts_of(of, replace(library, settings=settings))["Stock"]
    assert stock.value == pytest.approx(each * value)
    words = fill(stock.said.text, stock.said.values)
    assert words.endswith(said.format(least=f"{15 * each:.2f} kg"))
    assert breaks_of(walk(of, library, MEMO)) == {15 + left}


def test_more_that_cost_no_more_are_told_where_a_price_breaks():
    """20 at 8000 a kilogram cost what 40 at 4000 do; their machine time is little beside it."""
    each = answer(BATCH).stock_mass_kg
    found = quantities(BATCH, by_price([(21 * each, 4000.0)], 8000.0), MEMO)
    at = {row["quantity"]: row["known"] for row in found["curve"]}
    assert found["no_dearer"] == {"quantity": 21, "known": at[21]} and at[21] < at[20]
    assert quantities(BATCH, by_price([(21 * each, 7999.0)], 8000.0), MEMO)["no_dearer"] is None


def test_pieces_done_elsewhere_cost_less_from_so_many_on():
    step = OutsideStep(
        id="out",
        kind="ground",
        after="st1",
        lot_cost=100.0,
        piece_cost=5.0,
        piece_breaks=(PriceFrom(from_so_many=20, price=4.0), PriceFrom(from_so_many=50, price=3.0)),
    )
    of = apply(BATCH, (Change(on="plan", fields={"outside": [step.model_dump()]}),))
    part = parts_of(of)["Elsewhere: ground"]
    assert part.value == 180.0
    assert fill(part.said.text, part.said.values) == "100 a lot and 4 a piece, from 20 on"
    assert breaks_of(walk(of, LIBRARY, MEMO)) == {20, 50}


@pytest.mark.parametrize("least", [20, 19])
def test_prices_come_in_the_order_of_their_quantities(least):
    rows = [{"from_so_many": 20, "price": 4.0}, {"from_so_many": least, "price": 3.0}]
    with pytest.raises(ValidationError, match=f"a price from {least} on comes after that from 20"):
        OutsideStep(id="out", kind="ground", after="st1", piece_breaks=rows)


def test_what_nobody_has_said_is_named_and_not_counted():
    costs = costs_of(walk(BATCH, LIBRARY, MEMO))
    lacks = {each.name for each in costs.parts if each.value is None}
    assert {"Who attends", "Stock"} <= lacks and not costs.whole
    assert costs.known == pytest.approx(sum(e.value for e in costs.parts if e.value is not None))
    free = LIBRARY.machines["heron"].model_copy(update={"hourly_cost": 0.0})
    library = replace(LIBRARY, machines={**LIBRARY.machines, "heron": free})
    assert parts_of(BATCH, library)["Heron"].value is None


@pytest.mark.parametrize(
    ("lot", "piece", "value"), [(120.0, 2.5, 170.0), (None, 2.5, 50.0), (None, None, None)]
)
def test_work_elsewhere_costs_its_lot_and_its_pieces(lot, piece, value):
    step = OutsideStep(id="out", kind="ground", after="st1", lot_cost=lot, piece_cost=piece)
    of = apply(BATCH, (Change(on="plan", fields={"outside": [step.model_dump()]}),))
    assert parts_of(of)["Elsewhere: ground"].value == value


def test_a_part_of_a_larger_batch_takes_and_costs_less():
    found = quantities(BATCH, library_with(), MEMO)
    curve = found["curve"]
    assert [each["quantity"] for each in curve] == [2, 5, 10, 20, 50, 100, 200]
    each_s = [e["batch_s"] / e["quantity"] for e in curve]
    each_cost = [e["known"] / e["quantity"] for e in curve]
    assert each_s == sorted(each_s, reverse=True) and each_cost == sorted(each_cost, reverse=True)
    ordered = curve[3]
    assert ordered["batch_s"] == pytest.approx(answer(BATCH).batch_s)
    assert ordered["known"] == pytest.approx(found["known"])
    larger = BATCH.model_copy(update={"quantity": 200})
    assert curve[-1]["batch_s"] == pytest.approx(answer(larger).batch_s)


def test_no_cost_is_below_nothing():
    assert cost.by_the_hour(1800.0, 60.0) == 30.0 and cost.elsewhere(100.0, 2.0, 50) == 200.0
    assert cost.of_stock(0.5, 8.0, 10) == 40.0
    with pytest.raises(OutOfRange, match="seconds"):
        cost.by_the_hour(-1.0, 60.0)
