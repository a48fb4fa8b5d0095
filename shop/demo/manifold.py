"""TW-311, the manifold block: 24 on a tombstone of Curlew, six above each other on each of four
faces, both ends by index in the same holding.
"""

from __future__ import annotations

from machining.plan.at import Faces
from machining.plan.document import Plan, Setup, Station
from machining.plan.in_vise import Holding
from machining.plan.operation import Chamfer, Drill, Face, Spot
from machining.plan.places import OnFeatures
from machining.plan.zero import From, Zero
from machining.world.feature import Hole
from machining.world.part import Part
from machining.world.stock.block import sawn_block

from .carried import carried

MACHINE = "curlew"
TOOLS = (
    (1, "face-mill-50", 40.0),
    (2, "spot-10-90", 30.0),
    (3, "drill-6-8", 60.0),
    (4, "drill-8-5", 75.0),
    (5, "chamfer-8-90", 30.0),
)
GALLERY = Hole(
    id="gallery",
    point=(0.0, 0.0, 10.0),
    axis="+z",
    diameter_mm=8.5,
    length_mm=35.0,
    through=False,
    opens=("+z",),
)
PORTS = tuple(
    Hole(
        id=f"port{k}",
        point=(x, 18.0, 20.0),
        axis="+z",
        diameter_mm=6.8,
        length_mm=25.0,
        through=False,
        opens=("+z",),
    )
    for k, x in enumerate((-24.0, 24.0))
)
INLET = Hole(
    id="inlet",
    point=(0.0, 0.0, 27.0),
    axis="+x",
    diameter_mm=8.5,
    length_mm=40.0,
    through=False,
    opens=("+x",),
)
OUTLETS = tuple(
    Hole(
        id=f"outlet{k}",
        point=(-40.0, y, 27.0),
        axis="+x",
        diameter_mm=6.8,
        length_mm=22.0,
        through=False,
        opens=("-x",),
    )
    for k, y in enumerate((-18.0, 18.0))
)
PART = Part(size_mm=(80.0, 60.0, 45.0), typed=(GALLERY, *PORTS, INLET, *OUTLETS))
STATION = Station(
    id="st1",
    holding=Holding(vise="vise-60-slim", fixed="+x", grip_depth_mm=8.0, torque_nm=32.0, stop="low"),
    zero=Zero(
        x=From(of="jaw", off_mm=-40.0),
        y=From(of="stop", off_mm=30.0),
        z=From(of="seat", off_mm=45.0),
    ),
    work_offset="G54",
    at=Faces(on="four", faces=(1, 2, 3, 4), rows=6, row_pitch_mm=87.0, at_mm=(44.0, 36.0)),
)
SETUP = Setup(
    id="s1",
    machine=MACHINE,
    stations=(STATION,),
    operations=(
        Face(id="c10", tool="t1", step_over_mm=35.0, step_down_mm=2.0),
        Spot(id="c20", tool="t2", on=OnFeatures(ids=("port0", "port1")), mouth_diameter_mm=7.6),
        Spot(id="c25", tool="t2", on=OnFeatures(ids=("gallery",)), mouth_diameter_mm=9.3),
        Drill(id="c30", tool="t3", on=OnFeatures(ids=("port0", "port1")), peck_mm=8.0),
        Drill(
            id="c40", tool="t3", aim="-x", on=OnFeatures(ids=("outlet0", "outlet1")), peck_mm=8.0
        ),
        Drill(id="c50", tool="t4", on=OnFeatures(ids=("gallery",)), peck_mm=10.0),
        Drill(id="c60", tool="t4", aim="+x", on=OnFeatures(ids=("inlet",)), peck_mm=10.0),
        Chamfer(id="c70", tool="t5", size_mm=0.4, below_mm=1.0),
    ),
    note="Six above each other on every face; the fixed jaw to the right.",
)


def draft() -> Plan:
    """One setup of 24 positions."""
    return Plan(
        material="en-aw-6082",
        quantity=48,
        part=PART,
        stock=sawn_block(z=(0, 2)),
        setups=(SETUP,),
        tools=carried(MACHINE, TOOLS),
    )
