"""What turning asks besides its forces: how far its tool stands out, what room the slides have, how
long it takes.
"""

from __future__ import annotations

import numpy as np
from shapely import Point, Polygon, box

from machining.cutting.data import constant
from machining.geometry.contours import FAR_MM, areas_of, thickest, turned_volume
from machining.geometry.frames import Vector
from machining.geometry.regions import Region
from machining.geometry.solids import always_there, half_section
from machining.motion import cycle
from machining.motion.spin import Spin
from machining.motion.timing import Drive
from machining.motion.turned import turned_time
from machining.placing import envelope, rotary
from machining.plan.turned import PartOff
from machining.quantities.computed import Given
from machining.world.machine import SpindleNose
from machining.world.tool import Holder, Tool

from . import stands_out
from .below import FROM_INSIDE
from .context import OperationFacts, PlanFacts, Ready, StationFacts
from .found_turned import turning_of
from .kinds import kind_of
from .place import Work
from .size import STANDING_MM
from .state import State

MOUTH_SHARE = 0.45  # of a hole's diameter, looked at over its mouth


def on_axis(op: OperationFacts) -> bool:
    """Does it work a hole on the spindle's own axis?"""
    return (
        kind_of(op.operation).on_lathe
        and op.work is not None
        and all(abs(x) < 1e-3 and abs(y) < 1e-3 for x, y, _, _ in op.work.holes)
    )


def section_after(op: OperationFacts, after: State) -> Region:
    """What is left of the turning stock's section: worked out in the plane, which is quicker than
    cutting the solid anew.
    """
    work, before = op.work, op.before.half_section()
    if isinstance(op.operation, PartOff) and op.operation.on.to_diameter_mm == 0:
        return areas_of(before.intersection(box(0.0, op.operation.on.z_mm, FAR_MM, FAR_MM)))
    if work is None or op.after is op.before:
        return before
    if kind_of(op.operation).turned:
        return before if work.turned.is_empty else areas_of(before.difference(work.turned))
    return areas_of(before.difference(_bored(work))) if on_axis(op) else half_section(after.solid)


def _bored(work: Work) -> Region:
    """The half section of a hole on the axis, with the cone of the drill's point."""
    radius = work.hole_diameter / 2.0
    _, _, mouth, bottom = work.holes[0]
    tip = min(work.point_height, mouth - bottom)
    return Polygon([(0.0, bottom), (radius, bottom + tip), (radius, mouth), (0.0, mouth)])


def removed(op: Ready) -> float:
    """Volume taken, mm³: of what turns from its section, which needs no solid to be worked out."""
    if op.turns:
        return turned_volume(op.before.half_section()) - turned_volume(op.after.half_section())
    return op.before.volume() - op.after.volume()


def broken(op: Ready) -> float:
    """How thick (mm) the stock is that a turned cut meets only for a part of each turn."""
    if not op.turns:
        return 0.0
    gaps = op.before.half_section().difference(always_there(op.before.solid))
    return thickest(op.work.turned.intersection(gaps))


def standing_over(op: Ready) -> float | None:
    """How much material (mm) still stands over the mouth of a hole on the axis; None where there is
    none.
    """
    if not op.turns or not op.work.holes:
        return None
    over = areas_of(
        op.before.half_section().intersection(
            box(0.0, op.work.holes[0][2], MOUTH_SHARE * op.work.hole_diameter, FAR_MM)
        )
    )
    stands = 0.0 if over.is_empty else float(over.bounds[3]) - op.work.holes[0][2]
    return stands if stands > STANDING_MM else None


def reach(op: Ready, facts: PlanFacts) -> None:
    """Figures stick_out_needed, stick_out_spare, stick_out_longest; slenderness of a boring bar."""
    if not op.turns or not op.path.legs:
        return
    turned = kind_of(op.operation).turned
    margin = facts.shop("side_margin_mm" if turned else "below_margin_mm")
    stands_out.against(op, *_in_the_way(op, facts), margin)
    stands_out.at_most(op)
    if op.tool.kind == "boring_bar" or not turned:
        stands_out.slender(op, "shank_diameter_mm" if turned else "diameter_mm")


def _in_the_way(op: Ready, facts: PlanFacts) -> tuple[Given, float]:
    """How high over its tip something stands that the holder could touch, and how far above its
    face the section of the holder begins that could (mm).
    """
    standing, spots = op.after.half_section(), _spots(op)
    if not kind_of(op.operation).turned:
        margin = facts.library.settings.side_margin_mm
        above, section_above = _beside_axis(op, standing, op.holder, margin)
        return Given(above, "stock, jaws and path"), section_above
    if op.tool.kind in ("boring_bar", "face_groove"):
        heights = [z for _, z in spots]
        obstacle = max(float(op.lie.stock_high[2]), *heights) - min(heights)
        return Given(obstacle, "stock and path"), 0.0
    half, aside = op.holder.sections[0].front_diameter_mm / 2.0, _aside(op.tool)
    beside = (_beside(op.station, standing, z + aside, half) - r for r, z in spots)
    return Given(max(beside, default=0.0), "stock, jaws and path"), 0.0


def _spots(op: Ready) -> list[tuple[float, float]]:
    """Radius and height of the tip wherever it cuts."""
    legs = [leg for leg in op.path.legs if leg.kind != "rapid"]
    return [(float(r), float(z)) for leg in legs for r, _, z in leg.points]


