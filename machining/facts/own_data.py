"""Where an operation starts: the material's data, less for edges that are weak or thin."""

from __future__ import annotations

from typing import Literal

from machining.cutting import speeds
from machining.cutting.data import constants
from machining.plan.operation import Operation
from machining.quantities.computed import Given, Value
from machining.world.material import CuttingData, Material
from machining.world.tool import Tool

from .context import Ready
from .kinds import process_of

What = Literal["form_speed", "form_chip"]


def own_data(operation: Operation, tool: Tool, material: Material) -> CuttingData | None:
    """The material's data of what an operation does; of a form tool its share of them."""
    row = material.data_for(process_of(operation, tool), tool.material)
    slower, thinner = share(tool, "form_speed"), share(tool, "form_chip")
    if row is None or (slower, thinner) == (1.0, 1.0):
        return row
    return row.model_copy(
        update={
            "speed_low": row.speed_low * slower,
            "speed_start": row.speed_start * slower,
            "speed_high": row.speed_high * slower,
            "chip_at_10_mm": row.chip_at_10_mm * thinner,
        }
    )


def share(tool: Tool, what: What) -> float:
    """Of the data of its process, that a tool of this kind starts at."""
    return float(constants()[what].get(tool.kind, 1.0))


def start_speed(op: Ready, origin: str) -> Value:
    """The cutting speed (m/min) it starts at; figure own_speed where that is a form tool's."""
    assert op.data is not None  # missing data with nothing typed has been refused before
    of_all = share(op.tool, "form_speed")
    if of_all == 1.0:
        return Given(op.data.speed_start, origin)
    return op.work_out(
        speeds.own_speed,
        "own_speed",
        speed=Given(op.data.speed_start / of_all, origin),
        share=Given(of_all, f"data:form_speed.{op.tool.kind}"),
    )


def started(op: Ready, chip: float, origin: str) -> Given:
    """A chip of its data (mm), that says where a share of it is a form tool's."""
    of_all = share(op.tool, "form_chip")
    if of_all < 1.0:
        said = Given(of_all, f"data:form_chip.{op.tool.kind}")
        op.work_out(speeds.own_chip, "own_chip", chip=Given(chip / of_all, origin), share=said)
    return Given(chip, origin)
