"""What adds up between places that are made at different stations: by hand, and against parts made
at random.
"""

from __future__ import annotations

import json

import numpy as np
import pytest

from machining.ask import QUESTIONS
from machining.facts.route import walk
from machining.facts.stack_up import chains
from machining.findings.finding import in_words
from machining.placing.stack_up import Link, joined, root_sum_square, worst_case
from machining.plan.zero import in_the_middle
from machining.quantities.said import Said, fill
from machining.world.part import Requirement

from .build import LIBRARY, MEMO, PART, VISE, after_fix, answer, changed, finding, ids, setup, whole
from .cases_of_the_whole import asking, of_block
from .test_stations import both_sides

FACES = {each.faces: each.id for each in of_block(PART).features if each.kind == "flat"}
ID = "size.stack-up"
SAWN = 1.0  # how much more may stand on each side of the blank


def asked(nominal=20.0, each_way=0.05, **fields):
    band = {"upper_mm": each_way, "lower_mm": -each_way}
    return Requirement(id="r", what="It", nominal_mm=nominal, **band, **fields)


THICK = asked(feature=FACES["+z"])
DEEP = asked(8.0, feature="recess")
BELOW = asked(40.0, feature="below", datum=FACES["-x"])


def made(*requirements, of=None, **station):
    """Cut from above and turned over, of a blank that is sawn up to 1 mm over on each side."""
    plan = asking(of or whole(), *requirements)
    own = {"holding": VISE.model_dump(), "zero": in_the_middle("part").model_dump()}
    plan = changed(plan, "station:st2", **own) if len(plan.stations) > 1 else plan
    plan = changed(plan, "plan", **{"stock.saw_tolerance_mm": SAWN})
    return changed(plan, "station:st2", **station) if station else plan


def only(plan):
    (chain,) = chains(walk(plan, LIBRARY, MEMO))
    return chain


def told(chain):
    return {fill(link.said.text, link.said.values): link.mm for link in chain.links}


def links(*mm):
    return [Link(f"{k}", Said(), each, "") for k, each in enumerate(mm)]


def test_a_chain_adds_up():
    """Closed form: 3, 4 and 12 are 19 at once and 13 mostly; what is met twice counts once."""
    chain = joined(links(3.0, 4.0, 0.0, 12.0))
    assert [each.mm for each in chain] == [12.0, 4.0, 3.0]
    assert (worst_case(chain), root_sum_square(chain)) == pytest.approx((19.0, 13.0))
    assert joined([*chain, chain[0].times(0.5)]) == chain


def test_two_tools_in_one_holding_are_as_close_as_their_lengths():
    """By hand: the top is faced by one, the floor cut by another: 2 lengths, twice to a place."""
    chain = only(made(DEEP))
    assert sorted(told(chain).values()) == [0.005, 0.005, 0.01, 0.01]
    assert chain.worst_mm == pytest.approx(0.03)
    assert chain.mostly_mm == pytest.approx((2 * 0.01**2 + 2 * 0.005**2) ** 0.5)
    assert ID not in ids(made(DEEP))


def test_a_diameter_measured_from_somewhere_is_no_distance():
    hole = BELOW.model_copy(update={"nominal_mm": 5.8})
    assert chains(walk(made(hole), LIBRARY, MEMO)) == []


def test_what_one_tool_makes_at_once_adds_nothing_up():
    assert chains(walk(made(asked(80.0, feature="outside")), LIBRARY, MEMO)) == []


def test_from_the_seat_a_thickness_is_what_touching_and_seat_leave():
    """By hand: a touch 0.02, a seat 0.01, the mill's length 0.01, one way to a place 0.005."""
    plan = made(THICK, **{"zero.z": {"of": "seat", "off_mm": 20.0}})
    chain = only(plan)
    assert told(chain) == {
        "Z zero of setup 2, tool touched off": 0.02,
        "the next part down on its seat in setup 2": 0.01,
        "length of T1": 0.01,
        "axes of Heron, at its bottom": 0.005,
    }
    assert chain.worst_mm == pytest.approx(0.045) and ID not in ids(plan)


def test_touched_on_the_sawn_side_it_is_as_thick_as_the_saw_leaves_it():
    plan = made(THICK)
    found = finding(plan, ID)
    assert found.severity == "stop" and found.setup == "s2"
    assert "blank’s" in in_words(found)
    fixed = after_fix(plan, found)
    assert ID not in ids(fixed)
    lies = [walk(each, LIBRARY, MEMO).stations[1].lie.key for each in (plan, fixed)]
    assert lies[0] == lies[1]


def test_against_parts_made_at_random():
    """A thousand batches, made step by step: the first blank's top is touched and what stands on it
    taken off, turned over its bottom is touched in the same way; every part is cut to that.
    """
    chain, own = only(made(THICK)), np.random.default_rng(4)

    def off(mm):
        return own.uniform(-mm, mm, 100_000)

    blank = off(SAWN / 2) + off(SAWN / 2)  # of the first one, top and bottom
    top = blank + off(0.1) + off(0.02) + off(0.01) + off(0.005)  # over its own bottom
    zero = top + off(0.1) + off(0.02)  # on that bottom, over the seat
    thick = zero + off(0.01) + off(0.005) - off(0.01)  # of a later part, on its seat
    assert np.abs(thick).max() <= chain.worst_mm
    assert thick.std() * 3**0.5 == pytest.approx(chain.mostly_mm, rel=0.01)


