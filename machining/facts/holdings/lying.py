"""A part as it lies clamped down, with what it lies on: where its sides, strips of it and its base
are.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from shapely import Polygon, affinity, box
from shapely.geometry.base import BaseGeometry

from machining.geometry.frames import Sideways
from machining.geometry.regions import Region
from machining.geometry.solids import Solid, above, below, outline
from machining.placing.zero import Lie
from machining.plan.clamped import Clamp, Clamped
from machining.quantities.errors import OutOfRange
from machining.world.fixture import Fixture
from machining.world.gear import Gear

from ..stand import Body
from ..state import State

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
        """How high the base ends: of a fixture, its highest seat."""
        return self.bottom - self.held.raised_mm + self.held.hangs_mm

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
        if isinstance(base, Fixture):
            whole = affinity.translate(base.outline, x, y)
            return Body("pallet", base.name, whole, self.surface - base.thick_mm, self.surface)
        half = base.x_mm / 2.0, base.y_mm / 2.0
        region = box(x - half[0], y - half[1], x + half[0], y + half[1])
        return Body("pallet", base.name, region, self.surface - base.thick_mm, self.surface)

    def floor_under(self, region: BaseGeometry) -> float:
        """How high the base is where something stands on it."""
        base = self.gear.base
        if not isinstance(base, Fixture):
            return self.surface
        x, y = self.middle[0] - self.held.x_mm, self.middle[1] - self.held.y_mm
        there = affinity.translate(region, -x, -y)
        tops = [each.high_mm for each in base.blocks if each.region.intersects(there)]
        return self.surface - base.thick_mm + max(tops, default=0.0)

    @property
    def shadow(self) -> Region:
        return self.state.outline()

    def outline_between(self, low: float, high: float) -> Region:
        """The shadow of what is between two heights (mm)."""
        return self.state.memo.get(
            ("outline between", self.state.key, low, high),
            lambda: outline(above(below(self.solid, high), low)),
        )

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
        strip = self.strip(side, at, wide, (-FAR_MM, FAR_MM))
        there = self.outline_between(*levels).intersection(strip)
        if there.is_empty:
            raise OutOfRange(f"place along the {side} side", at, "beside the stock")
        return float(there.bounds[k + 2] if sign > 0 else there.bounds[k])

    def on_base(self, name: str, region: BaseGeometry, clamp: Clamp | None = None) -> None:
        """Raises OutOfRange for what would stand beside the plate that it is screwed into."""
        if not self.gear.base.loose or (clamp is not None and clamp.fixed_in == "under"):
            return
        if not self.base.region.buffer(TIP_MM).covers(region):
            raise OutOfRange(f"place of {name}", "beside the plate", f"on {self.gear.base.name}")
