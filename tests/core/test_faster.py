"""A light width at speeds over the data's start."""

from __future__ import annotations

from dataclasses import replace
from math import pi

from .build import GOOD, LIBRARY, good, on_machine, plan
from .test_choices import FASTER, choices, named, taken


def test_a_light_width_may_go_faster_than_the_data_start_and_says_what_it_costs():
    of = on_machine(plan(*GOOD, material="x5crnimo17-12-2"), "dunlin")
    usual, fast = named(of, "full depth, light width"), named(of, FASTER)
    data = LIBRARY.materials["x5crnimo17-12-2"].data_for("rough", "carbide")
    speed = pi * 12 * fast.cut.rpm / 1000
    assert 1.05 * data.speed_start < speed <= 1.001 * data.speed_high
    assert fast.cut.width <= 0.1 * 12 + 0.011 and fast.cut.rpm > usual.cut.rpm
    assert fast.life_min < usual.life_min
    seen = taken(of, fast)
    assert not {"cut.speed-band"} & {f.id for f in seen.open if f.operation == "rough"}


def test_it_is_a_way_only_where_it_removes_most():
    assert FASTER not in [each.label for each in choices(good())]
    for material in ("c45", "x5crnimo17-12-2", "ti-6al-4v"):
        for machine in ("heron", "dunlin"):
            found = choices(on_machine(plan(*GOOD, material=material), machine))
            most = max(found, key=lambda each: each.cut.removal if each.cut else 0.0)
            assert FASTER not in [each.label for each in found] or most.label == FASTER


def test_what_its_spindle_or_tool_cannot_turn_faster_is_not_offered_faster():
    of = on_machine(plan(*GOOD, material="x5crnimo17-12-2"), "dunlin")
    slow = LIBRARY.tools["end-mill-12-z3"].model_copy(update={"max_rpm": 2000.0})
    library = replace(LIBRARY, tools={**LIBRARY.tools, slow.key: slow})
    assert FASTER not in [each.label for each in choices(of, library=library)]
