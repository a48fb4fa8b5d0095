"""TW-402, the anemometer hub: turned from the bar on Gannet, three flats and three arms' holes by
index of its spindle, parted off.
"""

from __future__ import annotations

from machining.facts.evenly_round import EvenlyRound, evenly_round
from machining.plan.document import Plan, Setup, Station
from machining.plan.holding import InChuck
from machining.plan.operation import Drill, Operation, RoughPocket, Tap
from machining.plan.places import OnFeatures, Points
from machining.plan.turned import PartOff, Plane, Profile, TurnFace, TurnFinish, TurnRough
from machining.world.geometry import PartGeometry
from machining.world.part import Part, Requirement
from machining.world.stock import Round
from machining.world.stock.base import Side

from .carried import carried

MACHINE = "gannet"
TOOLS = (
    (1, "turn-rough-cn12", 40.0),
    (2, "turn-finish-dn11", 40.0),
    (3, "turn-drill-12", 60.0),
    (4, "end-mill-12-z3", 40.0),
    (5, "drill-6-8", 58.0),
    (6, "tap-m8", 52.0),
    (7, "part-off-3", 42.0),
)
CONTOUR = Profile(at_mm=((0.0, 36.0), (-34.0, 36.0)))
BORE = Points(at_mm=((0.0, 0.0),), diameter_mm=12.0, depth_mm=34.0)
OPENS_INTO_BORE = ("cut.interrupted", "only the drill's point comes out, into the bore")


def _flat(k: int, on: OnFeatures, aim: str) -> Operation:
    return RoughPocket(
        id=f"h{50 + k}",
        tool="t4",
        aim=aim,
        on=on,
        like="flats",
        step_down_mm=1.3,
        step_over_mm=11.4,
        leave_mm=0.0,
    )


def _arm(k: int, on: OnFeatures, aim: str) -> tuple[Operation, Operation]:
    """Drilled and tapped."""
    kept = (OPENS_INTO_BORE,)
    return (
        Drill(id=f"h{60 + k}", tool="t5", aim=aim, on=on, like="arms", kept=kept),
        Tap(id=f"h{70 + k}", tool="t6", aim=aim, on=on, like="threads", depth_mm=9.5),
    )


def _sets(geometry: PartGeometry) -> tuple[EvenlyRound, EvenlyRound]:
    flats = next(each for each in evenly_round(geometry) if not each.are_holes)
    holes = next(each for each in evenly_round(geometry) if each.are_holes)
    return flats, holes


def _beside(geometry: PartGeometry) -> tuple[Operation, ...]:
    """What driven tools cut, tool by tool."""
    flats, holes = _sets(geometry)
    made = [_flat(k, OnFeatures(ids=(id,)), aim) for k, (id, aim) in enumerate(flats.each)]
    arms = [_arm(k, OnFeatures(ids=(id,)), aim) for k, (id, aim) in enumerate(holes.each)]
    return (*made, *(drill for drill, _ in arms), *(tap for _, tap in arms))


def _part(key: str, geometry: PartGeometry) -> Part:
    _, holes = _sets(geometry)
    asks = (
        Requirement(
            id="around",
            what="Outside Ø",
            feature="outside",
            nominal_mm=36.0,
            upper_mm=0.0,
            lower_mm=-0.1,
            measured_with="micrometer",
            how_often="1 in 20",
        ),
        Requirement(
            id="arm",
            what="Thread M8 of the arms",
            feature=holes.first.id,
            thread="M8",
            measured_with="go / no-go plug",
            how_often="1 in 20",
        ),
    )
    return Part(geometry=key, file_name="TW-402-A.step", requirements=asks)


def draft(geometry: PartGeometry, key: str) -> Plan:
    """One setup from the bar."""
    holding = InChuck(
        chuck="chuck-200",
        grip_mm=30.0,
        force_per_jaw_n=22000.0,
        limit_rpm=4000.0,
        jaw_angle_deg=30.0,
    )
    operations = (
        TurnFace(id="h10", tool="t1"),
        TurnRough(id="h20", tool="t1", on=CONTOUR),
        TurnFinish(id="h30", tool="t2", on=CONTOUR),
        Drill(id="h40", tool="t3", on=BORE, peck_mm=12.0),
        *_beside(geometry),
        PartOff(id="h80", tool="t7", on=Plane(z_mm=-30.0)),
    )
    setup = Setup(
        id="s1",
        machine=MACHINE,
        stations=(Station(id="st1", place="main", holding=holding),),
        operations=operations,
        note="Driven tools stand across the spindle.",
    )
    return Plan(
        material="en-aw-6082",
        quantity=200,
        part=_part(key, geometry),
        stock=Round(diameter_mm=40.0, low=Side(over_mm=54.0), high=Side(over_mm=1.0)),
        setups=(setup,),
        tools=carried(MACHINE, TOOLS),
    )
