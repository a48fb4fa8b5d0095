"""Which tool is at hand: the best of those loaded, else of the library, and none the magazine can't
take.
"""

from __future__ import annotations

from dataclasses import replace

from machining.facts.at_hand import at_hand
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.edit import LoadTool
from machining.world.standing import StandingTool

from .build import LIBRARY, TOOLS, plan, with_part

MACHINE = TOOLS[0].machine


def mills(tool):
    return tool.kind in ("end_mill", "shell_mill", "face_mill")


def standing_in(library, tools):
    machine = library.machines[MACHINE].model_copy(update={"standing": tools})
    return replace(library, machines={**library.machines, MACHINE: machine})


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


def test_of_equals_one_that_stands_in_the_machine_is_taken():
    """Two assemblies of one end mill, the second stands there: no tool is put in for it."""
    one = next(a for a in LIBRARY.assemblies.values() if mills(LIBRARY.tools[a.tool]))
    again = one.model_copy(update={"key": "z-again"})
    there = StandingTool(number=31, pocket=18, assembly="z-again", stick_out_mm=one.stick_out_mm)
    alike = replace(LIBRARY, assemblies={**LIBRARY.assemblies, "z-again": again})
    stands = standing_in(alike, (there,))

    def same(tool):
        return tool.key == one.tool

    assert found((), same, alike).assembly.key == one.key
    best = found((), same, stands)
    assert (best.assembly.key, best.loaded.number, best.loaded.pocket) == ("z-again", 31, 18)
    better = found((), mills, stands, better=lambda tool: tool.key != one.tool)
    assert better.tool.key != one.tool


def test_what_the_magazine_can_t_take_is_not_offered():
    narrow = with_part(MACHINE, "carriers", max_tool_diameter_mm=20.0)
    assert found((), better=lambda tool: tool.diameter_mm).tool.diameter_mm > 20.0
    assert found((), library=narrow, better=lambda tool: tool.diameter_mm).tool.diameter_mm <= 20.0
    assert (
        found((), fits=lambda tool: mills(tool) and tool.diameter_mm > 20.0, library=narrow) is None
    )
