"""What the data propose holds: no tool's own limit is broken by the feed they give."""

from __future__ import annotations

import pytest

from machining.plan.operation import RoughPocket
from machining.plan.places import Rectangle
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from .build import LIBRARY, answer, plan, result, tool

BIG = Part(size_mm=(160.0, 120.0, 40.0))
END_MILLS = [
    key
    for key, assembly in LIBRARY.assemblies.items()
    if LIBRARY.tools[assembly.tool].kind == "end_mill"
    and LIBRARY.tools[assembly.tool].corner_radius_mm < 1.0  # a ball meets more than it is said to
]


def pocket(assembly: str, material: str, share: float):
    """Four diameters by six, one deep where the flutes reach, passes of a share of the diameter."""
    mill = LIBRARY.tools[LIBRARY.assemblies[assembly].tool]
    wide = mill.diameter_mm
    deep = round(min(wide, mill.flute_length_mm), 2)
    on = Rectangle(x_mm=0, y_mm=0, top_mm=0, length_mm=6 * wide, width_mm=4 * wide, depth_mm=deep)
    rough = RoughPocket(
        id="p", tool="t1", on=on, step_down_mm=deep, step_over_mm=round(share * wide, 3)
    )
    return plan(rough, part=BIG, stock=sawn_block(), material=material, tools=(tool(1, assembly),))


@pytest.mark.parametrize("assembly", END_MILLS)
@pytest.mark.parametrize("material", ["en-aw-6082", "ti-6al-4v"])
def test_no_feed_of_the_data_breaks_the_tool_s_own_limit(assembly, material):
    for share in (0.05, 0.4):
        seen = answer(pocket(assembly, material, share))
        assert "cut.chip-over" not in {f.id for f in seen.findings}, share
        most = LIBRARY.tools[LIBRARY.assemblies[assembly].tool].max_chip_mm
        thick = seen.figures["p.peak_chip"].value
        assert most is None or 0.0 < thick <= most


def test_the_limit_is_on_the_chip_that_is_cut_not_on_the_feed_of_a_tooth():
    """At a twentieth of the diameter a tooth may be fed over twice as far as its chip may be
    thick.
    """
    light = pocket("end-mill-12-z3", "en-aw-6082", 0.05)
    seen = answer(light)
    most = LIBRARY.tools[LIBRARY.assemblies["end-mill-12-z3"].tool].max_chip_mm
    assert seen.figures["p.chip"].value > most > seen.figures["p.peak_chip"].value
    assert result(seen, "p").answers["cut"].state != "stop"
