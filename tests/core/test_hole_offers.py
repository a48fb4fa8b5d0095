"""How a hole that a drill of its own size could make is begun: by what the drawing asks of it. The
shop has drills of Ø 19 and 20 and a boring head that is set to 20.
"""

from __future__ import annotations

import pytest

from machining.ask import ANY_EDITS, routes
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import apply
from machining.ways.offers import offers
from machining.world.part import Part, Requirement
from machining.world.stock.block import sawn_block

from .build import HOLES, LIBRARY, answer, ids, plan

HOLE = HOLES[0].model_copy(update={"diameter_mm": 20.0, "point": (0.0, 0.0, 0.0)})


def part(band=0.0):
    asked = Requirement(
        id="r", what="Bore", feature="hole0", nominal_mm=20.0, upper_mm=band, measured_with="plug"
    )
    return Part(size_mm=(80.0, 50.0, 20.0), typed=(HOLE,), requirements=(asked,) if band else ())


@pytest.mark.parametrize(
    ("band", "drill", "bored"),
    [(0.0, "drill 20 HSS", "rare"), (0.021, "drill 19", "offered"), (0.3, "drill 20 HSS", "rare")],
    ids=["as drawn", "closer than a drill makes it", "as close as a drill makes it"],
)
def test_it_is_drilled_to_its_size_or_for_what_takes_it_there(band, drill, bored):
    facts = walk(plan(part=part(band)), LIBRARY, Memo())
    numbers = iter(range(99))
    found = offers(facts.stations[0], facts, lambda: f"n{next(numbers)}")
    told = {each.label: each for each in found if each.group.startswith("1 × Ø20")}
    assert told["Drill"].tool.endswith(drill)
    assert ("rare" if told["Bore"].rare else "offered") == bored


@pytest.mark.parametrize(("band", "kinds"), [(0.0, {"drill"}), (0.021, {"drill", "bore"})])
def test_a_proposal_takes_nothing_twice(band, kinds):
    of = plan(tools=(), setups=(), part=part(band), stock=sawn_block(z=(1, 0)))
    (found,) = routes.propose(of, LIBRARY, Memo(), machines=["heron"])["proposals"]
    edits = [*found["first"], *(each for one in found["setups"] for each in one["edits"])]
    proposed = apply(of, ANY_EDITS.validate_python(edits))
    done = {op.kind for each in proposed.setups for op in each.operations}
    assert done & {"drill", "ream", "bore", "mill_hole"} == kinds
    assert "reach.wrong-floor" not in ids(proposed) and not answer(proposed).count("stop")
