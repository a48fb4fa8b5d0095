"""What stands round a part that is clamped down: plate, parallels, dowels, clamps."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

from shapely import Point, Polygon, box
from shapely.geometry.base import BaseGeometry

from machining.geometry.frames import Sideways
from machining.geometry.regions import Region
from machining.geometry.solids import Solid, above, below, outline
from machining.placing.zero import Lie
from machining.plan.clamped import Clamp, Clamped, Dowel
from machining.quantities.errors import OutOfRange
from machining.world.clamping import ScrewDown, SideClamp, Strap
from machining.world.gear import Gear

from ..stand import Body, Pressed
from ..state import State

PARALLEL_MM, FROM_EDGE_MM = 8.0, 5.0
NUT_HIGH = 1.5  # of a thread: nut, washer and what of the stud stands out of them
TIP_MM = 1e-3
OWN_MM = 0.5  # of the machine's own table, as far as it is drawn
FAR_MM = 1e4


@dataclass(frozen=True)
class Lying:
    """A part as it lies clamped down, before anything of it is cut."""

    held: Clamped
    gear: Gear
    lie: Lie
    state: State

    @property
    def solid(self) -> Solid:
        return self.state.solid

    @property
    def bottom(self) -> float:
        return float(self.lie.stock_low[2])

    @property
    def surface(self) -> float:
        """How high the base ends."""
        return self.bottom - self.held.raised_mm

    @property
    def middle(self) -> tuple[float, float]:
        x, y = (self.lie.stock_low[:2] + self.lie.stock_high[:2]) / 2.0
        return float(x), float(y)

    @cached_property
    def base(self) -> Body:
        """The plate; of the machine's own no more than lies under the part."""
        base = self.gear.base
        if not base.loose:
            low, high = self.lie.stock_low, self.lie.stock_high
            under = box(*(float(each) for each in (*low[:2], *high[:2])))
            return Body("pallet", "", under, self.surface - OWN_MM, self.surface)
        x, y = self.middle[0] - self.held.x_mm, self.middle[1] - self.held.y_mm
        half = base.x_mm / 2.0, base.y_mm / 2.0
        region = box(x - half[0], y - half[1], x + half[0], y + half[1])
        return Body("pallet", base.name, region, self.surface - base.thick_mm, self.surface)

    @property
    def shadow(self) -> Region:
        return self.state.outline()

    def across(self, side: Sideways) -> tuple[int, float]:
        """Which axis a side is on, and which way it looks."""
        return "xy".index(side[1]), 1.0 if side[0] == "+" else -1.0

    def strip(self, side: Sideways, at: float, wide: float, deep: tuple[float, float]) -> Polygon:
        """From ``deep[0]`` to ``deep[1]`` along an axis' own coordinate, so wide across it."""
        k, _ = self.across(side)
        middle = self.middle[1 - k] + at
        near, far = sorted(deep)
        ends = (near, middle - wide / 2.0, far, middle + wide / 2.0)
        return box(*ends) if k == 0 else box(ends[1], ends[0], ends[3], ends[2])

    def face(self, side: Sideways, at: float, wide: float, levels: tuple[float, float]) -> float:
        """Where (mm) the part ends at a side, over so wide a strip and between two heights. Raises
        OutOfRange where there is nothing of it.
        """
        k, sign = self.across(side)
        between = above(below(self.solid, levels[1]), levels[0])
        there = outline(between).intersection(self.strip(side, at, wide, (-FAR_MM, FAR_MM)))
        if there.is_empty:
            raise OutOfRange(f"place along the {side} side", at, "beside the stock")
        return float(there.bounds[k + 2] if sign > 0 else there.bounds[k])

    def on_base(self, name: str, region: BaseGeometry, clamp: Clamp | None = None) -> None:
        """Raises OutOfRange for what would stand beside the plate that it is screwed into."""
        if not self.gear.base.loose or (clamp is not None and clamp.fixed_in == "under"):
            return
        if not self.base.region.buffer(TIP_MM).covers(region):
            raise OutOfRange(f"place of {name}", "beside the plate", f"on {self.gear.base.name}")


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
    for k, each in enumerate(held.clamps, 1):
        try:
            clamps[each.id] = clamp_of(lying, each, k)
        except OutOfRange:
            if each.id not in later:
                raise
    dowels = tuple(dowel_of(lying, each, k) for k, each in enumerate(held.dowels, 1))
    return Standing((lying.base, *rests(lying)), dowels, clamps)


def apart(lying: Lying, every: Standing, on: Collection[str]) -> None:
    """Raises OutOfRange where two of them would stand in one place."""
    numbers = {each.id: k for k, each in enumerate(lying.held.clamps, 1)}
    there = [
        *((each.name, (each,)) for each in every.dowels),
        *((f"clamp {numbers[id]}", each.bodies) for id, each in every.clamps.items() if id in on),
    ]
    for (one, first), (other, second) in combinations(there, 2):
        if any(meet(a, b) for a in first for b in second):
            raise OutOfRange(f"place of {other}", f"where {one} stands", "a place of its own")


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
    low = outline(above(below(lying.solid, top), lying.bottom))
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
    nut = Point(*spot).buffer(strap.wrench_mm / 2.0)
    upper = top + strap.thick_mm
    every = (
        Body("clamp", name, long, top, upper, moves=True),
        Body("clamp", "", nut, upper, upper + NUT_HIGH * strap.thread_mm, of=name),
        Body("heel", "", foot, lying.surface, top, of=name),
        Body("heel", "", bolt, lying.surface, top, of=name),
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
    return Pressed(
        (Body("clamp", name, head, top, top + item.head_high_mm, moves=True),), head, top
    )
