"""A light width at speeds over the data's start."""

from __future__ import annotations

from dataclasses import replace
from math import pi

from .build import GOOD, LIBRARY, good, plan
from .test_choices import FASTER, choices, named, taken


def test_a_light_width_may_go_faster_than_the_data_start_and_says_what_it_costs():
    for material in ("en-aw-6082", "c45", "ti-6al-4v"):
        of = plan(*GOOD, material=material)
        usual, fast = named(of, "full depth, light width"), named(of, FASTER)
        data = LIBRARY.materials[material].data_for("rough", "carbide")
        speed = pi * 12 * fast.cut.rpm / 1000
        assert 1.05 * data.speed_start < speed <= 1.001 * data.speed_high
        assert fast.cut.width <= 0.1 * 12 + 0.011 and fast.cut.rpm > usual.cut.rpm
        assert fast.life_min < usual.life_min
        seen = taken(of, fast)
        assert not {"cut.speed-band"} & {f.id for f in seen.open if f.operation == "rough"}


def test_what_its_spindle_or_tool_cannot_turn_faster_is_not_offered_faster():
    slow = LIBRARY.tools["end-mill-12-z3"].model_copy(update={"max_rpm": 9000.0})
    library = replace(LIBRARY, tools={**LIBRARY.tools, slow.key: slow})
    assert FASTER not in [each.label for each in choices(good(), library=library)]
