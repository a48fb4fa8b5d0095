"""A chuck: what is left of its jaws' force at speed, and what a cut asks of it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from math import ceil, inf

import numpy as np

from machining.holding import chuck as chucks
from machining.holding.contacts import Contact
from machining.memo import Memo
from machining.plan.edit import Change
from machining.plan.holding import InChuck
from machining.plan.proposal import Proposal
from machining.quantities.computed import Given, Value
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Shown
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.workholding import Chuck

from .. import held
from ..context import PlanFacts, Ready, StationFacts
from ..held import End
from ..stand import Stand
from ..state import State
from . import rests, soft_jaws
from .base import HoldingKind, Marks
from .chuck_bodies import body_behind, bored, gripped, jaw_angles, jaws_of
from .chuck_words import force_of, words
from .efforts import chuck_closed, jaws_set
from .grip_needed import grip_needed
from .on_axis import bodies_back, centred, contacts_back
from .rests import with_rests
from .round_contacts import flats, lines
from .round_grip import is_round

JAWS = "jaws"
# what an offered chuck closes with: of its jaws, of the stock, of its most
GRIP_SHARE, GRIP_OF_LENGTH, FORCE_SHARE = 0.8, 0.4, 0.6


def held_in(station: StationFacts) -> tuple[InChuck, Chuck] | None:
    """A setup's chuck and how it holds, None where it is held otherwise."""
    held, item = station.planned.in_chuck, station.item
    return (held, item) if held is not None and isinstance(item, Chuck) else None


def goes_on(chuck: Chuck, station: StationFacts) -> bool:
    """Is it one for a station's spindle, or for its table?"""
    return (chuck.height_mm is None) == station.turns


def _stand(station: StationFacts, holding: InChuck, chuck: Chuck, memo: Memo) -> Stand:
    if not goes_on(chuck, station):
        one = "a spindle" if station.turns else "a table"
        raise OutOfRange("chuck", chuck.name, f"one for {one}")
    there = centred(station)
    met = gripped(there, holding, chuck, memo)
    jaws = jaws_of(holding, chuck, there.lie, met.across)
    body = body_behind(jaws, there.lie, None if station.turns else chuck.height_mm)
    bodies = bodies_back(station, (*jaws, body))
    key = tuple((each.region.wkb, each.top) for each in bodies[:-1])
    stand = Stand(
        bodies,
        key,
        met.across,
        holding.grips == "inside",
        met.flat,
        met.along,
    )
    return with_rests(station, holding, stand)


def _figures(station: StationFacts, holding: InChuck, chuck: Chuck, facts: PlanFacts) -> None:
    """The figure grip_needed; how far the stock stands out decides it. Those of soft jaws."""
    grip_needed(station, facts)
    soft_jaws.figures(station, holding, chuck)


def _touches(
    station: StationFacts, holding: InChuck, chuck: Chuck, state: State
) -> tuple[list[Contact], dict[str, float]]:
    """Hard jaws on a round touch along a line, jaws bored to it along an arc and with their step,
    flats flatly.
    """
    stand, angles = station.stand, jaw_angles(holding, chuck)
    of = (stand.along, chuck.friction, JAWS)
    every: list[Contact]
    if stand.flat:
        every = flats(angles, chuck.jaw_width_mm, stand.grips_at, *of)
    elif bored(holding, chuck):
        every = soft_jaws.contacts(station, holding, chuck, JAWS)
    else:
        every = lines(angles, stand.grips_at, *of, stand.inside)
    every = [*contacts_back(station, every), *soft_jaws.on_steps(station, chuck, state)]
    more, groups = rests.contacts(station, holding, state)
    return [*every, *more], {JAWS: chuck.jaws * holding.force_per_jaw_n, **groups}


def _ends(op: Ready, holding: InChuck, chuck: Chuck) -> Sequence[End]:
    """At the largest diameter with the slowest speed, and the other way round: a kept cutting speed
    asks less torque where it throws the jaws out more, and what is asked over what is left has its
    least in between.
    """
    if not _is_thrown(op):
        return (End(),)
    return [
        End(_left(op, holding, chuck, rpm) / holding.force_per_jaw_n, diameter)
        for rpm, diameter in _speeds(op)
    ]


def _is_thrown(op: Ready) -> bool:
    """Does the chuck turn, at a speed that is known?"""
    return op.turns and "rpm" in op.figures


