"""plan + edits -> plan. Every edit is checked by building the changed part of the document anew."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import singledispatch
from typing import Any, TypeVar

from pydantic import BaseModel, TypeAdapter, ValidationError

from machining.geometry.frames import flipped
from machining.quantities.errors import MachiningError, Missing

from .alike import is_like, shared
from .base import FEED_TYPED, SPEED_TYPED, OperationBase
from .document import LoadedTool, Orientation, Plan, Setup, Station
from .edit import (
    AddOperation,
    AddSetup,
    Change,
    DuplicateOperation,
    Edit,
    FlipStation,
    Keep,
    LoadTool,
    MoveOperation,
    MoveSetup,
    PutStation,
    RemoveOperation,
    RemoveSetup,
    RemoveStation,
    SetPart,
    SetStock,
    UnloadTool,
)
from .operation import Operation
from .refusal import first_problem
from .way import in_their_order, on_the_way, past, still_done

M = TypeVar("M", bound=BaseModel)
LEAST_WORDS = 3
NOT_CHANGED = frozenset({"id", "kind", "kept"})
_OPERATION: TypeAdapter[Operation] = TypeAdapter(Operation)


class EditRefused(MachiningError):
    """An edit that would make an impossible plan. ``index`` is its place in the request."""

    def __init__(self, index: int, field: str, value: object, sentence: str) -> None:
        super().__init__(field, value, "")
        self.index = index
        self.args = (sentence,)


def apply(plan: Plan, edits: Sequence[Edit]) -> Plan:
    """The plan after all edits. Raises EditRefused for the first that can't be done; nothing is
    half done.
    """
    for index, edit in enumerate(edits):
        try:
            plan = _do(edit, plan)
        except ValidationError as problem:
            raise EditRefused(index, *first_problem(problem)) from problem
        except MachiningError as problem:
            raise EditRefused(index, problem.field, problem.value, str(problem)) from problem
    return plan


def _with(record: M, **values: Any) -> M:
    """A validated copy; only the changed values are checked, with the record's own rules after
    them.
    """
    return type(record).model_validate(
        {**{name: getattr(record, name) for name in type(record).model_fields}, **values}
    )


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
    setups = _inserted(plan.setups, edit.setup, edit.index)
    if len(edit.setup.stations) == 1 and any(len(each.stations) > 1 for each in setups):
        return _with(plan, setups=on_the_way(setups, edit.setup.stations[0]))
    return _with(plan, setups=in_their_order(setups))


@_do.register
def _(edit: RemoveSetup, plan: Plan) -> Plan:
    gone = plan.setup(edit.setup)
    setups, outside = tuple(s for s in plan.setups if s is not gone), plan.outside
    for station in gone.stations:
        setups, outside = past(setups, station), still_done(outside, station)
    return _with(plan, setups=setups, outside=outside)


@_do.register
def _(edit: MoveSetup, plan: Plan) -> Plan:
    setup = plan.setup(edit.setup)
    rest = tuple(s for s in plan.setups if s is not setup)
    return _with(plan, setups=in_their_order(_inserted(rest, setup, edit.index)))


def _replace_station(plan: Plan, id: str, make: Callable[[Station], Station]) -> Plan:
    setup = plan.setup_with(id)
    stations = tuple(make(each) if each.id == id else each for each in setup.stations)
    return _replace_setup(plan, setup.id, lambda s: _with(s, stations=stations))


@_do.register
def _(edit: PutStation, plan: Plan) -> Plan:
    """Operations of a setup's only station need not name it; with a second one they do."""
    setup = plan.setup(edit.setup)
    operations = tuple(
        op if op.station else _with(op, station=setup.stations[0].id) for op in setup.operations
    )
    stations = _inserted(setup.stations, edit.station, edit.index)
    fresh = _with(setup, stations=stations, operations=operations)
    setups = tuple(fresh if s is setup else s for s in plan.setups)
    return _with(plan, setups=on_the_way(setups, edit.station))


