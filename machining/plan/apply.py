"""plan + edits -> plan. Every edit is checked by building the changed part of the document anew."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from functools import singledispatch
from typing import Any, TypeVar

from pydantic import BaseModel, TypeAdapter, ValidationError

from machining.geometry.frames import flipped
from machining.quantities.errors import MachiningError, Missing

from .document import HOLDINGS, LoadedTool, Orientation, Plan, Setup
from .edit import (
    AddOperation,
    AddSetup,
    Change,
    DuplicateOperation,
    Edit,
    FlipSetup,
    LoadTool,
    MoveOperation,
    MoveSetup,
    RemoveOperation,
    RemoveSetup,
    SetPart,
    SetStock,
    UnloadTool,
)
from .operation import KINDS, Operation
from .turned import SPEEDS_TYPED

M = TypeVar("M", bound=BaseModel)
_OPERATION: TypeAdapter[Operation] = TypeAdapter(Operation)


class EditRefused(MachiningError):
    """An edit that would make an impossible plan. ``index`` is its place in the request."""

    def __init__(self, index: int, field: str, value: object, sentence: str) -> None:
        super().__init__(field, value, "")
        self.index = index
        self.args = (sentence,)


def apply(plan: Plan, edits: Sequence[Edit]) -> Plan:
    """The plan after all edits. Raises EditRefused for the first that can't be done; nothing is half done."""
    for index, edit in enumerate(edits):
        try:
            plan = _do(edit, plan)
        except ValidationError as problem:
            raise EditRefused(index, *first_problem(problem)) from problem
        except MachiningError as problem:
            raise EditRefused(index, problem.field, problem.value, str(problem)) from problem
    return plan


def first_problem(problem: ValidationError) -> tuple[str, object, str]:
    """Field, value and a sentence from a validation error's first line."""
    row = problem.errors(include_url=False)[0]
    places = [str(part) for before, part in zip(("", *row["loc"]), row["loc"], strict=False) if not _is_tag(before, part)]
    field, value = ".".join(places), row["input"]
    words = row["msg"].removeprefix("Value error, ")
    if row["type"] == "value_error":
        return field or words.split(" ", 1)[0], value, words[0].upper() + words[1:] + "."
    shown = f" is {value!r}" if isinstance(value, (int, float, str)) else ""
    words = words.replace("Input should be", "it must be").replace("Field required", "it is missing").replace("Extra inputs are not permitted", "there is no such field")
    return field, value, f"{_spoken(places)}{shown}: {words[0].lower() + words[1:]}."


def _is_tag(before: object, part: object) -> bool:
    """Is this place the name of a union's branch rather than a field?"""
    return isinstance(part, str) and (part[:1].isupper() or part in KINDS or before == "on" or (before == "holding" and part in HOLDINGS))


def _spoken(places: list[str]) -> str:
    """``step_down_mm`` is Step down."""
    bare = re.sub(r"_(mm|deg|nm|mm_min|s|kw)$", "", places[-1]).replace("_", " ") if places else "it"
    return bare[0].upper() + bare[1:]


def _with(record: M, **values: Any) -> M:
    """A validated copy; only the changed values are checked, with the record's own rules after them."""
    return type(record).model_validate({**{name: getattr(record, name) for name in type(record).model_fields}, **values})


def _replace_setup(plan: Plan, id: str, make: Callable[[Setup], Setup]) -> Plan:
    plan.setup(id)
    return _with(plan, setups=tuple(make(s) if s.id == id else s for s in plan.setups))


@singledispatch
def _do(edit: Any, plan: Plan) -> Plan:
    raise TypeError(f"no rule for {type(edit).__name__}")


@_do.register
def _(edit: SetPart, plan: Plan) -> Plan:
    return _with(plan, part=edit.part)


@_do.register
def _(edit: SetStock, plan: Plan) -> Plan:
    return _with(plan, stock=edit.stock)


@_do.register
def _(edit: AddSetup, plan: Plan) -> Plan:
    return _with(plan, setups=_inserted(plan.setups, edit.setup, edit.index))


@_do.register
def _(edit: RemoveSetup, plan: Plan) -> Plan:
    plan.setup(edit.setup)
    return _with(plan, setups=tuple(s for s in plan.setups if s.id != edit.setup))


@_do.register
def _(edit: MoveSetup, plan: Plan) -> Plan:
    setup = plan.setup(edit.setup)
    return _with(plan, setups=_inserted(tuple(s for s in plan.setups if s is not setup), setup, edit.index))


