"""TW-241, the cap of a level float: a round in the nest of dowels that was made for its larger
sister. The draft has no shim on the dowels yet.
"""

from __future__ import annotations

from machining.plan.clamped import Clamp, Clamped, Dowel
from machining.plan.document import Plan, Setup, Station
from machining.plan.operation import Chamfer, Drill, MillHole
from machining.plan.places import OnFeatures
from machining.plan.zero import in_the_middle
from machining.world.feature import Hole
from machining.world.geometry import PartGeometry
from machining.world.part import Part, Requirement
from machining.world.stock.round import Round

from .carried import carried

MACHINE = "heron"
TOOLS = ((4, "end-mill-8-z3", 30.0), (5, "drill-6-8", 58.0), (6, "chamfer-8-90", 26.0))
ACROSS, SEAT = 64.0, 28.0
NEST = 70.0  # its sister is so large
NESTED = Clamped(
    base="pallet-160",
    nest_mm=NEST,
    dowels=(
        Dowel(id="d1", side="+y", at_mm=-22.0, high_mm=8.0),
        Dowel(id="d2", side="+y", at_mm=22.0, high_mm=8.0),
    ),
    clamps=(
        Clamp(id="c1", clamp="strap-m6", side="-x", over_mm=8.0, torque_nm=8.0),
        Clamp(id="c2", clamp="strap-m6", side="+x", over_mm=8.0, torque_nm=8.0),
    ),
    reason="the nest of the larger cap, so that one pallet serves both",
)


def _part(key: str, seat: str) -> Part:
    deep = Requirement(
        id="seat",
        what="Seat Ø",
        feature=seat,
        nominal_mm=SEAT,
        upper_mm=0.1,
        lower_mm=0.0,
        measured_with="inside micrometer",
        how_often="1 in 5",
    )
    return Part(geometry=key, file_name="TW-241-A.step", requirements=(deep,))


def draft(geometry: PartGeometry, key: str) -> Plan:
    """One setup."""
    holes = [each for each in geometry.features if isinstance(each, Hole)]
    (seat,) = (each.id for each in holes if each.diameter_mm > 20.0)
    small = OnFeatures(ids=tuple(each.id for each in holes if each.id != seat))
    operations = (
        MillHole(id="f10", tool="t4", on=OnFeatures(ids=(seat,)), step_down_mm=1.5),
        Drill(id="f20", tool="t5", on=small, peck_mm=7.0),
        Chamfer(id="f30", tool="t6", on=small, size_mm=0.5, below_mm=1.0),
    )
    station = Station(id="st1", holding=NESTED, zero=in_the_middle("stock", top="stock"))
    return Plan(
        material="en-aw-6082",
        quantity=45,
        part=_part(key, seat),
        stock=Round(diameter_mm=ACROSS),
        setups=(Setup(id="s1", machine=MACHINE, stations=(station,), operations=operations),),
        tools=carried(MACHINE, TOOLS),
    )
