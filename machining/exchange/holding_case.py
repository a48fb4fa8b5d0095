"""A holding as points of contact in JSON, read and answered by what the evaluation answers with.

The layout is described in ``docs/holding-case.md``.
"""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from machining.holding.contacts import Contact, Contacts, Weight
from machining.holding.cut import Cut, pushes
from machining.holding.held import counted, factor, jams, least_scale, not_pressed, seat
from machining.holding.located import located, moves, said
from machining.plan.refusal import first_problem
from machining.quantities.errors import MachiningError, brief
from machining.quantities.said import fill
from machining.world.record import Record

REQUIRED = 2.0
Point = Annotated[tuple[float, float, float], Field()]


class ContactCase(Record):
    """A point in mm, the normal into the part, the friction of the pair; without a group it only
    bears.
    """

    at: Point
    normal: Point
    friction: float
    body: str = ""
    group: str | None = None


class WeightCase(Record):
    kg: float
    at: Point


class CutCase(Record):
    at: Point
    axis: Point
    force_n: float
    axial_n: float = 0.0
    torque_nm: float = 0.0
    directions: Literal["plane"] | list[Point] = "plane"


class HoldingCase(Record):
    """``requirement`` is the factor that ``least_scale`` is asked for."""

    frame_length_mm: float
    contacts: list[ContactCase]
    groups: dict[str, float] = {}
    weight: WeightCase | None = None
    cut: CutCase | None = None
    requirement: float = REQUIRED


class NotACase(MachiningError):
    """A text that is no holding; the sentence names the place."""

    def __init__(self, sentence: str) -> None:
        super().__init__("holding", "", "")
        self.args = (sentence,)


def read(text: bytes) -> HoldingCase:
    """Raises NotACase with a sentence that names the place."""
    try:
        return HoldingCase.model_validate(json.loads(text))
    except ValidationError as problem:
        field, _, words = first_problem(problem)
        raise NotACase(f"The holding can't be read at {field or 'its start'}: {words}") from problem
    except RecursionError as problem:
        raise NotACase("The file is nested too deeply to be a holding.") from problem
    except ValueError as problem:
        raise NotACase(f"The file is no JSON: {brief(str(problem))}.") from problem


def answer(case: HoldingCase) -> dict[str, Any]:
    """What is located, seated and held. ``factor`` and what hangs on it are None where nothing
    pushes. Raises OutOfRange and Missing for values that can't be.
    """
    contacts = _contacts(case)
    bears = contacts.bears.astype(bool)
    place = located(contacts.along_normals[bears], contacts.length_mm)
    rest = seat(contacts)
    found: dict[str, Any] = {
        "located_rank": place.rank,
        "free_motions": [fill(each.text, each.values) for each in map(said, place.free)],
        "seated": rest.seated,
        "residual": rest.residual_n,
        "motion": None if rest.seated else moves(rest.left).text,
        "not_pressed": list(not_pressed(contacts)),
        "jams": jams(contacts),
        "factor": None,
        "weakest": None,
        "least_scale": None,
    }
    if case.cut is not None:
        found |= _held(contacts, case.cut, case.requirement)
    return found


def _contacts(case: HoldingCase) -> Contacts:
    every = [
        Contact(each.at, each.normal, each.friction, each.body, each.group)
        for each in case.contacts
    ]
    weight = Weight(case.weight.kg, case.weight.at) if case.weight is not None else None
    return Contacts(every, case.groups, case.frame_length_mm, weight)


def _held(contacts: Contacts, cut: CutCase, required: float) -> dict[str, Any]:
    asked = Cut(cut.at, cut.axis, cut.force_n, cut.axial_n, cut.torque_nm, cut.directions)
    pushed = pushes(asked, contacts.length_mm)
    reckoned = counted(contacts)
    held = factor(reckoned, pushed)
    if held is None:
        return {}
    return {
        "factor": held.factor,
        "weakest": {"direction": held.towards.tolist(), "contacts": list(held.carrying)},
        "least_scale": least_scale(reckoned, pushed, required),
    }
