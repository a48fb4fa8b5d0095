"""TW-455, the gimbal ring: top and four sides in one vise of Petrel."""

from __future__ import annotations

from machining.geometry.frames import Direction
from machining.plan.at import One
from machining.plan.document import Plan, Setup, Station
from machining.plan.in_vise import Holding
from machining.plan.operation import Chamfer, Drill, Face, MillHole
from machining.plan.places import OnFeatures
from machining.plan.zero import From, Zero
from machining.world.feature import Hole
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from .carried import carried

MACHINE = "petrel"
TOOLS = (
    (1, "face-mill-50", 40.0),
    (3, "drill-6-8-long", 72.0),
    (4, "end-mill-12-z3", 48.0),
    (5, "chamfer-8-90", 30.0),
)
OPEN = Hole(
    id="open",
    point=(0.0, 0.0, 0.0),
    axis="+z",
    diameter_mm=64.0,
    length_mm=34.0,
    through=True,
    opens=("+z", "-z"),
)
ENDS: dict[Direction, tuple[float, float, float]] = {  # of each pivot's bore, its low one
    "+x": (32.0, 0.0, 20.0),
    "-x": (-45.0, 0.0, 20.0),
    "+y": (0.0, 32.0, 20.0),
    "-y": (0.0, -45.0, 20.0),
}
PIVOTS = {
    side: Hole(
        id=f"pivot{k}",
        point=point,
        axis="+x" if side[1] == "x" else "+y",
        diameter_mm=6.8,
        length_mm=13.0,
        through=False,
        opens=(side,),
    )
    for k, (side, point) in enumerate(ENDS.items())
}
PART = Part(size_mm=(90.0, 90.0, 34.0), typed=(OPEN, *PIVOTS.values()))
STATION = Station(
    id="st1",
    holding=Holding(vise="vise-60-slim", fixed="+y", grip_depth_mm=8.0, torque_nm=36.0, stop="low"),
    zero=Zero(
        x=From(of="stop", off_mm=45.0),
        y=From(of="jaw", off_mm=-45.0),
        z=From(of="seat", off_mm=34.0),
    ),
    work_offset="G54",
    at=One(at_mm=(0.0, 39.0)),
)
SETUP = Setup(
    id="s1",
    machine=MACHINE,
    stations=(STATION,),
    operations=(
        Face(id="c10", tool="t1", step_over_mm=35.0, step_down_mm=1.0),
        MillHole(id="c20", tool="t4", on=OnFeatures(ids=("open",)), step_down_mm=1.5),
        *(
            Drill(
                id=f"c{30 + k}",
                tool="t3",
                aim=side,
                on=OnFeatures(ids=(hole.id,)),
                peck_mm=7.0,
            )
            for k, (side, hole) in enumerate(PIVOTS.items())
        ),
        Chamfer(id="c40", tool="t5", size_mm=0.4, below_mm=1.0),
    ),
    note="Five sides in one holding: the table turns and tilts.",
)


def draft() -> Plan:
    """One setup of one station."""
    return Plan(
        material="en-aw-7075",
        quantity=16,
        part=PART,
        stock=sawn_block(z=(0, 1)),
        setups=(SETUP,),
        tools=carried(MACHINE, TOOLS),
    )
