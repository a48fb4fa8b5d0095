"""Each axis of a zero taken from a place of its own: where that is, whether it is there, and what
keeps its place when it is taken from elsewhere.
"""

from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from machining.facts.route import walk
from machining.facts.zero import axes
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.upgrades import up_to_date
from machining.plan.zero import From, Zero
from tests.at_length import some

from .build import (
    LIBRARY,
    MEMO,
    after_fix,
    answer,
    changed,
    finding,
    good,
    ids,
    whole,
    with_part,
)
from .test_upgrades import stored


def zeroed(station="st1", of=None, **taken):
    """A plan with axes of a station's zero taken from elsewhere."""
    fields = {f"zero.{axis}": each.model_dump() for axis, each in taken.items()}
    return changed(of or whole(), f"station:{station}", **fields)


def seen(plan, number=0):
    return walk(plan, LIBRARY, MEMO).stations[number]


@pytest.mark.parametrize(
    ("taken", "where"),
    [
        ({"x": From(at="low", off_mm=12.5)}, ("stock_low", 0, -12.5)),
        ({"x": From(of="part", at="high", off_mm=-2.0)}, ("part_high", 0, 2.0)),
        ({"y": From(of="jaw", off_mm=-4.0)}, ("stock_high", 1, 4.0)),
        ({"z": From(of="seat", off_mm=28.0)}, ("stock_low", 2, -28.0)),
        ({"z": From(of="stock", at="high", off_mm=-0.5)}, ("stock_high", 2, 0.5)),
    ],
)
def test_zero_lies_so_far_from_where_it_is_taken(taken, where):
    """By hand: what it is taken from stands as far from zero, the other way."""
    corner, k, at = where
    assert getattr(seen(zeroed(**taken)).lie, corner)[k] == pytest.approx(at)


def test_a_jaw_grips_what_lies_between_the_jaws_not_what_stands_over_them():
    """Turned over, a wider flange stands over the jaws: zero is on the jaw's face all the same."""
    station = seen(zeroed("st2", y=From(of="jaw")), 1)
    fixed = next(body for body in station.stand.bodies if body.name == "fixed jaw")
    assert fixed.region.bounds[1] == pytest.approx(0.0, abs=1e-9)


def test_zero_on_the_table_is_where_the_table_is():
    at = {"kind": "one", "at_mm": (30.0, -20.0)}
    plan = zeroed(of=changed(whole(), "station:st1", at=at), x=From(of="table"), z=From(of="table"))
    station = seen(plan)
    assert station.on_place(np.zeros(3), 0) == pytest.approx(
        [0.0, -20.0, 0.0]
    )  # Y is still the blank's middle
    row = {"kind": "row", "along": "x", "count": 2, "pitch_mm": 200.0, "at_mm": (0.0, 0.0)}
    several = changed(plan, "station:st1", at=row)
    assert "one position" in seen(several).unknown["travel"]


@pytest.mark.parametrize(
    ("taken", "words"),
    [
        ({"x": From(of="jaw")}, "the fixed jaw"),
        ({"z": From(of="face", feature="nobody")}, "'nobody' doesn't exist"),
        ({"x": From(of="hole", feature="nobody")}, "'nobody' doesn't exist"),
    ],
)
def test_what_it_can_t_be_taken_from_is_unknown_with_the_reason(taken, words):
    assert words in seen(zeroed(**taken)).unknown["travel"]


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"x": {"of": "seat"}}, "x of a zero"),
        ({"z": {"of": "jaw"}}, "z of a zero"),
        ({"x": {"of": "hole"}}, "name a hole"),
        ({"x": {"of": "stock", "feature": "h"}}, "be empty for stock"),
        ({"y": {"off_mm": 1e4}}, "less than or equal to 1000"),
    ],
)
def test_what_no_zero_can_be_is_refused_with_its_field(wrong, words):
    with pytest.raises(ValidationError, match=words):
        Zero.model_validate(wrong)


def test_an_inner_face_is_touched_once_it_is_there():
    """The recess's floor: inside the blank at first, there once it is cut."""
    on_floor = zeroed(z=From(of="face", feature="recess"))
    found = finding(on_floor, "route.zero-not-there")
    assert found.severity == "stop" and seen(on_floor).lie.part_high[2] == pytest.approx(8.0)
    fixed = apply(on_floor, found.fixes[0].edits)
    assert seen(fixed).lie.key == seen(on_floor).lie.key  # no coordinate changes
    assert "route.zero-not-there" not in ids(fixed)


def test_a_side_not_cut_yet_is_measured_from_the_blank_s_and_stays_where_it_was():
    plan = zeroed(x=From(of="part", at="low"))
    fixed = after_fix(plan, finding(plan, "route.zero-not-there"))
    assert seen(fixed).lie.key == seen(plan).lie.key
    assert fixed.stations[0].zero.x == From(of="stock", at="low", off_mm=2.0)


def test_every_choice_can_be_taken():
    facts = walk(whole(), LIBRARY, MEMO)
    for station in facts.stations:
        for each in axes(station, facts):
            assert each.picked in dict(each.ways)
            for choice in some(each.choices, each=4, first=station.number % 4):
                taken = From(of=choice.of, at=choice.at, feature=choice.feature)
                plan = zeroed(station.id, **{each.axis: taken})
                assert (
                    "travel" not in walk(plan, LIBRARY, MEMO).stations[station.number - 1].unknown
                )


def test_how_it_is_picked_up_is_said_with_how_closely():
    said = answer(good()).setups[0].stations[0].picked
    assert [each.text for each in said] == [
        "X Y: edge finder, ±{within}",
        "Z: tool touched off, ±{within}",
    ]
    probed = zeroed(
        x=From(by="probe"), y=From(by="probe"), z=From(of="part", at="high", by="probe")
    )
    assert [each.text for each in answer(probed).setups[0].stations[0].picked] == [
        "X Y Z: probe, ±{within}"
    ]


def test_a_zero_of_format_4_lies_where_it_lay():
    """By hand: the first on hole0, on the blank's bottom; the second at the left end and the back
    side of the part.
    """
    plan = Plan.model_validate(up_to_date(stored("plan-4.json")))
    first, second = (each.zero for each in plan.stations)
    on = From(of="hole", feature="hole0")
    assert first == Zero(x=on, y=on, z=From(of="stock", at="low"), reason="bored first")
    assert second.taken == (
        From(of="part", at="low"),
        From(of="part", at="high"),
        From(of="part", at="high"),
    )
    stations = walk(plan, LIBRARY, MEMO).stations
    assert stations[0].lie.stock_low[2] == pytest.approx(0.0)
    assert stations[1].lie.part_low[0] == pytest.approx(0.0)


def test_what_is_known_and_not_picked_up_asks_where_the_table_is():
    """Nobody has said it of this Heron: each way to pick it up ends it, and so does the place."""
    nowhere = with_part(
        "heron", "places", **dict.fromkeys(("middle_x_mm", "middle_y_mm", "top_z_mm"))
    )
    of = zeroed(y=From(of="jaw", off_mm=-4.0, by="known"))
    stop = finding(of, "route.zero-unconfirmed", nowhere)
    assert (stop.severity, stop.about, len(stop.fixes)) == ("stop", "y", 3)
    for fix in stop.fixes:
        assert stop.id not in ids(apply(of, fix.edits), nowhere)
    assert stop.id not in ids(of)
    assert stop.id not in ids(zeroed(y=From(of="jaw", off_mm=-4.0)), nowhere)
