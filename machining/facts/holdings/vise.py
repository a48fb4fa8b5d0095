"""A machine vise: two plain jaws, parallels and a bed under the part."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from math import ceil, inf
from typing import Literal

from shapely import box

from machining.geometry.frames import Vector
from machining.geometry.solids import Solid, below, bounds
from machining.holding import grip
from machining.holding.contacts import Contact
from machining.memo import Memo
from machining.placing.zero import Lie
from machining.plan.edit import Change
from machining.plan.in_vise import Holding
from machining.plan.proposal import Proposal
from machining.quantities.computed import Given
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Shown
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.workholding import Vise

from .. import at_angle, held
from ..context import PlanFacts, Ready, StationFacts
from ..parallels import SAME_MM, grip_at_least, grips, usual_hold
from ..stand import Body, Stand
from ..state import State
from . import vise_contacts, vise_mounted, vise_profile
from .base import HoldingKind, Marks
from .efforts import vise_closed, vise_set
from .grip_needed import grip_needed
from .vise_words import force_of, words

PARALLEL_MM, BESIDE_JAW_MM, FROM_ENDS_MM = 8.0, 3.0, 2.0
LEAST_PARALLEL_MM = 1.0
HANDLE_MM = 40.0  # of a handle, across its screw
STOP_MM = 12.0  # of a stop, along the jaws and across


def held_in(station: StationFacts) -> tuple[Holding, Vise] | None:
    """A setup's vise and how it holds, None where it is held otherwise."""
    held, item = station.planned.in_vise, station.item
    return (held, item) if held is not None and isinstance(item, Vise) else None


def parallels_under(station: StationFacts) -> float | None:
    """Height (mm) of the parallels its grip asks for; None on the bed, in soft jaws (a step is cut
    into them) and without a vise.
    """
    held = held_in(station)
    if held is None or held[1].jaws == "soft" or at_angle.is_raised(station):
        return None
    height = held[1].jaw_height_mm - held[0].grip_depth_mm
    return height if height > SAME_MM else None


def gripped_bounds(station: StationFacts, holding: Holding, memo: Memo) -> tuple[Vector, Vector]:
    """Corners of what lies between the jaws: the stock up to their tops, which can be narrower than
    the rest.
    """
    return memo.get(
        ("gripped", station.arrives.key, holding.grip_depth_mm),
        lambda: gripped(holding, station.arrives.solid),
    )


def gripped(holding: Holding, stock: Solid) -> tuple[Vector, Vector]:
    """The same of a solid that lies as it is held."""
    low, high = bounds(stock)
    part = bounds(below(stock, float(low[2]) + holding.grip_depth_mm))
    return part if float(part[1][2]) > float(part[0][2]) else (low, high)


def jaws_of(
    holding: Holding, vise: Vise, lie: Lie, gripped: tuple[Vector, Vector]
) -> tuple[Body, ...]:
    """The two jaws against what they grip, in the setup frame. Raises OutOfRange where it doesn't
    fit the vise.
    """
    along = "xy".index(holding.fixed[1])
    low, high = float(gripped[0][along]), float(gripped[1][along])
    vise_mounted.goes_between(holding, vise, high - low)
    low, high = low + holding.profile_mm, high - holding.profile_mm
    if high - low > vise.max_opening_mm:
        raise OutOfRange(
            "width between the jaws",
            round(high - low, 3),
            f"up to {vise.max_opening_mm:g}, the opening of {vise.name}",
        )
    if holding.grip_depth_mm > vise.jaw_height_mm:
        raise OutOfRange(
            "grip depth",
            holding.grip_depth_mm,
            f"up to {vise.jaw_height_mm:g}, the height of the jaws",
        )
    half, seat = vise.jaw_width_mm / 2.0, float(lie.stock_low[2])
    top = seat + holding.grip_depth_mm
    sides = []
    for of, middle in _middles(holding, vise, lie):
        for sign, face in (("-", low), ("+", high)):
            outer = face + (vise.jaw_thickness_mm if sign == "+" else -vise.jaw_thickness_mm)
            near, far = min(face, outer), max(face, outer)
            region = (
                box(near, middle - half, far, middle + half)
                if along == 0
                else box(middle - half, near, middle + half, far)
            )
            fixed = holding.fixed == sign + "xy"[along]
            name = of + ("fixed jaw" if fixed else "moving jaw")
            sides.append(Body("jaw", name, region, top - vise.jaw_height_mm, top, moves=not fixed))
    return tuple(sides)


