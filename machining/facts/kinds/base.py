"""What a kind of operation has to say for itself: where it works, what it takes, along which path,
under which force, and what it is called.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic

from shapely import Polygon

from machining.cutting import engagement
from machining.geometry.regions import Region, filled
from machining.geometry.solids import Solid, above, outline, posed, section
from machining.motion.path import Path
from machining.motion.paths.cleared import Level
from machining.placing.zero import Lie
from machining.quantities.computed import Given, Value
from machining.world.geometry import PartGeometry
from machining.world.material import Process
from machining.world.settings import Settings
from machining.world.tool import Tool

from ..context import K, OperationFacts, PlanFacts, Ready
from ..place import Work
from ..retract import over_work
from ..state import State
from ..tables import Table
from ..wording import Named

Unsuited = tuple[str, dict[str, float]]


UNDER_MM = 0.02  # what chords of a round are off
SAME_SHARE = 1e-3  # of its area, and an outline is the same


@dataclass(frozen=True, slots=True)
class Ground:
    """What an operation finds in its setup. ``tool`` is None while none is chosen; ``before`` is
    the stock as it lies there, ``section`` what that sweeps where the setup turns it.
    """

    lie: Lie
    geometry: PartGeometry
    part_outline: Region
    settings: Settings
    tool: Tool | None
    before: State
    turns: bool = False

    @property
    def section(self) -> Region:
        return self.before.half_section() if self.turns else Polygon()

    @property
    def stock_outline(self) -> Region:
        return self.before.outline()

    @property
    def stock_top(self) -> float:
        return float(self.before.bounds()[1][2])

    @property
    def part_top(self) -> float:
        return float(self.lie.part_high[2])

    def top_outline(self, under: float) -> Region:
        """The outline of what reaches up to the part's top, so far under it (mm): a boss's on a
        plate.
        """
        part = posed(self.geometry.solid, self.lie.pose)
        there = filled(section(part, self.part_top - under - UNDER_MM))
        same = abs(there.area - self.part_outline.area) < SAME_SHARE * self.part_outline.area
        return self.part_outline if same or there.is_empty else there

    def stands_over(self, z: float) -> Region:
        """The finished part's shadow from a height up."""
        return outline(above(posed(self.geometry.solid, self.lie.pose), z + UNDER_MM))

    @property
    def radius(self) -> float:
        """Of the tool (mm), 0 while none is chosen."""
        return self.tool.diameter_mm / 2.0 if self.tool else 0.0


def nothing(op: Any, facts: PlanFacts) -> None:
    """No figures of its own."""


def unmarked(operation: Any, work: Work, ground: Ground) -> Solid | None:
    """Leaves no mark on the model of the stock."""
    return None


def suits(operation: Any, work: Work, tool: Tool) -> Unsuited | None:
    """Every tool of an allowed kind does."""
    return None


def no_side_cut(op: Any) -> float | None:
    return None


def no_table(op: Any) -> Table | None:
    return None


def no_metal(op: Any) -> tuple[Level, ...]:
    """Its path is the same, whatever stands there."""
    return ()


def of_its_place(op: Any, facts: PlanFacts) -> Named | None:
    """Called after the place it works at."""
    return None


def allowance(operation: Any) -> float | None:
    """What it leaves on walls, mm; None for what leaves nothing to ask for."""
    return getattr(operation, "leave_mm", None)


def all_fields(operation: Any) -> frozenset[str]:
    return frozenset()


def at_plunge(work: Work) -> bool:
    """On its way down it goes slower than its feed."""
    return False


