"""Which side first: ranked ways to begin, each tried with its first cuts, as ready edits."""

from __future__ import annotations

from dataclasses import replace

import pytest
from pydantic import TypeAdapter

from machining.ask.beginnings import beginnings
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import Edit
from machining.world.feature import Hole, Pocket
from machining.world.part import Part, Requirement
from machining.world.stock.plate import Plate

from . import lathe
from .build import LIBRARY, MEMO, PART, RECESS, good, ids, whole

EDITS: TypeAdapter[list[Edit]] = TypeAdapter(list[Edit])


def bare(of, **fields):
    return of.model_copy(update={"setups": (), "tools": (), **fields})


def ways(of, library=LIBRARY):
    found = beginnings(of, library, MEMO)
    assert found is not None
    return found["ways"]


def test_the_side_that_reaches_and_leaves_most_comes_first():
    """The recess opens upwards, both holes both ways, the blind one downwards."""
    top, bottom = ways(bare(whole()))
    assert (top["up"], top["reached"], top["further"]) == ("+z", 3, ["bottom"])
    assert (bottom["up"], bottom["reached"], bottom["further"]) == ("-z", 3, ["top"])
    # over the jaws: all of its 20, or 15 where no more than 1 stands below to be gripped
    assert (top["sides_mm"], bottom["sides_mm"]) == (20.0, 15.0) and top["grips"]
    assert top["factor"] > LIBRARY.settings.holding_factor and top["stops"] == []
    assert top["cuts"][:2] == ["Top: Face", "Outside: Rough"]


def test_its_edits_begin_with_that_side_up_in_what_holds_it():
    of = bare(whole())
    for way in ways(of):
        begun = apply(of, EDITS.validate_python(way["edits"]))
        (station,) = begun.setups[0].stations
        assert station.orientation.up == way["up"] and station.holding is not None
        assert LIBRARY.holdings[station.holding.item].name == way["held"]
        assert not [id for id in ids(begun) if id.startswith("hold.")]


def test_the_drawing_counts_before_the_number_of_features():
    """Two holes from below against one recess that the drawing asks for."""
    below = tuple(
        Hole(
            id=f"below{k}",
            point=(x, 20.0, 0.0),
            axis="+z",
            diameter_mm=5.8,
            length_mm=8.0,
            through=False,
            opens=("-z",),
        )
        for k, x in enumerate((-20.0, 20.0))
    )
    plain = PART.model_copy(update={"typed": (RECESS, *below)})
    assert ways(bare(good(), part=plain))[0]["up"] == "-z"
    deep = Requirement(id="r", what="Recess, deep", feature="recess", nominal_mm=8.0, upper_mm=0.05)
    asked = plain.model_copy(update={"requirements": (deep,)})
    first, second = ways(bare(good(), part=asked))
    assert (first["up"], first["asked_for"], second["asked_for"]) == ("+z", 1, 0)


def test_where_all_opens_one_way_and_nothing_stands_below_nothing_else_comes_up():
    part = Part(size_mm=(80.0, 50.0, 20.0), typed=(RECESS,))
    (top,) = ways(bare(good(), part=part, stock=Plate()))
    assert top["further"] == []


def test_a_side_hole_asks_for_its_side():
    side = Hole(
        id="side",
        point=(40.0, 0.0, 10.0),
        axis="+x",
        diameter_mm=6.8,
        length_mm=12.0,
        through=False,
        opens=("+x",),
    )
    part = PART.model_copy(update={"typed": (*PART.typed, side)})
    found = {each["up"]: each for each in ways(bare(whole(), part=part))}
    assert set(found) == {"+z", "-z", "+x"}
    assert found["+z"]["further"] == ["bottom", "right side"]
    assert set(found["+x"]["further"]) == {"left side", "top", "bottom"}


def test_what_will_not_work_of_the_first_cuts_is_told_once_each_and_puts_it_back():
    """A recess from the end of the part, which stands 80 high: no tool comes down beside it."""
    across = Pocket(
        id="end",
        loops=(((35.0, -10.0, 5.0), (35.0, 10.0, 5.0), (35.0, 10.0, 15.0), (35.0, -10.0, 15.0)),),
        opens="+x",
        depth_mm=5.0,
        corner_radius_mm=4.0,
    )
    found = ways(bare(whole(), part=PART.model_copy(update={"typed": (RECESS, across)})))
    assert found[-1]["up"] == "+x" and found[-1]["stops"]
    assert len(set(found[-1]["stops"])) == len(found[-1]["stops"])


def test_what_no_vise_takes_is_clamped_down_and_what_nothing_takes_says_so():
    wide = bare(good(), part=Part(size_mm=(300.0, 250.0, 20.0), typed=()))
    for way in ways(wide):
        assert way["held"] == LIBRARY.holdings["on-table"].name and way["factor"] > 0.0
        held = apply(wide, EDITS.validate_python(way["edits"])).setups[0].stations[0].holding
        assert held.kind == "clamped"
    without = replace(LIBRARY, clamps={}, holdings={})
    for way in ways(wide, without):
        assert way["held"] == "" and way["factor"] is None


def test_it_is_drawn_as_it_lies():
    """Seen from over its left front corner a flat part is wider than high."""
    top = ways(bare(whole()))[0]
    xs = [x for a, _, b, _ in top["lines"] for x in (a, b)]
    ys = [y for _, a, _, b in top["lines"] for y in (a, b)]
    assert max(xs) - min(xs) > max(ys) - min(ys) > 20.0


@pytest.mark.parametrize("of", [whole(), bare(lathe.plan())], ids=["has setups", "turned"])
def test_nobody_is_asked_where_it_has_begun_or_begins_at_an_end(of):
    assert beginnings(of, lathe.LIBRARY, Memo()) is None