def _middles(holding: Holding, vise: Vise, lie: Lie) -> list[tuple[str, float]]:
    """Where the middles of its jaws are along them (mm), and what a second one's are called after.
    Raises OutOfRange where two vises take the same room.
    """
    along = "xy".index(holding.fixed[1])
    middle = float(lie.stock_low[1 - along] + lie.stock_high[1 - along]) / 2.0 + holding.shift_mm
    if holding.second_mm is None:
        return [("", middle)]
    wide = max(vise.jaw_width_mm, vise.base_width_mm)
    if holding.second_mm < wide:
        raise OutOfRange(
            "second vise", holding.second_mm, f"at least {wide:g} away, as wide as they are"
        )
    return [("", middle - holding.second_mm / 2.0), ("second ", middle + holding.second_mm / 2.0)]


def in_from_jaws(holding: Holding) -> float:
    """How far (mm) its parallels stand from the jaws: as said, or pushed out to them."""
    return BESIDE_JAW_MM if holding.parallels_in_mm is None else holding.parallels_in_mm


def _parallels(
    holding: Holding, lie: Lie, near: tuple[float, ...], far: tuple[float, ...], bottom: float
) -> Iterator[Body]:
    """Inside the jaws and along them, from the bed up to the part."""
    along, away = "xy".index(holding.fixed[1]), in_from_jaws(holding)
    seat = float(lie.stock_low[2])
    if seat - bottom <= LEAST_PARALLEL_MM:
        return
    low, high = lie.stock_low, lie.stock_high
    for inner in (near[along + 2] + away, far[along] - away - PARALLEL_MM):
        first, second = float(low[1 - along]) + FROM_ENDS_MM, float(high[1 - along]) - FROM_ENDS_MM
        region = (
            box(inner, first, inner + PARALLEL_MM, second)
            if along == 0
            else box(first, inner, second, inner + PARALLEL_MM)
        )
        yield Body("parallel", "", region, bottom, seat)


def _bed(holding: Holding, vise: Vise, lie: Lie, jaws: tuple[Body, ...]) -> Iterator[Body]:
    """The body of the vise, from the table up: it begins behind the fixed jaw and runs to where the
    moving one comes from. Then what stays on its screw.
    """
    along, sign = "xy".index(holding.fixed[1]), 1.0 if holding.fixed[0] == "+" else -1.0
    fixed = next(jaw.region.bounds for jaw in jaws if not jaw.moves)
    behind = fixed[along + 2] if sign > 0 else fixed[along]
    far = behind - sign * vise.base_length_mm
    middle = (fixed[1 - along] + fixed[3 - along]) / 2.0
    near, last, half = min(behind, far), max(behind, far), vise.base_width_mm / 2.0
    region = (
        box(near, middle - half, last, middle + half)
        if along == 0
        else box(middle - half, near, middle + half, last)
    )
    table = float(lie.stock_low[2]) - _seat_mm(holding, vise)
    yield Body("bed", "", region, table, table + vise.bed_height_mm)
    if vise.handle_mm:
        near, last = sorted((far, far - sign * vise.handle_mm))
        half, high = HANDLE_MM / 2.0, table + vise.bed_height_mm / 2.0
        region = (
            box(near, middle - half, last, middle + half)
            if along == 0
            else box(middle - half, near, middle + half, last)
        )
        yield Body("handle", "handle of the vise", region, high - half, high + half)


