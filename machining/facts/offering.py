"""An offer of what could be cut next, and the choice of its tool."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from machining.plan.document import LoadedTool
from machining.plan.edit import AddOperation, Edit, LoadTool
from machining.plan.loading import loaded as load
from machining.plan.operation import Operation
from machining.world.tool import Tool

from .context import PlanFacts, SetupFacts


@dataclass(frozen=True, slots=True)
class Offer:
    """``group`` says on what, ``label`` what is done, ``tool`` with which tool (empty: none fits). ``rare`` ones stand back."""

    group: str
    label: str
    tool: str
    edits: tuple[Edit, ...]
    rare: bool = False


Fits = Callable[[Tool], bool]
Better = Callable[[Tool], float]


@dataclass
class Bench:
    """Makes offers for one setup; ``fresh`` gives new ids."""

    seen: SetupFacts
    facts: PlanFacts
    fresh: Callable[[], str]

    def tool(self, fits: Fits, better: Better) -> tuple[LoadedTool | None, Tool | None, tuple[Edit, ...]]:
        """The best fitting tool loaded on this machine, else the best of the library with the edit that loads it."""
        library, machine = self.facts.library, self.seen.setup.machine
        here = [(t, tool) for t in self.facts.plan.tools if t.machine == machine and (a := library.assemblies.get(t.assembly)) and (tool := library.tools.get(a.tool)) and fits(tool)]
        if here:
            best = max(here, key=lambda pair: better(pair[1]))
            return best[0], best[1], ()
        most = self.seen.machine.max_tool_diameter_mm if self.seen.machine else 1e9
        known = [(a, tool) for a in library.assemblies.values() if (tool := library.tools.get(a.tool)) and fits(tool) and tool.diameter_mm <= most]
        if not known:
            return None, None, ()
        assembly, tool = max(known, key=lambda pair: better(pair[1]))
        new = load(self.facts.plan, machine, assembly)
        return new, tool, (LoadTool(tool=new),)

    def offer(self, group: str, label: str, fits: Fits, better: Better, make: Callable[[str, str, Tool | None], Operation], rare: bool = False) -> Offer:
        carried, tool, loading = self.tool(fits, better)
        operation = make(self.fresh(), carried.id if carried else "", tool)
        name = f"T{carried.number} {tool.name}" if carried and tool else ""
        return Offer(group, label, name, (*loading, AddOperation(setup=self.seen.setup.id, operation=operation)), rare)
