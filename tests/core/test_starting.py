"""How a plan starts, on what it stands in a vise, and how speeds and sizes are said."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest

from machining.facts.parallels import grip_at_least, grips
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan
from machining.plan.edit import AddOperation, Change, Keep
from machining.plan.holding import InChuck
from machining.plan.in_vise import Holding
from machining.plan.operation import Drill, FinishWalls
from machining.plan.places import OnFeatures
from machining.plan.trade import Start, TurnOver
from machining.plan.zero import in_the_middle
from machining.quantities.names import drill_name, thread_name
from machining.ways.first_setup import fits, with_usual_stock
from machining.ways.offers import offers
from machining.ways.trade import structural
from machining.world.part import Part
from machining.world.stock import Round
from machining.world.stock.block import sawn_block

from .build import (
    FACE,
    LIBRARY,
    MEMO,
    PART,
    POCKET,
    ROUGH,
    TAP,
    answer,
    changed,
    finding,
    good,
    ids,
    plan,
    result,
    with_settings,
)

BARE = Plan(material="en-aw-6082", part=PART)


def started(of: Plan, library=LIBRARY) -> Plan:
    return apply(of, structural(of, library, Memo(), [Start(id="s1", station="st1")]))


def after(of: Plan, *edits) -> Plan:
    return apply(of, structural(of, LIBRARY, Memo(), edits))


def test_a_first_setup_starts_on_a_machine_that_fits_held_with_the_usual_blank():
    """80 x 50 x 20 with 3 a side is 86 x 56; Curlew comes first in the alphabet, the shop says
    Heron.
    """
    shop = with_settings(first_machine="heron")
    made = started(BARE, shop)
    setup = made.setups[0]
    assert setup.machine == "heron"
    held = setup.stations[0].holding
    assert isinstance(held, Holding) and held.vise == "vise-125" and held.fixed == "+y"
    assert held.grip_depth_mm == 6.0  # on parallels 34 high in jaws of 40
    assert (
        made.stock.x_low.over_mm,
        made.stock.y_high.over_mm,
        made.stock.z_high.over_mm,
        made.stock.z_low.over_mm,
        made.stock.saw_tolerance_mm,
    ) == (3.0, 3.0, 2.0, 8.0, 1.0)
    assert answer(made, shop).problem == ""


def test_the_shop_s_first_machine_is_passed_over_where_the_part_does_not_fit():
    """400 across: Dunlin's table is 320 x 160."""
    long = BARE.model_copy(update={"part": Part(size_mm=(400.0, 50.0, 20.0))})
    made = started(long, with_settings(first_machine="dunlin"))
    assert made.setups[0].machine != "dunlin"
    assert fits(LIBRARY.machines[made.setups[0].machine], (406.0, 56.0, 30.0))
    assert not fits(LIBRARY.machines["dunlin"], (406.0, 56.0, 30.0))


def test_a_bar_goes_to_the_lathe_and_its_chuck():
    bar = BARE.model_copy(
        update={
            "stock": Round(diameter_mm=50.0),
            "part": Part(size_mm=(30.0, 30.0, 60.0)),
        }
    )
    made = started(bar)
    assert made.setups[0].machine == "plover"
    assert isinstance(made.setups[0].stations[0].holding, InChuck)
    assert made.stock.form == "round"


def test_a_further_setup_is_the_last_turned_over_with_the_next_offset_and_a_decided_blank_stays():
    first = started(BARE, with_settings(first_machine="heron"))
    second = after(first, TurnOver(setup="s1", id="s2", station="st2"))
    assert [s.orientation.up for s in second.stations] == ["+z", "-z"]
    assert [s.work_offset for s in second.stations] == ["G54", "G55"]
    assert second.setups[1].stations[0].zero == in_the_middle("part")
    assert (
        with_usual_stock(
            BARE.model_copy(update={"stock": sawn_block(z=(0, 0.5))}), LIBRARY.settings
        )
        == ()
    )
    assert with_usual_stock(good(), LIBRARY.settings) == ()


