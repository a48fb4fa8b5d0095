"""How likely a batch runs without a slip, against closed forms and draws."""

from __future__ import annotations

from math import erf, exp, log, log1p, sqrt

import numpy as np
import pytest

from machining.cutting.data import constant
from machining.facts.lasts import lasts
from machining.facts.route import walk
from machining.holding.lasts import Spread, runs, runs_so_many, shares, slips
from machining.sheet.care import of_batch

from .build import LIBRARY, MEMO, STOPPED, changed, good, plan, setup

OWN = Spread("own", 0.2, 1.0, False)
SHARED = Spread("shared", 0.15, -1.0, True)


def normal(sigmas: float) -> float:
    return (1.0 + erf(sigmas / sqrt(2.0))) / 2.0


def test_what_differs_from_part_to_part_counts_once_for_each():
    sigma = sqrt(log1p(0.2**2))
    alone = normal(log(1.5) / sigma)
    assert slips(1.5, [OWN]) == pytest.approx(1.0 - alone)
    for parts in (1, 10, 500):
        assert runs(1.5, [OWN], parts) == pytest.approx(alone**parts)


def test_what_is_the_same_for_a_batch_counts_once_for_all():
    alone = normal(log(1.3) / sqrt(log1p(0.15**2)))
    for parts in (1, 10, 500):
        assert runs(1.3, [SHARED], parts) == pytest.approx(alone, abs=0.01)


def test_both_together_as_draws_have_it():
    spreads = [OWN, SHARED, Spread("square", 0.05, 2.0, False)]
    draw = np.random.default_rng(12)
    sigma = [abs(each.power) * sqrt(log1p(each.share**2)) for each in spreads]
    batch = draw.standard_normal(4000)[:, None] * sigma[1]
    own = draw.standard_normal((4000, 20)) * sqrt(sigma[0] ** 2 + sigma[2] ** 2)
    held = (log(1.7) + batch + own > 0.0).all(axis=1).mean()
    assert runs(1.7, spreads, 20) == pytest.approx(float(held), abs=0.02)


def test_more_parts_and_less_of_a_factor_run_less():
    spreads = [OWN, SHARED]
    chances = [runs(2.0, spreads, parts) for parts in (1, 5, 50, 500)]
    assert chances == sorted(chances, reverse=True)
    assert runs(1.5, spreads, 50) < runs(2.0, spreads, 50) < runs(3.0, spreads, 50)
    assert runs(0.0, spreads, 1) == 0.0 and slips(0.0, spreads) == 1.0
    assert slips(1.2, []) == 0.0 and slips(0.8, []) == 1.0


def test_so_many_parts_are_as_sure_as_asked_and_one_more_is_not():
    spreads = [OWN, SHARED]
    most = runs_so_many(2.2, spreads, 0.99)
    assert most > 1
    assert runs(2.2, spreads, most) >= 0.99 > runs(2.2, spreads, most + 1)
    assert runs_so_many(1.0, spreads, 0.99) == 0
    assert runs_so_many(50.0, spreads, 0.99) == 100_000


def test_each_makes_its_share_of_what_is_uncertain():
    twice = Spread("twice", 0.1, 2.0, False)
    once = Spread("once", 0.1, 1.0, False)
    assert shares([twice, once]) == pytest.approx([0.8, 0.2])
    assert exp(-sum(e.variance for e in (twice, once))) < 1.0


def told(of):
    facts = walk(of, LIBRARY, MEMO)
    return lasts(facts.stations[0], facts)


def test_a_looser_vise_lasts_less_and_says_what_that_hangs_on():
    sound, loose = told(good()), told(changed(good(), "station:st1", holding__torque_nm=12.0))
    assert sound is not None and loose is not None
    assert sound.operation == loose.operation == "rough"
    assert loose.runs < 0.99 < sound.runs and loose.sure_parts < 10 <= sound.sure_parts
    names = {each.name for each in loose.hangs_on}
    assert names >= {"friction of the batch", "force of the clamps", "cutting force", "wear"}
    assert sum(each.makes for each in loose.hangs_on) == pytest.approx(1.0)
    assert [e.makes for e in loose.hangs_on] == sorted(e.makes for e in loose.hangs_on)[::-1]


def test_the_factor_goes_with_the_force_of_the_clamps_and_against_the_cut():
    """Weight is little here: twice the force stands twice the cut."""
    found = told(changed(good(), "station:st1", holding__torque_nm=12.0))
    by = {each.name: each for each in found.hangs_on}
    clamp, cut = by["force of the clamps"], by["cutting force"]
    ratio = (constant("spread", "clamp") / constant("spread", "cutting")) ** 2
    assert clamp.makes / cut.makes == pytest.approx(ratio, rel=0.05)
    assert found.middle / found.factor == pytest.approx(1.3 / 1.15, rel=0.02)


def test_nobody_knows_where_nothing_is_stood_or_held():
    assert told(plan(setups=(setup(holding=STOPPED),))) is None
    assert told(plan(setups=(setup(*good().setups[0].operations, holding=None),))) is None


def test_the_sheet_says_how_often_it_is_checked_where_a_batch_may_slip():
    loose = changed(good(), "station:st1", holding__torque_nm=12.0)
    facts = walk(loose, LIBRARY, MEMO)
    (row,) = of_batch(facts.setups[0], facts)
    found = told(loose)
    assert f"×{found.factor:.1f}" in row["sentence"] and "Operation 20" in row["sentence"]
    often = "every part" if found.sure_parts < 2 else f"every {found.sure_parts} parts"
    assert row["sentence"].endswith(f"after the first part and {often}.")
    assert of_batch(walk(good(), LIBRARY, MEMO).setups[0], walk(good(), LIBRARY, MEMO)) == []
