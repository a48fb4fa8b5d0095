"""What a figure would be: the chain worked out anew, and what ten per cent more of each input does
to it.
"""

from __future__ import annotations

import pytest

from machining.facts.what_if import leaves, sensitivity, what_if
from machining.quantities.errors import Missing, OutOfRange

from .build import answer, changed, good

FIGURES = answer(good()).figures
WIDTH = next(leaf for leaf in leaves(FIGURES, "outside.power") if leaf[0] == "width")


def test_nothing_changed_gives_the_figures_as_they_are():
    for figure in FIGURES.values():
        for id, value in what_if(FIGURES, figure.id, {}).items():
            assert value == pytest.approx(FIGURES[id].value, rel=1e-12), id


def test_a_width_changes_in_every_place_it_enters():
    """As if the plan's width and feed had been typed: the same power as the plan with that width
    gives, where so much stands.
    """
    feed = FIGURES["outside.feed"].value
    typed = answer(changed(good(), "operation:outside", width_mm=0.32, feed_mm_min=feed)).figures
    assert what_if(FIGURES, "outside.power", {WIDTH: 0.32})["outside.power"] != pytest.approx(
        FIGURES["outside.power"].value
    )
    fixed = answer(changed(good(), "operation:outside", feed_mm_min=feed)).figures
    width = next(leaf for leaf in leaves(fixed, "outside.power") if leaf[0] == "width")
    assert what_if(fixed, "outside.power", {width: 0.32})["outside.power"] == pytest.approx(
        typed["outside.power"].value, rel=1e-9
    )


def test_ten_per_cent_more_of_each():
    factors = {name: factor for (name, _), factor in sensitivity(FIGURES, "outside.power").items()}
    assert factors["depth"] == pytest.approx(1.1)
    assert factors["kc11"] == pytest.approx(1.1)
    assert factors["efficiency"] == pytest.approx(1 / 1.1)
    assert 1.0 < factors["mc"] < 1.2  # thinner than a millimetre: a larger exponent cuts harder


def test_what_is_not_there_and_what_cannot_be():
    with pytest.raises(Missing):
        what_if(FIGURES, "rough.nothing", {})
    with pytest.raises(OutOfRange):
        what_if(FIGURES, "outside.power", {WIDTH: 50.0})
