"""What carries a turned part besides its chuck: a tailstock's centre, in as long as nothing is cut
at the end it stands in, and a steady.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from math import cos, pi, radians, sin

from shapely import Point

from machining.geometry.contours import runs_at
from machining.geometry.regions import Region
from machining.geometry.solids import ROUND_STEPS, section
from machining.holding.contacts import Contact
from machining.memo import Memo
from machining.plan.holding import Rested
from machining.plan.operation import Operation
from machining.plan.turned import TurnFinish, TurnGroove, TurnRough, TurnThread
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Said, Shown, length
from machining.world.machine import SpindleNose

from ..context import StationFacts
from ..held import TAIL
from ..stand import Body, Stand
from ..state import State
from .round_grip import is_round

BEHIND_MM = 60.0  # of a centre, behind the part's end as it is shown
LEAST_HOLE_MM, HOLE_SHARE = 1.0, 0.8  # in the end that a centre sits in, and of the body's width
ROLLER_MM, REACH_MM = 20.0, 40.0  # of a steady along the spindle, and out from what it carries
ROLLERS = (90.0, 210.0, 330.0)
EVEN_MM = 0.05
RIM, CONE_DEG = 12, 60.0  # places round a centre's hole, and the angle of its point
INTO, OUT = sin(radians(CONE_DEG / 2.0)), cos(radians(CONE_DEG / 2.0))  # of what its cone presses


def with_rests(station: StationFacts, held: Rested, stand: Stand) -> Stand:
    """A chuck's or collet's stand with its steady, and open for a centre that comes in later.
    Raises OutOfRange for what the machine has not.
    """
    if held.tailstock_n is None and held.steady_mm is None:
        return stand
    nose = station.place
    if not isinstance(nose, SpindleNose):
        name = "tailstock" if held.tailstock_n is not None else "steady"
        raise OutOfRange(name, held.tailstock_n or held.steady_mm, "empty: nothing turns here")
    if held.tailstock_n is not None:
        most = nose.tailstock_n
        if most is None:
            raise OutOfRange("tailstock", held.tailstock_n, f"empty: {nose.id} has no tailstock")
        if held.tailstock_n > most:
            raise OutOfRange("tailstock", held.tailstock_n, f"up to {most:g} N, the most it gives")
    if held.steady_mm is not None:
        steady = _steady(station, held.steady_mm, stand, nose)
        stand = replace(stand, bodies=(*stand.bodies, steady), key=(*stand.key, steady.region.wkb))
    if held.tailstock_n is None:
        return stand
    without = replace(stand, during={})
    during = {"": without, **{each.id: without for each in station.work}}
    return replace(stand, during=during)


def put_on(
    station: StationFacts, held: Rested, item: object, operation: str, state: State, memo: Memo
) -> Stand:
    """The centre is in wherever the part's end has a hole for it and nothing is cut there."""
    stand, nose = station.stand, station.place
    planned = next(each for each in station.work if each.id == operation)
    if held.tailstock_n is None or not isinstance(nose, SpindleNose) or at_its_end(planned):
        return stand
    half = state.half_section()
    if not has_centre(half, nose.centre_mm):
        return stand
    centre = _centre(nose, float(half.bounds[3]))
    without = stand.during[operation]
    now = replace(
        without,
        bodies=(*without.bodies, centre),
        key=(*without.key, centre.bottom),
        on=frozenset({TAIL}),
    )
    bodies = stand.bodies if centre in stand.bodies else (*stand.bodies, centre)
    during: Mapping[str, Stand] = {**stand.during, operation: now}
    return replace(stand, bodies=bodies, during=during)


def at_its_end(operation: Operation) -> bool:
    """Does it need the end free that a centre would stand in? Only turning along the outside does
    not.
    """
    if isinstance(operation, TurnRough | TurnFinish):
        return operation.on.side == "inside"
    if isinstance(operation, TurnGroove):
        return operation.on.kind != "groove"
    return not isinstance(operation, TurnThread)


def has_centre(half: Region, across: float) -> bool:
    """Is there a hole on the axis at the free end, no wider than the centre closes?"""
    row = runs_at(half, float(half.bounds[3]) - EVEN_MM)
    return bool(row) and LEAST_HOLE_MM <= 2.0 * row[0][0] <= HOLE_SHARE * across


