"""Ways to a chamfer at an angle no stock tool has, on the shop's machines."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from machining.cutting.slope_methods import Slope, Way
from machining.quantities.checks import within
from machining.ways.slope_ways import in_shop_steps, slope_ways

from .asked import material_and_rigs, said
from .holes import SaidOut

router = Router(tags=["bench"])


class SlopeIn(Schema):
    size_mm: float
    angle_deg: float
    length_mm: float
    cusp_mm: float = 0.01
    quantity: int = 1
    material: str
    special_cost: float = 180.0
    special_days: int = 15
    machines: list[str] = []


class ReasonOut(Schema):
    text: str
    values: dict[str, SaidOut]


class SlopeWayOut(Schema):
    name: str
    tool: str
    works: bool
    seconds: float | None
    passes: int
    cusp_mm: float
    tilt_deg: float
    shift_mm: float
    rpm: float
    feed_mm_min: float
    cuts_at_mm: float
    cost: float
    days: int
    per_part: float | None
    because: ReasonOut
    suits: ReasonOut


class SlopeRankingOut(Schema):
    machine: str
    name: str
    hourly_cost: float
    ways: list[SlopeWayOut]
    pays_from: int | None


@router.post("/slope-methods", response=list[SlopeRankingOut])
def slope_methods(request: HttpRequest, payload: SlopeIn) -> list[dict[str, Any]]:
    """Every way on every machine asked for (default: all), the cheapest for a part first; what
    can't be done says why.
    """
    library, material, rigs = material_and_rigs(payload.material, payload.machines)
    slope = Slope(
        within("size_mm", payload.size_mm, 0.05, 200),
        within("angle_deg", payload.angle_deg, 1, 89),
        within("length_mm", payload.length_mm, 0.1, 100_000),
        within("cusp_mm", payload.cusp_mm, 0.0001, 5),
        int(within("quantity", payload.quantity, 1, 1_000_000)),
    )
    cost, days = (
        within("special_cost", payload.special_cost, 0, 1_000_000),
        int(within("special_days", payload.special_days, 0, 365)),
    )
    rows = []
    for rig in rigs:
        ranking = in_shop_steps(
            slope_ways(slope, material, rig, library, cost, days), rig, library.settings
        )
        rows.append(
            {
                "machine": rig.machine.key,
                "name": rig.machine.name,
                "hourly_cost": rig.machine.hourly_cost,
                "ways": [_way(each) for each in ranking.ways],
                "pays_from": ranking.pays_from,
            }
        )
    return rows


def _way(way: Way) -> dict[str, Any]:
    return {
        "name": way.name,
        "tool": way.tool,
        "works": way.works,
        "seconds": way.seconds if way.works else None,
        "passes": way.passes,
        "cusp_mm": way.cusp,
        "tilt_deg": way.tilt,
        "shift_mm": way.shift,
        "rpm": way.rpm,
        "feed_mm_min": way.feed,
        "cuts_at_mm": way.diameter,
        "cost": way.cost,
        "days": way.days,
        "per_part": way.per_part if way.works else None,
        "because": {"text": way.because.text, "values": said(way.because)},
        "suits": {"text": way.suits.text, "values": said(way.suits)},
    }
