"""A collet: what it closes on, what it stands against a cut by hand, and what is said of it."""

from __future__ import annotations

import numpy as np
import pytest

from machining.drawing.holding import holding_drawing
from machining.facts import holdings
from machining.facts.route import walk
from machining.holding.cut import Pushes
from machining.holding.held import factor
from machining.plan.holding import InCollet
from machining.plan.trade import Hold
from machining.ways.trade import structural
from machining.world.workholding import Collet

from .build import changed, finding
from .lathe import FACE, LIBRARY, MEMO, ROUGH, STOCK, answer, ids, plan, setup

COLLET = LIBRARY.holdings["collet-32"]
HELD = InCollet(collet="collet-32", grip_mm=30.0)
BAR = STOCK.model_copy(update={"diameter_mm": 32.0})
# a light contour on the bar
LIGHT = ROUGH.model_copy(
    update={"on": ROUGH.on.model_copy(update={"at_mm": ((0.0, 28.0), (-30.0, 28.0))})}
)


def held(*operations, holding=HELD, stock=BAR, **fields):
    return plan(setups=(setup(*operations, holding=holding),), stock=stock, **fields)


def figures(of, operation: str) -> dict[str, float]:
    return {
        name.partition(".")[2]: figure.value
        for name, figure in answer(of).figures.items()
        if name.startswith(f"{operation}.")
    }


def test_it_stands_what_its_ring_holds_by_hand():
    """A twist by its friction all round; a closed ring is thrown out by no speed."""
    assert isinstance(COLLET, Collet)
    op = walk(held(FACE, LIGHT), LIBRARY, MEMO).operations()[1]
    found = op.seen.held
    assert found.share == 1.0 and found.contacts.groups == {"collet": COLLET.force_n}
    length = found.contacts.length_mm
    twist = Pushes(np.array([[0, 0, 1.0]]), np.array([[0, 0, 0, 0, 0, 10_000.0 / length]]))
    by_hand = COLLET.force_n * COLLET.friction * 0.016 / 10.0
    assert factor(found.contacts, twist).factor == pytest.approx(by_hand, rel=1e-6)
    assert "centrifugal" not in op.figures


def test_a_weak_one_slips_and_says_so():
    weak = COLLET.model_copy(update={"force_n": 900.0})
    library = type(LIBRARY)(
        **{
            name: getattr(LIBRARY, name)
            for name in ("materials", "tools", "holders", "assemblies", "machines", "geometries")
        },
        holdings={**LIBRARY.holdings, "collet-32": weak},
    )
    found = finding(held(FACE, LIGHT), "hold.slips", library)
    assert found.severity == "stop" and found.message.startswith("The collet stands {factor}")


@pytest.mark.parametrize(
    ("holding", "stock", "words"),
    [
        (HELD, STOCK, "from 31.5 to 32, what collet 32 closes on"),
        (HELD.model_copy(update={"grip_mm": 55.0}), BAR, "up to 40, the length of the collet"),
        (HELD.model_copy(update={"collet": "collet-9"}), BAR, "no collet 'collet-9'"),
    ],
)
def test_what_it_does_not_hold_is_unknown_with_its_reason(holding, stock, words):
    assert (
        words
        in answer(held(FACE, holding=holding, stock=stock)).setups[0].stations[0].unknown["hold"]
    )


def test_its_nose_stands_in_the_way_like_jaws():
    """A cut down into what the collet grips is stopped."""
    deep = LIGHT.model_copy(
        update={"on": LIGHT.on.model_copy(update={"at_mm": ((0.0, 28.0), (-75.0, 28.0))})}
    )
    assert "hold.jaw-in-cut" in ids(held(FACE, deep))
    assert "hold.jaw-in-cut" not in ids(held(FACE, LIGHT))


def test_a_mill_takes_none():
    away = changed(held(FACE), "setup:s1", machine="heron")
    assert "does not turn the part: a collet" in answer(away).setups[0].stations[0].unknown["hold"]


def test_it_is_offered_chosen_drawn_and_told_without_another_word():
    nothing = held(FACE, holding=None)
    fixes = [fix.label for fix in finding(nothing, "hold.none-chosen", LIBRARY).fixes]
    assert "Hold it in the {collet}" in fixes
    edits = structural(nothing, LIBRARY, MEMO, [Hold(station="st1", item="collet-32")])
    assert edits[0].fields["holding"]["grip_mm"] == 32.0  # 0.8 of its length
    facts = walk(held(FACE), LIBRARY, MEMO)
    assert "Into the collet" in holding_drawing(facts.setups[0].first, facts)
    told = answer(held(FACE)).setups[0].stations[0]
    assert told.held is not None and told.held["name"] == "collet 32"
    assert {"key": "collet-32", "name": "collet 32"} in told.takes
    lying = holdings.Lying("Load the blank", "Top out", 67.0, None, False, 5000.0, "", "")
    words = holdings.kind_of(HELD).words(HELD, COLLET, lying)
    assert "the collet's maker allows" in " ".join(words.caution.text.split())
