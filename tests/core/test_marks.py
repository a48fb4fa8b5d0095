"""What bites or presses on what is finished already, and what does not."""

from __future__ import annotations

import pytest

from machining.evaluate import evaluate
from machining.facts.marks import marked
from machining.facts.route import walk
from machining.plan.apply import apply
from machining.world.part import Requirement

from . import clamped
from .build import LIBRARY, MEMO, POCKET, changed, good, whole
from .test_soft_jaws import LIBRARY as LATHES
from .test_soft_jaws import MEMO as TURNED
from .test_soft_jaws import of as bushing

ID = "hold.marks"


def told(plan, library=LIBRARY, memo=MEMO):
    return [each for each in evaluate(plan, library, memo).findings if each.id == ID]


def asking(plan, feature, finish):
    fine = Requirement(id="fine", what="seat", feature=feature, finish_um=finish)
    return plan.model_copy(update={"part": plan.part.model_copy(update={"requirements": (fine,)})})


def hard():
    return changed(bushing(), "station:st2", holding__chuck="chuck-200", holding__grip_mm=18.0)


def test_hard_jaws_bite_into_what_was_turned_before_and_soft_ones_do_not():
    assert told(bushing(), LATHES, TURNED) == []
    (found,) = told(hard(), LATHES, TURNED)
    assert found.severity == "look" and found.setup == "s2"
    soft = apply(hard(), found.fixes[0].edits)
    assert soft.station("st2").in_chuck.bored_mm == 60.0
    assert told(soft, LATHES, TURNED) == []
    assert {each.id for each in evaluate(soft, LATHES, TURNED).open} <= {"hold.first-run"}


def test_on_the_raw_bar_nothing_is_marked():
    first, _ = walk(hard(), LATHES, TURNED).stations
    assert marked(first, walk(hard(), LATHES, TURNED)) == []


def test_where_the_spigot_is_still_to_be_cut_nothing_is_finished():
    """With the finishing cuts of the first setup left out 0.3 stands on it."""
    plan = hard()
    first = plan.setups[0].model_copy(update={"operations": plan.setups[0].operations[:3]})
    rough = plan.model_copy(update={"setups": (first, plan.setups[1])})
    assert told(rough, LATHES, TURNED) == []


@pytest.mark.parametrize(("finish", "count"), [(1.6, 1), (6.3, 0)])
def test_smooth_jaws_press_only_where_a_fine_finish_is_asked(finish, count):
    plan = whole()
    side = next(
        each.id
        for each in walk(plan, LIBRARY, MEMO).geometry.features
        if each.kind == "flat" and each.faces == "+y"
    )
    found = told(asking(plan, side, finish))
    assert len([each for each in found if each.setup == "s2"]) == count
    for each in found:
        assert each.values["finish"].value == finish


def test_teeth_of_a_clamp_beside_it_bite_where_it_is_cut_already():
    """On the blank as it comes they may."""
    beside = clamped.ON_TABLE.model_copy(
        update={"clamps": (clamped.edge("c1", "-x"), clamped.edge("c2", "+x"))}
    )
    assert told(clamped.held_by(beside, POCKET)) == []
    assert told(good()) == []


def test_words_keep_it():
    (found,) = told(hard(), LATHES, TURNED)
    kept = apply(hard(), found.fixes[-1].edits)
    (again,) = told(kept, LATHES, TURNED)
    assert again.kept
