"""TW-233, the frame over the light sensor of a weather station: a thin bar between two windows,
lower than the frame. The draft cuts the windows first, so that the bar is lowered when nothing
carries it any more.
"""

from __future__ import annotations

from shapely import box

from machining.plan.document import Plan, Setup, Station
from machining.plan.in_vise import Holding
from machining.plan.operation import Chamfer, Face, FinishWalls, RoughPocket
from machining.plan.places import OnFeatures
from machining.plan.zero import in_the_middle
from machining.world.feature import Pocket
from machining.world.part import Part, Requirement
from machining.world.stock.base import Side
from machining.world.stock.plate import Plate

from .carried import carried

MACHINE = "heron"
TOOLS = (
    (1, "face-mill-50", 40.0),
    (4, "end-mill-8-z3", 30.0),
    (6, "chamfer-8-90", 26.0),
)
CORNER, HIGH, FLOOR = 5.0, 12.0, 8.0
BAR, LONG, WIDE = 2.0, 36.0, 28.0  # the bar, and the windows beside it
OVER = 10.0  # where the bar is lowered, across


def _pocket(id: str, middle: float, length: float, corner: float, floor: float) -> Pocket:
    half, across = length / 2.0 - corner, LONG / 2.0 - corner
    ring = box(middle - half, -across, middle + half, across).buffer(corner, quad_segs=8).exterior
    return Pocket(
        id=id,
        loops=(tuple((x, y, floor) for x, y in ring.coords[:-1]),),
        opens="+z",
        depth_mm=HIGH - floor,
        corner_radius_mm=corner,
        through=floor == 0.0,
    )


ASIDE = (BAR + WIDE) / 2.0
LOW = _pocket("low", 0.0, OVER, OVER / 2.0 - 0.01, FLOOR)
WINDOWS = (
    _pocket("left", -ASIDE, WIDE, CORNER, 0.0),
    _pocket("right", ASIDE, WIDE, CORNER, 0.0),
)
PART = Part(
    size_mm=(90.0, 60.0, HIGH),
    typed=(LOW, *WINDOWS),
    requirements=(
        Requirement(
            id="low",
            what="Bar, below the frame",
            feature="low",
            nominal_mm=HIGH - FLOOR,
            upper_mm=0.1,
            lower_mm=-0.1,
            measured_with="depth gauge",
            how_often="1 in 5",
        ),
        *(
            Requirement(
                id=each.id,
                what=f"Window {each.id}, wide",
                feature=each.id,
                nominal_mm=WIDE,
                upper_mm=0.1,
                lower_mm=-0.1,
                measured_with="caliper",
                how_often="1 in 5",
            )
            for each in WINDOWS
        ),
    ),
)
HELD = Holding(
    vise="vise-125",
    fixed="+y",
    grip_depth_mm=6.0,
    torque_nm=20.0,
    stop="low",
    reason="no harder: the jaws close over two windows",
)


def _window(id: str, on: str) -> RoughPocket:
    return RoughPocket(
        id=id,
        tool="t4",
        on=OnFeatures(ids=(on,)),
        step_down_mm=3.0,
        step_over_mm=2.0,
        leave_mm=0.2,
    )


OPERATIONS = (
    Face(id="r10", tool="t1", step_over_mm=35.0, step_down_mm=1.0),
    _window("r20", "left"),
    _window("r30", "right"),
    RoughPocket(
        id="r40",
        tool="t4",
        on=OnFeatures(ids=("low",)),
        step_down_mm=2.0,
        step_over_mm=2.0,
        leave_mm=0.0,
    ),
    *(
        FinishWalls(
            id=id,
            tool="t4",
            on=OnFeatures(ids=(on,)),
            step_down_mm=4.0,
            width_mm=0.2,
            lead="arc",
        )
        for id, on in (("r50", "left"), ("r60", "right"))
    ),
    Chamfer(id="r70", tool="t6", size_mm=0.3, below_mm=1.0),
)


def draft() -> Plan:
    """One setup."""
    return Plan(
        material="en-aw-6082",
        quantity=80,
        part=PART,
        stock=Plate(
            x_low=Side(over_mm=0.0),
            x_high=Side(over_mm=0.0),
            y_low=Side(over_mm=0.0),
            y_high=Side(over_mm=0.0),
            z_low=Side(over_mm=0.0),
            z_high=Side(over_mm=1.0),
            saw_tolerance_mm=0.2,
            rolled_tolerance_mm=0.2,
        ),
        setups=(
            Setup(
                id="s1",
                machine=MACHINE,
                stations=(
                    Station(
                        id="st1",
                        holding=HELD,
                        zero=in_the_middle("stock", top="stock"),
                    ),
                ),
                operations=OPERATIONS,
            ),
        ),
        tools=carried(MACHINE, TOOLS),
    )
