"""How every kind of operation, place to work at, holding and stock is asked for."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, get_args

from pydantic import BaseModel

from machining.facts.kinds import KINDS
from machining.plan.base import OperationBase
from machining.plan.clamped import Clamp, Dowel
from machining.plan.holding import HELD
from machining.plan.in_vise import Holding
from machining.plan.operation import Operation
from machining.plan.places import Where
from machining.plan.turned import Plane, Profile, Stretch, TurnGroove
from machining.ways.choices import QUESTIONS
from machining.world.asked import Asked, asked_of
from machining.world.stock import FORMS, Blank


@dataclass(frozen=True, slots=True)
class Typed:
    """A value that is typed; ``instead_of`` names the field it empties."""

    name: str
    label: str
    quantity: str
    empty: str
    instead_of: str


@dataclass(frozen=True, slots=True)
class Option:
    value: str
    label: str


@dataclass(frozen=True, slots=True)
class Picked:
    """A value that is chosen from a few."""

    name: str
    label: str
    options: tuple[Option, ...]


@dataclass(frozen=True, slots=True)
class Form:
    typed: tuple[Typed, ...]
    picked: tuple[Picked, ...]


@dataclass(frozen=True, slots=True)
class KindForm(Form):
    """``places`` are the kinds of places it can work at. ``feeds`` are the fields a feed may be
    typed in, the usual one first; ``keeps_speed`` is for what keeps its speed at the edge. ``ways``
    says what other ways are compared and ``shown`` how; ``bench`` is the comparison on the bench
    that serves it. Empty where there is none.
    """

    name: str
    places: tuple[str, ...]
    feeds: tuple[str, ...]
    keeps_speed: bool
    ways: str
    shown: str
    bench: str


def kinds() -> dict[str, KindForm]:
    """The form of every kind of operation."""
    return {str(each.model_fields["kind"].default): _kind(each) for each in _members(Operation)}


def places() -> dict[str, Form]:
    """The form of every kind of place."""
    grooves = get_args(TurnGroove.model_fields["on"].annotation)
    models: list[type[BaseModel]] = [*_members(Where), Plane, Profile, Stretch, *grooves]
    return {str(each.model_fields["kind"].default): _form(each, "on.") for each in models}


def held() -> dict[str, Form]:
    """The form of every kind of holding, and of what stands in one in any number."""
    return {
        **{str(each.model_fields["kind"].default): _form(each, "holding.") for each in HELD},
        "clamped.dowel": _form(Dowel),
        "clamped.clamp": _form(Clamp),
        "clamped.vise": _form(Holding, "holding.vise."),
    }


@dataclass(frozen=True, slots=True)
class BlankForm(Form):
    """``sides`` are its sides, by their field and in words; sizes are asked before tolerances."""

    name: str
    sides: tuple[Option, ...]


def blanks() -> dict[str, BlankForm]:
    """The form of every kind of stock."""
    return {form: _blank(model) for form, model in FORMS.items()}


def _blank(model: type[Blank]) -> BlankForm:
    form = _form(model, "stock.")
    sides = tuple(Option(f"stock.{field}", words) for field, words in model.SIDES)
    typed = sorted(form.typed, key=lambda each: each.name.endswith("tolerance_mm"))
    return BlankForm(tuple(typed), form.picked, model.NAME, sides)


def _members(union: Any) -> tuple[Any, ...]:
    return get_args(get_args(union)[0])


def _kind(model: type[OperationBase]) -> KindForm:
    kind, form = str(model.model_fields["kind"].default), _form(model)
    known, question = KINDS[kind], QUESTIONS.get(kind)
    return KindForm(
        form.typed,
        form.picked,
        model.VERB,
        tuple(sorted(model.PLACES)),
        model.FEEDS,
        known.turned and known.feed_per_turn is None,
        question.words if question else "",
        question.shown if question else "",
        known.bench,
    )


def _form(model: type[BaseModel], path: str = "") -> Form:
    asked = asked_of(model)
    return Form(
        tuple(_typed(path, name, each) for name, each in asked.items() if not each.choices),
        tuple(
            Picked(path + name, each.label, tuple(Option(*choice) for choice in each.choices))
            for name, each in asked.items()
            if each.choices
        ),
    )


def _typed(path: str, name: str, asked: Asked) -> Typed:
    return Typed(path + name, asked.label, asked.quantity, asked.empty, asked.instead_of)
