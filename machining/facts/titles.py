"""What an operation is called in ledger, sheet and findings."""

from __future__ import annotations

from .context import OperationFacts, PlanFacts
from .kinds import kind_of
from .wording import Named, of_place


def title(op: OperationFacts, facts: PlanFacts) -> Named:
    """Verb, detail with ``{names}`` and the lengths (mm) behind them: ("Drill", "4 × {d} through",
    {"d": 6.8}).
    """
    return kind_of(op.operation).words(op, facts) or of_place(op, facts)
