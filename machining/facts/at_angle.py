"""A part that is held at an angle: where jaws touch it, what it lies on, how closely it stands."""

from __future__ import annotations

from math import radians, tan

import numpy as np
from shapely import Polygon, unary_union

from machining.geometry.mesh import Mesh
from machining.geometry.regions import Region
from machining.geometry.solids import Solid, below, bounds, to_mesh
from machining.holding import angled
from machining.plan.document import Orientation
from machining.plan.in_vise import Holding
from machining.quantities.computed import Given
from machining.quantities.said import Said, Shown, length

from .context import PlanFacts, StationFacts
from .stand import Wedge

TOUCHES_MM = 0.01  # of a jaw's face: what lies so far from it is touched
END_WORDS = {"+x": "right end", "-x": "left end", "+y": "back", "-y": "front"}


def is_raised(station: StationFacts) -> bool:
    """Is it held at an angle by what stands upright?"""
    orientation = station.planned.orientation
    return orientation.raised_deg > 0.0 and not orientation.leans


def words(orientation: Orientation) -> str:
    """What is raised, by how much."""
    angle = f"{orientation.raised_deg:.3f}".rstrip("0").rstrip(".")
    return f"its {END_WORDS[orientation.raised]} raised {angle}°"


def across_jaws(orientation: Orientation, holding: Holding) -> bool:
    """Does it turn about the axis across the jaws, so that their faces stay flat against it?"""
    return orientation.raised[1] != holding.fixed[1]


def touched(holding: Holding, stock: Solid) -> list[Region]:
    """What the faces of both jaws can touch of a stock as it lies: regions of (along the jaws,
    height), mm; empty where they meet an edge alone.
    """
    across = "xy".index(holding.fixed[1])
    low = float(bounds(stock)[0][2])
    mesh = to_mesh(below(stock, low + holding.grip_depth_mm))
    if not len(mesh.vertices):
        return [Polygon(), Polygon()]
    at = mesh.vertices[:, across]
    return [_on(mesh, np.abs(at - end) < TOUCHES_MM, 1 - across) for end in (at.min(), at.max())]


def _on(mesh: Mesh, there: np.ndarray, along: int) -> Region:
    flat = mesh.triangles[there[mesh.triangles].all(axis=1)]
    pieces = [Polygon(mesh.vertices[each][:, [along, 2]]) for each in flat]
    return unary_union([piece for piece in pieces if piece.area > 0.0])


def least_long(regions: list[Region]) -> float:
    """How long (mm) the shorter of what both jaws touch is along them; 0 where one touches an
    edge.
    """
    return min((r.bounds[2] - r.bounds[0] if r.area > 0.0 else 0.0 for r in regions), default=0.0)


def wedge(
    orientation: Orientation, holding: Holding, stock: Solid, bed: float, gap: tuple[float, float]
) -> Wedge | None:
    """From the bed up to the stock's lower side; ``gap`` is from jaw to jaw, mm. None where soft
    jaws carry it, or flat ones meet edges alone.
    """
    if not across_jaws(orientation, holding) or orientation.raised_by == "jaws":
        return None
    k, upwards = "xy".index(orientation.raised[1]), orientation.raised[0] == "+"
    low, high = bounds(stock)
    foot, seat = _foot(stock, k), float(low[2])
    end = float(high[k] if upwards else low[k])
    raised = seat + abs(end - foot) * tan(radians(orientation.raised_deg))
    ends = ((foot, seat), (end, raised)) if upwards else ((end, raised), (foot, seat))
    (start, left), (last, right) = ends
    corners = ((start, bed), (last, bed), (last, right), (start, left))
    return Wedge("y" if k == 0 else "x", corners, *gap)


def _foot(stock: Solid, k: int) -> float:
    """Where along an axis its lowest edge is."""
    vertices = to_mesh(stock).vertices
    lowest = vertices[vertices[:, 2] < vertices[:, 2].min() + TOUCHES_MM]
    return float(lowest[:, k].mean())


def figures(station: StationFacts, facts: PlanFacts) -> None:
    """Figures gauge_stack and angle_off of a station that is held at an angle."""
    orientation = station.planned.orientation
    if not orientation.raised_deg:
        return
    if orientation.raised_by in ("sine", "vise"):
        of = "sine_bar_mm" if orientation.raised_by == "sine" else "sine_plate_mm"
        station.work_out(
            angled.gauge_stack,
            "gauge_stack",
            bar=facts.shop(of),
            angle=Given(orientation.raised_deg),
        )
    station.work_out(
        angled.off_over_100,
        "angle_off",
        angle_within=facts.shop(f"{orientation.raised_by}_deg"),
    )


def vise_words(orientation: Orientation, sine_plate_mm: float) -> Said | None:
    """How what holds it is set at its angle; None where that stands square."""
    if not orientation.leans:
        return None
    said = {
        "angle": Shown(orientation.raised_deg, "angle"),
        "stack": Shown(round(angled.gauge_stack(sine_plate_mm, orientation.raised_deg), 4), "size"),
        "plate": length(sine_plate_mm),
    }
    return Said(
        "Set the sine plate of {plate} on gauge blocks of {stack}, its"
        f" {END_WORDS[orientation.raised]} raised: the vise on it stands at {{angle}}. Clamp both.",
        said,
    )


def seat_words(orientation: Orientation, sine_bar_mm: float) -> tuple[Said, Said] | None:
    """What it sits on, and what is done for that before; None where it lies square in its
    holding.
    """
    if not orientation.raised_deg or orientation.leans:
        return None
    said = {"angle": Shown(orientation.raised_deg, "angle")}
    if orientation.raised_by == "jaws":
        on = "on the step of soft jaws cut at {angle}"
        before = "Wipe the soft jaws; their step is cut at {angle}."
    elif orientation.raised_by == "block":
        on = "on an angle block of {angle}"
        before = "Wipe jaws and bed. Lay an angle block of {angle} between the jaws."
    else:
        on = "on a sine bar over gauge blocks of {stack}"
        before = (
            "Wipe jaws and bed. Set a sine bar of {bar} between the jaws, one roll on gauge blocks"
            " of {stack}: it stands at {angle}."
        )
        stack = angled.gauge_stack(sine_bar_mm, orientation.raised_deg)
        said = {**said, "bar": length(sine_bar_mm), "stack": Shown(round(stack, 4), "size")}
    return Said(on, said), Said(before, said)