def test_turned_over_about_y_comes_after_the_setup_it_turns_and_a_started_plan_starts_no_more():
    first = started(BARE, with_settings(first_machine="heron"))
    three = after(
        first,
        TurnOver(setup="s1", id="s3", station="st3"),
        TurnOver(setup="s1", id="s2", station="st2", about="y"),
    )
    assert [s.id for s in three.setups] == ["s1", "s2", "s3"]
    assert [(s.id, s.takes, s.orientation.up) for s in three.stations] == [
        ("st1", "blank", "+z"),
        ("st2", "st1", "-z"),
        ("st3", "st2", "-z"),
    ]
    assert [s.work_offset for s in three.stations] == ["G54", "G56", "G55"]
    about_y, about_x = (
        three.setups[1].stations[0].orientation.turn,
        three.setups[2].stations[0].orientation.turn,
    )
    assert abs(about_y - about_x) == 180
    with pytest.raises(EditRefused, match="setups is 1; it must be 0 to start a plan"):
        after(first, Start(id="s9", station="st9"))
    with pytest.raises(EditRefused, match="Setup 's7'"):
        after(first, TurnOver(setup="s7", id="s2", station="st2"))


def test_grips_are_those_the_shop_s_parallels_give():
    vise = LIBRARY.vises["vise-125"]
    assert grips(vise) == [4.0, 6.0, 10.0, 14.0, 18.0, 22.0, 40.0]
    assert [grip_at_least(vise, least) for least in (3.0, 4.0, 5.5, 6.5, 30.0)] == [
        4.0,
        4.0,
        6.0,
        10.0,
        40.0,
    ]
    assert grip_at_least(LIBRARY.vises["vise-100-soft"], 5.5) == 5.5


def test_parallels_that_do_not_exist_are_a_look_with_the_nearest_grips():
    odd = changed(good(), "station:st1", holding__grip_depth_mm=5.5)
    found = finding(odd, "hold.parallels")
    assert (
        in_words(found)
        == "It would stand on parallels 34.5 mm high; the nearest the vise has are 34.0 mm and 36.0"
        " mm high."
    )
    assert (
        in_words(found, "inch")
        == "It would stand on parallels 1.358 in high; the nearest the vise has are 1.339 in and"
        " 1.417 in high."
    )
    # 4 deep is under what the shop allows
    assert [fix.label for fix in found.fixes] == [
        "Grip {grip}, on parallels {height} high",
        "Keep it: {words}",
    ]
    for fix in found.fixes:
        assert "hold.parallels" not in ids(apply(odd, fix.edits))
    seen = answer(odd).setups[0].stations[0]
    assert (seen.parallels_mm, seen.parallels_to_make) == (34.5, True)
    assert not answer(good()).setups[0].stations[0].parallels_to_make
    soft = changed(good(), "station:st1", holding__vise="vise-100-soft")
    assert answer(soft).setups[0].stations[0].parallels_mm is None  # its step is cut into the jaws


def labels(of: Plan) -> set[str]:
    facts = walk(of, LIBRARY, MEMO)
    return {
        f"{o.group.split(' ')[0]} {o.label}"
        for o in offers(facts.setups[0].first, facts, lambda: "new")
    }


def test_a_finish_is_offered_only_where_something_is_left_for_it():
    assert not {each for each in labels(plan(FACE)) if "Finish" in each}
    assert "Outside Finish" in labels(plan(FACE, ROUGH))
    bare = plan(
        FACE,
        ROUGH.model_copy(update={"leave_mm": 0.0}),
        POCKET.model_copy(update={"leave_mm": 0.0}),
    )
    assert "Outside Finish, 0.3 left for it" in labels(bare)
    facts = walk(bare, LIBRARY, MEMO)
    offer = next(
        o
        for o in offers(facts.setups[0].first, facts, lambda: "new")
        if o.label.startswith("Finish walls")
    )
    grown = apply(bare, offer.edits)
    assert [op.leave_mm for op in grown.setups[0].operations if op.kind == "rough_pocket"] == [0.3]
    assert isinstance(offer.edits[-1], AddOperation) and isinstance(
        offer.edits[-1].operation, FinishWalls
    )


