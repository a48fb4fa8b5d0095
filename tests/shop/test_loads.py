"""A load of many parts: how it stands, its offsets as a download, and what is refused."""

from __future__ import annotations

import pytest

from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.trade import Load
from machining.ways.trade import structural
from tests.core.build import LIBRARY, changed, good

from .conftest import put_plan


@pytest.fixture
def four(planner):
    """Four vises in a row on Heron, a zero each."""
    made = changed(good(), "station:st1", offset_each=True)
    return put_plan(
        planner, apply(made, structural(made, LIBRARY, Memo(), [Load(station="st1", parts=4)]))
    )


def test_a_load_is_seen_from_above(planner, four):
    seen = planner.get(f"/plans/{four.pk}/setups/s1/load")
    assert (seen["machine"], seen["table"], seen["travel"]) == (
        "Heron",
        [900.0, 500.0],
        [400.0, 250.0],
    )
    [station], [column] = seen["stations"], seen["reached"]
    assert (column["name"], column["towards"]) == ("column", "y+")
    lowest = min(each["y_mm"] for each in station["spots"])
    assert lowest + 480 - 60 < column["at_mm"] < lowest + 480
    assert [(each["code"], each["x_mm"]) for each in station["spots"]] == [
        ("G54", -210.0),
        ("G55", -70.0),
        ("G56", 70.0),
        ("G57", 210.0),
    ]
    assert {each["out_mm"] for each in station["spots"]} == {0.0}
    assert {each["role"] for each in station["shapes"]} == {"jaw", "bed", "part"}
    closest = station["closest_x"]
    assert closest["mm"] == 140.0 and closest["why"]["values"]["room"]["value"] == 15.0


def test_its_offsets_are_written_as_its_control_takes_them(planner, four):
    address = f"/plans/{four.pk}/setups/s1/offsets"
    table = planner.call("get", f"{address}.csv").content.decode().splitlines()
    assert len(table) == 5 and table[1].startswith("1,st1,1,G54,machine,")
    block = planner.call("get", f"{address}.nc?units=inch").content.decode()
    assert "G20" in block and "G10 L2 P4" in block
    assert planner.call("get", f"/plans/{four.pk}/setups/nope/offsets.csv").status_code == 404
    assert planner.call("get", f"/plans/{four.pk}/setups/nope/load").status_code == 404
