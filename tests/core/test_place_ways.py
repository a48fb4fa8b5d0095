"""Schools of placing a part: other zeros, its sides together in one load or apart."""

from __future__ import annotations

import pytest
from pydantic import TypeAdapter

from machining.ask.place_ways import place_ways
from machining.facts.route import walk
from machining.plan.apply import EditRefused, apply
from machining.plan.trade import AnyEdit, Apart, Together
from machining.quantities.errors import Missing
from machining.ways.trade import structural

from .build import LIBRARY, MEMO, answer, good, whole

EDIT: TypeAdapter = TypeAdapter(AnyEdit)


def found(plan, station="st1", of="zero"):
    rows = place_ways(plan, LIBRARY, MEMO, station)
    return {each["label"]["text"]: each for each in rows if each["of"] == of}


def taken(plan, row):
    edits = [EDIT.validate_python(each) for each in row["edits"]]
    return apply(plan, structural(plan, LIBRARY, MEMO, edits))


def test_every_way_leads_to_the_zero_it_names_and_no_way_is_as_it_is():
    rows = found(whole())
    assert rows["As it is"]["edits"] == []
    names = [label for label in rows if label != "As it is"]
    assert {"A corner of the blank", "A known place: the middle of the table"} <= set(names)
    zeros = {label: taken(whole(), rows[label]).stations[0].zero for label in names}
    assert whole().stations[0].zero not in zeros.values()
    assert len({each.model_dump_json() for each in zeros.values()}) == len(zeros)
    corner = zeros["A corner of the blank"]
    assert {(each.of, each.at) for each in (corner.x, corner.y)} == {("stock", "low")}


def test_a_bore_that_is_not_there_yet_is_told_and_one_that_is_there_finds_it_closer():
    first, second = found(whole()), found(whole(), "st2")
    bores = [[row for name, row in rows.items() if "hole of" in name] for rows in (first, second)]
    assert all(row["stops"] for row in bores[0]) and not any(row["stops"] for row in bores[1])
    swept = bores[1][0]["says"][0]
    assert swept["values"]["within"]["value"] == LIBRARY.settings.indicator_mm
    assert "indicator" in swept["text"]


def test_sides_go_into_one_load_and_out_again():
    """Each as many operations as before, none with a stop that it had not; the zeros apart."""
    [row] = found(whole(), of="load").values()
    assert row["stops"] == []
    one = taken(whole(), row)
    assert len(one.setups) == 1 and len(one.setups[0].stations) == 2
    assert len({each.work_offset for each in one.setups[0].stations}) == 2
    ops = [op.id for each in whole().setups for op in each.operations]
    assert [op.id for op in one.setups[0].operations] == ops
    known = {each.id for each in answer(whole()).findings if each.severity == "stop"}
    assert {e.id for e in answer(one).findings if e.severity == "stop"} <= known
    [back] = list(found(one, "st2", of="load").values())
    two = taken(one, back)
    assert [len(each.operations) for each in two.setups] == [
        len(each.operations) for each in whole().setups
    ]
    assert two.stations[1].takes == two.stations[0].id
    leaves = [walk(each, LIBRARY, MEMO).stations[-1].leaves.volume() for each in (whole(), two)]
    assert leaves[0] == pytest.approx(leaves[1], rel=1e-9)


def test_one_load_spares_building_a_setup():
    [row] = found(whole(), of="load").values()
    now, then = (each["values"]["batch"]["value"] for each in row["says"])
    shop = LIBRARY.settings  # papers once less, but its other vise no longer stays from before
    assert now - then > 0.9 * (shop.setup_s - shop.vise_set_s) / whole().quantity
    assert [each["values"]["setups"]["value"] for each in row["says"]] == ["2 setups", "1 setup"]


def test_what_can_not_be_is_refused():
    with pytest.raises(Missing):
        place_ways(good(), LIBRARY, MEMO, "st9")
    for edit, words in (
        (Together(setup="s1", other="s1"), "another setup"),
        (Apart(station="st1", id="s9"), "stands alone"),
    ):
        with pytest.raises(EditRefused, match=words):
            structural(good(), LIBRARY, MEMO, [edit])
    elsewhere = whole().model_copy(
        update={
            "setups": (
                whole().setups[0],
                whole().setups[1].model_copy(update={"machine": "petrel"}),
            )
        }
    )
    assert found(elsewhere, of="load") == {}
