"""TW-520, the bulkhead gland: bar work on the lathe, with a relief that a grooving tool is used to
clear.
"""

from __future__ import annotations

from machining.plan.document import Plan, Setup, Station
from machining.plan.holding import InChuck
from machining.plan.operation import Drill
from machining.plan.places import Points
from machining.plan.turned import (
    Groove,
    PartOff,
    Plane,
    Profile,
    Stretch,
    TurnFace,
    TurnFinish,
    TurnGroove,
    TurnRough,
    TurnThread,
)
from machining.world.geometry import PartGeometry
from machining.world.part import Part, Requirement
from machining.world.stock import Round
from machining.world.stock.base import Side

from .carried import carried

MACHINE = "plover"
TOOLS = (
    (1, "turn-rough-cn12", 40.0),
    (2, "turn-finish-dn11", 40.0),
    (3, "groove-3", 40.0),
    (4, "turn-thread-16", 40.0),
    (5, "part-off-3", 42.0),
    (6, "boring-bar-16", 64.0),
    (7, "turn-drill-20", 92.0),
)
CONTOUR = Profile(at_mm=((0.0, 30.0), (-34.0, 30.0), (-34.0, 48.0), (-46.0, 48.0)))
BORE = Profile(at_mm=((0.0, 22.0), (-46.0, 22.0)), side="inside")
OPERATIONS = (
    TurnFace(id="g10", tool="t1"),
    Drill(id="g20", tool="t7", on=Points(at_mm=((0.0, 0.0),), diameter_mm=20.0, depth_mm=47.0)),
    TurnRough(id="g30", tool="t1", on=CONTOUR),
    TurnRough(id="g40", tool="t6", on=BORE, depth_mm=1.0, leave_mm=0.2),
    TurnGroove(id="g50", tool="t3", on=Groove(z_mm=-24.0, width_mm=10.0, diameter_mm=27.0)),
    TurnFinish(id="g60", tool="t2", on=CONTOUR),
    TurnFinish(id="g70", tool="t6", on=BORE, width_mm=0.2),
    TurnThread(
        id="g80",
        tool="t4",
        on=Stretch(length_mm=24.0),
        diameter_mm=30.0,
        pitch_mm=1.5,
        stop_after="Ring gauge on before parting off.",
    ),
    PartOff(id="g90", tool="t5", on=Plane(z_mm=-42.0)),
)
SETUP = Setup(
    id="s1",
    machine=MACHINE,
    stations=(
        Station(
            id="st1",
            holding=InChuck(
                chuck="chuck-200", grip_mm=30.0, force_per_jaw_n=22000.0, limit_rpm=3500.0
            ),
        ),
    ),
    operations=OPERATIONS,
    note="Bar pulled to the stop. Catcher up before parting off.",
)


def _part(key: str) -> Part:
    asks = (
        ("flange", "Flange Ø", "outside", 48.0, 0.0, -0.1, 12.5, "micrometer", "1 in 20"),
        (
            "seat",
            "Neck Ø before the thread",
            "outside",
            30.0,
            0.0,
            -0.05,
            6.3,
            "micrometer",
            "1 in 10",
        ),
    )
    requirements = [
        Requirement(
            id=id,
            what=what,
            feature=feature,
            nominal_mm=nominal,
            upper_mm=upper,
            lower_mm=lower,
            finish_um=rough,
            measured_with=gauge,
            how_often=often,
        )
        for id, what, feature, nominal, upper, lower, rough, gauge, often in asks
    ]
    requirements.append(
        Requirement(
            id="thread",
            what="Thread M30×1.5",
            feature="outside",
            thread="M30×1.5",
            measured_with="go / no-go ring",
            how_often="1 in 20",
        )
    )
    return Part(geometry=key, file_name="TW-520-A.step", requirements=tuple(requirements))


def draft(geometry: PartGeometry, key: str) -> Plan:
    """One setup from the bar; the relief is worth a look."""
    return Plan(
        material="x5crnimo17-12-2",
        quantity=500,
        part=_part(key),
        stock=Round(diameter_mm=50.0, low=Side(over_mm=54.0), high=Side(over_mm=1.0)),
        setups=(SETUP,),
        tools=carried(MACHINE, TOOLS),
    )
