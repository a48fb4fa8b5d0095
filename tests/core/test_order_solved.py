"""Orders as numbers: against every order there is, and within what they are held to."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations, permutations
from random import Random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from machining.ordering.moves import moves
from machining.ordering.nearby import SAVES_S, nearby
from machining.ordering.problem import Problem
from machining.ordering.runs import fewest
from machining.ordering.solve import solve

CHANGE_S, TURN_S, WAY_S = 5.0, 2.1, 0.8
ROUNDED_S = 1e-3  # each of the seconds an order is made of


def problem(many: int, tools: int, sides: int, share: float, seed: int, **fields) -> Problem:
    """Operations with tools and sides by chance; a share of all pairs has its order."""
    chance = Random(seed)
    tool = [chance.randrange(tools) for _ in range(many)]
    side = [chance.randrange(sides) for _ in range(many)]
    between = np.zeros((many, many))
    for i, j in np.ndindex(many, many):
        way = chance.random() * WAY_S
        turn = TURN_S * (side[i] != side[j])
        between[i, j] = turn + (CHANGE_S if tool[i] != tool[j] else way)
    before = [(i, j) for i in range(many) for j in range(i + 1, many) if chance.random() < share]
    alike = [t * sides + s for t, s in zip(tool, side, strict=True)]
    return Problem(between, between, np.zeros(many), alike, before, **fields)


def best_of_all(of: Problem) -> float:
    return min(of.seconds(o) for o in permutations(range(of.many)) if of.allows(o))


@pytest.mark.parametrize("seed", range(6))
@pytest.mark.parametrize("many", [2, 4, 6, 7])
def test_no_order_is_shorter(many, seed):
    of = problem(many, 3, 2, 0.2, seed)
    found = solve(of)
    assert found.proven and of.allows(found.order)
    assert found.seconds == pytest.approx(best_of_all(of), abs=many * ROUNDED_S)
    assert fewest(of).least <= found.seconds + many * ROUNDED_S


@pytest.mark.parametrize("seed", range(4))
def test_what_is_pinned_stays_and_the_rest_is_as_short_as_it_gets(seed):
    of = problem(6, 3, 1, 0.1, seed, fixed={1: 1, 4: 4})
    found = solve(of, range(6))
    assert found.order[1] == 1 and found.order[4] == 4
    assert found.seconds == pytest.approx(best_of_all(of), abs=6 * ROUNDED_S)


def test_a_single_run_comes_to_its_first_operation_too():
    """Without a run after it there is no way back, but a start."""
    between = np.array([[0.0, 1.0, 9.0], [9.0, 0.0, 1.0], [1.0, 9.0, 0.0]])
    of = Problem(between, np.zeros((3, 3)), np.array([4.0, 0.5, 4.0]), [0, 1, 2])
    assert solve(of).order == (1, 2, 0)
    assert solve(of).seconds == pytest.approx(2.5)


def test_no_order_meets_a_ring_or_a_pin_before_what_it_follows():
    round_it = problem(3, 2, 1, 0.0, 0)
    ring = Problem(
        round_it.between, round_it.again, round_it.start, round_it.alike, [(0, 1), (1, 2), (2, 0)]
    )
    assert solve(ring).order is None and solve(ring).proven
    pinned = problem(4, 2, 1, 1.0, 0, fixed={3: 0})
    assert solve(pinned).order is None and solve(pinned).proven


@given(st.integers(0, 10_000), st.integers(8, 40), st.sampled_from([0.02, 0.05, 0.2]))
def test_property_no_order_breaks_what_it_is_held_to(seed, many, share):
    pinned = {k: k for k in Random(seed).sample(range(many), 3)}
    of = problem(many, 6, 1, share, seed, fixed=pinned)
    found = solve(of, range(many), effort=0.05)
    assert of.allows(found.order)
    assert found.least <= found.seconds + many * ROUNDED_S
    assert found.seconds <= of.seconds(range(many)) + 1e-9


@pytest.mark.parametrize("seed", range(3))
def test_forty_operations_are_within_a_tenth_of_what_they_take_at_least(seed):
    of = problem(40, 6, 1, 0.05, seed)
    found = solve(of, range(40), effort=0.1)
    assert of.allows(found.order)
    assert found.seconds - found.least < 0.1 * found.seconds
    assert found.seconds < 0.5 * of.seconds(range(40))


def test_a_piece_goes_where_it_saves():
    of = problem(12, 4, 1, 0.0, 3)
    found = nearby(of, range(12))
    changes = [
        of.alike[a] != of.alike[b] for a, b in zip(found, (*found[1:], found[0]), strict=True)
    ]
    assert sum(changes) == len(set(of.alike))


@given(st.integers(0, 10_000), st.integers(2, 8), st.sampled_from([0.0, 0.1, 0.4]), st.booleans())
def test_property_no_piece_that_goes_elsewhere_makes_it_shorter(seed, many, share, once):
    """Each piece behind each that may come before it, one by one; what is kept keeps its place."""
    of = problem(many, 3, 2, share, seed, fixed={many // 2: many // 2} if seed % 3 == 0 else {})
    if once:  # nothing comes after the last, but a start before the first
        start = np.array([Random(seed + k).random() * CHANGE_S for k in range(many)])
        of = replace(of, again=np.zeros((many, many)), start=start)
    if not of.allows(range(many)):
        return
    found = nearby(of, range(many))
    assert of.allows(found) and of.seconds(found) <= of.seconds(range(many)) + SAVES_S
    for low, high, to in combinations(range(many + 1), 3):
        new = (*found[:low], *found[high:to], *found[low:high], *found[to:])
        if of.allows(new):
            assert of.seconds(new) > of.seconds(found) - 2 * SAVES_S


@given(st.permutations(range(9)), st.sets(st.integers(0, 8), max_size=3))
def test_property_moves_make_the_other_order_and_leave_what_is_pinned(new, pinned):
    """Those that are pinned have their own place in both."""
    left = iter([k for k in new if k not in pinned])
    then = [f"{k}" if k in pinned else f"{next(left)}" for k in range(9)]
    order, names = [f"{k}" for k in range(9)], {f"{k}" for k in pinned}
    for each, to in moves(order, then, names):
        assert each not in names
        order.remove(each)
        order.insert(to, each)
    assert order == then


def test_one_that_goes_elsewhere_is_one_move():
    assert moves("abcde", "bcdea") == [("a", 4)]
    assert moves("abcde", "abcde") == []