@_do.register
def _(edit: FlipSetup, plan: Plan) -> Plan:
    def flip(setup: Setup) -> Setup:
        up, turn = flipped(setup.orientation.up, setup.orientation.turn, edit.about)
        return _with(setup, orientation=Orientation(up=up, turn=turn))  # type: ignore[arg-type]

    return _replace_setup(plan, edit.setup, flip)


@_do.register
def _(edit: AddOperation, plan: Plan) -> Plan:
    _check_tool(plan, edit.setup, edit.operation)
    return _replace_setup(plan, edit.setup, lambda s: _with(s, operations=_inserted(s.operations, edit.operation, edit.index)))


@_do.register
def _(edit: RemoveOperation, plan: Plan) -> Plan:
    setup = plan.setup_of(edit.operation)
    return _replace_setup(plan, setup.id, lambda s: _with(s, operations=tuple(op for op in s.operations if op.id != edit.operation)))


@_do.register
def _(edit: MoveOperation, plan: Plan) -> Plan:
    source, target = plan.setup_of(edit.operation), plan.setup(edit.setup)
    operation = source.operation(edit.operation)
    if operation.pinned:
        why = f": {operation.reason}" if operation.reason else ""
        raise EditRefused(0, "operation", edit.operation, f"This operation keeps its place{why.rstrip('.')}. Unpin it to move it.")
    if operation.tool and plan.tool(operation.tool).machine != target.machine:
        operation = operation.model_copy(update={"tool": ""})
    plan = _do(RemoveOperation(operation=edit.operation), plan)
    return _replace_setup(plan, target.id, lambda s: _with(s, operations=_inserted(s.operations, operation, edit.index)))


@_do.register
def _(edit: DuplicateOperation, plan: Plan) -> Plan:
    setup = plan.setup_of(edit.operation)
    place = [op.id for op in setup.operations].index(edit.operation)
    copy = setup.operations[place].model_copy(update={"id": edit.new_id})
    return _replace_setup(plan, setup.id, lambda s: _with(s, operations=_inserted(s.operations, copy, place + 1)))


@_do.register
def _(edit: LoadTool, plan: Plan) -> Plan:
    return _with(plan, tools=(*plan.tools, edit.tool))


@_do.register
def _(edit: UnloadTool, plan: Plan) -> Plan:
    plan.tool(edit.tool)
    using = [op.id for s in plan.setups for op in s.operations if op.tool == edit.tool]
    if using:
        raise EditRefused(0, "tool", edit.tool, f"{len(using)} operation{'s use' if len(using) > 1 else ' uses'} this tool; give them another first.")
    return _with(plan, tools=tuple(t for t in plan.tools if t.id != edit.tool))


@_do.register
def _(edit: Change, plan: Plan) -> Plan:
    what, _, id = edit.on.partition(":")
    if what == "plan":
        return Plan.model_validate(_changed(plan, edit.fields))
    if what == "setup":
        return _replace_setup(plan, id, lambda s: Setup.model_validate(_changed(s, edit.fields)))
    if what == "tool":
        tool = plan.tool(id)
        fresh = LoadedTool.model_validate(_changed(tool, edit.fields))
        return _with(plan, tools=tuple(fresh if t is tool else t for t in plan.tools))
    setup = plan.setup_of(id)
    operation = _OPERATION.validate_python(_changed(setup.operation(id), edit.fields))
    if SPEEDS_TYPED & edit.fields.keys() and "proven_in" not in edit.fields:
        typed = any(getattr(operation, name, None) is not None for name in SPEEDS_TYPED)
        operation = operation.model_copy(update={"proven_in": plan.material if typed else ""})
    _check_tool(plan, setup.id, operation)
    return _replace_setup(plan, setup.id, lambda s: _with(s, operations=tuple(operation if op.id == id else op for op in s.operations)))


def _changed(record: BaseModel, fields: dict[str, Any]) -> dict[str, Any]:
    values = record.model_dump()
    for path, value in fields.items():
        *inner, last = path.split(".")
        at = values
        for name in inner:
            if not isinstance(at.get(name), dict):
                raise Missing("Field", path)
            at = at[name]
        if last == "id" and not inner:
            raise EditRefused(0, "id", value, "An id stays for good.")
        at[last] = value
    return values


def _check_tool(plan: Plan, setup: str, operation: Operation) -> None:
    if operation.tool and plan.tool(operation.tool).machine != plan.setup(setup).machine:
        raise EditRefused(0, "tool", operation.tool, "This tool is loaded on another machine than the setup's.")


def _inserted(items: tuple[Any, ...], item: Any, index: int | None) -> tuple[Any, ...]:
    at = len(items) if index is None else min(index, len(items))
    return (*items[:at], item, *items[at:])
