"""A plain part to try rules on: a block of 80 x 50 x 20 with a pocket and two holes, planned on
Heron.
"""

from __future__ import annotations

from dataclasses import replace
from math import cos, pi, sin
from typing import Any

from machining.data import seed
from machining.evaluate import evaluate
from machining.evaluation import Evaluation, OperationResult
from machining.findings.finding import Finding
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import LoadedTool, Orientation, Plan, Setup, Station
from machining.plan.edit import Change, Edit
from machining.plan.in_vise import Holding
from machining.plan.operation import (
    Drill,
    Face,
    FinishWalls,
    Operation,
    RoughOutside,
    RoughPocket,
    Tap,
)
from machining.plan.places import OnFeatures, Outside
from machining.plan.zero import From, Zero, in_the_middle
from machining.world.capability import Rig, usual_rig
from machining.world.feature import Hole, Pocket
from machining.world.library import Library
from machining.world.part import Part
from machining.world.stock.block import sawn_block

LIBRARY = seed()
MEMO = Memo()

HOLES = tuple(
    Hole(
        id=f"hole{k}",
        point=(x, 0.0, 0.0),
        axis="+z",
        diameter_mm=6.8,
        length_mm=20.0,
        through=True,
        opens=("+z", "-z"),
    )
    for k, x in enumerate((-32.0, 32.0))
)
RECESS = Pocket(
    id="recess",
    loops=(((-20.0, -12.0, 12.0), (20.0, -12.0, 12.0), (20.0, 12.0, 12.0), (-20.0, 12.0, 12.0)),),
    opens="+z",
    depth_mm=8.0,
    corner_radius_mm=4.0,
)
BLIND_BELOW = Hole(
    id="below",
    point=(0.0, 20.0, 0.0),
    axis="+z",
    diameter_mm=5.8,
    length_mm=8.0,
    through=False,
    opens=("-z",),
)
PART = Part(size_mm=(80.0, 50.0, 20.0), typed=(RECESS, *HOLES, BLIND_BELOW))
STOCK = sawn_block(x=(2, 2), y=(2, 2), z=(8, 1))
THICK = sawn_block(x=(6, 6), y=(6, 6), z=(8, 1))  # more than one heavy pass stands beside the part
VISE = Holding(vise="vise-125", fixed="+y", grip_depth_mm=6.0, torque_nm=40.0)
STOPPED = VISE.model_copy(update={"stop": "low"})
BY_WHAT_HOLDS_IT = Zero(  # the part turned over, its middle and top
    x=From(of="stop", off_mm=40.0), y=From(of="jaw", off_mm=-25.0), z=From(of="seat", off_mm=20.0)
)


def tool(
    number: int, assembly: str, stick_out: float | None = None, machine: str = "heron"
) -> LoadedTool:
    out = stick_out or LIBRARY.assemblies[assembly].stick_out_mm
    return LoadedTool(
        id=f"t{number}",
        machine=machine,
        number=number,
        assembly=assembly,
        stick_out_mm=out,
        pocket=number,
        h=number,
        d=number,
    )


TOOLS = (
    tool(1, "face-mill-50"),
    tool(2, "end-mill-12-z3"),
    tool(3, "end-mill-8-z3"),
    tool(4, "drill-6-8"),
    tool(5, "tap-m8"),
    tool(6, "end-mill-16-z3"),
)
FACE = Face(id="face", tool="t1", step_over_mm=35.0)
ROUGH = RoughOutside(
    id="rough", tool="t2", on=Outside(depth_mm=18.0), step_down_mm=9.0, step_over_mm=2.0
)
POCKET = RoughPocket(
    id="pocket", tool="t3", on=OnFeatures(ids=("recess",)), step_down_mm=4.0, step_over_mm=1.6
)
WALLS = FinishWalls(
    id="walls", tool="t3", on=OnFeatures(ids=("recess",)), step_down_mm=8.0, width_mm=0.3
)
OUTSIDE = FinishWalls(
    id="outside", tool="t2", on=Outside(depth_mm=18.0), step_down_mm=9.0, width_mm=0.3
)
DRILL = Drill(id="drill", tool="t4", on=OnFeatures(ids=("hole0", "hole1")), peck_mm=7.0)
TAP = Tap(id="tap", tool="t5", on=OnFeatures(ids=("hole0", "hole1")), depth_mm=20.0)


OF_STATION = ("takes", "orientation", "holding", "zero", "work_offset", "at")


def rig(key: str, library: Library = LIBRARY) -> Rig:
    """What does an operation on a machine where nothing else is named."""
    return usual_rig(library.machines[key])


