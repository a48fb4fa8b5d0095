"""Results are kept by what went into them; whoever works with a memo can be told to leave."""

from __future__ import annotations

import pytest

from machining.memo import Memo


class Enough(BaseException):
    pass


def test_what_was_made_before_somebody_had_enough_is_kept():
    left = False

    def go_on() -> None:
        if left:
            raise Enough

    memo = Memo(4, go_on)
    assert memo.get("first", lambda: 1) == 1
    left = True
    assert memo.get("first", lambda: 2) == 1  # known, so nothing has to be made
    with pytest.raises(Enough):
        memo.get("second", lambda: 2)
    left = False
    assert memo.get("second", lambda: 3) == 3


def test_the_least_recently_used_go_first():
    memo = Memo(2)
    for key in ("a", "b"):
        memo.put(key, key)
    memo.get("a", lambda: "made anew")
    memo.put("c", "c")
    assert [memo.peek(key) for key in "abc"] == ["a", None, "c"]