def value(of: Plan, name: str) -> float:
    return answer(of).figures[f"rough.{name}"].value


def test_a_speed_typed_at_the_edge_and_a_feed_a_tooth_stay_what_was_typed():
    """n = 1000·vc/(π·12), vf = fz·z·n with three flutes."""
    typed = changed(good(), "operation:rough", cutting_speed_m_min=200.0, feed_per_tooth_mm=0.05)
    rpm = 1000 * 200 / (pi * 12)
    assert value(typed, "rpm") == pytest.approx(rpm)
    assert value(typed, "feed") == pytest.approx(0.05 * 3 * rpm)
    assert value(typed, "chip") == pytest.approx(0.05)
    op = typed.setups[0].operations[1]
    assert (op.cutting_speed_m_min, op.rpm, op.feed_per_tooth_mm, op.proven_in) == (
        200.0,
        None,
        0.05,
        "en-aw-6082",
    )
    per_turn = changed(typed, "operation:rough", feed_per_rev_mm=0.2)
    assert per_turn.setups[0].operations[1].feed_per_tooth_mm is None
    assert value(per_turn, "feed") == pytest.approx(0.2 * rpm)
    turns = changed(typed, "operation:rough", rpm=5000.0)
    assert turns.setups[0].operations[1].cutting_speed_m_min is None
    with pytest.raises(
        EditRefused, match=r"Cutting_speed_m_min is 200; it must be empty where rpm is typed"
    ):
        apply(
            good(),
            [Change(on="operation:rough", fields={"rpm": 5000.0, "cutting_speed_m_min": 200.0})],
        )


@pytest.mark.parametrize(
    ("major", "pitch", "name"),
    [
        (8.0, 1.25, "M8"),
        (8.0, 1.0, "M8×1"),
        (5 / 16 * 25.4, 25.4 / 18, "5/16-18"),
        (0.19 * 25.4, 25.4 / 32, "#10-32"),
        (25.4, 25.4 / 8, "1-8"),
        (14.0, 2.0, "M14"),
        (12.7, 1.25, "M12.7×1.25"),
    ],
)
def test_threads_are_called_what_the_trade_calls_them(major, pitch, name):
    assert thread_name(major, pitch) == name


def test_number_and_letter_drills_go_by_their_names():
    assert [drill_name(mm) for mm in (0.159 * 25.4, 0.257 * 25.4, 6.8, 4.0)] == ["#21", "F", "", ""]
    letter = LIBRARY.tools["drill-6-8"].model_copy(update={"diameter_mm": 0.257 * 25.4})
    inch = replace(
        LIBRARY, tools={**LIBRARY.tools, "drill-6-8": letter}, assemblies=LIBRARY.assemblies
    )
    drilled = plan(Drill(id="d", tool="t4", on=OnFeatures(ids=("hole0", "hole1"))))
    assert result(answer(drilled, inch), "d").detail == "2 × F, {d} through"
    tapped = LIBRARY.tools["tap-m8"].model_copy(
        update={"diameter_mm": 5 / 16 * 25.4, "pitch_mm": 25.4 / 18}
    )
    assert (
        result(
            answer(plan(TAP), replace(LIBRARY, tools={**LIBRARY.tools, "tap-m8": tapped})), "tap"
        ).detail
        == "2 × 5/16-18"
    )


def test_keeping_is_for_what_is_to_be_looked_at():
    """A stop stays a stop, whatever is written to it."""
    short = changed(good(), "tool:t3", stick_out_mm=8.0)
    kept = apply(
        short,
        [
            Keep(
                on="operation:pocket", finding="reach.stick-out-short", words="it will do this once"
            )
        ],
    )
    assert finding(kept, "reach.stick-out-short").kept == ""
    assert answer(kept).count("stop") == answer(short).count("stop") > 0