def _centre(nose: SpindleNose, end: float) -> Body:
    region = Point(0.0, 0.0).buffer(nose.centre_mm / 2.0, quad_segs=ROUND_STEPS // 4)
    return Body("centre", TAIL, region, end, end + BEHIND_MM, of=TAIL)


def _steady(station: StationFacts, at: float, stand: Stand, nose: SpindleNose) -> Body:
    z = (stand.top or 0.0) + at
    half = station.arrives.half_section()
    if z + ROLLER_MM / 2.0 > float(half.bounds[3]):
        raise OutOfRange(
            "steady",
            at,
            f"up to {half.bounds[3] - (stand.top or 0.0) - ROLLER_MM / 2.0:.1f},"
            " half its rollers before the end of what stands out",
        )
    radii = [runs_at(half, z + by)[-1][1] for by in (-ROLLER_MM / 2.0, 0.0, ROLLER_MM / 2.0)]
    if not is_round(section(station.arrives.solid, z)):
        raise OutOfRange("steady", at, "where the part is round")
    if max(radii) - min(radii) > EVEN_MM:
        raise OutOfRange("steady", at, "where the part has one diameter under all of its rollers")
    low, high = nose.steady_from_mm, nose.steady_to_mm
    if low is None or high is None:
        raise OutOfRange("steady", at, f"empty: {nose.id} has no steady")
    if not low <= 2.0 * radii[1] <= high:
        raise OutOfRange(
            "diameter in the steady", round(2.0 * radii[1], 3), f"from {low:g} to {high:g}"
        )
    ring = Point(0.0, 0.0).buffer(radii[1] + REACH_MM, quad_segs=ROUND_STEPS // 4)
    hole = Point(0.0, 0.0).buffer(radii[1], quad_segs=ROUND_STEPS // 4)
    return Body("steady", "steady", ring.difference(hole), z - ROLLER_MM / 2.0, z + ROLLER_MM / 2.0)


def contacts(
    station: StationFacts, held: Rested, state: State
) -> tuple[list[Contact], dict[str, float]]:
    """Of the centre and the steady that stand there now: both turn with the part or roll on it, so
    that they carry sideways and hold nothing by friction. A centre's cone presses outwards round
    the rim of its hole, all of it together with as much along the axis as it is pressed in with:
    a push from the side of more than that times the cone's slope lifts the part off it.
    """
    found, groups = list[Contact](), dict[str, float]()
    for body in station.stand.of("centre"):
        rim = runs_at(state.half_section(), body.bottom - EVEN_MM)[0][0]
        for k in range(RIM):
            c, s = cos(2.0 * pi * k / RIM), sin(2.0 * pi * k / RIM)
            normal = (OUT * c, OUT * s, -INTO)
            found.append(Contact((rim * c, rim * s, body.bottom), normal, 0.0, TAIL, TAIL))
        groups[TAIL] = (held.tailstock_n or 0.0) / INTO
    for body in station.stand.of("steady"):
        z, radius = (body.bottom + body.top) / 2.0, _inner(body)
        for angle in ROLLERS:
            c, s = cos(radians(angle)), sin(radians(angle))
            found.append(Contact((radius * c, radius * s, z), (-c, -s, 0.0), 0.0, "steady"))
    return found, groups


def _inner(body: Body) -> float:
    ring = body.region.interiors[0]  # type: ignore[attr-defined]
    return float(max(abs(x) for x, _ in ring.coords))


def steps(held: Rested) -> tuple[Said, ...]:
    """What the setter does with them."""
    found = []
    if held.steady_mm is not None:
        found.append(
            Said(
                "Steady {at} out of what grips it, to the middle of its rollers: close them by"
                " indicator until they just turn, oil them.",
                {"at": length(held.steady_mm)},
            )
        )
    if held.tailstock_n is not None:
        found.append(
            Said(
                "Tailstock in with {force} for what is turned along the outside, once its centre"
                " is drilled; out for whatever is cut at that end. Centre greased, quill locked.",
                {"force": Shown(held.tailstock_n, "force")},
            )
        )
    return tuple(found)
