"""What an edge meets that comes out of the part below."""

from __future__ import annotations

import json
from dataclasses import replace
from math import radians, tan

import pytest

from machining.evaluate import evaluate
from machining.memo import Memo
from machining.plan.operation import Drill, FinishWalls
from machining.plan.places import Outside, Points

from . import lathe
from .build import DRILL, FACE, LIBRARY, after_fix, changed, finding, ids, plan
from .cases_of_findings import FLUSH, THROUGH
from .clamped import ON_PALLET, held_by
from .test_sheet import sheets_of

POINT = 3.4 / tan(radians(70.0))  # of the drill 6.8, 140°


def at(y: float, **fields: object) -> Drill:
    return THROUGH.model_copy(
        update={"on": THROUGH.on.model_copy(update={"at_mm": ((-32.0, y),)}), **fields}
    )


@pytest.mark.parametrize(("y", "meets"), [(12.0, False), (12.2, True), (20.0, True), (0.0, False)])
def test_a_drill_meets_the_parallel_it_comes_out_over(y, meets):
    """It covers 16 to 24 from the middle; the hole and half a millimetre reach to 12.1 and less."""
    assert ("hold.below" in ids(plan(FACE, at(y), stock=FLUSH))) is meets


def test_it_says_how_deep_and_the_parallels_are_set_in():
    found = finding(plan(FACE, THROUGH, stock=FLUSH), "hold.below")
    assert found.values["deep"].value == pytest.approx(1.0 + POINT, abs=0.01)
    mended = after_fix(plan(FACE, THROUGH, stock=FLUSH), found)
    away = mended.setups[0].stations[0].in_vise.parallels_in_mm
    # 27 to the jaw, the hole from 13.6 on, 1 mm of room
    assert away == 15.0 and "hold.below" not in ids(mended)


def test_what_does_not_come_out_meets_nothing():
    blind = at(20.0, depth_mm=12.0)
    assert "hold.below" not in ids(plan(FACE, blind, stock=FLUSH))
    assert "hold.below" not in ids(plan(FACE, THROUGH))  # 8 mm stand under the part


def test_less_past_the_bottom_is_enough_for_an_edge_that_is_level():
    milled = FinishWalls(
        id="w", tool="t2", on=Outside(depth_mm=20.0), step_down_mm=20.0, width_mm=0.3
    )
    assert "hold.below" not in ids(plan(FACE, milled, stock=FLUSH))


@pytest.mark.parametrize(("bore", "meets"), [(52.0, False), (10.0, True)])
def test_a_chuck_s_bore_lets_a_drill_through_and_its_face_does_not(bore, meets):
    on = Points(at_mm=((0.0, 0.0),), diameter_mm=12.0, depth_mm=120.0)
    chuck = lathe.LIBRARY.holdings["chuck-200"].model_copy(update={"bore_mm": bore})
    library = replace(lathe.LIBRARY, holdings={**lathe.LIBRARY.holdings, "chuck-200": chuck})
    deep = Drill(id="deep", tool="t7", on=on)
    seen = evaluate(lathe.plan(lathe.FACE, deep), library, Memo())
    assert ("hold.below" in {f.id for f in seen.open}) is meets


def test_the_sheet_says_where_the_parallels_go():
    set_in = changed(plan(FACE, THROUGH, stock=FLUSH), "station:st1", holding__parallels_in_mm=14.0)
    for of, words in (
        (set_in, "14.0 mm (0.551 in) in from the jaws"),
        (plan(FACE), "pushed out to the jaws"),
    ):
        (sheet,) = sheets_of(of)
        assert words in json.dumps(sheet)


def test_a_plate_that_is_faced_again_may_be_cut_and_says_how_deep_it_is_faced():
    """Ø6.8 with its point, 10 past a part that lies 8 of stock over its own bottom."""
    deep = DRILL.model_copy(update={"past_mm": 10.0})
    of = held_by(ON_PALLET, deep)
    stop = finding(of, "hold.below")
    assert stop.severity == "stop"
    plate = LIBRARY.holdings["pallet-160"].model_copy(update={"cut_into_mm": 6.0})
    library = replace(LIBRARY, holdings={**LIBRARY.holdings, "pallet-160": plate})
    note = finding(of, "hold.below", library)
    assert note.severity == "note"
    assert note.values["deep"].value == pytest.approx(stop.values["deep"].value, abs=0.01)
    assert note.values["may"].value == 6.0
    shallow = plate.model_copy(update={"cut_into_mm": 0.5 * stop.values["deep"].value})
    library = replace(LIBRARY, holdings={**LIBRARY.holdings, "pallet-160": shallow})
    assert finding(of, "hold.below", library).severity == "stop"