def touched(
    of: Literal["jaw", "stop"], holding: Holding, gripped: tuple[Vector, Vector]
) -> tuple[int, bool, float]:
    """Where what is gripped touches the fixed jaw or the stop: along which axis, at its high end,
    and there (mm).
    """
    across = "xy".index(holding.fixed[1])
    on, high = across, holding.fixed[0] == "+"
    if of == "stop":
        on, high = 1 - across, holding.stop == "high"
    return on, high, float(gripped[int(high)][on])


def _stop(holding: Holding, gripped: tuple[Vector, Vector], top: float) -> Iterator[Body]:
    """What the part is pushed against along the jaws, as high as they are."""
    if not holding.stop:
        return
    along, outwards, end = touched("stop", holding, gripped)
    low, high = gripped
    middle = float(low[1 - along] + high[1 - along]) / 2.0
    near, far = sorted((end, end + (STOP_MM if outwards else -STOP_MM)))
    sides = middle - STOP_MM / 2.0, middle + STOP_MM / 2.0
    region = (
        box(near, sides[0], far, sides[1]) if along == 0 else box(sides[0], near, sides[1], far)
    )
    yield Body("stop", "stop", region, float(low[2]), top)


def _stand(station: StationFacts, holding: Holding, vise: Vise, memo: Memo) -> Stand:
    gripped = gripped_bounds(station, holding, memo)
    jaws = jaws_of(holding, vise, station.lie, gripped)
    along = "xy".index(holding.fixed[1])
    pairs = [jaws[k : k + 2] for k in range(0, len(jaws), 2)]
    near, far = sorted((jaw.region.bounds for jaw in pairs[0]), key=lambda each: each[along])
    beds = [[*_bed(holding, vise, station.lie, pair)] for pair in pairs]
    bed, handle = beds[0][0], [each for _, *rest in beds for each in rest]
    under: Iterable[Body] = _parallels(holding, station.lie, near, far, jaws[0].bottom)
    wedge = None
    if at_angle.is_raised(station):
        if holding.second_mm is not None:
            raise OutOfRange("second vise", holding.second_mm, "none where the part is raised")
        orientation, gap = station.planned.orientation, (near[along + 2], far[along])
        wedge = at_angle.wedge(orientation, holding, station.arrives.solid, bed.top, gap)
        under = wedge.strips if wedge is not None else ()
    out = vise_profile.cut_for(station, holding, vise, memo)
    if out is not None:
        under = vise_profile.floors(jaws, out, float(station.lie.stock_low[2]))
        jaws = tuple(vise_profile.cut(jaws, out))
    stop = _stop(holding, gripped, jaws[0].top)
    bodies = (*jaws, *stop, *under, *(bed for bed, *_ in beds), *handle)
    key = tuple((body.region.bounds, body.top) for body in bodies)
    return Stand(bodies, (*key, holding.profile_mm), gripped=gripped, wedge=wedge)


def _figures(station: StationFacts, holding: Holding, vise: Vise, facts: PlanFacts) -> None:
    """Figures clamping and grip_needed."""
    clamping(station, holding, vise)
    grip_needed(station, facts)


def clamping(station: StationFacts, holding: Holding, vise: Vise) -> None:
    """The figure of that name. No screw is reckoned with more than it takes."""
    torque = min(holding.torque_nm, vise.max_torque_nm)
    over = holding.torque_nm > vise.max_torque_nm
    station.work_out(
        grip.clamping_force,
        "clamping",
        torque=Given(torque, f"the most that {vise.name} takes" if over else "entered"),
        force_per_torque=Given(vise.force_per_torque, f"vise:{vise.name}"),
    )


def _touches(
    station: StationFacts, holding: Holding, vise: Vise, state: State
) -> tuple[list[Contact], dict[str, float]]:
    clamping = station.figures.get("clamping")
    every = vise_contacts.contacts(station, holding, vise, state.solid)
    pressed = {each.group for each in every} - {None}
    return every, {str(name): clamping.value for name in pressed if clamping is not None}


