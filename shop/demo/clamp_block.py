"""TW-118, the sensor clamp block: a draft with one thing that will not work and one to look at, and
its earlier state.
"""

from __future__ import annotations

from machining.plan.document import Orientation, Plan, Setup, Station
from machining.plan.in_vise import Holding
from machining.plan.operation import (
    Bore,
    Chamfer,
    Drill,
    Face,
    FinishWalls,
    Operation,
    Ream,
    RoughOutside,
    RoughPocket,
    Tap,
)
from machining.plan.places import OnFeatures, Outside
from machining.plan.zero import From, Zero, in_the_middle
from machining.world.feature import Flat, Hole, Pocket
from machining.world.geometry import PartGeometry
from machining.world.part import Part, Requirement
from machining.world.stock.block import sawn_block

from .carried import carried

MACHINE = "heron"


def _holes(geometry: PartGeometry, diameter: float) -> tuple[str, ...]:
    found = [
        f for f in geometry.features if isinstance(f, Hole) and abs(f.diameter_mm - diameter) < 1e-3
    ]
    return tuple(f.id for f in sorted(found, key=lambda f: (f.point[0], f.point[1])))


def _pocket(geometry: PartGeometry, opens: str) -> str:
    return next(f.id for f in geometry.features if isinstance(f, Pocket) and f.opens == opens)


def _side(geometry: PartGeometry, faces: str) -> str:
    found = (f for f in geometry.features if isinstance(f, Flat) and f.faces == faces)
    return next(f.id for f in found if f.outermost)


def _part(geometry: PartGeometry, key: str) -> Part:
    pocket, recess = _pocket(geometry, "+z"), _pocket(geometry, "-z")
    bore, pins = _holes(geometry, 20.0)[0], _holes(geometry, 6.0)[0]
    seldom = "first, then 1 in 10"
    asks = (
        ("width", "Width across", "outside", 64.0, 0.05, -0.05, "micrometer", "1 in 5"),
        ("length", "Length", "outside", 96.0, 0.05, -0.05, "micrometer", "1 in 5"),
        ("pocket", "Pocket 52 wide", pocket, 52.0, 0.05, 0.0, "3-point bore gauge", "1 in 5"),
        ("depth", "Pocket depth", pocket, 18.0, 0.05, -0.05, "depth micrometer", seldom),
        ("bore", "Centre bore", bore, 20.0, 0.021, 0.0, "bore gauge", "every part"),
        ("pins", "Pin holes 6 H7", pins, 6.0, 0.012, 0.0, "plug gauge", "1 in 5"),
        ("recess", "Recess 40 long", recess, 40.0, 0.1, -0.1, "caliper", "1 in 10"),
        ("height", "Height", _side(geometry, "+z"), 32.0, 0.1, -0.1, "micrometer", "1 in 5"),
        ("place", "Pin from left side", pins, 12.0, 0.05, -0.05, "height gauge", seldom),
    )
    measured_from = {"place": _side(geometry, "-x")}
    requirements = [
        Requirement(
            id=id,
            what=what,
            feature=feature,
            datum=measured_from.get(id, ""),
            nominal_mm=nominal,
            upper_mm=upper,
            lower_mm=lower,
            measured_with=gauge,
            how_often=often,
        )
        for id, what, feature, nominal, upper, lower, gauge, often in asks
    ]
    requirements.append(
        Requirement(
            id="thread",
            what="Thread M8",
            feature=_holes(geometry, 6.8)[0],
            thread="M8",
            measured_with="go / no-go plug",
            how_often="1 in 10",
        )
    )
    return Part(geometry=key, file_name="TW-118-B.step", requirements=tuple(requirements))


def _first_cuts(geometry: PartGeometry) -> tuple[Operation, ...]:
    pocket, corners = (
        OnFeatures(ids=(_pocket(geometry, "+z"),)),
        OnFeatures(ids=_holes(geometry, 6.8)),
    )
    centre = OnFeatures(ids=_holes(geometry, 20.0))
    return (
        Face(id="a10", tool="t1", step_over_mm=35.0, step_down_mm=2.0),
        RoughOutside(
            id="a20",
            tool="t4",
            on=Outside(depth_mm=26.0),
            step_down_mm=26.0,
            step_over_mm=1.2,
            leave_mm=0.3,
            feed_mm_min=4600.0,
        ),
        RoughPocket(
            id="a30",
            tool="t4",
            on=pocket,
            step_down_mm=9.0,
            step_over_mm=2.4,
            leave_mm=0.3,
            ramp_deg=3.0,
        ),
        *_walls(pocket),
        Drill(
            id="a60",
            tool="t8",
            on=corners,
            peck_mm=7.0,
            past_mm=1.0,
            stop_after="Look down all 4 holes: clear to the bottom. Oil for the tap.",
        ),
        Tap(id="a70", tool="t9", on=corners, depth_mm=32.0, rpm=800.0),
        Drill(id="a80", tool="t10", on=centre, past_mm=1.0),
        Bore(id="a90", tool="t12", on=centre, width_mm=0.5),
        Chamfer(id="a100", tool="t11", size_mm=0.4, below_mm=2.0),
    )


