"""Which tool a shop lacks for a hole or a pocket, and by how much. It has drills of Ø 5.8, 6.8
(95 deep), 8.5 (61), 9.8, 19 and 20, and square mills from Ø 6 (20 deep) to Ø 16 (44).
"""

from __future__ import annotations

import json
from dataclasses import replace

import pytest

from machining.ask import offered
from machining.memo import Memo
from machining.quantities.said import Shown, fill
from machining.ways.no_tool import no_tool
from machining.world.feature import Boss, Hole, Pocket
from machining.world.part import Part

from .build import HOLES, LIBRARY, plan

BARE = replace(LIBRARY, assemblies={})


def hole(diameter, deep, around=""):
    at = {"id": "h", "point": (0, 0, 0), "axis": "+z"}
    return Hole(**at, diameter_mm=diameter, length_mm=deep, through=not around, around=around)


def pocket(corner, deep, wide=20.0, **more):
    """40 long."""
    y = wide / 2.0
    loop = ((-20, -y, 5), (20, -y, 5), (20, y, 5), (-20, y, 5))
    at = {"id": "p", "loops": (loop,), "opens": "+z"}
    return Pocket(**at, depth_mm=deep, corner_radius_mm=corner, **more)


def said(feature, library=LIBRARY):
    found = no_tool(feature, library)
    return fill(found.text, found.values) if found is not None else None


@pytest.mark.parametrize(
    ("feature", "words"),
    [
        (hole(8.5, 60), None),
        (hole(8.5, 62), "With drill 8.5 it can be drilled 61.0 mm deep; it is 62.0 mm."),
        # a reamer of Ø 6 follows a drill of Ø 5.8
        (hole(6.0, 30), None),
        (hole(6.0, 45), "With drill 5.8 it can be drilled 44.0 mm deep; it is 45.0 mm."),
        # a mill of Ø 6 goes round in it, and down 20
        (hole(8.0, 20), None),
        (
            hole(8.0, 40),
            "The shop has no drill of Ø 8.0 mm: the nearest are Ø 6.8 mm and Ø 8.5 mm."
            " Mills that go in cut 20.0 mm deep; it is 40.0 mm.",
        ),
        (
            hole(3.0, 10),
            "The shop has no drill of Ø 3.0 mm: the nearest are Ø 5.8 mm and Ø 6.8 mm."
            " No mill is small enough to go in.",
        ),
        (
            hole(4.25, 10),
            "The shop has no drill of Ø 4.250 mm: the nearest are Ø 5.8 mm and Ø 6.8 mm."
            " No mill is small enough to go in.",
        ),
        # a counterbore is milled, by what goes down in it
        (hole(6.5, 8, "other"), None),
        (
            hole(5.5, 8, "other"),
            "The smallest mill of the shop has Ø 6.0 mm; Ø 5.5 mm would go in.",
        ),
        (pocket(3.0, 20), None),
        (pocket(3.0, 21), "Mills that go in cut 20.0 mm deep; it is 21.0 mm."),
        (
            pocket(1.5, 4),
            "The smallest mill of the shop has Ø 6.0 mm; its corners ask for Ø 3.0 mm at most.",
        ),
        (pocket(0.0, 4, 5.0), "The smallest mill of the shop has Ø 6.0 mm; Ø 5.0 mm would go in."),
        # what leaves its fillet is another matter
        (pocket(1.5, 4, floor_radius_mm=1.0), None),
    ],
)
def test_the_tool_that_is_missing_is_named_by_what_the_shop_has(feature, words):
    assert said(feature) == words


def test_of_tools_that_can_not_be_loaded_there_are_none():
    assert said(hole(8.5, 60), BARE) == "The shop has no drill. No mill is small enough to go in."
    assert said(pocket(3.0, 20), BARE) == "No mill is small enough to go in."
    one = {"drill-8-5": LIBRARY.assemblies["drill-8-5"]}
    assert said(hole(6.8, 9), replace(LIBRARY, assemblies=one)).startswith(
        "The shop has no drill of Ø 6.8 mm: the nearest is Ø 8.5 mm."
    )


def test_what_a_reamer_follows_is_missing_too():
    rest = {key: each for key, each in LIBRARY.assemblies.items() if each.tool != "drill-5-8"}
    assert said(hole(6.0, 30), replace(LIBRARY, assemblies=rest)) == (
        "reamer 6 H7 takes it to its size, but the shop has no drill of Ø 5.1 mm to Ø 6.0 mm"
        " that goes before it."
    )


def test_what_is_neither_hole_nor_pocket_is_another_matter():
    assert said(Boss(id="b", point=(0, 0, 0), axis="+z", diameter_mm=3, length_mm=5)) is None


def test_an_offer_without_a_tool_says_which_is_missing():
    """Of Ø 6.5 a narrower drill is offered and no mill; what takes it to its size is missing."""
    narrow, none = (
        HOLES[k].model_copy(update={"diameter_mm": d}) for k, d in enumerate((6.5, 2.2))
    )
    part = Part(size_mm=(80.0, 50.0, 20.0), typed=(narrow, none))
    told = json.loads(offered(plan(part=part), LIBRARY, Memo(), "s1"))
    assert all(each["lacks"] is None for each in told if each["tool"])
    lacks = {(each["group"], each["label"]): each["lacks"] for each in told if not each["tool"]}
    for where, size in (("1 × Ø6.5 through", "6.5"), ("1 × Ø2.2 through", "2.2")):
        said = lacks[where, "Mill"]
        words = fill(said["text"], {name: Shown(**of) for name, of in said["values"].items()})
        assert words.startswith(f"The shop has no drill of Ø {size} mm: the nearest are Ø")
