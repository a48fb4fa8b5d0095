"""Holes that lie apart across the axis a distance is measured along, on axes out of square."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.facts.route import walk
from machining.facts.stack_up import chains
from machining.plan.places import OnFeatures
from machining.quantities.said import fill
from machining.world.feature import Hole
from machining.world.part import Requirement
from machining.world.trued import Square

from .build import DRILL, LIBRARY, MEMO, PART, TOOLS, answer, good, plan
from .build import GOOD as OPERATIONS

HERON = LIBRARY.machines["heron"]
ASKEW = HERON.model_copy(update={"square": (Square(off_mm=0.03, over_mm=150.0),)})
LIBRARY_ASKEW = replace(LIBRARY, machines={**LIBRARY.machines, "heron": ASKEW})
FIRST, SECOND = (each for each in PART.typed if isinstance(each, Hole) and each.id[:4] == "hole")


def asked(band_mm, **typed):
    """The distance of both holes, drilled with one tool in one holding."""
    apart = [b - a for a, b in zip(FIRST.point, typed.get("at", SECOND.point), strict=True)]
    far = (apart[0] ** 2 + apart[1] ** 2) ** 0.5
    wanted = Requirement(
        id="pitch",
        what="hole to hole",
        feature=SECOND.id,
        datum=FIRST.id,
        nominal_mm=round(far, 3),
        upper_mm=band_mm / 2.0,
        lower_mm=-band_mm / 2.0,
    )
    moved = tuple(
        each.model_copy(update={"point": typed["at"]}) if "at" in typed and each is SECOND else each
        for each in PART.typed
    )
    part = PART.model_copy(update={"requirements": (wanted,), "typed": moved})
    return plan(*OPERATIONS, part=part)


def chains_of(of, library):
    return chains(walk(of, library, MEMO))


def test_made_at_once_nothing_adds_up_on_axes_that_are_square_or_that_nobody_read():
    assert chains_of(asked(0.02), LIBRARY) == []


def test_apart_across_it_they_are_off_by_so_much_on_each_mm():
    """0.03 over 150 are 0.2 µm on each mm; the distance is off by that, times Δx·Δy over it."""
    at = (FIRST.point[0] + 30.0, FIRST.point[1] + 40.0, FIRST.point[2])
    (chain,) = chains_of(asked(0.02, at=at), LIBRARY_ASKEW)
    assert chain.worst_mm == pytest.approx(0.03 / 150.0 * 30.0 * 40.0 / 50.0)
    assert "out of square" in fill(chain.links[0].said.text, chain.links[0].said.values)


def test_along_one_axis_alone_nothing_is_off():
    at = (FIRST.point[0] + 30.0, FIRST.point[1], FIRST.point[2])
    assert chains_of(asked(0.02, at=at), LIBRARY_ASKEW) == []


@pytest.mark.parametrize(("of", "off", "share"), [("x z", 30.0, 0.6), ("y z", 40.0, 0.8)])
def test_holes_that_open_at_other_heights_are_off_by_what_z_leans(of, off, share):
    """0.03 over 150 on each of 12 mm of height; along X and along Y each has its share of the
    distance.
    """
    leans = HERON.model_copy(update={"square": (Square(of=of, off_mm=0.03, over_mm=150.0),)})
    library = replace(LIBRARY, machines={**LIBRARY.machines, "heron": leans})
    x, y, z = FIRST.point
    (chain,) = chains_of(asked(0.02, at=(x + 30.0, y + 40.0, z - 12.0)), library)
    assert chain.worst_mm == pytest.approx(0.03 / 150.0 * 12.0 * share)
    assert "of Z" in fill(chain.links[0].said.text, chain.links[0].said.values)
    assert off / 50.0 == share
    assert chains_of(asked(0.02, at=(x + 30.0, y + 40.0, z)), library) == []


def test_a_longer_tool_stands_for_the_spindle_higher_up():
    """The second hole by a drill that sticks out 25 more: the slide is 25 higher for it."""
    leans = HERON.model_copy(update={"square": (Square(of="x z", off_mm=0.03, over_mm=150.0),)})
    library = replace(LIBRARY, machines={**LIBRARY.machines, "heron": leans})
    of, short = asked(0.02), next(each for each in TOOLS if each.id == "t4")
    longer = short.model_copy(
        update={"id": "t9", "number": 9, "pocket": 9, "stick_out_mm": short.stick_out_mm + 25.0}
    )
    one, other = (
        DRILL.model_copy(update={"id": id, "tool": tool, "on": OnFeatures(ids=(hole.id,))})
        for id, tool, hole in (("one", "t4", FIRST), ("other", "t9", SECOND))
    )
    each = plan(one, other, part=of.part, tools=(*TOOLS, longer))
    [chain] = chains_of(each, library)
    [link] = [link for link in chain.links if link.key.startswith("square")]
    assert link.mm == pytest.approx(0.03 / 150.0 * 25.0)


def test_where_it_is_too_much_it_is_told():
    at = (FIRST.point[0] + 30.0, FIRST.point[1] + 40.0, FIRST.point[2])
    found = [f.id for f in answer(asked(0.008, at=at), LIBRARY_ASKEW).findings]
    assert "size.stack-up" in found
    assert "size.stack-up" not in [f.id for f in answer(good(), LIBRARY_ASKEW).findings]


def test_a_reading_that_no_square_gives_is_refused():
    with pytest.raises(ValueError, match="off_mm is 3; it must be at most 1.5"):
        Square(off_mm=3.0, over_mm=150.0)
