"""TW-226, the foot plate of a wind vane: on a pallet in Heron's vise. Straps hold it while window
and holes are cut, screws through those holes while its outside is; the draft has them too loose.
"""

from __future__ import annotations

from shapely import box

from machining.geometry.frames import Sideways
from machining.plan.base import ClampChange
from machining.plan.clamped import Clamp, Clamped, Dowel
from machining.plan.document import Orientation, Plan, Setup, Station
from machining.plan.in_vise import Holding
from machining.plan.operation import Chamfer, Drill, Face, FinishWalls, RoughOutside, RoughPocket
from machining.plan.places import OnFeatures, Outside
from machining.plan.zero import From, Zero, in_the_middle
from machining.world.feature import Hole, Pocket
from machining.world.part import Part, Requirement
from machining.world.stock.base import Side
from machining.world.stock.plate import Plate

from .carried import carried

MACHINE = "heron"
TOOLS = (
    (1, "face-mill-50", 40.0),
    (2, "end-mill-12-z3", 40.0),
    (3, "end-mill-12-z4", 40.0),
    (4, "end-mill-8-z3", 30.0),
    (5, "drill-6-8", 58.0),
    (6, "chamfer-8-90", 26.0),
)
HOLES = tuple(
    Hole(
        id=f"hole{k}",
        point=(x, y, 0.0),
        axis="+z",
        diameter_mm=6.8,
        length_mm=12.0,
        through=True,
        opens=("+z", "-z"),
    )
    for k, (x, y) in enumerate(((-44.0, -20.0), (44.0, -20.0), (44.0, 20.0), (-44.0, 20.0)))
)
_ROUNDED = box(-19.0, -8.0, 19.0, 8.0).buffer(6.0, quad_segs=8)
SEAT = Pocket(
    id="seat",
    loops=(tuple((x, y, 7.0) for x, y in _ROUNDED.exterior.coords[:-1]),),
    opens="+z",
    depth_mm=5.0,
    corner_radius_mm=6.0,
)
PART = Part(
    size_mm=(110.0, 70.0, 12.0),
    typed=(SEAT, *HOLES),
    requirements=(
        Requirement(
            id="seat",
            what="Seat, deep",
            feature="seat",
            nominal_mm=5.0,
            upper_mm=0.5,
            lower_mm=-0.5,
            measured_with="depth gauge",
            how_often="1 in 5",
        ),
    ),
)


def _strap(id: str, side: Sideways) -> Clamp:
    return Clamp(id=id, clamp="strap-m6", side=side, over_mm=10.0, torque_nm=8.0)


def _screw(id: str, side: Sideways, at_mm: float) -> Clamp:
    return Clamp(id=id, clamp="screw-m6", side=side, at_mm=at_mm, over_mm=14.0, torque_nm=1.0)


ON_PALLET = Clamped(
    base="pallet-220",
    raised_mm=4.0,
    dowels=(
        Dowel(id="d1", side="+y", at_mm=-30.0, high_mm=6.0),
        Dowel(id="d2", side="+y", at_mm=30.0, high_mm=6.0),
        Dowel(id="d3", side="-x", at_mm=26.0, high_mm=6.0),
    ),
    clamps=(
        _strap("c1", "-x"),
        _strap("c2", "+x"),
        _screw("c3", "-x", -20.0),
        _screw("c4", "+x", 20.0),
        _screw("c5", "-x", 20.0),
        _screw("c6", "+x", -20.0),
    ),
    vise=Holding(vise="vise-125", fixed="+y", grip_depth_mm=14.0, torque_nm=40.0),
    reason="the pallet stays in the vise for the batch",
)
FIRST = Station(id="st1", holding=ON_PALLET, zero=in_the_middle("stock", top="stock"))
SECOND = Station(
    id="st2",
    takes="st1",
    orientation=Orientation(up="-z"),
    holding=Holding(vise="vise-125", fixed="+y", grip_depth_mm=6.0, torque_nm=25.0, stop="low"),
    zero=Zero(
        x=From(of="stop", off_mm=55.0),
        y=From(of="jaw", off_mm=-35.0),
        z=From(of="seat", off_mm=12.0),
    ),
    work_offset="G55",
)
OUTSIDE, SEAT_AT = Outside(depth_mm=12.0), OnFeatures(ids=("seat",))
SETUPS = (
    Setup(
        id="s1",
        machine=MACHINE,
        stations=(FIRST,),
        operations=(
            RoughPocket(
                id="v10", tool="t4", on=SEAT_AT, step_down_mm=2.5, step_over_mm=2.0, leave_mm=0.2
            ),
            FinishWalls(id="v20", tool="t4", on=SEAT_AT, step_down_mm=5.0, width_mm=0.2),
            Drill(
                id="v30",
                tool="t5",
                on=OnFeatures(ids=tuple(each.id for each in HOLES)),
                peck_mm=6.0,
                past_mm=4.5,
                clamps_after=ClampChange(on=("c3", "c4", "c5", "c6"), off=("c1", "c2")),
            ),
            RoughOutside(
                id="v40", tool="t2", on=OUTSIDE, step_down_mm=6.0, step_over_mm=3.0, leave_mm=0.3
            ),
            FinishWalls(id="v50", tool="t3", on=OUTSIDE, step_down_mm=12.0, width_mm=0.3),
        ),
        note="Screws and their washers are in the pallet's box.",
    ),
    Setup(
        id="s2",
        machine=MACHINE,
        stations=(SECOND,),
        operations=(
            Face(id="v60", tool="t1", step_over_mm=35.0, step_down_mm=1.5),
            Chamfer(id="v70", tool="t6", size_mm=0.4, below_mm=1.0),
        ),
    ),
)


def draft() -> Plan:
    """Two setups."""
    return Plan(
        material="en-aw-6082",
        quantity=60,
        part=PART,
        stock=Plate(
            x_low=Side(over_mm=3.0),
            x_high=Side(over_mm=3.0),
            y_low=Side(over_mm=3.0),
            y_high=Side(over_mm=3.0),
            z_low=Side(over_mm=3.0),
            z_high=Side(over_mm=0.0),
            saw_tolerance_mm=1.0,
            rolled_tolerance_mm=0.2,
        ),
        setups=SETUPS,
        tools=carried(MACHINE, TOOLS),
    )