def _speeds(op: Ready) -> list[tuple[str, float]]:
    """The figures of speed and the diameters (mm) between which it turns."""
    turned = op.work.turned
    large = (
        2.0 * float(turned.bounds[2]) if not turned.is_empty else 2.0 * float(op.lie.stock_high[0])
    )
    top = op.figures.get("top_rpm")
    if top is None or turned.is_empty:
        return [("rpm", large)]
    small = max(2.0 * float(turned.bounds[0]), large * op.figures["rpm"].value / top.value)
    return [("rpm", large), ("top_rpm", min(small, large))]


def _left(op: Ready, holding: InChuck, chuck: Chuck, rpm: str) -> float:
    """What a jaw keeps (N) at a speed."""
    thrown = chucks.centrifugal_force(
        chuck.jaw_mass_kg, _jaw_middle(op.station, holding, chuck), op.figures[rpm].value
    )
    inside = float(holding.grips == "inside")
    return chucks.grip_at_speed(holding.force_per_jaw_n, thrown, inside)


def _at_speed(op: Ready, holding: InChuck, chuck: Chuck, least: int | None) -> None:
    """Figures centrifugal and jaw_at_speed; no factor where the jaws have let go."""
    if least is None or "rpm" not in op.figures:
        return
    rpm: Value = Given(0.0, "a tool that is driven, the work held")
    if op.turns:
        rpm = op.figures[_speeds(op)[least][0]]
    origin = f"chuck:{chuck.name}"
    thrown = op.work_out(
        chucks.centrifugal_force,
        "centrifugal",
        jaw_mass=Given(chuck.jaw_mass_kg, origin),
        jaw_radius=Given(_jaw_middle(op.station, holding, chuck), origin),
        rpm=rpm,
    )
    left = op.work_out(
        chucks.grip_at_speed,
        "jaw_at_speed",
        at_rest=Given(holding.force_per_jaw_n),
        centrifugal=thrown,
        inside=Given(float(holding.grips == "inside"), "holding"),
    )
    if left.value <= 0.0:
        op.figures.pop("holding", None)
        op.seen = replace(op.seen, let_go=True)


def _jaw_middle(station: StationFacts, holding: InChuck, chuck: Chuck) -> float:
    """Radius (mm) of a jaw's centre of mass."""
    inside = -min(chuck.jaw_radius_mm, station.stand.grips_at / 2.0)
    return station.stand.grips_at / 2.0 + (
        chuck.jaw_radius_mm if holding.grips == "outside" else inside
    )


def needs(op: Ready, factor: float) -> float | None:
    """Force of a jaw at rest (N) that gives a holding factor at all it comes to, None without its
    figures.
    """
    kept, known = _kept(op, factor), held_in(op.station)
    if kept is None or known is None:
        return None
    out = -1.0 if known[0].grips == "inside" else 1.0
    mass, middle = known[1].jaw_mass_kg, _jaw_middle(op.station, *known)
    return max(
        max(force + out * chucks.centrifugal_force(mass, middle, rpm) for rpm, force in kept), 0.0
    )


def _kept(op: Ready, factor: float) -> list[tuple[float, float]] | None:
    """What a jaw has to keep (N) for a factor, at each speed (rpm) it comes to, upwards; None where
    no force is enough.
    """
    known, seen = held_in(op.station), op.seen.held
    if known is None or seen is None:
        return None
    speeds = [op.figures[name].value for name, _ in _speeds(op)] if _is_thrown(op) else [0.0]
    kept = list[tuple[float, float]]()
    for each in (seen, *seen.others):
        more = held.scale_of(each, factor)
        if more is None:
            return None
        kept.append((speeds[each.end], more * known[0].force_per_jaw_n))
    return sorted(kept)


def slowest_that_holds(op: Ready, factor: float) -> float | None:
    """The most (rpm) it may turn so that jaws that grip from outside keep a holding factor, None
    where no speed does. Between the ends of a kept cutting speed what they have to keep goes with
    the diameter that is turned, and so with 1/speed.
    """
    kept, known = _kept(op, factor), held_in(op.station)
    if kept is None or known is None or known[0].grips == "inside" or not op.turns:
        return None
    holding, chuck = known
    mass, middle = chuck.jaw_mass_kg, _jaw_middle(op.station, holding, chuck)
    (slow, most), (fast, least) = kept[0], kept[-1]
    spare = holding.force_per_jaw_n - most
    if spare <= 0:
        return None
    released = chucks.release_speed(spare, mass, middle)
    if slow == fast or released < slow:
        return released
    by_diameter = (most - least) / (1.0 / slow - 1.0 / fast)
    at_once = least - by_diameter / fast
    thrown = chucks.centrifugal_force(mass, middle, 1.0)
    # thrown·rpm² + at_once + by_diameter/rpm = what they are closed with
    found = np.roots([thrown, 0.0, at_once - holding.force_per_jaw_n, by_diameter])
    return float(min(max(found.real[abs(found.imag) < 1e-9 * fast]), fast))


