"""A part turned or moved with its plan is answered alike."""

from __future__ import annotations

import pytest

from machining.facts.route import walk
from machining.geometry.solids import volume
from machining.plan.document import Orientation
from machining.plan.operation import (
    Drill,
)
from machining.plan.places import OnFeatures, Outside, Points
from machining.plan.zero import From, Zero, in_the_middle, on_hole
from machining.world.feature import Hole
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from .build import (
    DRILL,
    FACE,
    LIBRARY,
    MEMO,
    PART,
    POCKET,
    ROUGH,
    TAP,
    answer,
    plan,
    rig,
    setup,
)

SIMPLE = (
    FACE,
    ROUGH.model_copy(update={"on": Outside(depth_mm=12.0)}),
    Drill(
        id="d", tool="t4", on=Points(at_mm=((5.0, 5.0), (-5.0, 5.0)), diameter_mm=6.8, depth_mm=10)
    ),
)
BARE = PART.model_copy(update={"typed": ()})
EVEN = sawn_block(x=(2, 2), y=(2, 2), z=(2, 2))


@pytest.mark.parametrize("up", ["+z", "-z"])
@pytest.mark.parametrize("turn", [0, 180])
def test_turning_a_like_part_changes_no_answer(up, turn):
    """A plain block with the same allowance all round looks the same from above and below and
    turned half round.
    """
    here = answer(plan(part=BARE, stock=EVEN, setups=(setup(*SIMPLE),)))
    there = answer(
        plan(
            part=BARE,
            stock=EVEN,
            setups=(setup(*SIMPLE, orientation=Orientation(up=up, turn=turn)),),
        )
    )
    for a, b in zip(here.setups[0].operations, there.setups[0].operations, strict=True):
        assert b.time_s == pytest.approx(a.time_s, rel=1e-6)
        assert b.removed_mm3 == pytest.approx(a.removed_mm3, rel=1e-6)
        assert [(g.name, round(g.value, 6)) for g in b.gauges] == [
            (g.name, round(g.value, 6)) for g in a.gauges
        ]


def test_a_quarter_turn_swaps_the_axes_and_nothing_else():
    """Faced along the longer side either way: the same time, X and Y travel exchanged in their
    spare room.
    """
    lying = answer(plan(part=BARE, stock=EVEN, setups=(setup(FACE, holding=None),)))
    standing = answer(
        plan(
            part=BARE,
            stock=EVEN,
            setups=(setup(FACE, holding=None, orientation=Orientation(turn=90)),),
        )
    )
    a, b = lying.setups[0].operations[0], standing.setups[0].operations[0]
    assert b.time_s == pytest.approx(a.time_s, rel=1e-6)
    spare = {g.name: g.value for g in a.gauges}, {g.name: g.value for g in b.gauges}
    travel = rig("heron").carrier.travel
    assert travel.x / 2 - spare[0]["X"] == pytest.approx(travel.y / 2 - spare[1]["Y"])


@pytest.mark.parametrize(
    "zero",
    [
        Zero(
            x=From(of="part", at="low"),
            y=From(of="part", at="low", off_mm=7.5),
            z=From(of="part", at="low"),
        ),
        Zero(x=From(at="high"), z=From(of="stock", at="high", off_mm=-2.5)),
        Zero(x=From(of="table", off_mm=-3.0), y=From(of="jaw"), z=From(of="seat")),
        on_hole("hole0"),
    ],
)
def test_where_zero_is_changes_no_time_and_no_finding(zero):
    operations = (FACE, ROUGH, POCKET, DRILL, TAP)
    here, there = answer(plan(*operations)), answer(plan(setups=(setup(*operations, zero=zero),)))
    picked_up = "route.zero-not-there"  # which is about nothing but where it is
    assert [f.id for f in there.findings if f.id != picked_up] == [f.id for f in here.findings]
    assert there.one_part_s == pytest.approx(here.one_part_s, rel=5e-3)  # rings begin elsewhere


@pytest.mark.parametrize("up", ["+x", "-x", "+y", "-y"])
def test_the_sides_can_be_worked_on_too(up):
    hole = Hole(
        id="side",
        point=(0.0, 0.0, 10.0),
        axis="+" + up[1],
        diameter_mm=6.8,
        length_mm=(80 if up[1] == "x" else 50) / 2,
        through=False,
        opens=("+x",) if up == "+x" else (up,),
    )
    start = {
        "+x": (0.0, 0.0, 10.0),
        "-x": (-40.0, 0.0, 10.0),
        "+y": (0.0, 0.0, 10.0),
        "-y": (0.0, -25.0, 10.0),
    }[up]
    part = Part(size_mm=(80, 50, 20), typed=(hole.model_copy(update={"point": start}),))
    drill = Drill(id="d", tool="t4", on=OnFeatures(ids=("side",)))
    made = plan(
        part=part,
        stock=EVEN,
        setups=(
            setup(drill, orientation=Orientation(up=up), holding=None, zero=in_the_middle("part")),
        ),
    )
    op = walk(made, LIBRARY, MEMO).operations()[0]
    assert op.work_problem is None
    _, _, mouth, bottom = op.work.holes[0]
    assert mouth == pytest.approx(0.0)
    assert bottom < -20
    assert volume(op.before.solid) - volume(op.after.solid) > 0
