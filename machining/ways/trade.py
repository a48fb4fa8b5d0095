"""What a planner's edits mean for a plan in this shop: the structural edits they come to."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import singledispatch

from machining.facts import holdings
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.route import geometry_of, walk
from machining.memo import Memo
from machining.plan.apply import EditRefused, apply
from machining.plan.at import Faces
from machining.plan.document import Plan, Setup
from machining.plan.edit import Change, Edit, SetStock
from machining.plan.trade import (
    AddStation,
    AnyEdit,
    Apart,
    Hold,
    Load,
    Start,
    Together,
    TradeEdit,
    TurnOver,
    UseMachine,
    UseStock,
)
from machining.quantities.errors import MachiningError, Missing, OutOfRange
from machining.world.capability import place_of
from machining.world.library import Library
from machining.world.machine import Machine, Table
from machining.world.stock import FORMS

from .blank import stock_of
from .first_setup import beside, first_setup, on_tombstone, turned_over
from .loads import in_the_middle, load_of, stood_free
from .one_load import apart, together


def structural(plan: Plan, library: Library, memo: Memo, edits: Sequence[AnyEdit]) -> list[Edit]:
    """The same as structural edits, each on the plan that those before it leave. Raises EditRefused
    for the first that can't be done.
    """
    found: list[Edit] = []
    for index, edit in enumerate(edits):
        try:
            meant = meaning(edit, plan, library, memo)
            plan = apply(plan, meant)
        except EditRefused as problem:
            raise EditRefused(index, problem.field, problem.value, str(problem)) from problem
        except MachiningError as problem:
            raise EditRefused(index, problem.field, problem.value, str(problem)) from problem
        found += meant
    return found


@singledispatch
def meaning(edit: AnyEdit, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    """The structural edits that one edit comes to. Raises Missing."""
    assert not isinstance(edit, TradeEdit)  # those have a meaning of their own below
    return (edit,)


@meaning.register
def _(edit: UseMachine, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    machine = library.machines.get(edit.machine)
    if machine is None:
        raise Missing("Machine", edit.machine)
    return use_machine(plan.setup(edit.setup), machine)


def use_machine(setup: Setup, machine: Machine) -> tuple[Edit, ...]:
    """Run a setup on a machine: tools are loaded in the one it leaves, and not every holding goes
    on every machine.
    """
    unfit = [
        each
        for each in setup.stations
        if each.holding is not None
        and holdings.kind_of(each.holding).fits(
            machine, place_of(machine, each.place) or machine.places[0]
        )
        is not None
    ]
    placed = [
        each for each in setup.stations if each.place and place_of(machine, each.place) is None
    ]
    return (
        *(
            Change(on=f"operation:{each.id}", fields={"tool": ""})
            for each in setup.operations
            if each.tool
        ),
        Change(on=f"setup:{setup.id}", fields={"machine": machine.key, **_off_its_plate(setup)}),
        *(Change(on=f"station:{each.id}", fields={"place": ""}) for each in placed),
        *(Change(on=f"station:{each.id}", fields={"holding": None}) for each in unfit),
        *_stood(setup, machine),
    )


def _off_its_plate(setup: Setup) -> dict[str, str]:
    return {"plate": ""} if setup.plate else {}


def _stood(setup: Setup, machine: Machine) -> Iterator[Edit]:
    """Onto a tombstone where the machine carries its parts on such, off one where it has none."""
    for each in setup.stations:
        table = place_of(machine, each.place) or machine.places[0]
        has = isinstance(table, Table) and table.tombstone(getattr(each.at, "on", ""))
        on = on_tombstone(machine, each.place)
        if isinstance(each.at, Faces) != (on is not None) or (on is not None and not has):
            at = on.model_dump(mode="json") if on is not None else None
            yield Change(on=f"station:{each.id}", fields={"at": at})


@meaning.register
def _(edit: Hold, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    on = f"station:{plan.station(edit.station).id}"
    if not edit.item:
        return (Change(on=on, fields={"holding": None}),)
    facts = walk(plan, library, memo)
    return (
        Change(on=on, fields={"holding": _held(edit.item, facts.station(edit.station), facts)}),
    )


def _held(key: str, seen: StationFacts, facts: PlanFacts) -> dict[str, object]:
    item = facts.library.holdings.get(key)
    if item is None:
        raise Missing("Holding", key)
    kind, before = holdings.FROM_LIBRARY[item.kind], seen.planned.holding
    same = before is not None and holdings.kind_of(before) is kind
    held = kind.usual(seen, item, before if same else None, facts)
    return dict(held.model_dump())


@meaning.register
def _(edit: UseStock, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    if edit.form not in FORMS:
        raise OutOfRange("form", edit.form, f"one of {', '.join(FORMS)}")
    return (SetStock(stock=stock_of(edit.form, plan, geometry_of(plan, library, memo), library)),)


@meaning.register
def _(edit: Start, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    if plan.setups:
        raise MachiningError("setups", len(plan.setups), "0 to start a plan")
    return first_setup(walk(plan, library, memo), edit.id, edit.station)


@meaning.register
def _(edit: TurnOver, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    over = plan.setup(edit.setup)
    ids = (edit.id, edit.station)
    return (turned_over(walk(plan, library, memo), over, ids, edit.about),)


@meaning.register
def _(edit: AddStation, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    put = beside(walk(plan, library, memo), plan.setup(edit.setup), edit.id, edit.about)
    return (put, *_stood_free(apply(plan, [put]), edit.setup, library, memo))


@meaning.register
def _(edit: Together, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    one_load = together(plan, edit.setup, edit.other, library)
    return (*one_load, *_stood_free(apply(plan, one_load), edit.setup, library, memo))


@meaning.register
def _(edit: Apart, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    return apart(plan, edit.station, edit.id)


def _stood_free(plan: Plan, setup: str, library: Library, memo: Memo) -> tuple[Edit, ...]:
    """All stations of a setup free of each other, and the whole load in the middle of its table."""
    edits: list[Edit] = []
    for station in plan.setup(setup).stations[1:]:
        facts = walk(apply(plan, edits), library, memo)
        edits += stood_free(facts.station(station.id), facts, memo)
    facts = walk(apply(plan, edits), library, memo)
    seen = next(each for each in facts.setups if each.id == setup)
    return (*edits, *in_the_middle(seen))


@meaning.register
def _(edit: Load, plan: Plan, library: Library, memo: Memo) -> tuple[Edit, ...]:
    facts = walk(plan, library, memo)
    station = facts.station(edit.station)
    at = load_of(station, edit.parts, facts, memo)
    fields = {"at": None if at is None else at.model_dump(mode="json")}
    loaded = Change(on=station.on, fields=fields)
    return (loaded, *_stood_free(apply(plan, [loaded]), station.setup.id, library, memo))