def _fits(machine: Machine, place: Table | SpindleNose) -> str | None:
    """Before a spindle, and with its jaws up on a table."""
    return None


def _seat_mm(holding: InChuck, chuck: Chuck) -> float:
    """On a table: how high the stock's end stands over it."""
    return (chuck.height_mm or 0.0) + chuck.jaw_length_mm - holding.grip_mm


def _longest_mm(chuck: Chuck) -> float:
    return chuck.jaw_length_mm


def _gripped_mm(holding: InChuck) -> float:
    return holding.grip_mm


def _offers(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """The chucks that close on the stock."""
    across = float(station.lie.stock_high[0] - station.lie.stock_low[0])
    room = float(station.lie.stock_high[2] - station.lie.stock_low[2])
    if not station.turns and not is_round(station.arrives.outline()):
        return
    for chuck in facts.library.chucks.values():
        if goes_on(chuck, station) and chuck.min_grip_mm <= across <= chuck.max_grip_mm:
            held = soft_jaws.as_bored(usual_hold(chuck, room), chuck, centred(station))
            fields = {"holding": held.model_dump()}
            yield Proposal(
                "Hold it in the {chuck}",
                (Change(on=station.on, fields=fields),),
                {"chuck": Shown(chuck.name)},
            )


def _usual(
    station: StationFacts, chuck: Chuck, before: InChuck | None, facts: PlanFacts
) -> InChuck:
    """As long as its jaws are, with no more force than it gives."""
    room = float(station.lie.stock_high[2] - station.lie.stock_low[2])
    if before is None:
        return soft_jaws.as_bored(usual_hold(chuck, room), chuck, centred(station))
    kept = {
        "chuck": chuck.key,
        "grip_mm": min(before.grip_mm, chuck.jaw_length_mm),
        "force_per_jaw_n": min(before.force_per_jaw_n, chuck.force_per_jaw_n),
    }
    again = before.model_copy(update=kept)
    return (
        again if before.bored_mm is not None else soft_jaws.as_bored(again, chuck, centred(station))
    )


def usual_hold(chuck: Chuck, room: float) -> InChuck:
    """How a chuck usually holds stock of a length (mm)."""
    return InChuck(
        chuck=chuck.key,
        grip_mm=round(min(GRIP_SHARE * chuck.jaw_length_mm, GRIP_OF_LENGTH * room), 1),
        force_per_jaw_n=round(FORCE_SHARE * chuck.force_per_jaw_n, -2),
    )


def _as_asked(chuck: Chuck, grip: float) -> float:
    return grip


def _tighten(op: Ready, holding: InChuck, chuck: Chuck, factor: float) -> Iterator[Proposal]:
    """More force at rest, or less speed that throws the jaws out."""
    on = op.station.on
    force = needs(op, factor)
    if force is not None and force <= chuck.force_per_jaw_n:
        tighter = ceil(force / 100.0) * 100.0
        yield Proposal(
            "Close the jaws with {force} each",
            (Change(on=on, fields={"holding.force_per_jaw_n": tighter}),),
            {"force": Shown(tighter, "force")},
        )
    slower = slowest_that_holds(op, factor)
    if slower is not None:
        limit = float(int(slower / 50.0) * 50) or slower
        yield Proposal(
            "Let it turn {limit} at most",
            (Change(on=on, fields={"holding.limit_rpm": limit}),),
            {"limit": Shown(limit, "spindle_speed")},
        )


def _most_rpm(holding: InChuck, chuck: Chuck) -> float:
    return min(chuck.max_rpm, holding.limit_rpm or inf)


def _marks(holding: InChuck, chuck: Chuck, body: str) -> Marks | None:
    return Marks("hard jaws", True) if chuck.jaw_kind == "hard" else None


def _goes(chuck: Chuck, place: Table | SpindleNose) -> bool:
    return (chuck.height_mm is None) == isinstance(place, SpindleNose)


CHUCK = HoldingKind(
    Chuck,
    _fits,
    _seat_mm,
    _gripped_mm,
    force_of,
    _longest_mm,
    "grip_mm",
    _as_asked,
    _as_asked,
    _usual,
    _offers,
    _stand,
    _figures,
    _touches,
    _tighten,
    words,
    each="each",
    turns=True,
    most_rpm=_most_rpm,
    ends=_ends,
    at_speed=_at_speed,
    unasked=soft_jaws.unasked,
    put_on=rests.put_on,
    built=bored,
    marks=_marks,
    goes=_goes,
    closed=chuck_closed,
    set_up=jaws_set,
)
