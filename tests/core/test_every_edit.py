"""What is remembered never changes an answer: after every edit it is what a fresh start gives."""

from __future__ import annotations

import pytest

from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.facts.pace import name_of, pace_since
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.edit import Change
from tests.at_length import some

from . import build, lathe
from .every_edit import another, edits_of

PLANS = {
    "milled": (build.good(), build.LIBRARY),
    "turned": (lathe.plan(*lathe.GOOD), lathe.LIBRARY),
}


@pytest.fixture(scope="module", params=PLANS)
def warm(request):
    of, library = PLANS[request.param]
    memo = Memo()
    evaluate(of, library, memo)
    return request.param, of, library, memo


def waiting(answer):
    return {
        op.id
        for setup in answer.setups
        for op in setup.operations
        if {each.state for each in op.answers.values()} == {"working"}
    }


def test_every_edit_is_answered_as_from_a_fresh_start(warm):
    name, of, library, memo = warm
    tried = 0
    for on, field, value in some(edits_of(of), each=7):
        try:
            changed = apply(of, [Change(on=on, fields={field: another(value)})])
        except EditRefused:
            continue  # the record takes no other value there
        at_first = evaluate(changed, library, memo, pace_since(name_of(of), library, memo))
        told, fresh = evaluate(changed, library, memo), evaluate(changed, library, Memo())
        assert to_bytes(told) == to_bytes(fresh), f"{name}: {on} {field}"
        assert at_first.working or to_bytes(at_first) == to_bytes(fresh), f"{name}: {on} {field}"
        assert on.partition(":")[2] not in waiting(at_first), f"{name}: {on} {field}"
        tried += 1
    assert tried > 3
