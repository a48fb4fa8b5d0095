"""Putting an assembly of the library into a pocket of a machine."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import count

from machining.world.standing import StandingTool
from machining.world.tool import Assembly

from .document import LoadedTool, Plan

ALIKE_MM = 0.05  # of stick-out


def loaded(
    plan: Plan,
    machine: str,
    assembly: Assembly,
    stick_out_mm: float | None = None,
    standing: Sequence[StandingTool] = (),
) -> LoadedTool:
    """A new loaded tool with the first free number, which is also its pocket, H and D; its id is
    new in the plan. Of those ``standing`` in the machine it is the one like it, and in the way of
    none.
    """
    numbers = {t.number for t in plan.tools if t.machine == machine}
    out_mm = stick_out_mm or assembly.stick_out_mm
    there = next(
        (
            each
            for each in standing
            if each.assembly == assembly.key
            and abs(each.stick_out_mm - out_mm) < ALIKE_MM
            and each.number not in numbers
            and not each.carrier
        ),
        None,
    )
    taken = numbers | {n for each in standing for n in (each.number, each.pocket)}
    ids = (
        {t.id for t in plan.tools}
        | {s.id for s in plan.setups}
        | {each.id for each in plan.stations}
        | {op.id for s in plan.setups for op in s.operations}
    )
    number = there.number if there else next(n for n in count(1) if n not in taken)
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
        stick_out_mm=there.stick_out_mm if there else out_mm,
        pocket=there.pocket if there else number,
        h=number,
        d=number,
    )