@_do.register
def _(edit: RemoveStation, plan: Plan) -> Plan:
    setup, gone = plan.setup_with(edit.station), plan.station(edit.station)
    if len(setup.stations) == 1:
        raise EditRefused(
            0, "station", edit.station, "A setup keeps one station; take the setup out instead."
        )
    operations = tuple(op for op in setup.operations if op.station != gone.id)
    stations = tuple(s for s in setup.stations if s is not gone)
    left = setup.model_copy(update={"stations": stations, "operations": operations})
    setups = tuple(left if s is setup else s for s in plan.setups)
    return _with(plan, setups=past(setups, gone), outside=still_done(plan.outside, gone))


@_do.register
def _(edit: FlipStation, plan: Plan) -> Plan:
    def flip(station: Station) -> Station:
        up, turn = flipped(station.orientation.up, station.orientation.turn, edit.about)
        return _with(station, orientation=Orientation(up=up, turn=turn))  # type: ignore[arg-type]

    plan.station(edit.station)
    return _replace_station(plan, edit.station, flip)


@_do.register
def _(edit: AddOperation, plan: Plan) -> Plan:
    _check_tool(plan, edit.setup, edit.operation)
    return _replace_setup(
        plan,
        edit.setup,
        lambda s: _with(s, operations=_inserted(s.operations, edit.operation, edit.index)),
    )


@_do.register
def _(edit: RemoveOperation, plan: Plan) -> Plan:
    setup = plan.setup_of(edit.operation)
    return _replace_setup(
        plan,
        setup.id,
        lambda s: _with(s, operations=tuple(op for op in s.operations if op.id != edit.operation)),
    )


@_do.register
def _(edit: MoveOperation, plan: Plan) -> Plan:
    source, target = plan.setup_of(edit.operation), plan.setup(edit.setup)
    operation = source.operation(edit.operation)
    if operation.pinned:
        why = f": {operation.reason}" if operation.reason else ""
        raise EditRefused(
            0,
            "operation",
            edit.operation,
            f"This operation keeps its place{why.rstrip('.')}. Unpin it to move it.",
        )
    if operation.tool and plan.tool(operation.tool).machine != target.machine:
        operation = operation.model_copy(update={"tool": ""})
    if target is not source:
        several = len(target.stations) > 1
        first = target.stations[0].id if several else ""
        operation = operation.model_copy(update={"station": first})
    plan = _do(RemoveOperation(operation=edit.operation), plan)
    return _replace_setup(
        plan,
        target.id,
        lambda s: _with(s, operations=_inserted(s.operations, operation, edit.index)),
    )


@_do.register
def _(edit: DuplicateOperation, plan: Plan) -> Plan:
    setup = plan.setup_of(edit.operation)
    place = [op.id for op in setup.operations].index(edit.operation)
    own = {"id": edit.new_id, "like": "", "clamps_after": None}
    copy = setup.operations[place].model_copy(update=own)
    return _replace_setup(
        plan, setup.id, lambda s: _with(s, operations=_inserted(s.operations, copy, place + 1))
    )


@_do.register
def _(edit: LoadTool, plan: Plan) -> Plan:
    return _with(plan, tools=(*plan.tools, edit.tool))


@_do.register
def _(edit: UnloadTool, plan: Plan) -> Plan:
    plan.tool(edit.tool)
    using = [op.id for s in plan.setups for op in s.operations if op.tool == edit.tool]
    if using:
        raise EditRefused(
            0,
            "tool",
            edit.tool,
            f"{len(using)} operation{'s use' if len(using) > 1 else ' uses'} this tool; give them"
            " another first.",
        )
    return _with(plan, tools=tuple(t for t in plan.tools if t.id != edit.tool))


@_do.register
def _(edit: Keep, plan: Plan) -> Plan:
    what, _, id = edit.on.partition(":")
    words = edit.words.strip()
    if edit.words and len(words) < LEAST_WORDS:
        raise EditRefused(0, "words", edit.words, "Say in a few words why it may stay as it is.")
    if what == "plan":
        return _with(plan, kept=_kept(plan.kept, edit.finding, words))
    if what == "setup":
        return _replace_setup(plan, id, lambda s: _with(s, kept=_kept(s.kept, edit.finding, words)))
    if what == "station":
        plan.station(id)
        return _replace_station(
            plan, id, lambda s: _with(s, kept=_kept(s.kept, edit.finding, words))
        )
    setup = plan.setup_of(id)
    return _replace_setup(
        plan,
        setup.id,
        lambda s: _with(
            s,
            operations=tuple(
                _with(op, kept=_kept(op.kept, edit.finding, words)) if op.id == id else op
                for op in s.operations
            ),
        ),
    )


