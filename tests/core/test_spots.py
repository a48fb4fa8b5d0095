"""Known places of a table, such as dowels and a pallet's corner, that a zero is taken from."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from machining.facts.offsets import offsets_of
from machining.facts.route import walk
from machining.facts.zero import axes, zero_said
from machining.findings.finding import in_words
from machining.memo import Memo
from machining.plan.at import One, Row
from machining.plan.zero import From
from machining.quantities.said import fill
from machining.world.machine import Spot, Table
from shop.demo import ring

from .build import LIBRARY, answer, changed, good

SPOTS = (
    Spot(key="left-dowel", x_mm=-120.0, y_mm=40.0, z_mm=18.0),
    Spot(key="pallet-corner", x_mm=-150.0, y_mm=-100.0),
)
DOWEL = From(of="spot", feature="left-dowel")


def with_spots(**table):
    """Heron's table, whose place is known, with two spots."""
    heron = LIBRARY.machines["heron"]
    known = {"middle_x_mm": -300.0, "middle_y_mm": -200.0, "top_z_mm": -450.0, "spots": SPOTS}
    place = heron.places[0].model_copy(update={**known, **table})
    machine = heron.model_copy(update={"places": (place,)})
    return replace(LIBRARY, machines={**LIBRARY.machines, "heron": machine})


def standing(at=One(at_mm=(30.0, -10.0)), **zero):
    fields = {f"zero.{axis}": each.model_dump() for axis, each in zero.items()}
    return changed(good(), "station:st1", at=at.model_dump(), **fields)


def lie(plan, library):
    return walk(plan, library, Memo()).stations[0].lie


def test_it_is_the_table_s_middle_and_so_far_from_it():
    """The same zero said from the middle of the table and its top."""
    library = with_spots()
    spot = lie(standing(x=DOWEL, y=DOWEL, z=DOWEL), library)
    middle = {
        axis: From(of="table", off_mm=off)
        for axis, off in (("x", -120.0), ("y", 40.0), ("z", 18.0))
    }
    assert spot.pose.origin == pytest.approx(lie(standing(**middle), library).pose.origin)
    # the part's middle is at 30, -10 of the table
    centre = (spot.stock_low + spot.stock_high) / 2.0
    assert centre[:2] == pytest.approx([30.0 + 120.0, -10.0 - 40.0])


def test_its_offset_is_the_same_wherever_the_part_stands():
    library = with_spots()
    offsets = []
    for at in ((0.0, 0.0), (80.0, 35.0)):
        facts = walk(standing(at=One(at_mm=at), x=DOWEL, y=DOWEL), library, Memo())
        (offset,) = offsets_of(facts)
        offsets.append(np.array(offset.at))
    assert offsets[0][:2] == pytest.approx([-300.0 - 120.0, -200.0 + 40.0])
    assert offsets[1] == pytest.approx(offsets[0])


def test_it_is_said_and_chosen_by_its_name():
    library = with_spots()
    facts = walk(standing(x=DOWEL, y=DOWEL), library, Memo())
    station = facts.stations[0]
    said = [
        fill(each.text, each.values)
        for each in zero_said(station.planned.zero, False, facts.geometry)
    ]
    assert said[0] == "X the left dowel"
    found = axes(station, facts)
    for axis in found:
        keys = [each.feature for each in axis.choices if each.of == "spot"]
        assert keys == ["left-dowel", "pallet-corner"]
    assert found[0].picked == "known" and {by for by, _ in found[0].ways} >= {"probe", "indicator"}


def test_what_is_not_there_and_where_parts_stand_at_several_places():
    gone = answer(standing(x=From(of="spot", feature="right-dowel")), with_spots())
    assert "right-dowel" in gone.setups[0].stations[0].unknown["travel"]
    row = Row(count=2, pitch_mm=150.0)
    several = answer(standing(at=row, x=DOWEL, y=DOWEL), with_spots())
    assert "positions" in several.setups[0].stations[0].unknown["travel"]
    with pytest.raises(ValueError, match="spots"):
        Table.model_validate(
            {
                **with_spots().machines["heron"].places[0].model_dump(),
                "spots": [SPOTS[0].model_dump()] * 2,
            }
        )


def test_a_table_that_turns_knows_where_its_axes_meet():
    petrel = LIBRARY.machines["petrel"].places[0]
    (centre,) = petrel.known_spots
    tilt = next(each for each in petrel.rotaries if each.about != "z")
    assert (centre.x_mm, centre.y_mm, centre.z_mm) == (0.0, 0.0, tilt.above_mm)
    assert petrel.spot("centre-of-rotation") == centre
    assert not LIBRARY.machines["heron"].places[0].known_spots
    on = {axis: From(of="spot", feature="centre-of-rotation") for axis in "xyz"}
    plan = changed(
        ring.draft(), "station:st1", **{f"zero.{k}": v.model_dump() for k, v in on.items()}
    )
    station = walk(plan, LIBRARY, Memo()).stations[0]
    assert station.unknown == {}
    assert station.on_place(np.zeros(3), 0) == pytest.approx([0.0, 0.0, tilt.above_mm])


def test_on_a_table_nobody_has_measured_a_spot_is_not_known():
    """Its place on the table says nothing while the table's own is not known."""
    lost = {"middle_x_mm": None, "middle_y_mm": None, "top_z_mm": None}
    found = [
        f
        for f in answer(standing(x=DOWEL, y=DOWEL), with_spots(**lost)).findings
        if f.id == "route.zero-unconfirmed"
    ]
    assert {f.about for f in found} == {"x", "y"}
    assert "the left dowel" in in_words(found[0])
