"""What a size is measured from, and what the part is located on where it is cut."""

from __future__ import annotations

import pytest

from machining.plan.apply import apply
from machining.plan.zero import From

from .build import PART, changed, finding, ids, whole
from .cases_of_the_whole import FROM_ITS_RIGHT, asking, of_block

ID = "size.datum-function"
FACES = {each.faces: each.id for each in of_block(PART).features if each.kind == "flat"}
ON_HOLE = From(of="hole", feature="hole0").model_dump()


def asked(of=None, **fields):
    return asking(of or whole(), FROM_ITS_RIGHT.model_copy(update=fields))


@pytest.mark.parametrize(
    ("side", "told"),
    [("+x", True), ("-x", False), ("+y", True), ("-y", False), ("-z", False), ("+z", False)],
)
def test_in_the_second_setup_it_lies_on_its_top_and_against_the_fixed_jaw(side, told):
    """Bottom up with its front at the fixed jaw and its left end at the stop; the bottom is cut
    here, the top lies below.
    """
    assert (ID in ids(asked(datum=FACES[side]))) == told


def test_a_zero_on_the_face_settles_it_and_is_offered():
    found = finding(asked(), ID)
    (fix,) = found.fixes
    after = apply(asked(), fix.edits)
    assert ID not in ids(after)
    zero = after.setups[1].stations[0].zero
    assert (zero.x.of, zero.x.at) == ("part", "high")  # turned over about X its right stays


def test_a_hole_it_is_measured_from_carries_the_zero_or_is_made_in_the_same_setup():
    from_hole = asked(datum="hole0")
    assert ID in ids(from_hole)
    on_it = changed(from_hole, "station:st2", **{"zero.x": ON_HOLE, "zero.y": ON_HOLE})
    assert ID not in ids(on_it)
    here = asking(whole(), FROM_ITS_RIGHT.model_copy(update={"feature": "hole1", "datum": "hole0"}))
    assert ID not in ids(here)


def test_what_nobody_measures_from_or_cuts_is_not_asked():
    assert ID not in ids(asked(datum=""))
    assert ID not in ids(asked(feature="gone"))
