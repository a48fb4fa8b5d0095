"""hold.jaw-angle: what is milled on a part in a chuck comes past jaws of which nobody has said
where they stand.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import hypot

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.plan.edit import Change
from machining.plan.proposal import Proposal

from ..finding import Finding, of_operation

ON_THE_AXIS_MM = 0.01


def jaw_angle(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    held = op.station.planned.in_chuck
    if held is None or held.jaw_angle_deg is not None or _goes_round(op):
        return
    said = Change(on=op.station.on, fields={"holding.jaw_angle_deg": 0.0})
    yield of_operation(
        op,
        "hold.jaw-angle",
        "look",
        "It is cut at places round the part, and nobody has said at which angle jaw 1 stands then:"
        " it is taken at 0°, along X.",
        {},
        "",
        (Proposal("Set jaw 1 to 0°", (said,)),),
    )


def _goes_round(op: Ready) -> bool:
    """Is it the same all round: turned, or a hole on the axis?"""
    if kind_of(op.operation).turned:
        return True
    holes = op.work.holes
    return bool(holes) and all(hypot(x, y) < ON_THE_AXIS_MM for x, y, *_ in holes)
