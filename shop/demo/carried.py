"""The tools a plan of the demo has on its machine, a pocket each by their number."""

from __future__ import annotations

from collections.abc import Iterable

from machining.plan.document import LoadedTool


def carried(machine: str, tools: Iterable[tuple[int, str, float]]) -> tuple[LoadedTool, ...]:
    """From number, assembly and stick-out (mm) of each."""
    return tuple(
        LoadedTool(
            id=f"t{n}",
            machine=machine,
            number=n,
            assembly=assembly,
            stick_out_mm=out,
            pocket=n,
            h=n,
            d=n,
        )
        for n, assembly, out in tools
    )
