"""A part clamped down on what it stands on: straps, clamps beside it, screws through it, against
dowels; on the machine's own table, on a plate, or on a pallet that a vise holds.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from math import ceil

from machining.geometry.solids import bounds, prism
from machining.holding import grip, lever, screw
from machining.holding.contacts import Weight
from machining.holding.patch import PLACES
from machining.memo import Memo, digest
from machining.plan.clamped import Clamp, Clamped
from machining.plan.clamps_on import clamped_on
from machining.plan.document import Orientation
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.computed import Computed, Given
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Shown
from machining.world.clamping import AnyClamp, Base, SideClamp, Strap
from machining.world.fixture import Fixture
from machining.world.gear import Gear
from machining.world.library import Library
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.workholding import Vise

from ..context import PlanFacts, Ready, StationFacts
from ..held import Layer, scale_for
from ..stand import Body, Pressed, Stand, key_of
from ..state import State
from . import clamped_bodies, clamped_contacts, vise
from .base import HoldingKind, Marks, Touches
from .clamped_bodies import Standing
from .clamped_usual import offers, usual
from .clamped_words import force_of, words
from .efforts import base_set, clamps_closed
from .lying import Lying
from .nest import across

LYING = Orientation()


def _fits(machine: Machine, place: Table | SpindleNose) -> str | None:
    if isinstance(place, SpindleNose):
        return f"{machine.name} turns the part: clamps on its face are not worked out."
    return None


def item_of(held: Clamped, library: Library) -> Gear | None:
    """Base, clamps and vise; None where one of them is missing."""
    base = library.holdings.get(held.base)
    clamps = {key: library.clamps[key] for key in held.gear if key in library.clamps}
    holds = library.holdings.get(held.vise.vise) if held.vise is not None else None
    if not isinstance(base, Base | Fixture) or len(clamps) < len(held.gear):
        return None
    if held.vise is not None and not isinstance(holds, Vise):
        return None
    return Gear(base, clamps, holds if isinstance(holds, Vise) else None)


def lacks(held: Clamped, library: Library) -> str:
    for key in held.gear:
        if key not in library.clamps:
            return f"The library has no clamp {key!r}."
    if held.vise is not None and not isinstance(library.holdings.get(held.vise.vise), Vise):
        return f"The library has no vise {held.vise.vise!r}."
    return f"The library has nothing {held.base!r} to clamp a part on."


def lying_of(station: StationFacts, held: Clamped, gear: Gear) -> Lying:
    return Lying(held, gear, station.lie, station.arrives)


def _stand(station: StationFacts, held: Clamped, gear: Gear, memo: Memo) -> Stand:
    lying = lying_of(station, held, gear)
    if held.nest_mm is not None:
        across(station, held)  # what is not round has no place in it
    changes = clamped_on(held, station.work)
    first = changes.get("", frozenset(each.id for each in held.clamps))
    later = frozenset(each.id for each in held.clamps) - first
    key = digest("clamped", station.arrives.key, _said(held, gear), sorted(later))
    every = memo.get(("clamped", key), lambda: clamped_bodies.standing(lying, later))
    clamped_bodies.apart(lying, every, first)
    below = _in_its_vise(station, held, gear, memo)
    return _stood(every, below.stand.bodies if below else (), changes, later)


def _stood(
    every: Standing,
    under: tuple[Body, ...],
    changes: Mapping[str, frozenset[str]],
    later: frozenset[str],
) -> Stand:
    """All that ever stands there, and what does in each operation; not what is put on ``later``."""

    def with_clamps(on: frozenset[str]) -> Stand:
        bodies = (*every.bodies(on), *under)
        known = {id: clamp for id, clamp in every.clamps.items() if id in on}
        return Stand(bodies, (key_of(bodies),), on=on, clamps=known)

    whole = with_clamps(frozenset(every.clamps))
    if not changes:
        return whole
    during = {id: with_clamps(on - later) for id, on in changes.items()}
    return replace(whole, during=during, on=frozenset())


def _put_on(
    station: StationFacts, held: Clamped, gear: Gear, operation: str, state: State, memo: Memo
) -> Stand:
    """With the clamps that are put on before an operation, on what is left of the part by then."""
    stand, changes = station.stand, clamped_on(held, station.work)
    missing = changes[operation] - stand.during[operation].on
    if not missing or stand.during[operation].problem:
        return stand
    lying = Lying(held, gear, station.lie, state)
    key = digest("put on", state.key, _said(held, gear), sorted(missing))
    later = {id: each for id, each in stand.during.items() if id in _from(changes, operation)}
    try:
        fresh = memo.get(("put on", key), lambda: _places(lying, missing))
        dowels = stand.during[operation].of("dowel")
        walls = stand.during[operation].of("fixture")
        now = Standing(walls, dowels, {**stand.during[operation].clamps, **fresh})
        clamped_bodies.apart(lying, now, changes[operation])
    except OutOfRange as problem:
        failed = {id: replace(each, problem=str(problem)) for id, each in later.items()}
        return replace(stand, during={**stand.during, **failed})
    during = {id: _with(each, fresh, changes[id]) for id, each in later.items()}
    known = {**stand.clamps, **fresh}
    gone = {body for id in fresh if id in stand.clamps for body in stand.clamps[id].bodies}
    bodies = [body for body in stand.bodies if body not in gone]
    bodies += [body for each in fresh.values() for body in each.bodies]
    return replace(stand, bodies=tuple(bodies), clamps=known, during={**stand.during, **during})


def _places(lying: Lying, ids: frozenset[str]) -> dict[str, Pressed]:
    numbered = enumerate(lying.held.clamps, 1)
    return {c.id: clamped_bodies.clamp_of(lying, c, k) for k, c in numbered if c.id in ids}


def _from(changes: Mapping[str, frozenset[str]], operation: str) -> list[str]:
    ids = list(changes)
    return ids[ids.index(operation) :]


def _with(stand: Stand, fresh: Mapping[str, Pressed], on: frozenset[str]) -> Stand:
    """The same with those of some clamps that are on then."""
    more = {id: each for id, each in fresh.items() if id in on}
    bodies = (*stand.bodies, *(body for each in more.values() for body in each.bodies))
    clamps = {**stand.clamps, **more}
    key = (key_of(bodies),)
    return replace(stand, bodies=bodies, key=key, clamps=clamps, on=stand.on | set(more))


def _said(held: Clamped, gear: Gear) -> list[str]:
    every = (gear.base, *gear.clamps.values(), *((gear.vise,) if gear.vise else ()))
    return [held.model_dump_json(exclude={"reason"}), *(e.model_dump_json() for e in every)]


def _in_its_vise(
    station: StationFacts, held: Clamped, gear: Gear, memo: Memo
) -> StationFacts | None:
    """The base as what a vise holds; None where none does. What is worked out of it is its own."""
    if held.vise is None or gear.vise is None or not gear.base.loose:
        return None
    plate = lying_of(station, held, gear).base
    solid = prism(plate.region, plate.bottom, plate.top)
    low, high = bounds(solid)
    lie = replace(station.lie, part_low=low, part_high=high, stock_low=low, stock_high=high)
    key = digest("base", plate.region.wkb, plate.bottom, plate.top)
    planned = station.planned.model_copy(update={"orientation": LYING, "holding": held.vise})
    seen = replace(
        station,
        planned=planned,
        item=gear.vise,
        lie=lie,
        arrives=State(lambda: solid, key, memo, lie),
        figures={},
        stand=Stand(),
    )
    seen.stand = vise.VISE.stand(seen, held.vise, gear.vise, memo)
    return seen


def _figures(station: StationFacts, held: Clamped, gear: Gear, facts: PlanFacts) -> None:
    """Figures clamp_1 and so on, stud_1 of straps, and clamping of the vise under them. No screw is
    reckoned with more than it takes.
    """
    for k, clamp in enumerate(held.clamps, 1):
        _force_of(station, clamp, gear.clamps[clamp.clamp], k)
    if held.vise is not None and gear.vise is not None:
        vise.clamping(station, held.vise, gear.vise)


def _force_of(station: StationFacts, clamp: Clamp, item: AnyClamp, number: int) -> Computed:
    most, of = item.max_torque_nm, f"clamp:{item.name}"
    over = clamp.torque_nm > most
    torque = Given(
        min(clamp.torque_nm, most), f"the most that {item.name} takes" if over else "entered"
    )
    name = f"clamp_{number}"
    if isinstance(item, SideClamp):
        per = Given(item.force_per_torque, of)
        return station.work_out(grip.clamping_force, name, torque=torque, force_per_torque=per)
    turned = {
        "torque": torque,
        "screw_diameter": Given(item.thread_mm, of),
        "nut_factor": Given(item.nut_factor, of),
    }
    if not isinstance(item, Strap):
        return station.work_out(screw.screw_force, name, **turned)
    return station.work_out(
        lever.nose_force,
        name,
        stud=station.work_out(screw.screw_force, f"stud_{number}", **turned),
        nose_to_stud=Given(item.nose_to_stud_mm, of),
        stud_to_heel=Given(item.stud_to_heel_mm, of),
    )


def _forces(station: StationFacts, held: Clamped) -> dict[str, float]:
    numbered = enumerate(held.clamps, 1)
    return {clamp.id: station.figures[f"clamp_{k}"].value for k, clamp in numbered}


def _touches(station: StationFacts, held: Clamped, gear: Gear, state: State) -> Touches:
    lying = lying_of(station, held, gear)
    every = clamped_contacts.contacts(lying, station.stand, state.solid)
    pressed, forces = {each.group for each in every}, _forces(station, held)
    return every, {id: force for id, force in forces.items() if id in pressed}


def _under(station: StationFacts, held: Clamped, gear: Gear) -> Layer | None:
    """The plate in its vise, with what presses on the part from beyond the plate."""
    memo = station.arrives.memo
    seen = _in_its_vise(station, held, gear, memo)
    if seen is None or held.vise is None or gear.vise is None:
        return None
    in_vise, holds = held.vise, gear.vise
    seen.figures["clamping"] = station.figures["clamping"]
    plate = lying_of(station, held, gear).base
    middle = (*plate.region.centroid.coords[0], (plate.bottom + plate.top) / 2.0)
    weight = Weight(gear.base.mass_kg, (*(round(each, PLACES) for each in middle),))  # type: ignore[arg-type]
    beyond = {each.id for each in held.clamps if each.fixed_in == "under"}

    def touches(state: State) -> Touches:
        every, groups = vise.VISE.touches(seen, in_vise, holds, seen.arrives)
        more, forces = _touches(station, held, gear, state)
        every = [*every, *(each for each in more if each.group in beyond)]
        return every, {**groups, **{id: n for id, n in forces.items() if id in beyond}}

    return Layer(touches, gear.base.name, weight)


def _seat_mm(held: Clamped, gear: Gear) -> float:
    high = held.raised_mm + gear.base.thick_mm - held.hangs_mm
    if held.vise is None or gear.vise is None:
        return high
    return high + vise.VISE.seat_mm(held.vise, gear.vise)


def _gripped_mm(held: Clamped) -> float:
    return 0.0


def _longest_mm(gear: Gear) -> float:
    return 0.0


def _as_it_is(gear: Gear, asked: float) -> float:
    """No grip is deeper or shallower."""
    return 0.0


def _tighten(op: Ready, held: Clamped, gear: Gear, factor: float) -> Iterator[Proposal]:
    """All clamps that are on alike, or the vise under them, whichever gives way."""
    more, found = scale_for(op, factor), op.seen.held
    if more is None or found is None:
        return
    on = op.station.on
    if found.weakest.of and held.vise is not None and gear.vise is not None:
        torque = ceil(more * min(held.vise.torque_nm, gear.vise.max_torque_nm))
        if torque <= gear.vise.max_torque_nm:
            yield Proposal(
                "Tighten the vise to {torque}",
                (Change(on=on, fields={"holding.vise.torque_nm": float(torque)}),),
                {"torque": Shown(float(torque), "torque")},
            )
        return
    tight = {e.id: _tightened(e, gear, more) for e in held.clamps if e.id in op.stand.on}
    known = [each for each in tight.values() if each is not None]
    if known and len(known) == len(tight):
        fresh = {each.id: each for each in known}
        clamps = [fresh.get(e.id, e).model_dump(mode="json") for e in held.clamps]
        yield Proposal(
            "Tighten its clamps to {torque}",
            (Change(on=on, fields={"holding.clamps": clamps}),),
            {"torque": Shown(max(each.torque_nm for each in known), "torque")},
        )


def _tightened(clamp: Clamp, gear: Gear, more: float) -> Clamp | None:
    most = gear.clamps[clamp.clamp].max_torque_nm
    torque = ceil(10.0 * more * min(clamp.torque_nm, most)) / 10.0
    return clamp.model_copy(update={"torque_nm": torque}) if torque <= most else None


def _built(held: Clamped, gear: Gear) -> bool:
    """Its clamps are put together for the part."""
    return True


def _unasked(gear: Gear) -> frozenset[str]:
    """Of a fixture, what stands on a plain plate; of that, what hangs below its seats."""
    if isinstance(gear.base, Fixture):
        return frozenset({"raised_mm", "nest_mm", "shim_mm"})
    return frozenset({"hangs_mm"})


def _marks(held: Clamped, gear: Gear, body: str) -> Marks | None:
    """Clamps beside the part have teeth; a strap's nose and a screw's head are plain."""
    if not body.startswith("clamp "):
        return None
    item = gear.clamps[held.clamps[int(body.removeprefix("clamp ")) - 1].clamp]
    return Marks(body, isinstance(item, SideClamp))


CLAMPED = HoldingKind(
    Base,
    _fits,
    _seat_mm,
    _gripped_mm,
    force_of,
    _longest_mm,
    "",
    _as_it_is,
    _as_it_is,
    usual,
    offers,
    _stand,
    _figures,
    _touches,
    _tighten,
    words,
    called="clamps",
    stands="The clamps stand",
    grips="The clamps hold",
    built=_built,
    marks=_marks,
    under=_under,
    item_of=item_of,
    lacks=lacks,
    unasked=_unasked,
    put_on=_put_on,
    closed=clamps_closed,
    set_up=base_set,
)


def clamps_of(station: StationFacts) -> Iterator[tuple[int, Clamp, AnyClamp, Body | None]]:
    """Each clamp with its number, its record and where it stands."""
    held, gear = station.planned.holding, station.item
    if not isinstance(held, Clamped) or not isinstance(gear, Gear):
        return
    named = {body.name: body for body in station.stand.of("clamp")}
    for k, clamp in enumerate(held.clamps, 1):
        yield k, clamp, gear.clamps[clamp.clamp], named.get(f"clamp {k}")
