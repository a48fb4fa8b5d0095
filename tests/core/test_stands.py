"""Where all positions of a setup stand at once, against offsets worked out elsewhere."""

from __future__ import annotations

import numpy as np
import pytest

from machining.facts import index
from machining.facts.offsets import offsets_of
from machining.facts.route import walk
from machining.facts.stands import stands
from machining.placing import rotary
from shop.demo import latch, manifold

from .build import LIBRARY, MEMO, answer, good


def test_upright_positions_differ_by_where_they_are_placed():
    first, second = answer(latch.draft()).setups[0].stations
    at = np.array([np.reshape(each, (3, 4)) for each in (*first.stands, *second.stands)])
    assert at.shape == (8, 3, 4)
    assert np.array_equal(at[:, :, :3], np.broadcast_to(np.eye(3), (8, 3, 3)))
    assert np.diff(at[:4, 0, 3]).tolist() == pytest.approx([125.0] * 3)
    # zero of the first is the stock's middle, and of the rear row of vises
    assert at[0, :2, 3] == pytest.approx((-187.5, 115.0))
    assert first.on is None


def test_one_part_alone_has_nothing_beside_it():
    assert answer(good()).setups[0].stations[0].stands == []


def test_each_position_of_a_tombstone_comes_to_the_tool_where_its_zero_is():
    """Turned by its face's angle, every zero is where the table of offsets has it."""
    facts = walk(manifold.draft(), LIBRARY, MEMO)
    [station] = facts.stations
    pivot, found = index.centre(station.place), stands(station)
    assert len(found) == 24
    for offset in offsets_of(facts):
        if offset.side is not None:
            continue
        k = offset.position - 1
        turn = rotary.turn_about("y", station.turned_deg(k))
        there = rotary.carried_round(found[k][:, 3], turn, pivot) + station.place.middle
        assert there == pytest.approx(offset.at, abs=1e-9)
        assert turn @ found[k][:, :3] == pytest.approx(np.eye(3), abs=1e-12)


def test_the_tombstone_they_stand_on_is_drawn_round_its_axis():
    [station] = answer(manifold.draft()).setups[0].stations
    corners = np.array(station.on["corners"])
    assert np.abs(corners).max() == pytest.approx(130.0)
    assert station.on["high"] - station.on["low"] == pytest.approx(600.0)
