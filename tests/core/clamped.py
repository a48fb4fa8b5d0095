"""The test part clamped down: on the table, on a plate, on a pallet that a vise holds."""

from __future__ import annotations

from typing import Any

from machining.facts.context import Ready
from machining.facts.route import walk
from machining.plan.clamped import Clamp, Clamped, Dowel
from machining.plan.document import Plan
from machining.plan.in_vise import Holding
from machining.plan.operation import Operation

from . import build

PINS = (
    Dowel(id="d1", side="+y", at_mm=-25.0),
    Dowel(id="d2", side="+y", at_mm=25.0),
    Dowel(id="d3", side="-x", at_mm=18.0),
)
UNDER = Holding(vise="vise-125", fixed="+y", grip_depth_mm=12.0, torque_nm=40.0)


def strap(id: str, side: str, **fields: Any) -> Clamp:
    given = {"over_mm": 10.0, "torque_nm": 8.0, **fields}
    return Clamp(id=id, clamp="strap-m6", side=side, **given)


def edge(id: str, side: str, **fields: Any) -> Clamp:
    return Clamp(id=id, clamp="edge-m6", side=side, **{"torque_nm": 8.0, **fields})


TWO = (strap("c1", "-x"), strap("c2", "+x"))
ON_TABLE = Clamped(base="on-table", dowels=PINS, clamps=TWO)
ON_PALLET = ON_TABLE.model_copy(update={"base": "pallet-160", "vise": UNDER})


def held_by(held: Clamped, *operations: Operation, **fields: Any) -> Plan:
    return build.plan(setups=(build.setup(*operations, holding=held),), **fields)


def operation(of: Plan, place: int = 0) -> Ready:
    found = walk(of, build.LIBRARY, build.MEMO).operations()[place]
    assert isinstance(found, Ready)
    return found
