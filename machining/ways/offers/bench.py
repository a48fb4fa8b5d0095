"""An offer of what could be cut next, with the tool at hand for it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from machining.facts.at_hand import Better, Fits, at_hand
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.index import Aim
from machining.plan.edit import AddOperation
from machining.plan.operation import Operation
from machining.plan.proposal import Proposal
from machining.world.feature import Feature
from machining.world.tool import Tool

SQUARE_MM = 0.5


@dataclass(frozen=True, slots=True)
class Offer(Proposal):
    """``group`` says on what, ``label`` what is done, ``tool`` with which tool (empty: none fits).
    ``rare`` ones stand back.
    """

    group: str = ""
    tool: str = ""
    rare: bool = False


@dataclass
class Bench:
    """Makes offers for one setup; ``fresh`` gives new ids. With an ``aim`` the station lies with
    that side turned to the tool, and offers are named by ``turned``.
    """

    seen: StationFacts
    facts: PlanFacts
    fresh: Callable[[], str]
    aim: Aim | None = None
    turned: str = ""

    @property
    def features(self) -> list[Feature]:
        """What of the part there is to cut: the blank may have some of it already."""
        known = self.facts.blank.has_already
        return [each for each in self.facts.geometry.features if each.id not in known]

    def offer(
        self,
        group: str,
        label: str,
        fits: Fits,
        better: Better,
        make: Callable[[str, str, Tool | None], Operation],
        rare: bool = False,
    ) -> Offer:
        found = at_hand(self.facts, self.seen.setup.planned.machine, fits, better)
        operation = make(
            self.fresh(), found.loaded.id if found else "", found.tool if found else None
        )
        if len(self.seen.setup.planned.stations) > 1:
            operation = operation.model_copy(update={"station": self.seen.id})
        if self.aim is not None:
            operation = operation.model_copy(update={"aim": self.aim})
        if self.turned:
            group = f"{self.turned}: {group}"
        name = f"T{found.loaded.number} {found.tool.name}" if found else ""
        added = AddOperation(setup=self.seen.setup.id, operation=operation)
        edits = (*(found.loads if found else ()), added)
        return Offer(label, edits, group=group, tool=name, rare=rare)


def square(tool: Tool) -> bool:
    """An end mill that leaves a square corner at the floor, or nearly."""
    return tool.kind == "end_mill" and tool.corner_radius_mm <= SQUARE_MM


def is_ball(tool: Tool) -> bool:
    return tool.kind == "end_mill" and abs(2 * tool.corner_radius_mm - tool.diameter_mm) < 1e-6


def exists(bench: Bench, fits: Fits) -> bool:
    return any(fits(tool) for tool in bench.facts.library.tools.values())
