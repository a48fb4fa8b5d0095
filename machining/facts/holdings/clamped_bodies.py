"""What stands round a part that is clamped down: plate, parallels, dowels, clamps."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from itertools import combinations

from shapely import Point, box
from shapely.geometry.base import BaseGeometry

from machining.plan.clamped import Clamp, Dowel
from machining.quantities.errors import OutOfRange
from machining.world.clamping import ScrewDown, SideClamp, Strap

from ..stand import Body, Pressed
from . import fixture
from .lying import FAR_MM, TIP_MM, Lying

PARALLEL_MM, FROM_EDGE_MM = 8.0, 5.0
NUT_HIGH = 1.5  # of a thread: nut, washer and what of the stud stands out of them


@dataclass(frozen=True)
class Standing:
    """What stands there: what the part lies on, dowels by name, and clamps by their ids."""

    under: tuple[Body, ...]
    dowels: tuple[Body, ...]
    clamps: Mapping[str, Pressed]

    def bodies(self, on: Collection[str]) -> Iterator[Body]:
        """All of them while some clamps are on."""
        yield from (*self.under, *self.dowels)
        for id, clamp in self.clamps.items():
            if id in on:
                yield from clamp.bodies


def standing(lying: Lying, later: Collection[str] = ()) -> Standing:
    """All that ever stands there; of clamps that are put on ``later`` those that would have a place
    now. Raises OutOfRange for what has no room beside or on the part.
    """
    held, clamps = lying.held, dict[str, Pressed]()
    own = fixture.fixture_of(lying)
    if own is not None:
        fixture.free_of(lying, own)
    for k, each in enumerate(held.clamps, 1):
        try:
            clamps[each.id] = clamp_of(lying, each, k)
        except OutOfRange:
            if each.id not in later:
                raise
    dowels = [dowel_of(lying, each, k) for k, each in enumerate(held.dowels, 1)]
    if own is None:
        return Standing((lying.base, *rests(lying)), tuple(dowels), clamps)
    dowels += fixture.pins(lying, own)
    return Standing(fixture.bodies(lying, own), tuple(dowels), clamps)


def apart(lying: Lying, every: Standing, on: Collection[str]) -> None:
    """Raises OutOfRange where two of them would stand in one place."""
    numbers = {each.id: k for k, each in enumerate(lying.held.clamps, 1)}
    walls = tuple(body for body in every.under if body.role == "fixture")
    there = [
        *((each.name, (each,)) for each in every.dowels if not each.name.startswith("locator")),
        *((f"clamp {numbers[id]}", each.bodies) for id, each in every.clamps.items() if id in on),
    ]
    for (one, first), (other, second) in combinations(there, 2):
        if any(meet(a, b) for a in first for b in second):
            raise OutOfRange(f"place of {other}", f"where {one} stands", "a place of its own")
    for one, bodies in there:
        own = [each for each in bodies if each.role == "clamp"]
        if any(meet(a, b) for a in own for b in walls):
            raise OutOfRange(f"place of {one}", "in the body of the fixture", "a place of its own")


def clamp_of(lying: Lying, clamp: Clamp, number: int) -> Pressed:
    """Where it is. Raises OutOfRange where it has no place."""
    item = lying.gear.clamps[clamp.clamp]
    if isinstance(item, Strap):
        return _strap(lying, clamp, item, number)
    if isinstance(item, SideClamp):
        return _side_clamp(lying, clamp, item, number)
    return _screw(lying, clamp, item, number)


def meet(one: Body, other: Body) -> bool:
    """Are they in one place?"""
    high = min(one.top, other.top) - max(one.bottom, other.bottom)
    return high > TIP_MM and float(one.region.intersection(other.region).area) > TIP_MM


def rests(lying: Lying) -> Iterator[Body]:
    """Two parallels along the longer side, near its edges."""
    if lying.held.raised_mm <= 0.0:
        return
    low, high = lying.lie.stock_low, lying.lie.stock_high
    across = 1 if high[0] - low[0] >= high[1] - low[1] else 0
    for edge in (low[across] + FROM_EDGE_MM, high[across] - FROM_EDGE_MM - PARALLEL_MM):
        ends = (float(low[1 - across]), float(edge), float(high[1 - across]), float(edge))
        region = (
            box(ends[0], ends[1], ends[2], ends[3] + PARALLEL_MM)
            if across == 1
            else box(ends[1], ends[0], ends[3] + PARALLEL_MM, ends[2])
        )
        yield Body("parallel", "", region, lying.surface, lying.bottom)


def dowel_of(lying: Lying, dowel: Dowel, number: int) -> Body:
    """A pin pushed towards the part till it touches it."""
    radius, (k, sign) = lying.gear.base.dowel_mm / 2.0, lying.across(dowel.side)
    name = f"dowel {number}"
    top = lying.surface + dowel.high_mm
    if top <= lying.bottom:
        raise OutOfRange(f"high_mm of {name}", dowel.high_mm, f"over {lying.held.raised_mm:g}")
    low = lying.outline_between(lying.bottom, top)
    way = lying.strip(dowel.side, dowel.at_mm, TIP_MM, (-FAR_MM, FAR_MM))
    met = low.buffer(radius + lying.held.shim_mm, quad_segs=64).intersection(way)
    if met.is_empty:
        raise OutOfRange(f"at_mm of {name}", dowel.at_mm, "beside the stock")
    out = met.bounds[k + 2] if sign > 0 else met.bounds[k]
    at = [lying.middle[0], lying.middle[1]]
    at[k], at[1 - k] = float(out), lying.middle[1 - k] + dowel.at_mm
    region = Point(*at).buffer(radius)
    lying.on_base(name, region)
    return Body("dowel", name, region, lying.surface, top)


def _height(lying: Lying, region: BaseGeometry, name: str) -> float:
    """Of the part under a region. Raises OutOfRange where there is none of it."""
    found = lying.state.top().highest_within(region)
    if found is None:
        raise OutOfRange(f"place of {name}", "beside the part", "on it")
    return found


def _strap(lying: Lying, clamp: Clamp, strap: Strap, number: int) -> Pressed:
    """Itself, with its nut; its stud and the block under its heel. Its nose presses."""
    name, (k, sign) = f"clamp {number}", lying.across(clamp.side)
    high = lying.bottom, float(lying.lie.stock_high[2])
    edge = lying.face(clamp.side, clamp.at_mm, strap.width_mm, high)
    tip = edge - sign * clamp.over_mm
    pad = lying.strip(clamp.side, clamp.at_mm, strap.width_mm, (tip, tip + sign * strap.pad_mm))
    top = _height(lying, pad, name)
    stud = tip + sign * (strap.pad_mm / 2.0 + strap.nose_to_stud_mm)
    heel = stud + sign * strap.stud_to_heel_mm
    long = lying.strip(clamp.side, clamp.at_mm, strap.width_mm, (tip, tip + sign * strap.long_mm))
    foot = lying.strip(
        clamp.side,
        clamp.at_mm,
        strap.width_mm,
        (heel - sign * strap.pad_mm / 2.0, heel + sign * strap.pad_mm / 2.0),
    )
    spot = [0.0, 0.0]
    spot[k], spot[1 - k] = stud, lying.middle[1 - k] + clamp.at_mm
    bolt = Point(*spot).buffer(strap.thread_mm / 2.0)
    for body, what in ((bolt, "stud"), (foot, "heel")):
        if body.intersects(lying.shadow):
            raise OutOfRange(
                f"over_mm of {name}", clamp.over_mm, f"so little that its {what} clears the part"
            )
        lying.on_base(f"the {what} of {name}", body, clamp)
    if clamp.fixed_in == "base":
        fixture.screwed_in(lying, (spot[0], spot[1]), strap.thread_mm, name)
    nut = Point(*spot).buffer(strap.wrench_mm / 2.0)
    upper = top + strap.thick_mm
    every = (
        Body("clamp", name, long, top, upper, moves=True),
        Body("clamp", "", nut, upper, upper + NUT_HIGH * strap.thread_mm, of=name),
        Body("heel", "", foot, lying.floor_under(foot), top, of=name),
        Body("heel", "", bolt, lying.floor_under(bolt), top, of=name),
    )
    return Pressed(every, pad, top)


def _side_clamp(lying: Lying, clamp: Clamp, item: SideClamp, number: int) -> Pressed:
    """Beside the part, its nose against it."""
    k, sign = lying.across(clamp.side)
    levels = _nose_levels(lying, item)
    name = f"clamp {number}"
    if levels[1] <= lying.bottom:
        raise OutOfRange(f"nose of {name}", item.low_mm + item.nose_mm, "as high as the part lies")
    edge = lying.face(clamp.side, clamp.at_mm, item.width_mm, levels)
    long = (edge, edge + sign * item.long_mm)
    region = lying.strip(clamp.side, clamp.at_mm, item.width_mm, long)
    lying.on_base(name, region, clamp)
    middle, half = lying.middle[1 - k] + clamp.at_mm, item.width_mm / 2.0
    nose = box(middle - half, levels[0], middle + half, levels[1])
    high = lying.surface + item.high_mm
    return Pressed((Body("clamp", name, region, lying.surface, high, moves=True),), nose, edge)


def _nose_levels(lying: Lying, item: SideClamp) -> tuple[float, float]:
    """From where to where (mm) its nose can touch the part."""
    low = max(lying.surface + item.low_mm, lying.bottom)
    return low, lying.surface + item.low_mm + item.nose_mm


def _spot_of(lying: Lying, clamp: Clamp, wide: float) -> tuple[float, float]:
    """Where a screw goes down: so far in from a side of the part."""
    k, sign = lying.across(clamp.side)
    edge = lying.face(clamp.side, clamp.at_mm, wide, (lying.bottom, float(lying.lie.stock_high[2])))
    spot = [0.0, 0.0]
    spot[k], spot[1 - k] = edge - sign * clamp.over_mm, lying.middle[1 - k] + clamp.at_mm
    return spot[0], spot[1]


def _screw(lying: Lying, clamp: Clamp, item: ScrewDown, number: int) -> Pressed:
    """The head of a screw in a hole of the part."""
    name, spot = f"clamp {number}", _spot_of(lying, clamp, item.head_mm)
    head, shank = (Point(*spot).buffer(d / 2.0) for d in (item.head_mm, item.thread_mm))
    top = _height(lying, head, name)
    if shank.intersects(lying.shadow):
        raise OutOfRange(f"place of {name}", "no hole for its thread", "at a hole through the part")
    lying.on_base(name, shank, clamp)
    if clamp.fixed_in == "base":
        fixture.screwed_in(lying, spot, item.thread_mm, name)
    return Pressed(
        (Body("clamp", name, head, top, top + item.head_high_mm, moves=True),), head, top
    )
