"""reach.gouges: a cut that goes into the finished part."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, floor, radians

from shapely import box, unary_union

from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds.base import half_angle
from machining.facts.under_lip import lip_over
from machining.geometry.contours import FAR_MM, areas_of, bridged, contour_of, inside_of, outside_of
from machining.geometry.regions import Region
from machining.plan.edit import Change
from machining.plan.operation import Chamfer, Drill, FinishWalls, RoughOutside, RoughPocket
from machining.plan.places import DrawnArea, Outside, Rectangle, TypedHoles
from machining.plan.proposal import Proposal
from machining.plan.turned import PartOff, Plane, Profile, TurnGroove
from machining.quantities.said import Shown, length
from machining.world.tool import DRILLS

from ..finding import Finding, keep, of_operation
from ..tools import other_tools

MILLED = (
    "It cuts {deep} into the finished part and takes {volume} of it, with its tip at X {x}, Y {y},"
    " Z {z}."
)
TURNED = "It cuts {deep} into the finished part and takes {volume} of it, around Ø {d} at Z {z}."
NOT_DRAWN = (
    "It cuts {deep} deep where the part’s solid has no groove, around Ø {d} at Z {z}: is it on the"
    " drawing?"
)
NOT_IN_SOLID = (
    "It takes {volume} where the part’s solid has it whole, at X {x}, Y {y}, Z {z}: is it on the"
    " drawing?"
)
ALL_OF_IT = 0.8  # of what a groove takes below the part's outside


def gouges(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    gouge = op.compared.gouge if op.compared is not None else None
    if gouge is None:
        return
    x, y, z = gouge.at
    values = {
        "deep": Shown(gouge.deep, "size"),
        "volume": Shown(gouge.volume, "volume"),
        "z": length(z),
    }
    if op.turns:
        extra = isinstance(op.operation, TurnGroove) and gouge.share > ALL_OF_IT
        yield of_operation(
            op,
            "reach.gouges",
            "look" if extra else "stop",
            NOT_DRAWN if extra else TURNED,
            {**values, "d": length(2.0 * x)},
            "",
            tuple(_turned_fixes(op, facts)),
        )
        return
    if gouge.share:
        at = {"x": length(x), "y": length(y)}
        stay = keep(op, "reach.gouges", "it is on the drawing, the solid is without it")
        yield of_operation(op, "reach.gouges", "look", NOT_IN_SOLID, {**values, **at}, "", (stay,))
        return
    if lip_over(op, gouge, facts) is not None:
        return  # told as a lip
    yield of_operation(
        op,
        "reach.gouges",
        "stop",
        MILLED,
        {**values, "x": length(x), "y": length(y)},
        "",
        tuple(_fixes(op, facts, gouge.deep)),
    )


def _turned_fixes(op: Ready, facts: PlanFacts) -> Iterator[Proposal]:
    """The part's own contour, face or end; a drill no wider than its bore."""
    on, body = op.operation.on, op.compared.section if op.compared else None
    if body is None:
        return
    if isinstance(on, Profile):
        corners = along_the_part(on, body)
        if corners:
            change = Change(
                on=op.on, fields={"on": Profile.through(corners, on.side).model_dump(mode="json")}
            )
            yield Proposal("Along the part’s own contour", (change,), {})
    elif isinstance(on, Plane):
        _, low, _, high = (float(v) for v in body.bounds)
        at = low if isinstance(op.operation, PartOff) else high
        change = Change(on=op.on, fields={"on.z_mm": round(at, 3) + 0.0})
        yield Proposal("At Z {z}", (change,), {"z": length(round(at, 3))})
    elif isinstance(on, TypedHoles):
        bore = min((r for r, _ in contour_of(body, outside=False)), default=0.0)
        narrow = 2.0 * bore
        yield from other_tools(op, facts, lambda t: t.diameter_mm <= narrow + 1e-6, None, DRILLS)


def along_the_part(on: Profile, body: Region) -> list[tuple[float, float]]:
    """A contour (radius, z) that leaves the part as well as what it left before, past grooves."""
    corners = [(d / 2.0, z) for z, d in on.at_mm]
    outside = on.side == "outside"
    band = box(0.0, corners[-1][1], FAR_MM, corners[0][1])
    kept = (inside_of if outside else outside_of)(corners)
    found = contour_of(areas_of(unary_union([kept, body]).intersection(band)), outside)
    return bridged(found) if outside else found


def _fixes(op: Ready, facts: PlanFacts, deep: float) -> Iterator[Proposal]:
    kind, on = op.operation, op.operation.on
    if isinstance(on, Outside | Rectangle | DrawnArea | TypedHoles):
        less = floor(100.0 * (on.depth_mm - deep)) / 100.0
        if less > 0:
            change = Change(on=op.on, fields={"on.depth_mm": less})
            yield Proposal("Only {depth} deep", (change,), {"depth": Shown(less, "length")})
    said = getattr(kind, "depth_mm", None)
    if said is not None:
        less = floor(100.0 * (said - deep)) / 100.0
        if less > 0:
            change = Change(on=op.on, fields={"depth_mm": less})
            yield Proposal("Only {depth} deep", (change,), {"depth": Shown(less, "length")})
    if isinstance(kind, Chamfer):
        size = round(kind.size_mm - deep / cos(radians(half_angle(op).value)), 2)
        if size > 0:
            change = Change(on=op.on, fields={"size_mm": size})
            yield Proposal("Break it {size}", (change,), {"size": Shown(size, "length")})
    if isinstance(kind, Drill):
        drawn = op.work.hole_diameter and _drawn(op, facts)
        if drawn:
            yield from other_tools(op, facts, lambda t: t.diameter_mm <= drawn + 1e-6, None, DRILLS)
    if isinstance(kind, RoughOutside | RoughPocket | FinishWalls):
        smaller = op.tool.diameter_mm
        yield from other_tools(op, facts, lambda t: t.diameter_mm < smaller, None)


def _drawn(op: Ready, facts: PlanFacts) -> float | None:
    """The diameter (mm) its holes are drawn with."""
    found = [facts.geometry.feature(id) for id in getattr(op.operation.on, "ids", ())]
    drawn = [each.diameter_mm for each in found if each is not None and each.kind == "hole"]
    return min(drawn, default=None)
