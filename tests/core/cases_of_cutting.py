"""Plans in which one thing of the cut is to be noticed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from machining.plan.document import Plan
from machining.plan.operation import (
    Chamfer,
    Drill,
    Engrave,
    FinishFloor,
    FinishWalls,
    RoughPocket,
    Slope,
)
from machining.plan.places import OnFeatures, Points, Rectangle, Text
from machining.world.feature import Flat, Hole, Pocket
from machining.world.geometry import of_block
from machining.world.library import Library
from machining.world.part import Part, Requirement

from .build import (
    DRILL,
    FACE,
    GOOD,
    LIBRARY,
    PART,
    POCKET,
    ROUGH,
    TAP,
    TOOLS,
    changed,
    good,
    on_machine,
    plan,
    tool,
)

BLIND_HOLE = Hole(
    id="blind",
    point=(0.0, -20.0, 4.0),
    axis="+z",
    diameter_mm=6.8,
    length_mm=16.0,
    through=False,
    opens=("+z",),
)
BLIND = OnFeatures(ids=("blind",))
NARROW = Pocket(
    id="slot",
    loops=(((-20.0, -4.02, 14.0), (20.0, -4.02, 14.0), (20.0, 4.02, 14.0), (-20.0, 4.02, 14.0)),),
    opens="+z",
    depth_mm=6.0,
    corner_radius_mm=4.0,
)
SLOT = OnFeatures(ids=("slot",))
SMALL = "SMALL SIGNS BY THE HUNDRED - SMALL SIGNS BY THE SCORE"
DEEP = Rectangle(x_mm=0, y_mm=0, length_mm=60, width_mm=40, corner_radius_mm=8, depth_mm=14)
WIDE = Rectangle(x_mm=0, y_mm=0, length_mm=60, width_mm=40, corner_radius_mm=8, depth_mm=6)
MORE = (
    *TOOLS,
    tool(7, "roughing-mill-16-z4"),
    tool(8, "chamfer-8-90"),
    tool(9, "ball-mill-8"),
    tool(10, "end-mill-6-z3"),
    tool(11, "engraver-6-60"),
)


def tools_like(key: str, **change: object) -> Library:
    """The library with one tool changed."""
    return replace(
        LIBRARY, tools={**LIBRARY.tools, key: LIBRARY.tools[key].model_copy(update=change)}
    )


def material_like(**change: object) -> Library:
    return replace(
        LIBRARY,
        materials={
            **LIBRARY.materials,
            "en-aw-6082": LIBRARY.materials["en-aw-6082"].model_copy(update=change),
        },
    )


def drawn(of: Plan, what: str, each_way: float, finish_um: float | None = None) -> Plan:
    asked = Requirement(
        id="r",
        what=what,
        feature="recess",
        nominal_mm=40,
        upper_mm=each_way,
        lower_mm=-each_way,
        finish_um=finish_um,
    )
    return of.model_copy(update={"part": of.part.model_copy(update={"requirements": (asked,)})})


def steep(ramp: float, tool_id: str) -> Plan:
    return plan(
        FACE, POCKET.model_copy(update={"tool": tool_id, "ramp_deg": ramp, "on": WIDE}), tools=MORE
    )


def into_a_hole() -> Plan:
    return plan(FACE, POCKET.model_copy(update={"enter": "hole", "on": DEEP}))


def deep_slot() -> Plan:
    return plan(
        FACE,
        POCKET.model_copy(update={"tool": "t10", "step_over_mm": 5.0, "step_down_mm": 8.0}),
        tools=MORE,
    )


def deep_drill() -> Plan:
    holes = tuple(
        (
            each.model_copy(update={"length_mm": 40.0})
            if isinstance(each, Hole) and each.through
            else each
        )
        for each in PART.typed
    )
    return plan(
        DRILL.model_copy(update={"peck_mm": None}),
        material="c45",
        part=PART.model_copy(update={"size_mm": (80.0, 50.0, 40.0), "typed": holes}),
    )


def blind_thread() -> Plan:
    part = PART.model_copy(update={"typed": (*PART.typed, BLIND_HOLE)})
    return plan(
        FACE,
        DRILL.model_copy(update={"on": BLIND}),
        TAP.model_copy(update={"on": BLIND, "depth_mm": 14.0}),
        material="x5crnimo17-12-2",
        part=part,
    )


def slot(*more: FinishWalls) -> Plan:
    return plan(
        FACE,
        RoughPocket(id="rough-slot", tool="t3", on=SLOT, step_down_mm=3, step_over_mm=4),
        *more,
        part=Part(size_mm=PART.size_mm, typed=(NARROW,)),
    )


def ball_floor() -> Plan:
    floor = FinishFloor(id="floor", tool="t9", on=POCKET.on, step_over_mm=0.8)
    return drawn(
        plan(FACE, POCKET.model_copy(update={"leave_floor_mm": 0.3}), floor, tools=MORE),
        "Floor",
        0.2,
        finish_um=5.0,
    )


def two_belts() -> Plan:
    """One part of steel on Dunlin: the face mill turns on the low belt, the end mills on the high
    one, and the face is cut in between.
    """
    return on_machine(plan(ROUGH, FACE, POCKET, material="c45", quantity=1), "dunlin")


def half_open() -> Plan:
    """A pocket whose wall runs through the middle of a hole that is drilled after it."""
    beside = RoughPocket(
        id="beside",
        tool="t3",
        on=Rectangle(x_mm=-37, y_mm=0, length_mm=10, width_mm=20, corner_radius_mm=4, depth_mm=10),
        step_down_mm=4,
        step_over_mm=1.6,
    )
    return plan(FACE, beside, DRILL)


def shown_face(each_way: float = 0.8) -> Plan:
    bare = plan(FACE.model_copy(update={"ways": "both"}))
    top = next(
        f.id for f in of_block(bare.part).features if isinstance(f, Flat) and f.faces == "+z"
    )
    asked = Requirement(id="r", what="Top", feature=top, finish_um=each_way)
    return bare.model_copy(update={"part": bare.part.model_copy(update={"requirements": (asked,)})})


def typed_for_steel() -> Plan:
    return changed(
        changed(good(), "plan", material="c45"), "operation:rough", rpm=4000.0
    ).model_copy(update={"material": "en-aw-6082"})


@dataclass(frozen=True)
class Case:
    id: str
    make: Callable[[], Plan]
    settled_by: tuple[int, ...] = (0,)  # which fixes settle it
    words: str = ""
    severity: str = "look"
    library: Library = LIBRARY


CASES = [
    Case(
        "cut.slot-deep",
        deep_slot,
        (0, 1),
        "It cuts 5.0 mm wide, nearly its whole diameter, at 8.0 mm: the depth of a side cut.",
    ),
    Case(
        "cut.one-pass",
        lambda: plan(
            FACE, ROUGH.model_copy(update={"tool": "t3", "step_down_mm": 18.0, "step_over_mm": 2.4})
        ),
        (0, 1),
        "18.0 mm at 2.4 mm wide is ×2.3 its diameter in one pass; the depth wants several.",
    ),
    Case(
        "cut.peck", deep_drill, (0,), "×5.9 deep in C45 without a peck: chips pack in the flutes."
    ),
    Case(
        "cut.effective-speed",
        lambda: plan(*GOOD, Chamfer(id="edge", tool="t8", size_mm=0.3), tools=MORE),
        (0,),
        "Where it works, at Ø 1.1 mm, its edge runs 41 m/min; the material wants 150 m/min.",
    ),
    Case(
        "cut.drill-slow",
        lambda: plan(
            FACE,
            Drill(id="tiny", tool="t4", on=Points(at_mm=((0, 20),), diameter_mm=1.0, depth_mm=3)),
        ),
        (0,),
        "At 12000 rpm this drill cuts 38 m/min; the material wants 80 m/min or more. Another way to"
        " make the hole may be quicker.",
        library=tools_like("drill-6-8", diameter_mm=1.0),
    ),
    Case(
        "cut.tap-risk",
        blind_thread,
        (0,),
        "A blind thread, ×1.8 deep in X5CrNiMo17-12-2 (316): a broken tap costs the part.",
    ),
    Case("cut.life", lambda: good().model_copy(update={"quantity": 30_000}), ()),
    Case(
        "cut.only-one",
        lambda: good().model_copy(update={"quantity": 9_000}),
        (),
        library=tools_like("drill-6-8", on_hand=1),
    ),
    Case(
        "cut.plunge",
        lambda: steep(14.0, "t6"),
        (0,),
        "It goes down at 14.0°, steeper than the 10.0° this tool ramps at: chips pack under its"
        " centre.",
    ),
    Case(
        "cut.values-source",
        good,
        (0,),
        "Speed and chip are a supplier's (edge sheet 7), not proven here.",
        "note",
        material_like(
            cutting_data=tuple(
                row.model_copy(update={"kept_by": "supplier", "source": "edge sheet 7"})
                for row in LIBRARY.materials["en-aw-6082"].cutting_data
            )
        ),
    ),
    Case("cut.dust-mist", lambda: plan(*GOOD, material="ti-6al-4v"), (), severity="note"),
    Case("cut.interrupted", half_open, (0, 1)),
    Case(
        "cut.up-cut",
        shown_face,
        (0, 1),
        "Cut both ways, every second pass goes against the feed and shows; Top asks 0.80 µm.",
    ),
    Case(
        "cut.material-changed",
        typed_for_steel,
        (0, 1),
        "Its speed and feed were set for C45; the part is of EN AW-6082. Look at feeds, pecks and"
        " sizes again.",
    ),
    Case(
        "cut.special-tool",
        lambda: plan(FACE, Slope(id="slope", tool="t8", size_mm=0.8, angle_deg=45), tools=MORE),
        (0, 1),
        "chamfer 8×90 is made to order: 15 days and 180.",
        library=tools_like("chamfer-8-90", order_days=15, cost=180, on_hand=0),
    ),
    Case(
        "cut.range-change",
        two_belts,
        (),
        "The range is changed by hand 2 times, 8:00 of attendance; 1 would do.",
    ),
    Case(
        "reach.entry",
        lambda: steep(8.0, "t7"),
        (0, 1),
        "T7 does not cut over its centre and goes down at 8.0°; it takes 5.0° at most.",
        "stop",
    ),
    Case(
        "reach.entry",
        lambda: plan(
            FACE,
            POCKET.model_copy(update={"enter": "plunge", "tool": "t7", "on": WIDE}),
            tools=MORE,
        ),
        (0, 1),
        severity="stop",
    ),
    Case(
        "cut.plunge",
        lambda: plan(FACE, POCKET.model_copy(update={"enter": "plunge"})),
        (0, 1, 3),
        "T3 goes straight down: its middle hardly cuts, and the chips have nowhere to go.",
    ),
    Case(
        "reach.entry",
        into_a_hole,
        (0, 1, 2),
        "T3, 8.0 mm wide, is to go down into a hole, and 0.0 mm stands open there.",
        "stop",
    ),
    Case("cut.at-rapid", into_a_hole, (0, 1), severity="stop"),
    Case(
        "reach.tool-impossible",
        lambda: changed(good(), "operation:tap", tool="t4"),
        (0,),
        "T4 is a drill: it can't do this.",
        "stop",
    ),
    Case(
        "reach.tool-impossible",
        lambda: changed(good(), "operation:rough", tool="t4"),
        (0,),
        severity="stop",
    ),
    Case(
        "reach.slender-tool",
        lambda: changed(good(), "tool:t3", stick_out_mm=42.0),
        (0,),
        "T3 stands out ×5.3 its diameter: it bends and sings.",
    ),
    Case(
        "reach.slot-width",
        lambda: slot(FinishWalls(id="after", tool="t3", on=SLOT, step_down_mm=6)),
        (0,),
        "T3 is as wide as the slot, 8.0 mm: nothing is left to finish its walls with.",
    ),
    Case(
        "size.pulled-slot",
        slot,
        (0,),
        "T3 cuts the slot of 8.0 mm at its own width: it is pulled towards one wall. Rough it"
        " smaller, then finish both walls.",
    ),
    Case(
        "travel.feed-unreachable",
        lambda: plan(
            FACE,
            Engrave(
                id="text",
                tool="t11",
                feed_mm_min=6000.0,
                on=Text(text=SMALL, height_mm=1.2, x_mm=-38, y_mm=18),
            ),
            tools=MORE,
        ),
        (0, 1),
    ),
    Case("size.spring-pass", lambda: drawn(good(), "Pocket", 0.025), (0, 1)),
    Case(
        "size.worn-finisher",
        lambda: changed(drawn(good(), "Pocket", 0.014), "operation:walls", passes=2),
        (0,),
        "T3 also roughs (operation 30) and finishes a band of 0.028 mm with what is left of its"
        " edge.",
    ),
    Case(
        "size.finish",
        ball_floor,
        (0,),
        "Passes 0.800 mm apart leave cusps of 20.05 µm; the drawing asks 5.00 µm.",
    ),
    Case(
        "size.floor-pass", lambda: drawn(on_machine(good(), "dunlin"), "Pocket depth", 0.005), (0,)
    ),
]
