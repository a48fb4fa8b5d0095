"""Work that several processes do: all of it once, whatever comes first, and what it raises."""

from __future__ import annotations

import os

import pytest

from machining.ask.abreast import Helpers, abreast
from machining.quantities.errors import Missing, NotUnderstood, OutOfRange

DONE_BY = pytest.mark.parametrize("hands", [1, 3])


def none(k: int) -> None:
    return None


@DONE_BY
def test_each_is_done_once_with_what_was_given_for_it(hands):
    known = {"offset": 100}  # of this process: the others know it too
    found = [*abreast(lambda k, given: known["offset"] + given, lambda k: k * k, 7, hands)]
    assert sorted(found) == [(k, 100 + k * k) for k in range(7)]
    assert [*abreast(lambda k, given: k, none, 0, hands)] == []


def test_others_do_it_and_one_hand_does_it_here():
    here = {who for _, who in abreast(lambda k, given: os.getpid(), none, 4)}
    there = {who for _, who in abreast(lambda k, given: os.getpid(), none, 4, hands=2)}
    assert here == {os.getpid()} and os.getpid() not in there and len(there) <= 2


def test_what_is_given_may_hang_on_what_came_before():
    """With two hands at most one other is under way when one is begun."""
    came = dict[int, int]()
    for k, found in abreast(lambda k, given: given, lambda k: len(came), 5, hands=2):
        came[k] = found
    assert came[0] == came[1] == 0
    assert all(k - 1 <= came[k] <= k for k in range(2, 5))


@DONE_BY
@pytest.mark.parametrize(
    "problem",
    [OutOfRange("depth", 3.0, "over 4 mm"), Missing("Zero", "z"), NotUnderstood("Feed", "x", "1")],
)
def test_what_the_work_raises_is_raised_here(hands, problem):
    def work(k: int, given: None) -> int:
        if k == 2:
            raise problem
        return k

    with pytest.raises(type(problem)) as raised:
        [*abreast(work, none, 5, hands)]
    assert str(raised.value) == str(problem) and raised.value.field == problem.field


def test_what_can_not_be_sent_says_what_it_was():
    class Odd(Exception):
        pass

    def work(k: int, given: None) -> int:
        raise Odd("lost its edge")

    with pytest.raises(RuntimeError, match="Odd: lost its edge"):
        [*abreast(work, none, 3, hands=2)]


def test_who_ends_on_the_way_leaves_nothing_waiting():
    def work(k: int, given: None) -> int:
        if k == 1:
            os._exit(1)
        return k

    with pytest.raises(MemoryError):
        [*abreast(work, none, 4, hands=2)]


def test_it_ends_when_nobody_waits_any_more():
    class Left(Exception):
        pass

    def go_on() -> None:
        raise Left

    with pytest.raises(Left):
        [*abreast(lambda k, given: k, none, 4, hands=2, go_on=go_on)]


@DONE_BY
def test_who_did_it_keeps_what_it_found_out(hands):
    """What is given to the same one again finds there what it left."""
    seen = list[int]()

    def work(given: int) -> list[int]:
        seen.append(given)
        return list(seen)

    with Helpers(work, hands) as helpers:
        first = {k: who for k, who, _ in helpers.do(lambda k: k, 3)}
        again = {
            k: (who, found) for k, who, found in helpers.do(lambda k: 10 + k, 3, lambda k: first[k])
        }
    for k, (who, found) in again.items():
        assert who == first[k] and k in found and found[-1] == 10 + k
        assert {each for each in found if each < 3} == {e for e in first if first[e] == who}
