"""How long an edge lasts at the speed an operation runs it."""

from __future__ import annotations

from machining.cutting import tool_life
from machining.cutting.data import constant
from machining.quantities.computed import Computed, Given

from .context import Ready

LIFE_HOLDS = 0.5  # of the low end of a band: slower, the law of tool life says nothing


def of_edge(op: Ready, speed: Computed, origin: str) -> None:
    """Figure edge_life, where tool and material say what it is worked out from."""
    tool, data = op.tool, op.data
    if data is None or tool.edge_life_min is None or speed.value <= LIFE_HOLDS * data.speed_low:
        return
    op.work_out(
        tool_life.life_at_speed,
        "edge_life",
        cutting_speed=speed,
        known_speed=Given(data.speed_start, origin),
        known_life=op.of_tool("edge_life_min"),
        exponent=Given(constant("taylor", tool.material), f"data:taylor.{tool.material}"),
    )
