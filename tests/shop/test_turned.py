"""A turned plan through the application: its ways, its sheet, what is refused."""

from __future__ import annotations

from typing import Any

import pytest

from machining.plan.apply import apply
from machining.plan.document import Plan, Setup, Station
from machining.plan.edit import Keep
from machining.plan.holding import InChuck
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.turned import (
    Groove,
    Profile,
    Stretch,
    TurnFace,
    TurnFinish,
    TurnGroove,
    TurnRough,
    TurnThread,
)
from machining.world.feature import Hole
from machining.world.part import Part, Requirement
from machining.world.stock import Round
from machining.world.stock.base import Side
from shop.base import blobs
from shop.releases.models import Release
from tests.core.lathe import TOOLS
from tests.core.test_tilted import FACE, FLUSH, LOCKED, on_petrel

from .conftest import put_plan
from .test_releases import draw, pdf_text

CONTOUR = Profile(at_mm=((0.0, 30.0), (-30.0, 30.0)))
NECK = Requirement(
    id="neck",
    what="Neck Ø",
    feature="outside",
    nominal_mm=30.0,
    lower_mm=-0.05,
    measured_with="micrometer",
)

BORE = Hole(
    id="bore",
    point=(0.0, 0.0, 40.0),
    axis="+z",
    diameter_mm=12.0,
    length_mm=20.0,
    through=False,
    opens=("+z",),
)
HELD = InChuck(
    chuck="chuck-200",
    grip_mm=28.0,
    force_per_jaw_n=16000.0,
    limit_rpm=3200.0,
    reason="short bar",
)


def pin(*more: Any) -> Plan:
    """A square bar's worth of part turned round: faced, drilled, roughed, relieved, finished,
    threaded.
    """
    operations = (
        TurnFace(id="face", tool="t1"),
        Drill(
            id="drill",
            tool="t7",
            on=Points(at_mm=((0.0, 0.0),), diameter_mm=12.0, depth_mm=20.0),
            rpm=1500.0,
            feed_mm_min=240.0,
        ),
        TurnRough(id="rough", tool="t1", on=CONTOUR),
        TurnGroove(id="relief", tool="t3", on=Groove(z_mm=-20.0, width_mm=3.0, diameter_mm=27.0)),
        TurnFinish(id="finish", tool="t2", on=CONTOUR),
        TurnThread(
            id="thread", tool="t4", on=Stretch(length_mm=20.0), diameter_mm=30.0, pitch_mm=1.5
        ),
        *more,
    )
    return Plan(
        material="c45",
        quantity=20,
        part=Part(size_mm=(19.0, 19.0, 60.0), typed=(BORE,), requirements=(NECK,)),
        tools=TOOLS,
        stock=Round(diameter_mm=50.0, low=Side(over_mm=20.0), high=Side(over_mm=1.0)),
        setups=(
            Setup(
                id="s1",
                machine="plover",
                operations=operations,
                stations=(Station(id="st1", holding=HELD),),
            ),
        ),
    )


@pytest.fixture
def turned(planner):
    return put_plan(planner, pin(), "J-20")


def test_a_turned_plan_is_answered_and_released(planner, approver, turned, unfinished_too):
    answer = planner.get(f"/plans/{turned.pk}")
    assert not [f for f in answer["evaluation"]["findings"] if f["severity"] != "note"]
    assert (
        answer["evaluation"]["setups"][0]["stations"][0]["zero"][0]["text"]
        == "X on the spindle’s axis"
    )
    assert len(answer["evaluation"]["setups"][0]["stations"][0]["bodies"]) == 4
    approver.post(f"/plans/{turned.pk}/releases", {"revision": 2, "note": "first"}, 201)
    draw()
    sheet = " ".join(
        pdf_text(blobs.get(Release.objects.get(plan=turned).sheets.get().papers.get().pdf)).split()
    )
    for words in (
        "200 chuck, hard jaws",
        "each jaw, at rest",
        "16000 N (3597 lbf) each jaw",
        "(short bar)",
        "Limit the spindle to 3200 rpm",
        "200 m/min",
        "0.300 a turn",
        "Guard closed before the spindle turns",
        "In, pass by pass: 0.376",
        "1500 rpm",
        "0.160 a turn",
        "Neck Ø",
        "stands out of the jaws",
        "the free end",
    ):
        assert words.replace("the free end", "free end") in sheet, words