def _fits(machine: Machine, place: Table | SpindleNose) -> str | None:
    if isinstance(place, SpindleNose):
        return f"{machine.name} turns the part: a chuck holds it."
    return None


def _seat_mm(holding: Holding, vise: Vise) -> float:
    return vise.bed_height_mm + vise.jaw_height_mm - holding.grip_depth_mm


def _longest_mm(vise: Vise) -> float:
    return vise.jaw_height_mm


def _gripped_mm(holding: Holding) -> float:
    return holding.grip_depth_mm


def _usual(station: StationFacts, vise: Vise, before: Holding | None, facts: PlanFacts) -> Holding:
    """Across Y where it opens so far, else across X; no tighter than its screw takes."""
    if before is not None:
        torque = min(before.torque_nm, vise.max_torque_nm)
        return before.model_copy(update={"vise": vise.key, "torque_nm": torque})
    across = float(station.lie.stock_high[1] - station.lie.stock_low[1])
    letter = "y" if across <= vise.max_opening_mm else "x"
    return usual_hold(vise, letter, facts.library.settings.grip_least_mm)


def _offers(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """Across each axis the vises that open far enough."""
    for vise in facts.library.vises.values():
        for axis in (1, 0):
            width = float(station.lie.stock_high[axis] - station.lie.stock_low[axis])
            yield from vise_mounted.offered(station, vise, axis, width, facts)
            if width <= vise.max_opening_mm:
                held = usual_hold(vise, "xy"[axis], facts.library.settings.grip_least_mm)
                fields = {"holding": held.model_dump()}
                yield Proposal(
                    "Hold it in the {vise} across {axis}",
                    (Change(on=station.on, fields=fields),),
                    {"vise": Shown(vise.name), "axis": Shown("XY"[axis])},
                )


def _shallower(vise: Vise, most: float) -> float:
    if vise.jaws == "soft":
        return most
    return max((grip for grip in grips(vise) if grip <= most), default=most)


def _tighten(op: Ready, holding: Holding, vise: Vise, factor: float) -> Iterator[Proposal]:
    more = held.scale_for(op, factor)
    torque = ceil(more * min(holding.torque_nm, vise.max_torque_nm)) if more is not None else inf
    if torque <= vise.max_torque_nm:
        yield Proposal(
            "Tighten to {torque}",
            (Change(on=op.station.on, fields={"holding.torque_nm": float(torque)}),),
            {"torque": Shown(float(torque), "torque")},
        )


def _marks(holding: Holding, vise: Vise, body: str) -> Marks | None:
    if vise.jaws == "soft" or not body.endswith("jaw"):
        return None
    return Marks(f"{vise.jaws} jaws", vise.jaws == "serrated")


def _unasked(vise: Vise) -> frozenset[str]:
    """Hard jaws are not cut for a part, and not every vise has outer faces for its jaws."""
    hard = frozenset() if vise.jaws == "soft" else frozenset({"profile_mm"})
    inside = all(vise_mounted.opening_of(vise, each) is None for each in vise_mounted.OUT)
    return hard | (frozenset({"jaws_on"}) if inside else frozenset())


def _built(holding: Holding, vise: Vise) -> bool:
    """Jaws that were cut for the part."""
    return holding.profile_mm > 0.0


VISE = HoldingKind(
    Vise,
    _fits,
    _seat_mm,
    _gripped_mm,
    force_of,
    _longest_mm,
    "grip_depth_mm",
    grip_at_least,
    _shallower,
    _usual,
    _offers,
    _stand,
    _figures,
    _touches,
    _tighten,
    words,
    item_of=vise_mounted.item_of,
    unasked=_unasked,
    built=_built,
    marks=_marks,
    closed=vise_closed,
    set_up=vise_set,
)
