"""Plans in which one thing is to be noticed of the plan as a whole: its route, its sheets, what of
the drawing it makes.
"""

from __future__ import annotations

from machining.plan.document import Plan, Setup
from machining.plan.operation import Chamfer
from machining.plan.places import OnFeatures, Outside
from machining.plan.zero import From, Zero
from machining.world.geometry import of_block
from machining.world.part import Requirement
from machining.world.stock.block import sawn_block

from .build import OUTSIDE, PART, ROUGH, TAP, WALLS, changed, good, setup, tool, whole
from .cases_of_findings import Case
from .test_stations import both_sides

PLUG = Requirement(id="r1", what="Thread", feature="hole0", thread="M8", measured_with="plug")
ON_HOLE = From(of="hole", feature="hole0")
TO_SIZE = Requirement(
    id="r1",
    what="Pin holes",
    feature="hole0",
    nominal_mm=6.8,
    upper_mm=0.015,
    measured_with="plug gauge",
)
CLOSE = Requirement(id="r2", what="Recess", feature="recess", nominal_mm=40.0, upper_mm=0.02)

FROM_ITS_RIGHT = Requirement(
    id="r4",
    what="Hole below",
    feature="below",
    datum=next(
        each.id for each in of_block(PART).features if each.kind == "flat" and each.faces == "+x"
    ),
    nominal_mm=5.8,
    upper_mm=0.1,
    measured_with="plug gauge",
)
DEEPER = Requirement(
    id="r3",
    what="Recess depth",
    feature="recess",
    nominal_mm=8.2,
    upper_mm=0.1,
    lower_mm=-0.1,
    measured_with="depth micrometer",
)


def asking(of: Plan, *requirements: Requirement) -> Plan:
    return of.model_copy(update={"part": of.part.model_copy(update={"requirements": requirements})})


def edged(of: Plan, **fields: object) -> Plan:
    return of.model_copy(update={"part": of.part.model_copy(update=fields)})


def broken() -> Plan:
    """With the recess's edges broken at the end of the first setup."""
    of = whole()
    first, *others = of.setups
    edge = Chamfer(id="edge", tool="t8", on=OnFeatures(ids=("recess",)), size_mm=0.3)
    first = first.model_copy(update={"operations": (*first.operations, edge)})
    tools = (*of.tools, tool(8, "chamfer-8-90"))
    return of.model_copy(update={"setups": (first, *others), "tools": tools})


def without(of: Plan, *ids: str) -> Plan:
    setups = tuple(
        each.model_copy(
            update={"operations": tuple(op for op in each.operations if op.id not in ids)}
        )
        for each in of.setups
    )
    return of.model_copy(update={"setups": setups})


def meeting(from_below: float) -> Plan:
    """The outside finished 12 deep from above, and so deep from below; the part is 20 high."""
    first, second = whole().setups
    depths = {"on": Outside(depth_mm=12.0), "step_down_mm": 12.0}
    above = tuple(
        op.model_copy(update=depths) if op.id in ("rough", "outside") else op
        for op in first.operations
    )
    on = {"on": Outside(depth_mm=from_below), "step_down_mm": from_below}
    below = tuple(op.model_copy(update={**on, "id": f"{op.id}2"}) for op in (ROUGH, OUTSIDE))
    return whole().model_copy(
        update={
            "setups": (
                first.model_copy(update={"operations": above}),
                second.model_copy(update={"operations": (*second.operations, *below)}),
            )
        }
    )


def backwards() -> Plan:
    first, second = whole().setups
    return whole().model_copy(update={"setups": (second, first)})


def one_offset() -> Plan:
    return changed(both_sides(), "station:st2", work_offset="G54")


def twice_the_same() -> Plan:
    """The recess is roughed with one end mill and finished by its twin, which roughs too."""
    rough = good().setups[0].operation("pocket").model_copy(update={"tool": "t9"})
    again = {"tools": (*good().tools, tool(9, "end-mill-8-z3"))}
    walls = WALLS.model_copy(update={"id": "walls2", "tool": "t3"})
    deeper = good().setups[0].operation("pocket").model_copy(update={"id": "again", "tool": "t3"})
    others = [op for op in good().setups[0].operations if op.id not in ("pocket", "walls")]
    return good().model_copy(update={**again, "setups": (setup(*others, rough, deeper, walls),)})


def faced_third() -> Plan:
    """After what roughs and the pocket: three tools are changed as they are when it comes first."""
    ops = good().setups[0].operations
    return good().model_copy(update={"setups": (setup(*ops[1:3], ops[0], *ops[3:]),)})


def zero_on(plan: Plan, **taken: From) -> Plan:
    first: Setup = plan.setups[0]
    station = first.stations[0].model_copy(update={"zero": Zero(**taken)})
    moved = first.model_copy(update={"stations": (station,)})
    return plan.model_copy(update={"setups": (moved, *plan.setups[1:])})


def only_one_tapped() -> Plan:
    one = TAP.model_copy(update={"on": OnFeatures(ids=("hole0",))})
    first, *others = whole().setups
    ops = tuple(one if op.id == "tap" else op for op in first.operations)
    return whole().model_copy(
        update={"setups": (first.model_copy(update={"operations": ops}), *others)}
    )