def _kept(
    now: tuple[tuple[str, str], ...], finding: str, words: str
) -> tuple[tuple[str, str], ...]:
    rest = tuple(each for each in now if each[0] != finding)
    return (*rest, (finding, words)) if words else rest


@_do.register
def _(edit: Change, plan: Plan) -> Plan:
    what, _, id = edit.on.partition(":")
    if what == "plan":
        return Plan.model_validate(_changed(plan, edit.fields))
    if what == "setup":
        return _replace_setup(plan, id, lambda s: Setup.model_validate(_changed(s, edit.fields)))
    if what == "station":
        plan.station(id)
        return _replace_station(
            plan, id, lambda s: Station.model_validate(_changed(s, edit.fields))
        )
    if what == "tool":
        tool = plan.tool(id)
        fresh = LoadedTool.model_validate(_changed(tool, edit.fields))
        return _with(plan, tools=tuple(fresh if t is tool else t for t in plan.tools))
    setup = plan.setup_of(id)
    operation = _operation_with(setup.operation(id), edit.fields, plan)
    _check_tool(plan, setup.id, operation)
    common = shared(edit.fields)

    def changed(op: Operation) -> Operation:
        if op.id == id:
            return operation
        return _operation_with(op, common, plan) if common and is_like(operation, op) else op

    return _replace_setup(
        plan, setup.id, lambda s: _with(s, operations=tuple(map(changed, s.operations)))
    )


def _operation_with(operation: Operation, fields: dict[str, Any], plan: Plan) -> Operation:
    changed = _OPERATION.validate_python(_changed(operation, _one_way(fields)))
    if {*SPEED_TYPED, *FEED_TYPED} & fields.keys() and "proven_in" not in fields:
        typed = changed.speed_typed or changed.feed_typed
        changed = changed.model_copy(update={"proven_in": plan.material if typed else ""})
    return changed


def _one_way(fields: dict[str, Any]) -> dict[str, Any]:
    """A speed or feed typed one way empties the other ways of typing it."""
    more: dict[str, Any] = {}
    for names in (SPEED_TYPED, FEED_TYPED):
        if any(fields.get(name) is not None for name in names):
            more |= {name: None for name in names if name not in fields}
    return {**fields, **more}


def _leaves(record: BaseModel) -> frozenset[str]:
    """Fields of a record that ``change`` may set, whole or inside; what holds other things of the
    plan has edits of its own.
    """
    if isinstance(record, OperationBase):
        return frozenset(type(record).model_fields) - NOT_CHANGED
    leaves: frozenset[str] = record.CHANGES  # type: ignore[attr-defined]
    return leaves


def _changed(record: BaseModel, fields: dict[str, Any]) -> dict[str, Any]:
    values, leaves = record.model_dump(), _leaves(record)
    for path, value in fields.items():
        *inner, last = path.split(".")
        first = inner[0] if inner else last
        if first not in leaves:
            why = (
                "An id stays for good."
                if first == "id"
                else (
                    f"{first} can't be set like a value; there is an edit of its own for it."
                    if first in values
                    else f"{path}: there is no such field."
                )
            )
            raise EditRefused(0, path, value, why)
        at = values
        for name in inner:
            if not isinstance(at.get(name), dict):
                raise Missing("Field", path)
            at = at[name]
        at[last] = value
    return values


def _check_tool(plan: Plan, setup: str, operation: Operation) -> None:
    if operation.tool and plan.tool(operation.tool).machine != plan.setup(setup).machine:
        raise EditRefused(
            0, "tool", operation.tool, "This tool is loaded on another machine than the setup's."
        )


def _inserted(items: tuple[Any, ...], item: Any, index: int | None) -> tuple[Any, ...]:
    at = len(items) if index is None else min(index, len(items))
    return (*items[:at], item, *items[at:])
