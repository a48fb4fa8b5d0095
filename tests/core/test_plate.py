"""A plate between the table and a load: all stands higher on it, and it has a size and a mass."""

from __future__ import annotations

from dataclasses import replace

import pytest
from pydantic import ValidationError

from machining.facts.offsets import offsets_of
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.at import Row
from machining.plan.trade import AddStation, Apart, UseMachine
from machining.plan.zero import From
from machining.ways.trade import structural
from machining.world.machine import Plate, Table

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    MEMO,
    answer,
    changed,
    good,
    ids,
    plan,
    setup,
    with_part,
)
from .test_head import B, tilting
from .test_sheet import sheets_of

[PLATE] = LIBRARY.machines["heron"].places[0].plates
THICK = PLATE.thick_mm
SIZE_X = ("travel.table-size", "X")


def on_plate(of, key=PLATE.key):
    return changed(of, "setup:s1", plate=key)


def made(of, library=LIBRARY):
    return walk(of, library, MEMO).operations()


def test_everything_on_it_stands_as_much_higher_as_it_is_thick():
    for bare, higher in zip(made(good()), made(on_plate(good())), strict=True):
        up, down = (
            higher.figures[name].value - bare.figures[name].value
            for name in ("travel_up", "travel_down")
        )
        assert (up, down) == (pytest.approx(-THICK), pytest.approx(THICK))
        assert higher.time == bare.time
    zeros = [next(offsets_of(walk(each, LIBRARY, MEMO))).at for each in (good(), on_plate(good()))]
    assert zeros[1][2] - zeros[0][2] == pytest.approx(THICK) and zeros[0][:2] == zeros[1][:2]


def test_a_zero_on_the_table_stays_on_the_table():
    """Under the plate: as much further below the part."""
    taken = {"zero__z": From(of="table").model_dump(mode="json")}
    lies = [
        walk(changed(each, "station:st1", **taken), LIBRARY, MEMO).stations[0].lie.stock_low[2]
        for each in (good(), on_plate(good()))
    ]
    assert lies[1] - lies[0] == pytest.approx(THICK)


def test_it_weighs_and_has_an_end():
    heavy = PLATE.model_copy(update={"mass_kg": 580.0})
    library = with_part("heron", "places", plates=(heavy,))
    assert "travel.table-load" not in ids(good(), library)
    assert "travel.table-load" in ids(on_plate(good()), library)
    small = PLATE.model_copy(update={"x_mm": 300.0})
    row = plan(setups=(setup(FACE, at=Row(count=2, pitch_mm=250.0)),))
    library = with_part("heron", "places", plates=(small,))
    along_x = [
        [f.message for f in answer(each, library).findings if _along(f) == SIZE_X]
        for each in (row, on_plate(row))
    ]
    assert along_x[0] == [] and "of the plate" in along_x[1][0]


def _along(found):
    letter = found.values.get("letter")
    return found.id, letter.value if letter is not None else ""


def test_a_head_that_lies_down_meets_it():
    """What carries the load is looked at from the side, with the plate on it."""
    of = plan(setups=(setup(FACE.model_copy(update={"aim": "+x"})),))
    library = tilting(B)
    [table] = library.machines["heron"].places
    wide = library.machines["heron"].spindles[0].nose[0].model_copy(update={"diameter_mm": 800.0})
    library = with_part("heron", "spindles", library, nose=(wide,))
    long = PLATE.model_copy(update={"x_mm": table.x_mm})
    library = with_part("heron", "places", library, plates=(long,))
    [op] = walk(on_plate(of), library, Memo()).operations()
    assert op.meets is not None and op.meets.body in (long.name, "table")
    assert "travel.neighbour" in ids(on_plate(of), library)


def test_one_that_is_not_there_and_another_machine():
    told = answer(on_plate(good(), "gone-plate"))
    assert "no plate" in told.setups[0].operations[0].answers["travel"].reason
    on = on_plate(good())
    moved = apply(on, structural(on, LIBRARY, MEMO, [UseMachine(setup="s1", machine="dunlin")]))
    assert (moved.setups[0].machine, moved.setups[0].plate) == ("dunlin", "")


def test_a_side_that_leaves_its_load_stays_on_it():
    on = on_plate(good())
    two = apply(on, structural(on, LIBRARY, MEMO, [AddStation(setup="s1", id="b")]))
    apart = apply(two, structural(two, LIBRARY, MEMO, [Apart(station="b", id="s9")]))
    assert [each.plate for each in apart.setups] == [PLATE.key, PLATE.key]


def test_the_sheet_tells_of_it():
    of = on_plate(plan(setups=(setup(FACE, DRILL, at=Row(count=2, pitch_mm=200.0)),)))
    assert f"on the {PLATE.name}, 700" in str(sheets_of(of))
    assert f"on the {PLATE.name}, 700" in str(sheets_of(on_plate(good())))
    assert PLATE.name not in str(sheets_of(good()))


def test_one_that_is_larger_than_its_table_is_refused():
    table = LIBRARY.machines["heron"].places[0]
    assert isinstance(table, Table)
    large = Plate(key="p", name="large one", x_mm=950.0, y_mm=10.0, thick_mm=10.0, mass_kg=1.0)
    with pytest.raises(ValidationError, match="x_mm of large one is 950; it must be at most 900"):
        Table.model_validate({**table.model_dump(), "plates": [large]})
    with pytest.raises(ValidationError, match="only once"):
        Table.model_validate({**table.model_dump(), "plates": [PLATE, PLATE]})
    assert replace(LIBRARY).machines["curlew"].places[0].plates == ()
