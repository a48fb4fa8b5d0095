"""The tools of a plan as CSV, one line a loaded tool, column symbols as in ISO 13399 where it has
one.
"""

from __future__ import annotations

import csv
import io

from machining.plan.document import Plan
from machining.world.library import Library

from .cells import guarded

COLUMNS = (
    "machine",
    "pocket",
    "T",
    "H",
    "D",
    "tool",
    "kind",
    "DC_mm",
    "RE_mm",
    "ZEFP",
    "LCF_mm",
    "LU_mm",
    "DMM_mm",
    "OAL_mm",
    "holder",
    "stick_out_mm",
    "gauge_length_mm",
)


def write(plan: Plan, library: Library) -> str:
    """Lines sorted by machine and T number; a tool the library has lost keeps its line with empty
    cells.
    """
    text = io.StringIO()
    rows = csv.writer(text, lineterminator="\n")
    rows.writerow(COLUMNS)
    for loaded in sorted(plan.tools, key=lambda t: (t.machine, t.number)):
        assembly = library.assemblies.get(loaded.assembly)
        tool = library.tools.get(assembly.tool) if assembly else None
        holder = library.holders.get(assembly.holder) if assembly else None
        about = (
            (
                tool.name,
                tool.kind,
                tool.diameter_mm,
                tool.corner_radius_mm,
                tool.flutes,
                tool.flute_length_mm,
                tool.usable_length_mm,
                tool.shank_diameter_mm,
                tool.overall_length_mm,
            )
            if tool
            else (loaded.assembly, *[""] * 8)
        )
        gauge = loaded.stick_out_mm + holder.length_mm if holder else ""
        row = [
            loaded.machine,
            loaded.pocket,
            loaded.number,
            loaded.h,
            loaded.d,
            *about,
            holder.name if holder else "",
            loaded.stick_out_mm,
            gauge,
        ]
        rows.writerow([guarded(cell) if isinstance(cell, str) else cell for cell in row])
    return text.getvalue()
