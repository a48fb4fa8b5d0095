"""A plan on another machine: the same tools, the chip kept, what it can't do taken down."""

from __future__ import annotations

import pytest

from machining.ask.carry_over import carry_over
from machining.ask.trying import EDITS
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.quantities.errors import Missing

from .build import LIBRARY, MEMO, answer, changed, good, whole


def carried(of: Plan, machine: str) -> tuple[Plan, list]:
    told = carry_over(of, LIBRARY, MEMO, machine)
    return apply(of, EDITS.validate_python(told["edits"])), told["left"]


def test_every_cut_has_the_tool_it_had():
    of = whole()
    there, left = carried(of, "curlew")
    assert left == [] and {setup.machine for setup in there.setups} == {"curlew"}
    for was, now in zip(of.setups, there.setups, strict=True):
        for a, b in zip(was.operations, now.operations, strict=True):
            one, other = of.tool(a.tool), there.tool(b.tool)
            assert (one.assembly, one.stick_out_mm) == (other.assembly, other.stick_out_mm)
    assert {each.machine for each in there.tools} == {"curlew"}
    assert len({(t.assembly, t.stick_out_mm) for t in there.tools}) == len(there.tools)
    assert answer(there).count("stop") <= answer(of).count("stop")


def test_a_speed_that_is_not_turned_goes_down_and_the_chip_stays():
    """11 000 of a spindle that turns 8 000: the feed goes down with it."""
    most = LIBRARY.machines["dunlin"].spindles[0].max_rpm
    of = changed(good(), "operation:outside", rpm=11_000.0, feed_mm_min=1650.0)
    there, _ = carried(of, "dunlin")
    cut = there.setups[0].operation("outside")
    assert cut.rpm == most == 8000.0
    assert cut.feed_mm_min / cut.rpm == pytest.approx(1650.0 / 11_000.0)


def test_a_recipe_of_a_large_machine_is_taken_down_to_what_the_small_one_drives():
    of = changed(good(), "operation:rough", step_down_mm=20.0, step_over_mm=10.0)
    assert not {f.id for f in answer(of).open if f.severity == "stop"} & {"cut.power", "cut.torque"}
    there, _ = carried(of, "dunlin")
    was, now = (each.setups[0].operation("rough") for each in (of, there))
    taken = [getattr(now, n) != getattr(was, n) for n in ("step_down_mm", "feed_mm_min", "rpm")]
    assert any(taken)
    over = {"cut.power", "cut.torque", "cut.power-at-worst-stock"}
    assert not {f.id for f in answer(there).open if f.operation == "rough"} & over


def test_what_stays_stopped_there_is_told():
    """A lathe turns no milling tools, and holds in no vise."""
    _, left = carried(good(), "plover")
    assert any("the work turns" in each["text"] for each in left)


def test_where_it_is_already_nothing_changes():
    there, left = carried(good(), good().setups[0].machine)
    assert left == [] and there.setups == good().setups


def test_a_machine_that_is_not_there_is_refused():
    with pytest.raises(Missing):
        carry_over(good(), LIBRARY, MEMO, "nothing")