def test_a_tilted_slope_says_its_tilt_on_the_sheet(planner, approver, unfinished_too):
    kept = [
        Keep(on="station:st1", finding="travel.table-size", words="clears the doors, measured"),
        Keep(on="operation:k", finding="reach.gouges", words="on the drawing, not in the solid"),
    ]
    tilted = put_plan(planner, apply(on_petrel(FACE, LOCKED, stock=FLUSH), kept), "J-21")
    approver.post(f"/plans/{tilted.pk}/releases", {"revision": 2, "note": "first"}, 201)
    draw()
    sheet = " ".join(
        pdf_text(blobs.get(Release.objects.get(plan=tilted).sheets.get().papers.get().pdf)).split()
    )
    assert "Tilted 25.0°, axes locked for each edge. Confirm the sense of tilt and turn" in sheet
    ways = planner.get(f"/plans/{tilted.pk}/operations/k/choices")
    assert [way["name"] for way in ways] == [
        "as it is now",
        "upright, in steps",
        "tilted, axes live",
    ]
    assert ways[0]["time_s"] > ways[2]["time_s"] and all(way["stops"] == 0 for way in ways)


def test_the_ways_of_a_turned_rough_are_figured(planner, turned):
    now, *others = planner.get(f"/plans/{turned.pk}/operations/rough/choices")
    assert now["feed_per_rev_mm"] == pytest.approx(0.3)
    assert {way["name"] for way in others} == {
        "deep, as much feed as the spindle gives",
        "shallow, all the feed the edge takes",
    }
    quickest = min(others, key=lambda way: way["time_s"])
    assert quickest["time_s"] < now["time_s"] and quickest["brings"] == 0
    taken = planner.post(f"/plans/{turned.pk}/edits", {"revision": 2, "edits": quickest["edits"]})
    op = next(op for op in taken["evaluation"]["setups"][0]["operations"] if op["id"] == "rough")
    assert op["time_s"] == pytest.approx(quickest["time_s"])


def test_offers_and_solids_of_a_lathe(planner, turned):
    offers = planner.get(f"/plans/{turned.pk}/setups/s1/offers")
    assert {offer["label"] for offer in offers} >= {"Thread", "Part off"}
    key = planner.get(f"/plans/{turned.pk}")["evaluation"]["setups"][0]["operations"][2][
        "stock_key"
    ]
    assert planner.call("get", f"/plans/{turned.pk}/stock/{key}.glb").status_code == 200


def test_a_holding_of_no_kind_and_a_lathe_among_mills_are_refused(planner, turned):
    refused = planner.post(
        f"/plans/{turned.pk}/edits",
        {
            "revision": 2,
            "edits": [
                {"do": "change", "on": "station:st1", "fields": {"holding": {"kind": "nail"}}}
            ],
        },
        422,
    )
    assert "vise or chuck" in refused["sentence"]
    wrong = planner.post(
        f"/plans/{turned.pk}/edits",
        {
            "revision": 2,
            "edits": [{"do": "change", "on": "station:st1", "fields": {"holding.grip_mm": -2}}],
        },
        422,
    )
    assert wrong["sentence"] == "Grip is -2: it must be at least 0.001."
    asked = {"diameter_mm": 10.0, "depth_mm": 20.0, "material": "c45", "machines": ["plover"]}
    assert "Plover turns the part" in planner.post("/hole-methods", asked, 422)["sentence"]
