"""TW-204, the mooring latch plate: eight at a time on Heron's grid plate, first sides in the rear
row of vises and second sides in the front one; every cycle finishes four.
"""

from __future__ import annotations

from machining.plan.at import Row
from machining.plan.document import Orientation, Plan, Setup, Station
from machining.plan.in_vise import Holding
from machining.plan.operation import Chamfer, Drill, Face, FinishWalls, RoughOutside
from machining.plan.places import OnFeatures, Outside
from machining.plan.zero import From, Zero, in_the_middle
from machining.world.feature import Hole
from machining.world.part import Part, Requirement
from machining.world.stock.block import sawn_block

from .carried import carried

MACHINE = "heron"
TOOLS = (
    (1, "end-mill-16-z3", 42.0),
    (4, "end-mill-12-z3", 40.0),
    (5, "end-mill-12-z4", 40.0),
    (8, "drill-6-8", 58.0),
    (11, "chamfer-8-90", 26.0),
)
BOLTS = tuple(
    Hole(
        id=f"bolt{k}",
        point=(x, 0.0, 0.0),
        axis="+z",
        diameter_mm=6.8,
        length_mm=12.0,
        through=True,
        opens=("+z", "-z"),
    )
    for k, x in enumerate((-30.0, 30.0))
)
PART = Part(
    size_mm=(90.0, 50.0, 12.0),
    typed=BOLTS,
    requirements=(
        Requirement(
            id="thick",
            what="Thickness",
            nominal_mm=12.0,
            upper_mm=0.1,
            lower_mm=-0.1,
            measured_with="micrometer",
            how_often="1 in 10",
        ),
        Requirement(
            id="bolts",
            what="Bolt holes",
            feature="bolt0",
            nominal_mm=6.8,
            upper_mm=0.15,
            lower_mm=0.0,
            measured_with="plug",
            how_often="1 in 10",
        ),
    ),
)
FIRST = Station(
    id="st1",
    holding=Holding(vise="vise-75-short", fixed="+y", grip_depth_mm=6.0, torque_nm=40.0),
    zero=in_the_middle("stock"),
    work_offset="G54",
    offset_each=True,
    at=Row(count=4, pitch_mm=125.0, at_mm=(0.0, 115.0)),
)
SECOND = Station(
    id="st2",
    takes="st1",
    orientation=Orientation(up="-z"),
    holding=Holding(
        vise="vise-75-short", fixed="+y", grip_depth_mm=8.0, torque_nm=22.0, stop="low"
    ),
    zero=Zero(
        x=From(of="stop", off_mm=45.0),
        y=From(of="jaw", off_mm=-25.0),
        z=From(of="seat", off_mm=12.0),
    ),
    work_offset="G58",
    at=Row(count=4, pitch_mm=125.0, at_mm=(0.0, -115.0)),
)
OUTSIDE, HOLES = Outside(depth_mm=12.0), OnFeatures(ids=("bolt0", "bolt1"))
SETUP = Setup(
    id="s1",
    machine=MACHINE,
    plate="grid-plate",
    stations=(FIRST, SECOND),
    operations=(
        Face(id="c10", station="st1", tool="t1", step_over_mm=10.0, step_down_mm=1.0),
        Face(id="c20", station="st2", tool="t1", step_over_mm=8.0, step_down_mm=2.4),
        RoughOutside(
            id="c30",
            station="st1",
            tool="t4",
            on=OUTSIDE,
            step_down_mm=12.0,
            step_over_mm=1.2,
            leave_mm=0.3,
            over_mm=1.0,
        ),
        FinishWalls(
            id="c40", station="st1", tool="t5", on=OUTSIDE, step_down_mm=12.0, width_mm=0.3
        ),
        Drill(id="c50", station="st1", tool="t8", on=HOLES, peck_mm=6.0),
        Chamfer(id="c60", station="st1", tool="t11", size_mm=0.4, below_mm=1.0),
        Chamfer(id="c70", station="st2", tool="t11", size_mm=0.4, below_mm=1.0),
    ),
    note="Blanks in the four rear vises, first sides on into the four front ones.",
)


def draft() -> Plan:
    """One setup of two stations."""
    return Plan(
        material="x5crnimo17-12-2",
        quantity=120,
        part=PART,
        stock=sawn_block(x=(2, 2), y=(2, 2), z=(7, 1)),
        setups=(SETUP,),
        tools=carried(MACHINE, TOOLS),
    )
