"""An offer of what could be cut next, with the tool at hand for it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from machining.facts.at_hand import Better, Fits, at_hand
from machining.facts.context import PlanFacts, SetupFacts
from machining.plan.edit import AddOperation, Edit
from machining.plan.operation import Operation
from machining.world.tool import Tool


@dataclass(frozen=True, slots=True)
class Offer:
    """``group`` says on what, ``label`` what is done, ``tool`` with which tool (empty: none fits).
    ``rare`` ones stand back.
    """

    group: str
    label: str
    tool: str
    edits: tuple[Edit, ...]
    rare: bool = False


@dataclass
class Bench:
    """Makes offers for one setup; ``fresh`` gives new ids."""

    seen: SetupFacts
    facts: PlanFacts
    fresh: Callable[[], str]

    def offer(
        self,
        group: str,
        label: str,
        fits: Fits,
        better: Better,
        make: Callable[[str, str, Tool | None], Operation],
        rare: bool = False,
    ) -> Offer:
        found = at_hand(self.facts, self.seen.planned.machine, fits, better)
        operation = make(
            self.fresh(), found.loaded.id if found else "", found.tool if found else None
        )
        name = f"T{found.loaded.number} {found.tool.name}" if found else ""
        return Offer(
            group,
            label,
            name,
            (
                *(found.loads if found else ()),
                AddOperation(setup=self.seen.planned.id, operation=operation),
            ),
            rare,
        )
