"""A plan of many operations."""

from __future__ import annotations

from machining.plan.document import Plan
from machining.plan.operation import Engrave, MillThread, Undercut
from machining.plan.places import Lines, Text

from . import build


def long_plan(setups: int = 6) -> Plan:
    """Ten operations in each of up to six setups: the good plan's seven, an engraving, an undercut
    and a milled thread, on one side after the other.
    """
    more = (
        Engrave(id="text", tool="t9", on=Text(text="HERON 1", x_mm=-30, y_mm=18, height_mm=4)),
        Undercut(
            id="under", tool="t8", on=Lines(at_mm=(((-42, 0), (42, 0)),)), depth_mm=5, width_mm=2
        ),
        MillThread(
            id="thread", tool="t7", on=build.DRILL.on, major_mm=8, pitch_mm=1.25, depth_mm=15
        ),
    )
    tools = (
        *build.TOOLS,
        build.tool(7, "thread-mill-m8-one"),
        build.tool(8, "undercut-mill-20-60"),
        build.tool(9, "engraver-6-60"),
    )
    each = tuple(
        build.setup(
            *(op.model_copy(update={"id": f"{op.id}{k}"}) for op in (*build.GOOD, *more)),
            id=f"s{k}",
            takes=f"st{k - 1}" if k else "blank",
            work_offset=f"G5{4 + k}" if k < 6 else "G54",
        )
        for k in range(setups)
    )
    return build.plan(tools=tools, setups=each)
