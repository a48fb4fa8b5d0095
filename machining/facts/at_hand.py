"""The tool at hand for a job: one loaded on the machine, else one of the library with the edit that
loads it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import inf

from machining.plan.document import LoadedTool
from machining.plan.edit import Edit, LoadTool
from machining.plan.loading import loaded as load
from machining.world.library import Library
from machining.world.tool import Assembly, Tool

from .context import PlanFacts

Fits = Callable[[Tool], bool]
Better = Callable[[Tool], float]


@dataclass(frozen=True, slots=True)
class AtHand:
    """``loads`` is empty where the tool is in the machine already."""

    loaded: LoadedTool
    assembly: Assembly
    tool: Tool
    loads: tuple[Edit, ...] = ()

    @property
    def name(self) -> str:
        return (
            f"T{self.loaded.number} {self.assembly.name}{', loaded for it' if self.loads else ''}"
        )


def at_hand(
    facts: PlanFacts,
    machine: str,
    fits: Fits,
    better: Better = lambda _: 0.0,
    stick_out_mm: float | None = None,
) -> AtHand | None:
    """The best fitting tool (the first of equals) loaded on a machine, else the best of the library
    its magazine takes, of equals one that stands in it; None where none fits. One of which there is
    none in the shop comes after all others.

    ``stick_out_mm`` is how long a tool of the library is to stick out, None as its assembly says.
    """
    library = facts.library
    here = [
        AtHand(t, a, tool)
        for t in facts.plan.tools
        if t.machine == machine
        and (a := library.assemblies.get(t.assembly))
        and (tool := library.tools.get(a.tool))
        and fits(tool)
    ]
    if here:
        return max(here, key=lambda each: (each.tool.on_hand != 0, better(each.tool)))
    at = library.machines.get(machine)
    most = at.carriers[0].max_tool_diameter_mm if at else inf
    known = [
        (a, tool)
        for a in library.assemblies.values()
        if (tool := library.tools.get(a.tool)) and tool.diameter_mm <= most and fits(tool)
    ]
    longest = at.carriers[0].max_tool_length_mm if at else inf
    short = [(a, tool) for a, tool in known if _long(a, stick_out_mm, library) <= longest]
    if not known:
        return None
    standing = library.standing(machine)
    there = {each.assembly for each in standing}
    assembly, tool = max(
        short or known,
        key=lambda pair: (pair[1].on_hand != 0, better(pair[1]), pair[0].key in there),
    )
    new = load(facts.plan, machine, assembly, stick_out_mm, standing)
    return AtHand(new, assembly, tool, (LoadTool(tool=new),))


def _long(assembly: Assembly, stick_out_mm: float | None, library: Library) -> float:
    """From its gauge line (mm)."""
    holder = library.holders.get(assembly.holder)
    out = assembly.stick_out_mm if stick_out_mm is None else stick_out_mm
    return out + (holder.length_mm if holder is not None else 0.0)