def with_part(key: str, part: str, library: Library = LIBRARY, **fields: Any) -> Library:
    """The library with other fields of a machine's first spindle, carrier or place."""
    machine = library.machines[key]
    first, *others = getattr(machine, part)
    changed = machine.model_copy(update={part: (first.model_copy(update=fields), *others)})
    return replace(library, machines={**library.machines, key: changed})


def setup(*operations: Operation, **fields: Any) -> Setup:
    """A setup with one station, st1 in s1; fields of either by name."""
    own = {"id": "s1", "machine": "heron", "holding": VISE, **fields}
    station = {name: own.pop(name) for name in OF_STATION if name in own}
    only = Station(id=own["id"].replace("s", "st"), **station)
    return Setup(**{"stations": (only,), "operations": operations, **own})


def plan(*operations: Operation, **fields: Any) -> Plan:
    """One setup with these operations; other setups and values by name."""
    return Plan(
        **{
            "material": "en-aw-6082",
            "quantity": 10,
            "part": PART,
            "stock": STOCK,
            "tools": TOOLS,
            "setups": (setup(*operations),),
            **fields,
        }
    )


GOOD = (FACE, ROUGH, POCKET, WALLS, OUTSIDE, DRILL, TAP)


def good() -> Plan:
    return plan(*GOOD)


def whole() -> Plan:
    """The same with a recess that is round in its corners, cut from above and turned over: nothing
    is left to do.
    """
    recess = RECESS.model_copy(update={"loops": (_rounded(20.0, 12.0, 4.0, 12.0),)})
    outside = {"on": Outside(depth_mm=20.0), "step_down_mm": 10.0}
    first = [op.model_copy(update=outside) if op.id in ("rough", "outside") else op for op in GOOD]
    foot = Face(id="foot", tool="t1", step_over_mm=35.0)
    below = Drill(id="from-below", tool="t7", on=OnFeatures(ids=("below",)))
    return plan(
        part=PART.model_copy(update={"typed": (recess, *HOLES, BLIND_BELOW)}),
        tools=(*TOOLS, tool(7, "drill-5-8")),
        setups=(setup(*first), turned_over(foot, below, holding=STOPPED, zero=BY_WHAT_HOLDS_IT)),
    )


def _rounded(x: float, y: float, radius: float, z: float) -> tuple[tuple[float, float, float], ...]:
    """A rectangle of half sizes x and y at a height with round corners, mm."""
    corners = ((1, 1, 0.0), (-1, 1, 0.5), (-1, -1, 1.0), (1, -1, 1.5))
    return tuple(
        (
            across * (x - radius) + radius * cos(pi * (start + share / 32)),
            along * (y - radius) + radius * sin(pi * (start + share / 32)),
            z,
        )
        for across, along, start in corners
        for share in range(17)
    )


def on_machine(of: Plan, key: str) -> Plan:
    """The same plan on another machine, its tools loaded there."""
    setups = tuple(each.model_copy(update={"machine": key}) for each in of.setups)
    return of.model_copy(
        update={
            "setups": setups,
            "tools": tuple(each.model_copy(update={"machine": key}) for each in of.tools),
        }
    )


def changed(of: Plan, on: str, **fields: Any) -> Plan:
    return apply(
        of,
        [Change(on=on, fields={name.replace("__", "."): value for name, value in fields.items()})],
    )


def answer(of: Plan, library: Library = LIBRARY) -> Evaluation:
    return evaluate(of, library, MEMO)


def ids(of: Plan, library: Library = LIBRARY) -> set[str]:
    return {f.id for f in answer(of, library).open}


def finding(of: Plan, id: str, library: Library = LIBRARY) -> Finding:
    found = [f for f in answer(of, library).findings if f.id == id]
    assert found, f"no {id} in {[f.id for f in answer(of, library).findings]}"
    return found[0]


def result(of: Evaluation, operation: str) -> OperationResult:
    return next(op for each in of.setups for op in each.operations if op.id == operation)


def after_fix(of: Plan, found: Finding, place: int = 0) -> Plan:
    edits: tuple[Edit, ...] = found.fixes[place].edits
    return apply(of, edits)


def with_settings(**values: Any) -> Library:
    return replace(LIBRARY, settings=LIBRARY.settings.model_copy(update=values))


def turned_over(*operations: Operation, **fields: Any) -> Setup:
    return setup(
        *operations,
        **{
            "id": "s2",
            "takes": "st1",
            "orientation": Orientation(up="-z"),
            "zero": in_the_middle("part"),
            "work_offset": "G55",
            **fields,
        },
    )