CASES = [
    Case(
        "route.offset-unknown",
        "stop",
        lambda: changed(good(), "station:st1", work_offset="G54.1 P7"),
        words="Heron has no work offset G54.1 P7.",
    ),
    Case("route.offset-duplicate", "stop", one_offset),
    Case(
        "route.offset-register",
        "stop",
        lambda: changed(good(), "tool:t4", h=5),
        words="T4 and T5 both take their length from H5: one of them cuts with the other’s.",
    ),
    Case(
        "route.offset-register",
        "look",
        lambda: changed(good(), "tool:t4", h=44),
        words="Lengths are not in the registers of the tools’ own numbers: T4 from H44.",
    ),
    Case("route.share-tool", "note", twice_the_same),
    Case(
        "route.face-late",
        "note",
        faced_third,
        words="Operation 30 faces after 2 others. Faced first, a cycle takes 0:04 less, and what is"
        " measured and drilled from the face is true; but the burrs of the others stay on it.",
    ),
    Case(
        "route.skin",
        "stop",
        lambda: good().model_copy(update={"stock": sawn_block(x=(2, 0.1), y=(2, 2), z=(8, 1))}),
        words="On its right side 0.1 mm stands over the part, sawn as it is: that does not clean"
        " up.",
    ),
    Case(
        "route.takes",
        "stop",
        backwards,
        words="It takes what setup 2 leaves, and that comes after it.",
    ),
    Case(
        "route.zero-not-there",
        "stop",
        lambda: zero_on(whole(), x=ON_HOLE, y=ON_HOLE),
        words="Its zero is on a hole of 6.800 mm that isn’t there when the part comes in; operation"
        " 60 makes it.",
    ),
    Case(
        "route.zero-not-there",
        "look",
        lambda: zero_on(whole(), x=From(of="part", at="low")),
        words="Its zero is on the left end of the finished part, which is not cut yet: 2.0 mm"
        " stands over it.",
    ),
    Case(
        "size.drawing-uncovered",
        "stop",
        lambda: without(asking(whole(), PLUG), "tap"),
        words="Thread asks for a thread M8; no operation cuts it.",
    ),
    Case(
        "size.drawing-uncovered",
        "look",
        lambda: without(asking(whole(), TO_SIZE), "tap"),
        words="Pin holes has a band of 0.015 mm, and only a drill makes it: it cuts wider than it"
        " is.",
        fix=None,  # no reamer of that size
    ),
    Case(
        "size.drawing-uncovered",
        "look",
        lambda: asking(whole(), PLUG.model_copy(update={"measured_with": ""})),
        words="Nothing says what Thread is measured with.",
    ),
    Case("size.repeat-missing", "look", only_one_tapped),
    Case(
        "size.chain",
        "look",
        lambda: asking(whole(), DEEPER),
        words="Recess depth is 8.200 mm on the drawing and 8.000 mm in the solid: the paths follow"
        " the solid.",
    ),
    Case(
        "size.datum-function",
        "look",
        lambda: asking(whole(), FROM_ITS_RIGHT),
        words="Hole below is measured from its right side; where operation 20 cuts it the zero is"
        " on the stop: what both are off adds up.",
    ),
    Case("size.no-reason", "note", lambda: asking(whole(), PLUG), fix=None),
    Case("size.gauge-hold", "look", lambda: asking(whole(), CLOSE)),
    Case(
        "sheet.units",
        "look",
        lambda: changed(good(), "operation:drill", reason="Zero is G55, gently."),
        words="Its note says G55; the plan has G54.",
    ),
    Case(
        "sheet.units",
        "look",
        lambda: changed(good(), "operation:drill", reason="run it at 900 rpm first"),
    ),
    Case(
        "sheet.units",
        "look",
        lambda: changed(good(), "setup:s1", note="Take T31 from the drawer."),
        fix=None,
    ),
    Case(
        "size.blend",
        "look",
        lambda: meeting(8.0),
        words=(
            "Its walls go 0.000 mm over those that setup 1 finished from the other side: where they"
            " meet, what both setups are off stands as a step."
        ),
    ),
    Case(
        "size.edges",
        "look",
        lambda: edged(whole(), edges="machine"),
        words="744.7 mm of sharp edges are to be broken on the machine, and no operation does.",
    ),
    Case(
        "size.edge-excluded",
        "look",
        lambda: edged(broken(), sharp=("recess",)),
        words="It breaks 121.1 mm of the edges of pocket 8.0 mm deep, which must stay sharp.",
        fix=None,
    ),
    Case(
        "sheet.prompt-bare",
        "look",
        lambda: changed(asking(whole(), CLOSE), "operation:walls", stop_after="Measure the recess"),
    ),
    Case(
        "sheet.prompt-bare",
        "look",
        lambda: changed(good(), "operation:drill", stop_after="Look"),
        words="The stop says “Look”: not what has to be done there.",
        fix=None,
    ),
]
