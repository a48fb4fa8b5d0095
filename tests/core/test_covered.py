"""How far each place of the part is, and which operations cut it."""

from __future__ import annotations

import json

import numpy as np
import pytest

from machining.ask import QUESTIONS
from machining.facts.covered import covered
from machining.facts.route import walk
from machining.geometry.mesh import by_creases
from machining.geometry.solids import bar, block, to_mesh
from machining.geometry.standing import spots_on, standing_over
from machining.memo import Memo
from machining.quantities.said import fill
from machining.world.part import Requirement

from . import build, lathe
from .build import FACE, LIBRARY, MEMO, ROUGH, plan, whole

BLOCK = block([0, 0, 0], [30, 20, 10])


def places(of, library=LIBRARY):
    return {
        fill(each.where.text, each.where.values) + f" {each.feature}".rstrip(): each
        for each in covered(walk(of, library, MEMO), MEMO)
    }


def of_feature(of, feature, library=LIBRARY):
    return next(each for each in places(of, library).values() if each.feature == feature)


def test_spots_lie_on_their_faces_and_look_outwards():
    mesh = by_creases(to_mesh(BLOCK))
    spots, outwards, faces = spots_on(mesh)
    assert len(np.unique(faces)) == 6
    for spot, way in zip(spots, outwards, strict=True):
        axis = int(np.abs(way).argmax())
        assert spot[axis] == pytest.approx((30, 20, 10)[axis] if way[axis] > 0 else 0)
    assert np.allclose(np.linalg.norm(outwards, axis=1), 1.0)


def test_what_stands_over_a_place_is_how_far_the_stock_goes_on():
    mesh = by_creases(to_mesh(BLOCK))
    spots, outwards, _ = spots_on(mesh)
    stock = to_mesh(block([-2, -3, -4], [31, 20, 16]))
    over = standing_over(spots, outwards, stock)
    sides = {(0, 1): 1.0, (0, -1): 2.0, (1, 1): 0.0, (1, -1): 3.0, (2, 1): 6.0, (2, -1): 4.0}
    for found, way in zip(over, outwards, strict=True):
        axis = int(np.abs(way).argmax())
        assert found == pytest.approx(sides[axis, int(np.sign(way[axis]))], abs=1e-6)
    gone = standing_over(spots, outwards, to_mesh(block([40, 0, 0], [50, 10, 10])))
    assert (gone == 0).all()


def test_a_round_wall_is_one_face():
    mesh = by_creases(to_mesh(BLOCK - bar(15, 10, 4, -1, 11)))
    assert len(np.unique(mesh.faces)) == 7


def test_a_whole_plan_finishes_every_place_and_says_by_what():
    found = places(whole())
    assert {each.stage for each in found.values()} == {"finished"}
    assert max(each.stands for each in found.values()) <= 0.06
    assert of_feature(whole(), "recess").rough == ["pocket"]
    assert of_feature(whole(), "recess").finish == ["walls"]
    assert of_feature(whole(), "hole0").finish == ["drill", "tap"]
    assert of_feature(whole(), "below").finish == ["from-below"]
    top = next(each for name, each in found.items() if name.startswith("its top"))
    bottom = next(each for name, each in found.items() if name.startswith("its bottom"))
    assert (top.finish, bottom.finish) == (["face"], ["foot"])
    front = next(each for name, each in found.items() if name.startswith("its front"))
    assert (front.rough, front.finish) == (["rough"], ["outside"])
    assert sum(each.area for each in found.values()) == pytest.approx(
        walk(whole(), LIBRARY, MEMO).geometry.mesh.areas().sum()
    )


def test_what_is_not_cut_yet_and_what_is_only_roughed():
    first = plan(FACE, ROUGH)
    assert of_feature(first, "recess").stage == "not yet"
    assert of_feature(first, "hole0").stage == "not yet"
    found = places(first)
    front = next(each for name, each in found.items() if name.startswith("its front"))
    # 18 of its 20 are roughed to 0.3; below them the blank stands 2 over it, up to a step
    assert front.stage == "roughed" and front.rough == ["rough"]
    assert 0.3 < front.stands < 2.0


def test_a_place_that_is_measured_as_asked_is_checked():
    asked = Requirement(id="r", what="Depth", feature="recess", nominal_mm=8, upper_mm=0.1)
    ways = {"": "finished", "depth gauge": "checked"}
    for with_, stage in ways.items():
        part = whole().part.model_copy(
            update={"requirements": (asked.model_copy(update={"measured_with": with_}),)}
        )
        found = of_feature(whole().model_copy(update={"part": part}), "recess")
        assert (found.stage, found.asked) == (stage, ["r"])


def test_an_outside_is_asked_of_all_sides():
    asked = Requirement(id="r", what="Width", feature="outside", nominal_mm=50)
    part = whole().part.model_copy(update={"requirements": (asked,)})
    found = places(whole().model_copy(update={"part": part})).values()
    assert sum(each.asked == ["r"] for each in found) == 4


def test_turned_places_are_followed_too():
    found = covered(walk(lathe.plan(*lathe.GOOD), lathe.LIBRARY, MEMO), MEMO)
    assert {"finish", "recess", "face", "off"} & {id for each in found for id in each.finish}
    bore = [each for each in found if each.stage == "roughed"]
    assert bore and all(each.stands > 1.0 for each in bore)  # Ø12 drilled, Ø22 drawn


def test_it_is_asked_like_any_question():
    told = json.loads(QUESTIONS["coverage"](whole(), LIBRARY, Memo()))
    assert {each["stage"] for each in told} == {"finished"}
    empty = build.plan(setups=())
    assert {each["stage"] for each in json.loads(QUESTIONS["coverage"](empty, LIBRARY, MEMO))} == {
        "not yet"
    }
