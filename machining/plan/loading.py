"""Putting an assembly of the library into a pocket of a machine."""

from __future__ import annotations

from itertools import count

from machining.world.tool import Assembly

from .document import LoadedTool, Plan


def loaded(
    plan: Plan, machine: str, assembly: Assembly, stick_out_mm: float | None = None
) -> LoadedTool:
    """A new loaded tool with the first free number, which is also its pocket, H and D; its id is
    new in the plan.
    """
    numbers = {t.number for t in plan.tools if t.machine == machine}
    ids = (
        {t.id for t in plan.tools}
        | {s.id for s in plan.setups}
        | {each.id for each in plan.stations}
        | {op.id for s in plan.setups for op in s.operations}
    )
    number = next(n for n in count(1) if n not in numbers)
    id = next(
        name
        for k in count(0)
        if (name := f"t-{assembly.key[:30]}{f'-{k}' if k else ''}") not in ids
    )
    return LoadedTool(
        id=id,
        machine=machine,
        number=number,
        assembly=assembly.key,
        stick_out_mm=stick_out_mm or assembly.stick_out_mm,
        pocket=number,
        h=number,
        d=number,
    )