def _beside_axis(op: Ready, standing: Region, holder: Holder, margin: float) -> tuple[float, float]:
    """How far over the tip of a tool on the axis stock and jaws reach beside the holder's section
    that asks most, and how high that stands.
    """
    tip, found = float(op.path.bounds()[0][2]), (0.0, 0.0)
    for radius, above in holder.wider_steps:
        band = areas_of(standing.intersection(box(0.0, -FAR_MM, radius + margin, FAR_MM)))
        tops = [] if band.is_empty else [float(band.bounds[3])]
        tops += [
            jaw.top
            for jaw in op.stand.beside
            if jaw.region.distance(Point(0.0, 0.0)) < radius + margin
        ]
        if tops and max(tops) - tip - above > found[0] - found[1]:
            found = (max(tops) - tip, above)
    return found


def _aside(tool: Tool) -> float:
    """How far (mm) the middle of a tool's shank stands from its tip along the spindle, away from
    the chuck for a right-hand tool.
    """
    blade = tool.kind in ("turning_groove", "part_off")
    away = (
        0.5 * (tool.shank_diameter_mm - (tool.insert_width_mm or 0.0))
        if blade
        else constant("turning", "tip_aside") * tool.shank_diameter_mm
    )
    return {"right": away, "left": -away, "neutral": 0.0}[tool.hand]


def _beside(station: StationFacts, standing: Region, z: float, half: float) -> float:
    """How far out (radius, mm) stock and jaws reach beside a turret's block whose middle is at a
    height.
    """
    band = standing.intersection(box(0.0, z - half, FAR_MM, z + half))
    stock = 0.0 if band.is_empty else float(band.bounds[2])
    jaws = [farthest(jaw.region) for jaw in station.stand.beside if jaw.top > z - half]
    return max([stock, *jaws])


def jaw_in_cut(op: Ready, margin: float) -> float | None:
    """How far (mm) the edge comes below the jaws' margin where they can be: from outside wherever
    it goes, from inside as far out as they are, and the other way round in a bore; None where it
    keeps clear.
    """
    if not op.stand.beside:
        return None
    half = (op.tool.insert_width_mm or 0.0) / 2.0
    gripped, out = op.stand.grips_at / 2.0, 1.0
    if op.stand.inside:
        gripped, out = max(farthest(each.region) for each in op.stand.beside), -1.0
    from_inside = op.tool.kind in FROM_INSIDE or on_axis(op)
    beside = from_inside == op.stand.inside
    lows = [
        float(z) - half
        for leg in op.path.legs
        if leg.kind != "rapid"
        for r, _, z in leg.points
        if beside or out * (float(r) - gripped) > -margin
    ]
    deep = (op.stand.top or 0.0) + margin - min(lows, default=1e9)
    return deep if deep > 1e-6 else None


def farthest(region: Region) -> float:
    """The largest distance (mm) of a region from the spindle's axis."""
    return max(float((x * x + y * y) ** 0.5) for x, y in region.exterior.coords)  # type: ignore[attr-defined]


def spindle_s(op: OperationFacts) -> Vector:
    """The rotation from the frame it is cut in to the spindle's with its side turned to the tool:
    X out, Z along.
    """
    return np.eye(3) if op.aimed is None else rotary.ACROSS.T


def travel(op: Ready, place: SpindleNose) -> None:
    """Figures travel_x, travel_z and travel_swing before a spindle, travel_y with a driven tool:
    what is to spare, mm.
    """
    station = op.station
    if not op.path.legs:
        return
    low, high = (spindle_s(op) @ each for each in op.path.bounds())
    low, high = np.minimum(low, high), np.maximum(low, high)
    kind, out = op.tool.kind, op.loaded.stick_out_mm + op.holder.length_mm
    along = kind in ("boring_bar", "face_groove") or on_axis(op) or not op.turns
    of_tool = Given(out, f"tool:T{op.loaded.number}")
    beside = Given(0.0, "a tool across the spindle")
    lies = op.aimed is not None
    front = min(
        (jaw.bottom for jaw in station.stand.beside), default=float(station.lie.stock_low[2])
    )
    across = Given(float(high[0]) - min(float(low[0]), 0.0), "path")
    op.work_out(
        envelope.spare_along,
        "travel_x",
        travel=op.of_machine(op.rig.carrier.travel.x),
        way=across,
        tool_length=of_tool if lies else Given(0.0, "a slide across the spindle"),
    )
    if not op.turns:
        op.work_out(
            envelope.spare_sideways,
            "travel_y",
            travel=op.of_machine(op.rig.carrier.travel.y),
            farthest=Given(float(np.abs([low[1], high[1]]).max()), "path"),
        )
    op.work_out(
        envelope.spare_along,
        "travel_z",
        travel=op.of_machine(op.rig.carrier.travel.z),
        way=Given(max(float(high[2]) - front, 0.0), "path and chuck"),
        tool_length=of_tool if along and not lies else beside,
    )
    reaches = (farthest(jaw.region) for jaw in station.stand.beside)
    widest = max([float(station.lie.stock_high[0]), *reaches])
    op.work_out(
        envelope.spare_swing,
        "travel_swing",
        swing=op.of_machine(place.swing_mm),
        widest=Given(2.0 * widest, "stock and jaws"),
    )


def timed(op: Ready) -> None:
    """Fill the operation's time and figure speed_waits; needs its path, rpm and feed."""
    at = turning_of(op)
    drive, spin = Drive.of(op.rig), Spin.of(op.rig.whole_spindle)
    op.time = turned_time(op.path, at.cutting_speed, at.per_turn, at.most_rpm, drive, spin)
    if op.time.waits:
        op.work_out(
            cycle.times_each,
            "speed_waits",
            count=Given(float(op.time.waits), "path"),
            each=Given(op.time.waited_s / op.time.waits, "its spindle, less the rapids before"),
        )
