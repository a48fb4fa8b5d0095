"""Every figure, finding, time and drawing is what it was before, on many plans."""

from __future__ import annotations

import pytest

from machining.memo import Memo
from tests.at_length import some

from . import record

MEMO = Memo()
BEFORE = record.read(record.ANSWERS)


# recorded without a memo and compared with one that has seen the others: it changes nothing
@pytest.fixture(scope="module")
def solids():
    return record.solids()


SAMPLES = some(record.samples(), each=24)


@pytest.mark.parametrize("sample", SAMPLES, ids=lambda each: each.name)
def test_answers_are_what_they_were(sample, solids):
    assert list(record.differences(BEFORE[sample.name], record.told(sample, solids, MEMO))) == []


def test_a_difference_is_seen():
    """What compares would notice a number, a word, a finding more or less, and a moved line of a
    drawing.
    """
    first = next(each for each in record.samples() if BEFORE[each.name]["findings"] and each.drawn)
    before = BEFORE[first.name]
    figure = next(iter(before["figures"]))
    finding = next(iter(before["findings"]))
    others = (
        {
            **before,
            "figures": {**before["figures"], figure: before["figures"][figure] * (1 + 1e-8) + 1e-8},
        },
        {
            **before,
            "findings": {key: each for key, each in before["findings"].items() if key != finding},
        },
        {**before, "problem": "It is another."},
        {
            **before,
            "drawings": [[text, count, total + 0.01] for text, count, total in before["drawings"]],
        },
    )
    for other in others:
        assert list(record.differences(before, other))
    assert list(record.differences(before, before)) == []
