"""More is asked of a holding that was built for the part and has not held one, and under tools that
grab.
"""

from __future__ import annotations

import pytest

from machining.facts import requirement
from machining.facts.route import walk
from machining.holding.grip import asked_factor
from machining.plan.apply import apply
from machining.world.stock.base import Side

from . import clamped, lathe
from .build import LIBRARY, MEMO, POCKET, after_fix, answer, changed, finding, good, with_settings

HELD = clamped.held_by(clamped.ON_TABLE, POCKET)
ID = "hold.first-run"


def asked(of, library=LIBRARY):
    return [requirement.asked(op, walk(of, library, MEMO)) for op in ready(of, library)]


def ready(of, library=LIBRARY):
    return walk(of, library, MEMO).ready()


@pytest.mark.parametrize(
    ("first", "grabs", "wanted"), [(0.0, 0.0, 2.0), (2.5, 0.0, 2.5), (2.5, 3.0, 3.0), (1.5, 0, 2.0)]
)
def test_the_most_that_applies_is_asked(first, grabs, wanted):
    assert asked_factor(2.0, first, grabs) == wanted


def test_a_vise_has_no_first_run_and_clamps_have_one():
    assert set(asked(good())) == {2.0}
    assert ID not in {each.id for each in answer(good()).findings}
    assert set(asked(HELD)) == {2.5}
    told = finding(HELD, ID)
    assert told.severity == "note" and told.values["asked"].value == 2.5


def test_said_to_have_run_it_is_asked_as_usual_until_it_changes():
    ran = after_fix(HELD, finding(HELD, ID))
    assert set(asked(ran)) == {2.0} and ID not in {each.id for each in answer(ran).findings}
    reasoned = changed(ran, "station:st1", holding__reason="as last year")
    assert set(asked(reasoned)) == {2.0}
    clamps = [
        {**each.model_dump(mode="json"), "torque_nm": 0.5 * each.torque_nm}
        for each in ran.station("st1").holding.clamps
    ]
    looser = changed(ran, "station:st1", holding__clamps=clamps)
    assert set(asked(looser)) == {2.5}
    assert "not as it is planned now" in finding(looser, ID).message


def test_another_blank_in_the_same_clamps_is_a_first_run():
    ran = after_fix(HELD, finding(HELD, ID))
    larger = ran.model_copy(
        update={"stock": ran.stock.model_copy(update={"x_low": Side(over_mm=6.0)})}
    )
    assert requirement.state(walk(ran, LIBRARY, MEMO).stations[0]) == "ran"
    assert requirement.state(walk(larger, LIBRARY, MEMO).stations[0]) == "otherwise"


def test_cut_harder_than_it_has_held_it_is_a_first_run_again():
    ran = after_fix(HELD, finding(HELD, ID))
    least = requirement.least(walk(ran, LIBRARY, MEMO).stations[0])
    assert ran.station("st1").ran.factor == pytest.approx(least, abs=0.001)
    easier = changed(ran, "station:st1", ran={**ran.station("st1").ran.model_dump(), "factor": 99})
    told = finding(easier, ID)
    assert told.values["before"].value == 99.0 and told.values["now"].value == pytest.approx(least)
    assert 2.5 in asked(easier)


def test_between_the_two_it_is_a_stop_until_it_has_run():
    """A shop that asks just over what the clamps stand of what is new, and less afterwards."""
    of = HELD
    least = requirement.least(walk(of, LIBRARY, MEMO).stations[0])
    strict = with_settings(first_run_factor=least * 1.1, holding_factor=max(least * 0.9, 1.0))
    stops = {each.id for each in answer(of, strict).open if each.severity == "stop"}
    assert "hold.slips" in stops
    ran = after_fix(of, finding(of, ID))
    assert "hold.slips" not in {each.id for each in answer(ran, strict).open}


def test_what_slips_is_not_said_to_have_run():
    weak = HELD.station("st1").holding.clamps
    clamps = [{**each.model_dump(mode="json"), "torque_nm": 0.3} for each in weak]
    assert finding(changed(HELD, "station:st1", holding__clamps=clamps), ID).fixes == ()


def test_a_blade_may_grab_while_the_part_turns():
    facts = walk(lathe.plan(*lathe.GOOD), lathe.LIBRARY, lathe.MEMO)
    by_id = {op.id: requirement.asked(op, facts) for op in facts.ready()}
    assert by_id["off"] == 2.5 and by_id["rough"] == 2.0


def test_jaws_that_let_go_are_closed_for_a_first_run():
    """The force that is offered is enough once they hold, though before they hold nothing."""
    of = changed(
        lathe.plan(lathe.FACE),
        "station:st1",
        holding__chuck="chuck-200-soft",
        holding__bored_mm=50.0,
        holding__force_per_jaw_n=1000.0,
    )
    of = changed(of, "operation:face", cutting_speed_m_min=600.0)
    stop = next(f for f in lathe.answer(of).findings if f.id == "hold.chuck-speed")
    assert stop.values["left"].value == 0.0 and stop.values["asked"].value == 2.5
    closed = apply(of, stop.fixes[0].edits)
    (face,) = walk(closed, lathe.LIBRARY, lathe.MEMO).ready()
    assert face.value("holding") >= 2.5
    assert stop.key not in {f.key for f in lathe.answer(closed).open}


@pytest.mark.parametrize("closed_n", [9000.0, 13000.0, 17000.0])
def test_a_limit_holds_at_all_diameters_it_is_turned_at(closed_n):
    """Slower it is thrown out less, and turns larger diameters with its most speed."""
    of = changed(
        lathe.plan(lathe.FACE),
        "station:st1",
        holding__chuck="chuck-200-soft",
        holding__bored_mm=50.0,
        holding__force_per_jaw_n=closed_n,
    )
    of = changed(of, "operation:face", cutting_speed_m_min=300.0)
    stop = next(f for f in lathe.answer(of).findings if f.id == "hold.chuck-speed")
    limited = apply(
        of, next(e.edits for e in stop.fixes if e.label == "Let it turn {limit} at most")
    )
    (face,) = walk(limited, lathe.LIBRARY, lathe.MEMO).ready()
    assert 2.5 <= face.value("holding") < 2.7


def test_its_sheet_tells_the_first_run():
    from machining.evaluation import to_plain
    from machining.sheet import sheets

    first, later = (
        sheets(walk(of, LIBRARY, MEMO), to_plain(answer(of)), {})[0]["care"]
        for of in (HELD, after_fix(HELD, finding(HELD, ID)))
    )
    assert [each["where"] for each in first].count("First run.") == 1
    assert [each["where"] for each in later].count("First run.") == 0
