"""A tool that makes a size by its own width, in a holder that runs out; by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from machining.findings.finding import in_words
from machining.plan.apply import apply
from machining.world.part import Requirement

from .build import GOOD, LIBRARY, PART, answer, plan


def drilled(each_way: float):
    """Two holes Ø5 with a tolerance, drilled in a holder that runs out."""
    drawn = Requirement(
        id="h", what="Holes", feature="hole0", nominal_mm=5, upper_mm=each_way, lower_mm=-each_way
    )
    return plan(*GOOD, part=PART.model_copy(update={"requirements": (drawn,)}))


def running_out(run_out: float, *beside):
    """The library with its drill's holder running out so far, and further assemblies."""
    assembly = LIBRARY.assemblies[drill().assembly]
    holder = LIBRARY.holders[assembly.holder].model_copy(update={"run_out_mm": run_out})
    return replace(
        LIBRARY,
        holders={**LIBRARY.holders, holder.key: holder},
        assemblies={**LIBRARY.assemblies, **{each.key: each for each in beside}},
    )


def drill():
    of = plan(*GOOD)
    return of.tool(of.setups[0].operation("drill").tool)


def told(of, library):
    return [f for f in answer(of, library).findings if f.id == "size.run-out"]


@pytest.mark.parametrize(
    ("run_out", "each_way", "severity"),
    [
        (0.013, 0.02, None),  # 0.0132 is a third of 0.04
        (0.014, 0.02, "look"),
        (0.04, 0.02, "look"),
        (0.041, 0.02, "stop"),
    ],
)
def test_the_share_of_a_band_that_run_out_takes(run_out, each_way, severity):
    found = told(drilled(each_way), running_out(run_out))
    assert [f.severity for f in found] == ([severity] if severity else [])
    assert all(f.operation == "drill" for f in found)


def test_a_truer_holder_is_offered_and_ends_it():
    known = LIBRARY.assemblies[drill().assembly]
    library, key = running_out(0.03), known.holder
    true = library.holders[key].model_copy(update={"key": "true", "run_out_mm": 0.004})
    other = known.model_copy(update={"key": "drill-true", "name": "drill, true", "holder": "true"})
    library = replace(running_out(0.03, other), holders={**library.holders, "true": true})
    of = drilled(0.02)
    (found,) = told(of, library)
    assert "runs out by 0.03" in in_words(found)
    (fix,) = found.fixes
    after = apply(of, fix.edits)
    assert told(after, library) == []
    assert after.tool(after.setups[0].operation("drill").tool).assembly == "drill-true"


def test_without_a_drawn_size_the_general_tolerance_counts():
    assert told(plan(*GOOD), running_out(0.05)) == []
    assert [f.severity for f in told(plan(*GOOD), running_out(0.21))] == ["stop"]
