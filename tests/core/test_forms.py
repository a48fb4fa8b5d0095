"""What kinds of operation and places are asked for stands with the model, all of it and no more."""

from __future__ import annotations

from typing import Literal, get_args, get_origin

import pytest

from machining.ask import forms
from machining.facts.kinds import KINDS
from machining.plan.base import OperationBase
from machining.plan.clamped import Clamp, Dowel
from machining.plan.holding import HELD, HOLDINGS
from machining.plan.operation import Operation
from machining.quantities.display import table
from machining.world.asked import asked_of

MODELS = get_args(get_args(Operation)[0])
# asked by a field of their own: where it works, and where a pocket's open hole stands
ELSEWHERE = {*OperationBase.model_fields, "kind", "on", "hole_at_mm"}
# shown for windows, and for lines, alone
OF_PLACES = {
    "rough_pocket": {"past_mm"},
    "finish_walls": {"past_mm"},
    "slot": {"depth_mm", "runs", "width_mm"},
}


def name_of(model) -> str:
    return model.model_fields["kind"].default


@pytest.mark.parametrize("model", MODELS, ids=name_of)
def test_every_field_of_a_kind_is_asked_for(model):
    elsewhere = ELSEWHERE | OF_PLACES.get(name_of(model), set())
    assert set(asked_of(model)) == set(model.model_fields) - elsewhere


@pytest.mark.parametrize("model", MODELS, ids=name_of)
def test_choices_are_those_the_model_takes(model):
    for name, asked in asked_of(model).items():
        kind = model.model_fields[name].annotation
        taken = get_args(kind) if get_origin(kind) is Literal else ()
        assert {value for value, _ in asked.choices} == set(taken)
        assert asked.instead_of == "" or asked.instead_of in model.model_fields


def test_forms_are_of_every_kind_and_place_with_quantities_that_can_be_typed():
    kinds, places = forms.kinds(), forms.places()
    assert set(kinds) == set(KINDS) == {name_of(each) for each in MODELS}
    assert set(places) == {place for model in MODELS for place in model.PLACES}
    typed = [each for form in (*kinds.values(), *places.values()) for each in form.typed]
    assert {each.quantity for each in typed} <= set(table())


def test_a_kind_says_how_its_feed_is_typed_and_what_else_could_be_done():
    kinds = forms.kinds()
    assert kinds["tap"].feeds == ("feed_mm_min",) and kinds["turn_thread"].feeds == ()
    assert kinds["turn_rough"].keeps_speed and not kinds["turn_thread"].keeps_speed
    assert kinds["drill"].shown == "holes" and kinds["drill"].bench == "hole-methods"
    assert kinds["tap"].ways == "" == kinds["tap"].bench
    engrave = {each.name: each.instead_of for each in kinds["engrave"].typed}
    assert engrave == {"depth_mm": "width_mm", "width_mm": "depth_mm"}


def test_the_schema_of_a_plan_says_the_same():
    face = MODELS[0].model_json_schema()["properties"]
    assert face["step_over_mm"]["title"] == "Step over"
    assert (
        face["step_over_mm"]["quantity"] == "length" and face["step_over_mm"]["empty"] == "70 % Ø"
    )
    assert face["ways"]["choices"] == {"both": "both ways", "one": "one way"}


@pytest.mark.parametrize("model", HELD, ids=name_of)
def test_every_field_of_a_holding_is_asked_for(model):
    chosen = {"kind", "reason", next(name for name in model.model_fields if name != "kind")}
    lists = {"dowels", "clamps", "vise"}  # asked for by forms of their own
    assert set(asked_of(model)) == set(model.model_fields) - chosen - lists
    own = {f"clamped.{each}" for each in ("dowel", "clamp", "vise")}
    assert set(forms.held()) - own == {name_of(each) for each in HELD} == set(HOLDINGS)


@pytest.mark.parametrize("model", [Dowel, Clamp])
def test_every_field_of_a_dowel_and_a_clamp_is_asked_for(model):
    assert set(asked_of(model)) == set(model.model_fields) - {"id", "clamp"}