@dataclass(frozen=True, slots=True)
class Kind(Generic[K]):
    """One kind of operation.

    ``work`` is where it works, ``removed`` what it takes of the stock, ``path`` its nominal path,
    ``forces`` and ``size`` their figures, ``worked`` and ``table`` what a planner would work out on
    paper, ``words`` what it is called. ``diameter`` is where the edge's speed is taken (default:
    the tool's), ``width`` the radial width of a side cut, ``inside`` the diameter its edge goes
    round in a hole, ``feed_per_turn`` a feed the work itself dictates, ``speed`` its own speed and
    feed, ``dwell_s`` what it waits at each hole, ``metal`` the stock its path goes by, ``section``
    what one pass takes of an edge (mm²), ``infeed`` how wide that is where it is not as wide as
    deep.

    ``unsuited`` says in a sentence with ``{names}`` of lengths (mm) why a tool of an allowed kind
    does not suit; ``says_shape`` is for kinds where that sentence judges the tool's shape too.
    ``no_stock`` are fields that change neither its place nor what it takes, but those of them that
    ``shapes`` names for one operation; ``in_air`` those that only move where it begins,
    ``no_trace`` those that do not change where it goes in plan.
    """

    process: Process
    tools: frozenset[str]
    work: Callable[[K, Ground], Work]
    path: Callable[[Ready[K], PlanFacts], Path]
    forces: Callable[[Ready[K], PlanFacts], None] = nothing
    removed: Callable[[K, Work, Ground], Solid | None] = unmarked
    size: Callable[[Ready[K], PlanFacts], None] = nothing
    worked: Callable[[Ready[K], PlanFacts], None] = nothing
    table: Callable[[Ready[K]], Table | None] = no_table
    words: Callable[[OperationFacts[K], PlanFacts], Named | None] = of_its_place
    unsuited: Callable[[K, Work, Tool], Unsuited | None] = suits
    diameter: Callable[[Ready[K], PlanFacts], Value] | None = None
    width: Callable[[Ready[K]], float | None] = no_side_cut
    inside: Callable[[Ready[K]], float | None] = no_side_cut
    feed_per_turn: Callable[[Ready[K]], Value] | None = None
    speed: Callable[[Ready[K], PlanFacts], None] | None = None
    dwell_s: Callable[[Ready[K]], float] | None = None
    metal: Callable[[Ready[K]], tuple[Level, ...]] = no_metal
    section: Callable[[Ready[K]], float | None] = no_side_cut
    infeed: Callable[[Ready[K]], float | None] = no_side_cut
    straight_down: Callable[[Work], bool] = at_plunge
    leaves_mm: Callable[[K], float | None] = allowance
    no_stock: frozenset[str] = frozenset()
    shapes: Callable[[K], frozenset[str]] = all_fields
    in_air: frozenset[str] = frozenset()
    no_trace: Callable[[K], frozenset[str]] = all_fields
    says_shape: bool = True
    turned: bool = False  # the work turns
    on_axis: bool = False  # it cuts on the tool's own axis, its feed is by the turn
    on_lathe: bool = False  # worked out on a lathe's axis too
    in_mouth: bool = False  # it cuts at the mouth of a hole or an edge, not along its wall
    carried: bool = False  # its cut is found by carrying it through the stock
    goes_down: bool = False  # its edge meets the walls of what is open beside a hole
    covers_region: bool = False  # it sweeps all of its region
    side_by_side: bool = False  # its passes lie closer than the tool is wide
    thin_chips: bool = False  # too thin a chip is in its nature
    meets: str = ""  # what of the blank it may be first to meet: "top", "sides"
    roughs: bool = False
    roughs_walls: bool = False
    finishes: bool = False
    makes_hole: bool = False
    bench: str = ""  # the comparison on the bench that serves it
    edge: bool = False  # what it takes of the part is its solid, and no more
    needs_hole: str = ""  # what is done to one that is there already: tapped


def heights(op: Ready, facts: PlanFacts) -> tuple[float, float]:
    """Clearance over a mouth (mm) and the height to retract to."""
    near, away = over_work(op.setup, facts)
    return near, max(op.highest, op.work.top) + away


def cone_of(tool: Tool | None) -> tuple[float, float]:
    """Included angle (degrees) and flat of the tip (mm) of a pointed tool; a sharp 90° stands in
    while none is chosen.
    """
    if tool is None:
        return 90.0, 0.0
    return tool.included_angle_deg or tool.point_angle_deg or 90.0, tool.tip_diameter_mm


def half_angle(op: Ready) -> Given:
    """Half the included angle of the operation's tool, from its axis."""
    return Given(cone_of(op.tool)[0] / 2.0, op.tool_origin)


def included(op: Ready) -> Given:
    return Given(cone_of(op.tool)[0], op.tool_origin)


def cone_radius(tool: Tool | None, height: float) -> float:
    """Radius (mm) of a pointed tool at a height over its tip."""
    angle, tip = cone_of(tool)
    return engagement.cone_diameter(height, tip, angle) / 2.0 if height > 0 else tip / 2.0
