"""What a kind of operation has to say for itself: where it works, what it takes, along which path,
under which load.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from shapely import Polygon

from machining.cutting import engagement
from machining.geometry.regions import Region
from machining.geometry.solids import Solid
from machining.motion.path import Path
from machining.placing.zero import Lie
from machining.quantities.computed import Given, Value
from machining.world.geometry import PartGeometry
from machining.world.material import Process
from machining.world.settings import Settings
from machining.world.tool import Tool

from ..context import PlanFacts, Ready
from ..place import Work


@dataclass(frozen=True, slots=True)
class Ground:
    """What an operation finds in its setup. ``tool`` is None while none is chosen; ``section`` is
    what the stock before it sweeps when turned.
    """

    lie: Lie
    geometry: PartGeometry
    part_outline: Region
    settings: Settings
    tool: Tool | None
    section: Region = Polygon()


def _nothing(op: Ready, facts: PlanFacts) -> None:
    """No load worth a figure."""


def _unmarked(operation: Any, work: Work, ground: Ground) -> Solid | None:
    """Leaves no mark on the model of the stock."""
    return None


Unsuited = tuple[str, dict[str, float]]


def _suits(operation: Any, work: Work, tool: Tool) -> Unsuited | None:
    return None


@dataclass(frozen=True, slots=True)
class Handler:
    """``diameter`` is where the edge's speed is taken (default: the tool's). ``unsuited`` says in a
    sentence with ``{names}`` of lengths (mm) why a tool of an allowed kind does not suit, None
    where it does.
    """

    process: Process
    tools: frozenset[str]
    work: Callable[[Any, Ground], Work]
    path: Callable[[Ready, PlanFacts], Path]
    load: Callable[[Ready, PlanFacts], None] = _nothing
    removed: Callable[[Any, Work, Ground], Solid | None] = _unmarked
    diameter: Callable[[Ready, PlanFacts], Value] | None = None
    unsuited: Callable[[Any, Work, Tool], Unsuited | None] = _suits


def heights(op: Ready, facts: PlanFacts) -> tuple[float, float]:
    """Clearance over a mouth (mm) and the height to retract to."""
    settings = facts.library.settings
    top = max(float(op.setup.lie.stock_high[2]), op.work.top)
    return settings.first_clearance_mm, top + settings.retract_mm


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
    return engagement.cone_diameter(height, tip, angle) / 2.0
