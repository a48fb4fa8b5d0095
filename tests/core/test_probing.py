"""A zero that a probe finds on every part: so many touches of the machine's cycle, by hand."""

from __future__ import annotations

import pytest

from machining.facts import ledger
from machining.facts.probing import touches
from machining.facts.route import walk
from machining.memo import Memo

from .build import answer, changed, good, with_part

TOUCH_S = 6.0
PROBED = with_part("heron", "carriers", probe_touch_s=TOUCH_S)


def found_by(by: str, *axes: str, each: bool = True):
    fields = {f"zero.{axis}.by": by for axis in axes}
    return changed(good(), "station:st1", **fields, **{"zero.each_part": each})


def goes(of, library=PROBED):
    facts = walk(of, library, Memo())
    return ledger.of_setup(facts.setups[0], facts), answer(of, library)


def test_two_sides_for_a_middle_and_one_for_a_top():
    """The middle of the blank in X and Y, and its top: 2 + 2 + 1 touches of 6 s."""
    of = found_by("probe", "x", "y", "z")
    assert touches(walk(of, PROBED, Memo()).stations[0]) == 5
    with_it, told = goes(of)
    without, before = goes(good())
    assert with_it.of("probe") == pytest.approx(30.0) and without.of("probe") == 0.0
    assert with_it.events[0].kind == "probe" and with_it.events[0].why == "s1.probing"
    assert with_it.ends_s - without.ends_s == pytest.approx(30.0)
    assert told.one_part_s - before.one_part_s == pytest.approx(30.0)
    assert "plan.find" not in told.figures
    assert told.figures["s1.cycle"].value == pytest.approx(with_it.ends_s)


def test_what_somebody_finds_takes_a_persons_time():
    """One axis touched off: the machine probes the others, and somebody is at it all the same."""
    with_it, told = goes(found_by("probe", "x", "y"))
    assert with_it.of("probe") == pytest.approx(24.0)
    assert told.figures["plan.find"].value == PROBED.settings.zero_s
    without, alone = goes(found_by("edge", "x", "y", "z"))
    assert without.of("probe") == 0.0 and alone.figures["plan.find"].value == PROBED.settings.zero_s


def test_a_machine_without_a_probe_leaves_it_to_somebody():
    bare = with_part("heron", "carriers", probe_touch_s=0.0)
    with_it, told = goes(found_by("probe", "x", "y", "z"), bare)
    assert with_it.of("probe") == 0.0 and told.figures["plan.find"].value == bare.settings.zero_s


def test_on_the_first_part_it_is_no_part_of_the_cycle():
    with_it, _ = goes(found_by("probe", "x", "y", "z", each=False))
    assert with_it.of("probe") == 0.0


def test_every_position_of_a_load_is_probed():
    row = {"kind": "row", "along": "x", "count": 2, "pitch_mm": 250.0, "at_mm": (0.0, 0.0)}
    of = changed(found_by("probe", "x", "y", "z"), "station:st1", at=row)
    with_it, _ = goes(of)
    assert with_it.of("probe") == pytest.approx(2 * 30.0)