def test_along_the_jaws_nothing_is_known_until_a_stop_stands_there():
    plan = made(BELOW)
    found = finding(plan, ID)
    assert found.severity == "look" and "nothing stops the next part" in in_words(found)
    assert [each.label for each in found.fixes][-1] == "Find zero on every part in setup {setup}"
    held = made(BELOW, **{"holding.stop": "low", "zero.x": {"of": "stop", "off_mm": 40.0}})
    chain = only(held)
    assert told(chain) == {
        "the next part against the stop in setup 2": 0.015,
        "X zero of setup 2, edge finder": 0.01,
        "axes of Heron, at axis of the hole of 5.800 mm": 0.005,
    }  # the left end, which the stop touches, is what it is measured from


@pytest.mark.parametrize("which", ["each", "only one"])
def test_a_zero_found_on_the_part_itself_needs_no_stop(which):
    """By hand: the hole lies 32 aside and 20 along from the one that the zero is on, found along
    both: 32 and 20 of 37.7.
    """
    on = {"of": "hole", "feature": "hole0"}
    far = (32.0**2 + 20.0**2) ** 0.5
    apart = asked(far, feature="below", datum="hole0")
    plan = made(apart, **{"zero.x": on, "zero.y": on})
    assert only(plan).unknown
    plan = (
        changed(plan, "station:st2", **{"zero.each_part": True})
        if which == "each"
        else changed(plan, "plan", quantity=1)
    )
    assert told(only(plan)) == pytest.approx(
        {
            "X zero of setup 2, indicator": 0.005 * 32.0 / far,
            "Y zero of setup 2, indicator": 0.005 * 20.0 / far,
            "axes of Heron, at axis of the hole of 5.800 mm": 0.005 * 32.0 / far,
        }
    )


def test_a_zero_found_on_every_part_takes_its_time():
    once, anew = answer(made(BELOW)), answer(made(BELOW, **{"zero.each_part": True}))
    more = LIBRARY.settings.zero_s
    assert anew.one_part_s - once.one_part_s == pytest.approx(more)
    assert anew.handling_s - once.handling_s == pytest.approx(more)
    assert anew.batch_s - once.batch_s == pytest.approx(more * (made(BELOW).quantity - 1))


def test_positions_that_share_an_offset_stand_by_their_pitch():
    row = {"kind": "row", "along": "x", "count": 2, "pitch_mm": 150.0, "at_mm": (0.0, 0.0)}
    zero = {"holding.stop": "low", "zero.x": {"of": "stop", "off_mm": 40.0}}
    shared = made(BELOW, at=row, **zero)
    words = "other positions of setup 2, by the pitch"
    assert told(only(shared))[words] == 0.01
    assert words not in told(only(made(BELOW, at=row, offset_each=True, **zero)))


def test_the_middle_of_two_sides_counts_half_of_what_lies_between():
    """By hand: half of 0.5 and half of 0.5 for the blank's ends, half of both unevennesses."""
    held = made(BELOW, **{"holding.stop": "low", "zero.x": {"of": "stock", "at": "middle"}})
    seen = walk(held, LIBRARY, MEMO).stations[1]
    assert seen.lie.stock_high[0] - seen.lie.stock_low[0] == pytest.approx(84.0)  # sawn ends
    chain = told(only(held))
    assert chain["blank’s left side, on the first part"] == pytest.approx(0.25)
    assert chain["sawn left side, uneven"] == pytest.approx(0.05)


def test_places_of_two_stations_of_one_setup_are_joined_too():
    plan = asking(both_sides(), THICK)
    assert only(plan).station == "st2"


def test_a_later_setup_on_sawn_sides_is_told_and_mended_without_moving_a_cut():
    plan = made()
    found = finding(plan, "size.datum-sawn")
    assert in_words(found).startswith("X, Y and Z of its zero are found by sides")
    assert found.values["over"].value == plan.stock.saw_tolerance_mm == 1.0
    exact = plan.stock.model_copy(update={"saw_tolerance_mm": 0.0})
    unsaid = plan.model_copy(update={"stock": exact})
    assert "nobody has said how much" in in_words(finding(unsaid, "size.datum-sawn"))
    fixed = after_fix(plan, found)
    assert "size.datum-sawn" not in ids(fixed)
    before, after = answer(plan), answer(fixed)
    assert [op.time_s for op in before.setups[1].operations] == [
        op.time_s for op in after.setups[1].operations
    ]
    first = made(of=whole().model_copy(update={"setups": (setup(*whole().setups[0].operations),)}))
    assert "size.datum-sawn" not in ids(first)


def test_every_size_of_the_drawing_stands_on_a_sheet_where_its_later_end_is_made():
    """The thickness and the hole from the left end on that of the second setup; what is of nothing
    that is cut on the last.
    """
    strange = asked(3.21, feature="").model_copy(update={"id": "s", "what": "Strange"})
    plan = made(THICK, BELOW.model_copy(update={"id": "b", "what": "Below"}), strange)
    told = json.loads(QUESTIONS["sheets"](plan, LIBRARY, MEMO, notes={}))
    assert [[row["what"] for row in sheet["measure"]] for sheet in told] == [
        [],
        ["It", "Below", "Strange"],
    ]
