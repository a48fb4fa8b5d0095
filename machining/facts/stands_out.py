"""How far a tool stands out of its holder: against what stands beside it, and at the most."""

from __future__ import annotations

from machining.quantities.computed import Given
from machining.reaching import stick_out

from .context import Ready


def as_planned(op: Ready) -> Given:
    return Given(op.loaded.stick_out_mm, f"tool:T{op.loaded.number}")


def against(op: Ready, obstacle: Given, section_above_mm: float, margin: Given) -> None:
    """Figures stick_out_needed and stick_out_spare, from how high an obstacle stands over the tip
    and how far above the holder's face the section begins that would meet it.
    """
    needed = op.work_out(
        stick_out.needed_stick_out,
        "stick_out_needed",
        obstacle_above_tip=Given(max(obstacle.value, 0.0), obstacle.origin),
        section_above_face=Given(section_above_mm, f"holder:{op.holder.name}"),
        margin=margin,
    )
    op.work_out(
        stick_out.spare_stick_out, "stick_out_spare", stick_out=as_planned(op), needed=needed
    )


def at_most(op: Ready) -> None:
    """Figure stick_out_longest: what leaves enough of the shank in the holder."""
    op.work_out(
        stick_out.longest_stick_out,
        "stick_out_longest",
        overall=op.of_tool("overall_length_mm"),
        grip=Given(op.holder.grip_depth_mm, f"holder:{op.holder.name}"),
    )


def slender(op: Ready, across: str = "diameter_mm") -> None:
    """Figure slenderness, by a size of the tool."""
    op.work_out(
        stick_out.slenderness,
        "slenderness",
        stick_out=as_planned(op),
        diameter=op.of_tool(across),
    )
