"""Ways to make a hole, ranked on the shop's machines."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from machining.cutting.hole_methods import Method
from machining.cutting.hole_steps import Hole
from machining.quantities.checks import within
from machining.ways.hole_ways import hole_ways, in_shop_steps

from .asked import material_and_rigs, said

router = Router(tags=["bench"])


class HoleIn(Schema):
    diameter_mm: float
    depth_mm: float
    count: int = 1
    through: bool = True
    material: str
    machines: list[str] = []
    loaded: list[str] = []


class SaidOut(Schema):
    value: float
    quantity: str


class StepOut(Schema):
    tool: str
    does: str
    rpm: float
    feed_mm_min: float
    torque_nm: float
    torque_limit_nm: float
    power_kw: float
    power_limit_kw: float
    limit: str
    seconds: float
    pitch_mm: float | None


class MethodOut(Schema):
    name: str
    seconds: float | None
    pockets: int
    because: str
    values: dict[str, SaidOut]
    suits: str
    steps: list[StepOut]


class CrossingOut(Schema):
    other: str
    factor: float
    torque_nm: float


class RankingOut(Schema):
    machine: str
    name: str
    methods: list[MethodOut]
    crossing: CrossingOut | None


@router.post("/hole-methods", response=list[RankingOut])
def hole_methods(request: HttpRequest, payload: HoleIn) -> list[dict[str, Any]]:
    """Every method on every machine asked for (default: all), the quickest first; what can't be
    done says why.
    """
    library, material, rigs = material_and_rigs(payload.material, payload.machines)
    hole = Hole(
        within("diameter_mm", payload.diameter_mm, 0.1, 500),
        within("depth_mm", payload.depth_mm, 0.1, 2000),
        int(within("count", payload.count, 1, 10_000)),
        payload.through,
    )
    rows = []
    for rig in rigs:
        ranking = in_shop_steps(
            hole_ways(hole, material, rig, library, payload.loaded), library.settings
        )
        crossing = ranking.crossing
        rows.append(
            {
                "machine": rig.machine.key,
                "name": rig.machine.name,
                "methods": [_method(each) for each in ranking.methods],
                "crossing": (
                    {
                        "other": crossing.other,
                        "factor": crossing.factor,
                        "torque_nm": crossing.torque,
                    }
                    if crossing
                    else None
                ),
            }
        )
    return rows


def _method(method: Method) -> dict[str, Any]:
    steps = [
        {
            "tool": s.bit.name,
            "does": s.does,
            "rpm": s.rpm,
            "feed_mm_min": s.feed,
            "torque_nm": s.torque,
            "torque_limit_nm": s.torque_limit,
            "power_kw": s.power,
            "power_limit_kw": s.power_limit,
            "limit": s.limit,
            "seconds": s.seconds,
            "pitch_mm": s.pitch,
        }
        for s in method.steps
    ]
    return {
        "name": method.name,
        "seconds": method.seconds if method.steps else None,
        "pockets": method.pockets,
        "because": method.because.text,
        "values": said(method.because),
        "suits": method.suits,
        "steps": steps,
    }
