"""How a station's part is held, for who looks at it."""

from __future__ import annotations

import json

import numpy as np
import pytest

from machining.ask import QUESTIONS
from machining.facts.hold_seen import hold_seen
from machining.facts.route import walk
from machining.memo import Memo
from machining.quantities.said import fill

from . import lathe
from .build import LIBRARY, STOPPED, changed, good


def seen(of, operation="", library=LIBRARY):
    facts = walk(of, library, Memo())
    return hold_seen(facts.stations[0], facts, operation), facts


def test_as_it_comes_nothing_is_pressed_and_what_is_free_is_said():
    found, _ = seen(good())
    assert [fill(each.text, each.values) for each in found.free] == ["can slide along X"]
    assert {each.presses_n for each in found.touches} == {0.0} and found.rose is None
    assert found.seated and not found.jams and found.left.value == 0.0
    stopped = changed(good(), "station:st1", **{"holding.stop": "low"})
    assert seen(stopped)[0].free == []
    assert STOPPED.stop == "low"


def test_every_operation_is_told_with_where_it_is_weakest():
    found, facts = seen(good())
    by_id = {op.id: op for op in facts.operations()}
    for each in found.operations:
        op = by_id[each.id]
        assert each.factor == op.value("holding")
        assert each.at == pytest.approx(op.seen.held.at, abs=0.01) and each.towards
    told = [each for each in found.operations if each.factor < 50.0]
    for each in told:  # but for the weight, what is stood goes with the force
        assert each.scale * each.factor == pytest.approx(2.0, rel=0.1)
    assert len(told) > 3


def test_the_rose_s_least_is_the_operation_s_factor_and_forces_find_their_balance():
    """Pressed so hard the sum of the moving jaw is what it is set to; along Y the fixed jaw stands
    it and what the cut adds, but for what friction takes.
    """
    found, facts = seen(good(), "rough")
    op = next(each for each in facts.operations() if each.id == "rough")
    least = min(found.rose.factors)
    assert least == pytest.approx(op.seen.held.factor, rel=1e-3)
    weakest = int(np.argmin(found.rose.factors))
    turn = 2 * np.pi * weakest / 24
    way = np.cos(turn) * np.array(found.rose.along) + np.sin(turn) * np.array(found.rose.aside)
    assert way == pytest.approx(op.seen.held.towards, abs=1e-6)
    moving = [each.presses_n for each in found.touches if each.clamps]
    assert sum(moving) == pytest.approx(found.clamps["moving jaw"], rel=1e-3)


def test_a_drill_has_no_rose_and_a_turned_cut_one_all_round():
    assert seen(good(), "drill")[0].rose is None
    found, _ = seen(lathe.plan(*lathe.GOOD), "rough", lathe.LIBRARY)
    factors = found.rose.factors
    assert len(factors) == 24
    for third in (factors[8:16], factors[16:]):  # of three jaws
        assert factors[:8] == pytest.approx(third, rel=1e-4)


def test_what_nothing_holds_has_no_answer():
    none = changed(good(), "station:st1", holding=None)
    assert seen(none)[0] is None
    asked = QUESTIONS["hold"](none, LIBRARY, Memo(), station="st1")
    assert json.loads(asked) is None
