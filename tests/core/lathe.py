"""A turned part to try rules on: a gland of Ø48 with a Ø30 neck, a recess behind it and a bore,
from a Ø50 bar on Plover.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from machining.data import seed
from machining.evaluate import evaluate
from machining.evaluation import Evaluation, OperationResult
from machining.findings.finding import Finding
from machining.geometry.contours import inside_of
from machining.geometry.solids import bar, revolved, to_mesh
from machining.memo import Memo
from machining.plan.document import LoadedTool, Plan, Setup
from machining.plan.holding import InChuck
from machining.plan.operation import Drill, Operation
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
from machining.world.part import Part
from machining.world.stock import Round
from machining.world.stock.base import Side

from . import build

OUTSIDE = [(15.0, 40.0), (15.0, 18.0), (12.0, 18.0), (12.0, 8.0), (24.0, 8.0), (24.0, 0.0)]
_SOLID = revolved(inside_of(OUTSIDE)) - bar(0.0, 0.0, 11.0, -1.0, 41.0)
GLAND = PartGeometry("gland", to_mesh(_SOLID), float(_SOLID.volume()), ())
LIBRARY = replace(seed(), geometries={"gland": GLAND})
MEMO = Memo()
STOCK = Round(diameter_mm=50.0, low=Side(over_mm=50.0), high=Side(over_mm=1.0))
CHUCK = InChuck(chuck="chuck-200", grip_mm=28.0, force_per_jaw_n=20000.0)


def tool(number: int, assembly: str, stick_out: float | None = None) -> LoadedTool:
    out = stick_out or LIBRARY.assemblies[assembly].stick_out_mm
    return LoadedTool(
        id=f"t{number}",
        machine="plover",
        number=number,
        assembly=assembly,
        stick_out_mm=out,
        pocket=number,
        h=number,
        d=number,
    )


TOOLS = (
    tool(1, "turn-rough-cn12"),
    tool(2, "turn-finish-dn11"),
    tool(3, "groove-3"),
    tool(4, "turn-thread-16"),
    tool(5, "part-off-3"),
    tool(6, "boring-bar-16"),
    tool(7, "turn-drill-12"),
    tool(8, "face-groove-3"),
)
CONTOUR = Profile(at_mm=((0.0, 30.0), (-32.0, 30.0), (-32.0, 48.0), (-44.0, 48.0)))
FACE = TurnFace(id="face", tool="t1")
ROUGH = TurnRough(id="rough", tool="t1", on=CONTOUR)
FINISH = TurnFinish(id="finish", tool="t2", on=CONTOUR)
RECESS = TurnGroove(id="recess", tool="t3", on=Groove(z_mm=-22.0, width_mm=10.0, diameter_mm=24.0))
THREAD = TurnThread(
    id="thread", tool="t4", on=Stretch(z_mm=0.0, length_mm=22.0), diameter_mm=30.0, pitch_mm=1.5
)
DRILL = Drill(
    id="drill", tool="t7", on=Points(at_mm=((0.0, 0.0),), diameter_mm=12.0, depth_mm=46.0)
)
OFF = PartOff(id="off", tool="t5", on=Plane(z_mm=-40.0))
GOOD = (FACE, ROUGH, FINISH, RECESS, THREAD, DRILL, OFF)


def setup(*operations: Operation, **fields: Any) -> Setup:
    return build.setup(*operations, **{"machine": "plover", "holding": CHUCK, **fields})


def plan(*operations: Operation, **fields: Any) -> Plan:
    """One setup on the lathe with these operations; other values by name."""
    return Plan(
        **{
            "material": "x5crnimo17-12-2",
            "quantity": 10,
            "part": Part(geometry="gland"),
            "stock": STOCK,
            "tools": TOOLS,
            "setups": (setup(*operations),),
            **fields,
        }
    )


def answer(of: Plan) -> Evaluation:
    return evaluate(of, LIBRARY, MEMO)


def finding(of: Plan, id: str) -> Finding:
    found = [f for f in answer(of).findings if f.id == id]
    assert found, f"no {id} in {[f.id for f in answer(of).findings]}"
    return found[0]


def ids(of: Plan) -> set[str]:
    return {f.id for f in answer(of).open}


def figures(of: Plan, operation: str = "rough") -> dict[str, float]:
    """Values of an operation's figures by their short names."""
    found = answer(of).figures
    return {
        name.removeprefix(f"{operation}."): figure.value
        for name, figure in found.items()
        if name.startswith(f"{operation}.")
    }


def result(of: Plan, operation: str) -> OperationResult:
    return next(op for each in answer(of).setups for op in each.operations if op.id == operation)
