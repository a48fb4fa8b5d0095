"""What a machine has not: coolant, pockets, a table that carries the load; by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest
from shapely import unary_union

from machining.ask.trying import keeps_its_word
from machining.evaluate import evaluate
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.plan.apply import apply
from machining.plan.at import Row, Spots
from machining.plan.edit import Change, LoadTool
from machining.quantities.said import fill
from machining.world.capability import tilting, turns_work

from .build import (
    FACE,
    GOOD,
    LIBRARY,
    MEMO,
    after_fix,
    answer,
    changed,
    finding,
    good,
    ids,
    on_machine,
    plan,
    rig,
    setup,
    tool,
    with_part,
    with_settings,
)
from .test_sheet import sheets_of


def with_heron(**fields):
    heron = LIBRARY.machines["heron"].model_copy(update=fields)
    return replace(LIBRARY, machines={**LIBRARY.machines, "heron": heron})


def told(of, id, library=LIBRARY):
    return next(f for f in answer(of, library).findings if f.id == id)


def test_who_turns_and_who_tilts():
    turning = {key for key, each in LIBRARY.machines.items() if turns_work(each)}
    assert turning == {"plover", "gannet"} and not turns_work(None)
    assert {key for key in LIBRARY.machines if tilting(rig(key)) is not None} == {"petrel"}
    without = with_part("petrel", "places", rotaries=rig("petrel").place.rotaries[:1])
    assert tilting(rig("petrel", without)) is None and rig("petrel", without).turns_to_sides


def test_a_coolant_the_machine_does_not_bring_is_a_stop():
    through = changed(good(), "operation:drill", coolant="through")
    has = LIBRARY.machines["heron"].coolant
    assert "through" not in has
    found = finding(through, "cut.coolant")
    assert found.severity == "stop" and "coolant through the tool" in in_words(found)
    assert len(found.fixes) == len(has)
    for place in range(len(found.fixes)):
        assert "cut.coolant" not in ids(after_fix(through, found, place))
    dry = changed(good(), "operation:drill", coolant="none")
    assert "cut.coolant" not in [f.id for f in answer(dry, with_heron(coolant=("flood",))).findings]


def test_two_tools_do_not_stand_in_one_pocket():
    twice = apply(good(), [Change(on="tool:t3", fields={"pocket": 2})])
    found = finding(twice, "route.pocket-twice")
    assert in_words(found) == "T3 stands in pocket 2, where T2 is."
    moved = after_fix(twice, found, 0)
    assert moved.tool("t3").pocket == 3 and "route.pocket-twice" not in ids(moved)
    assert not answer(twice).ready


def test_a_pocket_that_is_not_there():
    far = apply(good(), [Change(on="tool:t3", fields={"pocket": 25})])
    found = finding(far, "route.tools-over")
    assert in_words(found) == "T3 stands in pocket 25; Heron has 24."
    assert after_fix(far, found, 0).tool("t3").pocket == 3


def test_more_tools_than_pockets_and_what_nothing_uses():
    spare = apply(good(), [LoadTool(tool=tool(30, "face-mill-50"))])
    library = with_part("heron", "carriers", pockets=len(good().tools))
    found = told(spare, "route.tools-over", library)
    assert "loads 7 tools on Heron, which has 6 pockets" in in_words(found)
    fewer = apply(spare, found.fixes[0].edits)
    left = [f for f in answer(fewer, library).findings if f.id.startswith("route.")]
    assert left == []
    used = {op.tool for op in good().setups[0].operations}
    all_used = good().model_copy(
        update={"tools": tuple(each for each in good().tools if each.id in used)}
    )
    assert told(all_used, "route.tools-over", with_part("heron", "carriers", pockets=2)).fixes == ()


def test_where_pockets_are_lacking_one_tool_does_for_others():
    """Five tools for four pockets: an end mill of 8 also does what the one of 12 is loaded for."""
    used = {op.tool for op in good().setups[0].operations}
    full = good().model_copy(update={"tools": tuple(t for t in good().tools if t.id in used)})
    library = with_part("heron", "carriers", pockets=len(used) - 1)
    found = told(full, "route.tools-over", library)
    words = {fill(each.label, each.values): each for each in found.fixes}
    shared = words["Use T3 for what T2 does too"]
    then = apply(full, shared.edits)
    assert "t2" not in {each.id for each in then.tools}
    assert {op.id for op in then.setups[0].operations if op.tool == "t3"} == {
        op.id for op in full.setups[0].operations if op.tool in ("t2", "t3")
    }
    assert "route.tools-over" not in {f.id for f in answer(then, library).findings}
    assert not any("T5" in each for each in words)  # nothing else taps


def test_a_tool_must_fit_its_magazine():
    """The face mill is Ø 50; an end mill that stands out 58 of a holder of 80 is 138 long."""

    def limited(**most):
        return with_part("heron", "carriers", **most)

    wide = told(good(), "travel.tool-size", limited(max_tool_diameter_mm=49.9))
    assert (wide.severity, wide.operation, wide.values["has"].value) == ("stop", "face", 50.0)
    as_wide = answer(good(), limited(max_tool_diameter_mm=50.0))
    assert "travel.tool-size" not in {f.id for f in as_wide.findings}

    library = limited(max_tool_length_mm=137.0)
    out = changed(good(), "tool:t2", stick_out_mm=58.0)
    long = told(out, "travel.tool-size", library)
    assert (long.operation, long.values["has"].value) == ("rough", 138.0)
    assert long.fixes[0].values["less"].value == 57.0
    mended = answer(apply(out, long.fixes[0].edits), library)
    assert "travel.tool-size" not in {f.id for f in mended.findings}
    # of every operation that uses it, whatever is wrong with the first of them
    users = [op.id for op in GOOD if op.tool == "t2"]
    assert len(users) == 2
    assert [f.operation for f in answer(out, library).findings if f.id == long.id] == users
    elsewhere = changed(out, f"operation:{users[0]}", tool="")
    assert [f.operation for f in answer(elsewhere, library).findings if f.id == long.id] == [
        users[1]
    ]


def test_a_table_that_carries_the_load_and_one_that_does_not():
    """A blank 84 x 54 x 29 of aluminium is 0.355 kg, the vise 32."""
    blank = 84.0 * 54.0 * 29.0 * LIBRARY.materials["en-aw-6082"].density_kg_dm3 / 1e6
    vise = LIBRARY.vises["vise-125"].mass_kg
    three = plan(setups=(setup(FACE, at=Row(count=3, pitch_mm=140.0)),))
    weighs = 3.0 * (blank + vise)
    over = told(three, "travel.table-load", with_part("heron", "places", load_kg=weighs - 0.1))
    assert over.values["mass"].value == pytest.approx(weighs)
    light = answer(three, with_part("heron", "places", load_kg=weighs + 0.1))
    assert "travel.table-load" not in {f.id for f in light.findings}


def test_a_vise_longer_than_its_table_is_to_be_looked_at():
    """380 along Y on a table 160 deep; turned, it lies along the 550 of X."""
    small = on_machine(plan(*GOOD), "dunlin")
    found = finding(small, "travel.table-size")
    assert (found.severity, found.values["needs"].value, found.values["has"].value) == (
        "look",
        380.0,
        160.0,
    )
    kept = answer(after_fix(small, found, 0))
    assert all(f.kept for f in kept.findings if f.id == "travel.table-size")
    turned = changed(small, "station:st1", holding__fixed="+x")
    assert "travel.table-size" not in ids(turned)
    row = plan(setups=(setup(FACE, at=Row(count=7, pitch_mm=140.0)),))
    assert finding(row, "travel.table-size").values["needs"].value == 6 * 140.0 + 125.0


@pytest.mark.parametrize(("axis", "half"), [(0, 450.0), (1, 250.0)], ids="xy")
def test_a_vise_whose_middle_is_off_the_table_has_nothing_to_be_bolted_to(axis, half):
    """A table 900 x 500; moved back so that its middle is over it, it only stands out."""
    station = walk(good(), LIBRARY, MEMO).stations[0]
    bed = unary_union([each.region for each in station.stand.of("bed")]).bounds
    part = (station.lie.stock_low + station.lie.stock_high)[axis] / 2.0
    own = (bed[axis] + bed[axis + 2]) / 2.0 - part

    def at(over):
        spot = [0.0, 0.0]
        spot[axis] = half + over - own
        return plan(setups=(setup(FACE, at=Spots(at_mm=(tuple(spot),))),))

    found = finding(at(12.5), "travel.table-size")
    assert (found.severity, found.values["by"].value) == ("stop", pytest.approx(12.5))
    assert found.values["letter"].value == "XY"[axis]
    assert finding(at(-0.5), "travel.table-size").severity == "look"
    moved = keeps_its_word(
        found.fixes[0], found, at(12.5), answer(at(12.5)), lambda of: evaluate(of, LIBRARY, MEMO)
    )
    assert moved is not None and moved.open
    assert {f.severity for f in moved.open if f.id == "travel.table-size"} == {"look"}
    look = finding(moved_plan := after_fix(at(12.5), found), "travel.table-size")
    whole_on_it = after_fix(moved_plan, look)
    assert "travel.table-size" not in ids(whole_on_it)
    (spot,) = whole_on_it.stations[0].at.spots
    end = half - (bed[axis + 2] - bed[axis]) / 2.0 - own
    assert end - 1.0 < spot[axis] <= end  # no farther than it has to
    assert look.fixes[-1].label.startswith("Keep it")


@pytest.mark.parametrize(("limit", "told"), [(0.35, True), (0.36, False)])
def test_a_part_that_is_heavy_for_one_person_says_so_on_its_sheet(limit, told):
    """84 x 54 x 29 mm of aluminium are 0.355 kg."""
    library = with_settings(lift_kg=limit)
    found = [f for f in answer(good(), library).findings if f.id == "travel.lift"]
    assert [f.severity for f in found] == ["note"] * told
    (sheet,) = sheets_of(good(), library)
    assert [row["where"] for row in sheet["care"]].count("Weight.") == told
    assert sheet["weight"].startswith("0.35") or sheet["weight"].startswith("0.36")
