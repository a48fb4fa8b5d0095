"""What becomes of a turned size beside its tool: the part is pressed out of round, and bends."""

from __future__ import annotations

from . import shaft, squeezed
from .context import PlanFacts, Ready


def look(op: Ready, facts: PlanFacts) -> None:
    """Figures squeezed and part_bends."""
    squeezed.look(op, facts)
    shaft.look(op, facts)
