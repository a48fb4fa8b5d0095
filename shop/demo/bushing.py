"""TW-276, the bushing in the foot of a mast: turned at both ends on Plover, for the second held by
its spigot in soft jaws. The draft has nothing yet that they are closed on while they are bored.
"""

from __future__ import annotations

from machining.plan.document import Orientation, Plan, Setup, Station
from machining.plan.holding import InChuck
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.turned import Profile, TurnFace, TurnFinish, TurnRough
from machining.world.feature import Boss, Hole
from machining.world.geometry import PartGeometry
from machining.world.part import Part, Requirement
from machining.world.stock import Round
from machining.world.stock.base import Side

from .carried import carried

MACHINE = "plover"
TOOLS = (
    (1, "turn-rough-cn12", 60.0),
    (2, "turn-finish-dn11", 60.0),
    (6, "boring-bar-16", 64.0),
    (7, "turn-drill-20", 92.0),
)
FLANGE, SPIGOT, BORE = 76.0, 60.0, 32.0
THICK, LONG = 12.0, 34.0
FIRST = (
    TurnFace(id="b10", tool="t1"),
    Drill(
        id="b20",
        tool="t7",
        on=Points(at_mm=((0.0, 0.0),), diameter_mm=20.0, depth_mm=LONG + 2.0),
        peck_mm=20.0,
    ),
    TurnRough(id="b30", tool="t1", on=Profile(at_mm=((0.0, SPIGOT), (THICK - LONG, SPIGOT)))),
    TurnRough(
        id="b40",
        tool="t6",
        on=Profile(at_mm=((0.0, BORE), (-LONG, BORE)), side="inside"),
        depth_mm=1.0,
        leave_mm=0.2,
    ),
    TurnFinish(id="b50", tool="t2", on=Profile(at_mm=((0.0, SPIGOT), (THICK - LONG, SPIGOT)))),
    TurnFinish(
        id="b60",
        tool="t6",
        on=Profile(at_mm=((0.0, BORE), (-LONG, BORE)), side="inside"),
        width_mm=0.2,
    ),
)
SECOND = (
    TurnFace(id="b70", tool="t1"),
    TurnRough(id="b80", tool="t1", on=Profile(at_mm=((0.0, FLANGE), (-THICK, FLANGE)))),
    TurnFinish(id="b90", tool="t2", on=Profile(at_mm=((0.0, FLANGE), (-THICK, FLANGE)))),
)
SETUPS = (
    Setup(
        id="s1",
        machine=MACHINE,
        stations=(
            Station(
                id="st1",
                holding=InChuck(
                    chuck="chuck-200", grip_mm=8.0, force_per_jaw_n=20000.0, limit_rpm=2500.0
                ),
            ),
        ),
        operations=FIRST,
        note="Sawn pieces; the saw's burr goes outwards.",
    ),
    Setup(
        id="s2",
        machine=MACHINE,
        stations=(
            Station(
                id="st2",
                takes="st1",
                orientation=Orientation(up="-z"),
                holding=InChuck(
                    chuck="chuck-200-soft",
                    grip_mm=18.0,
                    force_per_jaw_n=12000.0,
                    bored_mm=SPIGOT,
                    limit_rpm=2500.0,
                    reason="on the finished spigot, which hard jaws would mark",
                ),
            ),
        ),
        operations=SECOND,
    ),
)


def _part(key: str, geometry: PartGeometry) -> Part:
    bore = next(each.id for each in geometry.features if isinstance(each, Hole))
    rounds = {each.diameter_mm: each.id for each in geometry.features if isinstance(each, Boss)}
    asks = (
        Requirement(
            id="bore",
            what="Bore Ø",
            feature=bore,
            nominal_mm=BORE,
            upper_mm=0.04,
            lower_mm=0.0,
            finish_um=1.6,
            measured_with="inside micrometer",
            how_often="every part",
        ),
        Requirement(
            id="flange",
            what="Flange Ø",
            feature=rounds.get(FLANGE, "outside"),
            nominal_mm=FLANGE,
            upper_mm=0.0,
            lower_mm=-0.1,
            measured_with="micrometer",
            how_often="1 in 5",
        ),
    )
    return Part(geometry=key, file_name="TW-276-A.step", requirements=asks)


def draft(geometry: PartGeometry, key: str) -> Plan:
    """Two setups: end for end between them."""
    return Plan(
        material="en-aw-6082",
        quantity=40,
        part=_part(key, geometry),
        stock=Round(diameter_mm=80.0, low=Side(over_mm=1.5), high=Side(over_mm=1.0)),
        setups=SETUPS,
        tools=carried(MACHINE, TOOLS),
    )
