"""How a plan starts: the blank with the shop's usual allowances, a machine the part fits, a vise
that takes it.
"""

from __future__ import annotations

from functools import partial
from typing import Literal

import numpy as np

from machining.facts.context import PlanFacts
from machining.facts.parallels import usual_hold
from machining.geometry.frames import Direction, flipped, orientation
from machining.plan.at import Faces
from machining.plan.document import Orientation, Plan, Setup, Station
from machining.plan.edit import AddSetup, Edit, PutStation, SetStock
from machining.plan.holding import Held, InChuck
from machining.plan.zero import in_the_middle
from machining.world.capability import place_of, turns_work, usual_rig
from machining.world.library import Library
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.settings import Settings
from machining.world.stock.base import Blank
from machining.world.stock.block import Block, usual_block
from machining.world.workholding import Vise

Size = tuple[float, float, float]
GRIP_SHARE, FORCE_SHARE = 0.8, 0.6  # of a chuck's jaws and of its most


def with_usual_stock(plan: Plan, settings: Settings) -> tuple[Edit, ...]:
    """The edit that gives a blank nobody has looked at its allowances; nothing where it is decided,
    or setups stand on it.
    """
    return (
        (SetStock(stock=usual_block(settings)),)
        if plan.stock == Block() and not plan.setups
        else ()
    )


def fits(machine: Machine, blank: Size) -> bool:
    """Is there room for a blank (mm, as it lies in the part's axes) on a mill's table and in its
    travel, or in a lathe's swing?
    """
    x, y, z = blank
    place, travel = machine.places[0], usual_rig(machine).carrier.travel
    if isinstance(place, SpindleNose):
        return max(x, y) <= place.swing_mm and z <= travel.z
    return (
        x <= min(travel.x, place.x_mm)
        and y <= min(travel.y, place.y_mm)
        and z <= place.nose_to_table_max_mm - place.nose_to_table_min_mm
    )


def machine_for(library: Library, blank: Size, turned: bool) -> Machine | None:
    """The shop's first machine where the blank fits it, else the first that it fits: a bar goes to
    a lathe, a block to a mill.
    """
    able = [
        each
        for each in library.machines.values()
        if fits(each, blank) and turns_work(each) == turned
    ]
    wanted = library.settings.first_machine
    return next((each for each in able if each.key == wanted), able[0] if able else None)


def holding_for(library: Library, machine: Machine, blank: Size) -> Held | None:
    """The vise that opens far enough across the narrower side it takes and lets the least of the
    part stand out of its jaws, of those the smallest; on a lathe the chuck that closes on the bar.
    """
    x, y, z = blank
    if turns_work(machine):
        close = [
            each
            for each in library.chucks.values()
            if each.height_mm is None and each.min_grip_mm <= x <= each.max_grip_mm
        ]
        chuck = min(close, key=lambda each: each.jaw_kind == "soft", default=None)
        return (
            None
            if chuck is None
            else InChuck(
                chuck=chuck.key,
                grip_mm=round(min(GRIP_SHARE * chuck.jaw_length_mm, z / 2.0), 1),
                force_per_jaw_n=round(FORCE_SHARE * chuck.force_per_jaw_n, -2),
            )
        )
    for letter, width, along in (("y", y, x), ("x", x, y)):
        takes = [
            vise
            for vise in library.vises.values()
            if width <= vise.max_opening_mm and vise.jaws != "soft"
        ]
        if takes:
            return usual_hold(
                min(takes, key=partial(_out_of_jaws, along=along)),
                letter,
                library.settings.grip_least_mm,
            )
    return None


def _out_of_jaws(vise: Vise, along: float) -> tuple[float, float]:
    return max(along - vise.jaw_width_mm, 0.0), vise.max_opening_mm


def on_tombstone(machine: Machine | None, place: str = "") -> Faces | None:
    """On the first face of the first tombstone, where a table carries its parts on such."""
    table = place_of(machine, place) or machine.places[0] if machine is not None else None
    if not isinstance(table, Table) or table.surface_below_mm is None or not table.tombstones:
        return None
    return Faces(on=table.tombstones[0].key, faces=(1,))


def turned_over(
    facts: PlanFacts, over: Setup, ids: tuple[str, str], about: Literal["x", "y"]
) -> AddSetup:
    """The setup after one, on its machine, with the part turned over about X or Y and a work offset
    that no station of the plan uses yet. ``ids`` are the setup's and its station's.
    """
    last = over.stations[-1]
    station = Station(
        id=ids[1],
        takes=last.id,
        orientation=_flipped(last, about),
        zero=in_the_middle("part"),
        work_offset=_free_offset(facts, over),
        at=on_tombstone(facts.library.machines.get(over.machine), last.place),
    )
    index = facts.plan.setups.index(over) + 1
    return AddSetup(setup=Setup(id=ids[0], machine=over.machine, stations=(station,)), index=index)


def beside(facts: PlanFacts, setup: Setup, id: str, about: Literal["x", "y"]) -> PutStation:
    """A further station of a setup, for the part turned over as its last one leaves it, held in the
    same; where it stands on the table is asked for next (`loads.stood_free`).
    """
    last = setup.stations[-1]
    station = last.model_copy(
        update={
            "id": id,
            "takes": last.id,
            "orientation": _flipped(last, about),
            "zero": in_the_middle("part"),
            "work_offset": _free_offset(facts, setup),
            "kept": (),
        }
    )
    return PutStation(setup=setup.id, station=station)


def _flipped(station: Station, about: Literal["x", "y"]) -> Orientation:
    up, turn = flipped(station.orientation.up, station.orientation.turn, about)
    return Orientation(up=up, turn=turn)  # type: ignore[arg-type]


def _free_offset(facts: PlanFacts, setup: Setup) -> str:
    """A code of the setup's machine that no station uses, else that of its last one."""
    machine = facts.library.machines.get(setup.machine)
    used = {each.work_offset for each in facts.plan.stations}
    codes = machine.work_offsets if machine else ()
    return next((each for each in codes if each not in used), setup.stations[-1].work_offset)


def first_setup(facts: PlanFacts, id: str, station: str, up: Direction = "+z") -> tuple[Edit, ...]:
    """The blank, a machine that takes it and what holds it there, with a side up; without a machine
    in the library the blank alone.
    """
    plan, library = facts.plan, facts.library
    started = with_usual_stock(plan, library.settings)
    stock = started[0].stock if started and isinstance(started[0], SetStock) else plan.stock
    x, y, z = np.abs(orientation(up, 0)) @ np.array(blank_size(facts, stock))
    blank = (float(x), float(y), float(z))
    first = machine_for(library, blank, stock.TURNED) or next(iter(library.machines.values()), None)
    if first is None:
        return started
    offset = first.work_offsets[0] if first.work_offsets else "G54"
    return (
        *started,
        AddSetup(
            setup=Setup(
                id=id,
                machine=first.key,
                stations=(
                    Station(
                        id=station,
                        orientation=Orientation(up=up),
                        holding=holding_for(library, first, blank),
                        work_offset=offset,
                        at=on_tombstone(first),
                    ),
                ),
            )
        ),
    )


def blank_size(facts: PlanFacts, stock: Blank) -> Size:
    """What is ordered (mm): the part as it would be measured and what stands over it."""
    part = (np.zeros(3), np.array(facts.geometry.size))
    low, high = stock.corners(part, facts.library.geometries)
    x, y, z = (float(each) for each in high - low)
    return x, y, z
