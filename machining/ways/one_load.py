"""Sides of a part together in one load, or each in a setup of its own."""

from __future__ import annotations

from collections.abc import Iterator

from machining.plan.apply import EditRefused
from machining.plan.document import Plan, Setup, Station
from machining.plan.edit import (
    AddOperation,
    AddSetup,
    Edit,
    PutStation,
    RemoveSetup,
    RemoveStation,
)
from machining.plan.operation import Operation
from machining.world.library import Library


def together(plan: Plan, id: str, other_id: str, library: Library) -> tuple[Edit, ...]:
    """What a setup's load takes in of another one. Raises EditRefused, Missing."""
    setup, other = plan.setup(id), plan.setup(other_id)
    if setup.id == other.id or setup.machine != other.machine:
        raise EditRefused(0, "other", other_id, "It must be another setup on the same machine.")
    codes = {each.work_offset for each in setup.stations}
    put = list[Edit]()
    for station in other.stations:
        code = _free(station, codes, setup, library)
        codes.add(code)
        put.append(PutStation(setup=id, station=station.model_copy(update={"work_offset": code})))
    only = other.stations[0].id
    work = [each if each.station else _of(each, only) for each in other.operations]
    added = (AddOperation(setup=id, operation=each) for each in work)
    return (RemoveSetup(setup=other_id), *put, *added)


def apart(plan: Plan, station_id: str, id: str) -> tuple[Edit, ...]:
    """The edits that take a station and its operations out of a load. Raises EditRefused,
    Missing.
    """
    setup, station = plan.setup_with(station_id), plan.station(station_id)
    if len(setup.stations) == 1:
        raise EditRefused(0, "station", station_id, "It stands alone already.")
    work = tuple(_of(each, "") for each in setup.operations if each.station == station_id)
    alone = Setup(
        id=id,
        machine=setup.machine,
        plate=setup.plate,
        order=setup.order,
        stations=(station.model_copy(update={"at": None}),),
        operations=work,
    )
    index = plan.setups.index(setup) + 1
    return (RemoveStation(station=station_id), AddSetup(setup=alone, index=index))


def sides_of(plan: Plan) -> Iterator[tuple[Setup, Setup]]:
    """Setups right after each other on one machine, of which the later one takes all it works on
    from the earlier one.
    """
    for first, then in zip(plan.setups, plan.setups[1:], strict=False):
        known = {each.id for each in first.stations}
        if first.machine == then.machine and {each.takes for each in then.stations} <= known:
            yield first, then


def _free(station: Station, taken: set[str], setup: Setup, library: Library) -> str:
    """Its work offset, or the next one that the machine has left."""
    machine = library.machines.get(setup.machine)
    able = (station.work_offset, *(machine.work_offsets if machine is not None else ()))
    return next((each for each in able if each not in taken), station.work_offset)


def _of(operation: Operation, station: str) -> Operation:
    return operation.model_copy(update={"station": station})
