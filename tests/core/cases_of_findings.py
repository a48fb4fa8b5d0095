"""Plans in which one thing is to be noticed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from machining.plan.document import Plan
from machining.plan.operation import Drill, RoughPocket
from machining.plan.places import OnFeatures, Points, Rectangle
from machining.world.part import Requirement
from machining.world.stock.block import sawn_block

from .build import (
    DRILL,
    FACE,
    GOOD,
    PART,
    POCKET,
    ROUGH,
    TAP,
    THICK,
    TOOLS,
    WALLS,
    changed,
    good,
    plan,
    setup,
    tool,
    turned_over,
)

# a hole over a parallel, in a blank that stands on it with the part's own bottom
FLUSH = sawn_block(x=(2, 2), y=(2, 2), z=(0, 1))
THROUGH = Drill(
    id="through",
    tool="t4",
    on=Points(at_mm=((-32.0, 17.0),), diameter_mm=6.8, depth_mm=20.0, through=True),
    past_mm=1.0,
)


@dataclass(frozen=True)
class Case:
    id: str
    severity: str
    make: Callable[[], Plan]
    fix: int | None = 0  # which fix settles it; None: no fix of its own settles it here
    words: str = ""


IN_THE_AIR = Rectangle(x_mm=0, y_mm=0, top_mm=20, length_mm=30, width_mm=20, depth_mm=5)


def on_dunlin(stick_out: float) -> Plan:
    long = tool(4, "drill-6-8", stick_out, "dunlin").model_copy(update={"id": "d4"})
    return plan(
        setups=(
            setup(
                FACE.model_copy(update={"tool": ""}),
                DRILL.model_copy(update={"tool": "d4"}),
                machine="dunlin",
            ),
        ),
        tools=(*TOOLS, long),
    )


CASES = [
    Case(
        "hold.none-chosen",
        "look",
        lambda: changed(good(), "station:st1", holding=None),
        0,
        "Nothing says how the part is held in setup 1.",
    ),
    Case(
        "hold.grip-shallow",
        "stop",
        lambda: changed(good(), "station:st1", holding__grip_depth_mm=2.0),
        0,
        "The jaws grip 2.0 mm; a part this tall asks for 5.0 mm.",
    ),
    Case(
        "hold.grip-shallow",
        "look",
        lambda: changed(good(), "station:st1", holding__grip_depth_mm=4.0),
        0,
    ),
    Case("hold.slips", "stop", lambda: changed(good(), "station:st1", holding__torque_nm=2.0), 0),
    Case(
        "hold.jaw-in-cut",
        "stop",
        lambda: changed(good(), "operation:rough", on__depth_mm=25.0),
        0,
        "The cutter comes 4.0 mm too low for the jaws; it must stay 1.0 mm above them.",
    ),
    Case(
        "hold.jaw-in-cut",
        "stop",
        lambda: changed(good(), "operation:outside", on__depth_mm=22.0),
        0,
    ),
    Case(
        "hold.below",
        "stop",
        lambda: plan(FACE, THROUGH, stock=FLUSH),
        0,
        "It comes out under the part and goes 2.2 mm into a parallel.",
    ),
    Case("reach.stick-out-short", "stop", lambda: changed(good(), "tool:t3", stick_out_mm=8.0), 0),
    Case("reach.stick-out-long", "look", lambda: changed(good(), "tool:t3", stick_out_mm=41.0), 0),
    Case(
        "reach.shank-in-holder",
        "stop",
        lambda: changed(good(), "tool:t3", stick_out_mm=45.0),
        0,
        "T3 stands out 45.0 mm, which leaves less than 22.0 mm of its shank in the holder.",
    ),
    Case(
        "reach.flute-short",
        "stop",
        lambda: plan(
            FACE,
            ROUGH.model_copy(update={"tool": "t8", "step_down_mm": 18.0}),
            tools=(*TOOLS, tool(8, "end-mill-6-z3")),
        ),
        0,
    ),
    Case(
        "reach.inner-radius",
        "stop",
        lambda: changed(good(), "operation:walls", tool="t2"),
        0,
        "The inner corners are 4.0 mm; T2 leaves 6.0 mm.",
    ),
    Case(
        "reach.wrong-floor",
        "stop",
        lambda: plan(
            FACE, RoughPocket(id="air", tool="t3", on=IN_THE_AIR, step_down_mm=2, step_over_mm=2)
        ),
        0,
        "The stock ends 15.0 mm below the floor of this cut: nothing is cut.",
    ),
    Case(
        "reach.wrong-floor",
        "look",
        lambda: plan(*GOOD, POCKET.model_copy(update={"id": "again"})),
        0,
        "Nothing is left to cut here: what it takes is gone already.",
    ),
    Case(
        "reach.not-in-this-setup",
        "stop",
        lambda: plan(
            setups=(
                setup(*GOOD, Drill(id="low", tool="t9", on=OnFeatures(ids=("below",)))),
                turned_over(),
            ),
            tools=(*TOOLS, tool(9, "drill-5-8")),
        ),
        0,
        "What it cuts can't be seen from here; a tool can come from the part's bottom.",
    ),
    Case("travel.axis", "stop", lambda: on_dunlin(200.0), None),
    Case(
        "travel.speed-over",
        "stop",
        lambda: changed(good(), "operation:rough", rpm=20_000.0),
        0,
        "20000 rpm is faster than machine, tool and holder allow, 12000 rpm.",
    ),
    Case("travel.speed-over", "stop", lambda: changed(good(), "operation:rough", rpm=20.0), 0),
    Case(
        "travel.feed-unreachable",
        "look",
        lambda: changed(good(), "operation:face", feed_mm_min=16_000.0),
        0,
    ),
    Case(
        "cut.power",
        "stop",
        lambda: changed(
            plan(*GOOD, stock=THICK), "operation:rough", step_down_mm=18.0, step_over_mm=5.6
        ),
        0,
    ),
    Case(
        "cut.power-at-worst-stock",
        "look",
        lambda: changed(
            plan(*GOOD, stock=THICK.model_copy(update={"saw_tolerance_mm": 1.1})),
            "operation:rough",
            step_down_mm=18.0,
            step_over_mm=3.2,
        ),
        0,
    ),
    Case("cut.speed-band", "look", lambda: changed(good(), "operation:rough", rpm=2000.0), 0),
    Case(
        "cut.chip-over", "stop", lambda: changed(good(), "operation:rough", feed_mm_min=8000.0), 0
    ),
    Case(
        "cut.chip-over", "stop", lambda: changed(good(), "operation:rough", feed_mm_min=8000.0), 1
    ),
    Case("cut.rubs", "look", lambda: changed(good(), "operation:walls", feed_mm_min=90.0), 1),
    Case("cut.rubs", "look", lambda: changed(good(), "operation:walls", feed_mm_min=90.0), 0),
    Case(
        "size.order",
        "stop",
        lambda: plan(FACE, WALLS, POCKET),
        0,
        "It finishes what operation 30 roughs afterwards.",
    ),
    Case(
        "size.order",
        "stop",
        lambda: plan(FACE, TAP, DRILL),
        0,
        "2 of 2 holes are tapped before they are drilled.",
    ),
    Case("size.push-off", "stop", lambda: tight(0.004), None),
    Case("size.push-off", "look", lambda: tight(0.012), 0),
    Case("size.face-not-yet-cut", "look", lambda: plan(DRILL, FACE), 0),
]


def tight(each_way: float) -> Plan:
    requirement = Requirement(
        id="w",
        what="Pocket",
        feature="recess",
        nominal_mm=40,
        upper_mm=each_way,
        lower_mm=-each_way,
    )
    return plan(*GOOD, part=PART.model_copy(update={"requirements": (requirement,)}))
