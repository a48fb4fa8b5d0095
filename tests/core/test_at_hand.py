"""Which tool is at hand: the best of those loaded, else of the library, and none the magazine can't
take.
"""

from __future__ import annotations

from machining.facts.at_hand import at_hand
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.edit import LoadTool

from .build import LIBRARY, TOOLS, plan, with_part

MACHINE = TOOLS[0].machine


def mills(tool):
    return tool.kind in ("end_mill", "shell_mill", "face_mill")


def found(tools, fits=mills, library=LIBRARY, **how):
    return at_hand(walk(plan(tools=tools), library, Memo()), MACHINE, fits, **how)


def test_the_best_loaded_one_goes_before_a_better_one_of_the_library():
    widest_known = max(t.diameter_mm for t in LIBRARY.tools.values() if mills(t))
    here = [LIBRARY.tools[LIBRARY.assemblies[t.assembly].tool] for t in TOOLS]
    small = [
        t
        for t, tool in zip(TOOLS, here, strict=True)
        if mills(tool) and tool.diameter_mm < widest_known
    ]
    best = found(tuple(small), better=lambda tool: tool.diameter_mm)
    assert best.loads == () and best.loaded in small
    assert (
        best.tool.diameter_mm
        == max(tool.diameter_mm for t, tool in zip(TOOLS, here, strict=True) if t in small)
        < widest_known
    )


def test_with_none_loaded_it_is_the_library_s_best_with_the_edit_that_loads_it():
    best = found((), better=lambda tool: -tool.diameter_mm, stick_out_mm=41.5)
    assert best.tool.diameter_mm == min(t.diameter_mm for t in LIBRARY.tools.values() if mills(t))
    assert (
        best.loads == (LoadTool(tool=best.loaded),)
        and best.loaded.machine == MACHINE
        and best.loaded.stick_out_mm == 41.5
    )
    assert best.name.endswith(", loaded for it")


def test_what_the_magazine_can_t_take_is_not_offered():
    narrow = with_part(MACHINE, "carriers", max_tool_diameter_mm=20.0)
    assert found((), better=lambda tool: tool.diameter_mm).tool.diameter_mm > 20.0
    assert found((), library=narrow, better=lambda tool: tool.diameter_mm).tool.diameter_mm <= 20.0
    assert (
        found((), fits=lambda tool: mills(tool) and tool.diameter_mm > 20.0, library=narrow) is None
    )