def _walls(pocket: OnFeatures) -> tuple[Operation, ...]:
    return (
        FinishWalls(
            id="a40",
            tool="t6",
            on=pocket,
            step_down_mm=9.0,
            width_mm=0.3,
            passes=2,
            lead="arc",
        ),
        FinishWalls(
            id="a50",
            tool="t5",
            on=Outside(depth_mm=26.0),
            step_down_mm=26.0,
            width_mm=0.3,
            passes=2,
            lead="arc",
            stop_after="Blow chips out of the pocket. Measure it: 52 +0.05/0 wide, 18 ±0.05 deep.",
        ),
    )


def _first(geometry: PartGeometry) -> Setup:
    return Setup(
        id="s1",
        machine=MACHINE,
        stations=(
            Station(
                id="st1",
                holding=Holding(vise="vise-125", fixed="+y", grip_depth_mm=6.0, torque_nm=38.0),
                zero=in_the_middle("stock"),
                work_offset="G54",
            ),
        ),
        note="File the sawn ends. Ends even left and right of the jaws.",
        operations=_first_cuts(geometry),
    )


def _second_cuts(geometry: PartGeometry) -> tuple[Operation, ...]:
    recess, pins = OnFeatures(ids=(_pocket(geometry, "-z"),)), OnFeatures(ids=_holes(geometry, 6.0))
    return (
        Face(id="b10", tool="t1", step_over_mm=35.0, step_down_mm=1.5),
        RoughOutside(
            id="b20",
            tool="t4",
            on=Outside(depth_mm=6.5),
            step_down_mm=6.5,
            step_over_mm=1.2,
            leave_mm=0.3,
        ),
        RoughPocket(
            id="b30",
            tool="t4",
            on=recess,
            step_down_mm=6.0,
            step_over_mm=2.4,
            leave_mm=0.3,
            ramp_deg=3.0,
        ),
        FinishWalls(id="b40", tool="t5", on=recess, step_down_mm=6.0, width_mm=0.3, lead="arc"),
        FinishWalls(
            id="b50",
            tool="t5",
            on=Outside(depth_mm=6.5),
            step_down_mm=6.5,
            width_mm=0.3,
            passes=2,
            lead="arc",
        ),
        Drill(id="b60", tool="t13", on=pins, peck_mm=6.0),
        Ream(
            id="b70",
            tool="t14",
            on=pins,
            depth_mm=10.0,
            stop_after="Measure both pin holes, 6 H7, before the part leaves the vise.",
        ),
        Chamfer(id="b80", tool="t11", size_mm=0.4, below_mm=2.0),
    )


def _second(geometry: PartGeometry) -> Setup:
    return Setup(
        id="s2",
        machine=MACHINE,
        stations=(
            Station(
                id="st2",
                takes="st1",
                orientation=Orientation(up="-z", turn=0),
                holding=Holding(
                    vise="vise-100-soft",
                    fixed="+y",
                    grip_depth_mm=12.0,
                    torque_nm=25.0,
                    stop="low",
                ),
                zero=Zero(
                    x=From(of="stop", off_mm=48.0),
                    y=From(of="jaw", off_mm=-32.0),
                    z=From(of="seat", off_mm=32.0),
                    reason="the middle is that of the first setup",
                ),
                work_offset="G55",
            ),
        ),
        note="Soft jaws cut to the finished width. Part seated on the step.",
        operations=_second_cuts(geometry),
    )


TOOLS = (
    (1, "face-mill-50", 42.0),
    (4, "end-mill-12-z3", 40.0),
    (5, "end-mill-12-z4", 40.0),
    (6, "end-mill-8-z3", 18.0),
    (8, "drill-6-8", 58.0),
    (9, "tap-m8", 52.0),
    (10, "drill-19", 90.0),
    (11, "chamfer-8-90", 26.0),
    (12, "bore-20", 62.0),
    (13, "drill-5-8", 42.0),
    (14, "reamer-6", 50.0),
)


def draft(geometry: PartGeometry, key: str) -> Plan:
    """The current draft: one finding that stops it, one to look at."""
    return Plan(
        material="en-aw-6082",
        quantity=48,
        part=_part(geometry, key),
        stock=sawn_block(x=(3, 3), y=(3, 3), z=(3, 1), tolerance=1),
        tools=carried(MACHINE, TOOLS),
        setups=(_first(geometry), _second(geometry)),
    )
