"""Tools that stay in a machine: what is built less, what is told, and the record as it is kept."""

from __future__ import annotations

from dataclasses import replace

import pytest
from pydantic import ValidationError

from machining.ask.magazine import magazine, staying
from machining.exchange.since import changed_since
from machining.facts import ledger
from machining.facts.batch import shares
from machining.facts.route import walk
from machining.plan.loading import loaded
from machining.world.machine import Machine
from machining.world.standing import StandingTool

from .build import LIBRARY, MEMO, after_fix, answer, changed, finding, good, ids, with_part

HERON = LIBRARY.machines["heron"]
TOOLS = {each.id: each for each in good().tools if each.machine == "heron"}
USED = {op.tool for op in good().setups[0].operations}
FIRST = TOOLS[sorted(USED)[0]]


def stays(number=FIRST.number, pocket=FIRST.pocket, of="", **fields):
    given = {"assembly": FIRST.assembly, "stick_out_mm": FIRST.stick_out_mm, **fields}
    return StandingTool(number=number, pocket=pocket, of=of, **given)


def library(*standing):
    heron = HERON.model_copy(update={"standing": standing})
    return replace(LIBRARY, machines={**LIBRARY.machines, "heron": heron})


OTHER = next(key for key in LIBRARY.assemblies if key not in {e.assembly for e in TOOLS.values()})


def built(known):
    facts = walk(good(), known, MEMO)
    taken = shares(facts, {each.id: ledger.of_setup(each, facts) for each in facts.setups})
    return taken["s1"].built


def test_what_stays_there_is_not_put_in_and_measured_again():
    plain, there = built(LIBRARY), built(library(stays()))
    assert plain.tools == len(USED) and (there.tools, there.there) == (plain.tools - 1, 1)
    spared = answer(good()).build_s - answer(good(), library(stays())).build_s
    assert spared == pytest.approx(LIBRARY.settings.tool_s)
    longer = stays(stick_out_mm=FIRST.stick_out_mm + 5.0)
    assert built(library(longer)).tools == plain.tools
    assert built(library(stays(number=70))).tools == plain.tools  # measured as another


def test_one_that_stands_under_another_number_is_offered_as_it_stands():
    known = library(stays(number=70, pocket=20))
    found = finding(good(), "route.tool-stands", known)
    assert found.message.startswith("{tool} stands in pocket {pocket}")
    used = next(t for t in after_fix(good(), found).tools if t.id == FIRST.id)
    assert (used.number, used.pocket, used.h, used.d) == (70, 20, 70, 70)
    assert "route.tool-stands" not in ids(after_fix(good(), found), known)


def test_a_pocket_in_which_another_stays_is_told():
    known = library(stays(number=60, assembly=OTHER, of="TW-9"))
    found = finding(good(), "route.pocket-taken", known)
    assert found.severity == "look" and "for TW-9" in found.message
    moved = after_fix(good(), found)
    assert "route.pocket-taken" not in ids(moved, known)
    free = next(t for t in moved.tools if t.id == FIRST.id).pocket
    assert free not in {each.pocket for each in good().tools} | {FIRST.pocket}
    assert "route.pocket-taken" not in ids(good())


def test_where_no_pocket_is_free_one_has_to_come_out():
    taken = {each.pocket for each in good().tools}
    rest = [p for p in range(1, HERON.carriers[0].pockets + 1) if p not in taken]
    full = [stays(number=100 + p, pocket=p, assembly=OTHER) for p in (*rest, FIRST.pocket)]
    found = finding(good(), "route.pocket-taken", library(*full))
    assert found.message.endswith("one that stays has to come out.") and not found.fixes
    [seen] = magazine(good(), library(*full), MEMO, "heron")
    assert (seen["free"], seen["come_out"]) == (len(taken) - len(USED), 1)


def test_a_new_tool_takes_what_stands_there_and_is_in_the_way_of_none():
    assembly = LIBRARY.assemblies[OTHER]
    here = stays(number=33, pocket=12, assembly=OTHER, stick_out_mm=assembly.stick_out_mm)
    new = loaded(good(), "heron", assembly, standing=(here,))
    assert (new.number, new.pocket) == (33, 12)
    numbers = {each.number for each in good().tools}
    low = next(n for n in range(1, 99) if n not in numbers)
    beside = stays(number=80, pocket=low, assembly=FIRST.assembly)
    assert loaded(good(), "heron", assembly, standing=(beside,)).number > low


def test_the_magazine_pocket_by_pocket():
    other = stays(number=60, pocket=19, assembly=OTHER, of="TW-9")
    [seen] = magazine(good(), library(stays(), other), MEMO, "heron")
    rows = {each["pocket"]: each for each in seen["pockets"]}
    assert len(rows) == HERON.carriers[0].pockets
    assert rows[FIRST.pocket]["there"] and rows[19]["stays"]["of"] == "TW-9"
    assert (seen["there"], seen["put_in"], seen["come_out"]) == (1, len(USED) - 1, 0)
    assert seen["free"] == len(rows) - len(USED) - 1


def test_a_job_s_tools_stay_and_come_out_again():
    other = stays(number=60, assembly=OTHER, of="TW-9")  # in a pocket of this plan
    shop = stays(number=61, pocket=20, assembly=OTHER)
    heron = HERON.model_copy(update={"standing": (other, shop)})
    kept = staying(good(), heron, "TW-1", stay=True)
    Machine.model_validate(kept.model_dump())
    assert other not in kept.standing and shop in kept.standing
    assert {each.pocket for each in kept.standing if each.of == "TW-1"} == {
        TOOLS[id].pocket for id in USED
    }
    assert staying(good(), kept, "TW-1", stay=True) == kept
    assert staying(good(), kept, "TW-1", stay=False).standing == (shop,)
    # what the shop itself keeps there is the shop's
    own = HERON.model_copy(update={"standing": (stays(),)})
    again = staying(good(), own, "TW-1", stay=True)
    assert stays() in again.standing and len(again.standing) == len(USED)


@pytest.mark.parametrize(
    ("standing", "words"),
    [
        ((stays(pocket=300),), "pocket is 300 of T"),
        ((stays(), stays(number=9)), "another tool stays in it"),
        ((stays(carrier="nose"),), "carrier is 'nose'"),
    ],
)
def test_a_magazine_that_can_not_be_is_refused(standing, words):
    with pytest.raises(ValidationError, match=words):
        Machine.model_validate({**HERON.model_dump(), "standing": standing})


def test_only_what_an_operation_uses_is_told():
    known = library(stays(number=60, assembly=OTHER))
    unused = good()
    for op in unused.setups[0].operations:
        if op.tool == FIRST.id:
            unused = changed(unused, f"operation:{op.id}", tool="")
    assert "route.pocket-taken" not in ids(unused, known)


def test_tools_left_in_a_machine_make_no_release_stale():
    """What stays there changes no value on a sheet; a spindle's power does."""
    kept = library(stays())
    assert changed_since(good(), LIBRARY, kept) == []
    [said] = changed_since(good(), LIBRARY, with_part("heron", "spindles", kept, start_s=9.0))
    assert said.startswith("machine Heron: spindles")
