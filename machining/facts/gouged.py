"""What an operation cuts away of the finished part."""

from __future__ import annotations

from math import radians, sin, tan

import numpy as np
from shapely import box

from machining.geometry.columns import Columns, columns_of, common
from machining.geometry.contours import FAR_MM, areas_of, thickest, turned_volume
from machining.geometry.frames import Pose, Vector
from machining.geometry.mesh import Mesh
from machining.geometry.regions import Region
from machining.geometry.shells import shells
from machining.geometry.solids import block, half_section, posed, to_mesh, volume
from machining.memo import Memo
from machining.motion.path import Path
from machining.placing.zero import Lie
from machining.plan.operation import Chamfer
from machining.removal.gouge import LEAST_MM3, Compared, Gouge, into_part
from machining.removal.near import near
from machining.removal.shape import Shape
from machining.world.feature import Edge

from .context import OperationFacts, PlanFacts, Ready
from .found import can_be, cell_for, grid_under, shape_for, ways
from .kinds import kind_of
from .state import State
from .taken import metal_taken

BESIDE_MM, BELOW_MM = 0.06, 0.04  # what chords of meshes and paths may be off the part
THIN_MM = 0.06  # thinner, a piece is what chords of meshes are off
# of a piece along an edge: as thick as what a chamfer of 1 mm takes off a square edge
BROKEN_MM = 1.0 / (2.0 + 2.0**0.5)
UNASKED = frozenset({"engrave", "spot"})  # on purpose, and drawn nowhere
# seldom drawn in a solid: they are asked about
UNDRAWN = frozenset({"counterbore", "spot_face", "mill_thread"})
NO_EDGE = frozenset({"counterbore", "spot_face", "undercut"})
IN_STEPS = frozenset({"engrave"})  # its mark is larger than its stock shows
BISECTIONS = 6
WIDER_MM = 0.1  # an edge may be broken so much wider than it is drawn
AT_EDGE_MM = 0.1  # so near to a drawn edge a cut is on it


def compare(op: Ready, facts: PlanFacts, memo: Memo) -> None:
    """Fill what its cut takes of the part, where that is worked out: for upright tools that turn,
    and for what is turned.
    """
    if op.turns:
        if op.after is not op.before:
            section = part_section(facts, op.lie, memo)
            taken = ("gouged turned", op.before.key, op.after.key, op.lie.key, facts.geometry.key)
            op.compared = Compared(memo.get(taken, lambda: _turned(op, section)), section)
    elif kind_of(op.operation).edge:
        states = (op.before.key, op.after.key, op.lie.key, facts.geometry.key)
        broken = ("gouged edge", op.path_key, op.tool, *states)
        op.compared = Compared(memo.get(broken, lambda: _edge(op, facts)))
    elif can_be(op) and op.operation.kind not in UNDRAWN:
        met = ("gouged", op.path_key, op.before.key, op.lie.key, op.tool, facts.geometry.key)
        op.compared = Compared(memo.get(met, lambda: _milled(op, facts, op.before)))
    elif op.after is not op.before:
        gone = ("gouged aside", op.before.key, op.after.key, op.lie.key, facts.geometry.key)
        op.compared = Compared(memo.get(gone, lambda: _aside(op, facts)))


def gouge_mm(op: OperationFacts) -> float | None:
    """How deep it cuts into the part, 0 where it does not; None where that was not looked at."""
    if op.compared is None:
        return None
    return op.compared.gouge.deep if op.compared.gouge is not None else 0.0


def part_section(facts: PlanFacts, lie: Lie, memo: Memo) -> Region:
    """What the finished part sweeps when it turns as it lies, as a region of (radius, z)."""
    part = facts.geometry
    return memo.get(
        ("part-section", part.key, lie.key), lambda: half_section(posed(part.solid, lie.pose))
    )


# -- turned


def _turned(op: Ready, part: Region) -> Gouge | None:
    """What is gone of the section, and is the part's: of a drill's point nothing is said."""
    gone = op.before.half_section().difference(op.after.half_section())
    if not kind_of(op.operation).turned:
        bottom = op.work.holes[0][3] + op.work.point_height
        gone = gone.intersection(box(0.0, bottom + BELOW_MM, FAR_MM, FAR_MM))
    of_part = areas_of(gone.intersection(part))
    deep = of_part.buffer(-BESIDE_MM / 2.0)
    if deep.is_empty:
        return None
    r, z = deep.representative_point().coords[0]
    volume = turned_volume(of_part)
    share = volume / max(turned_volume(areas_of(gone)), volume)
    return Gouge(thickest(of_part), (float(r), 0.0, float(z)), volume, share)


# -- edges, mouths and grooves


def _edge(op: Ready, facts: PlanFacts) -> Gouge | None:
    """What it takes of the part as an edge that is drawn nowhere, or its path beside that."""
    taken = None
    if op.after is not op.before and op.operation.kind not in UNASKED:
        drawn = _drawn_edge(op, facts)
        taken = _wider(op, drawn) or _aside(op, facts, drawn)
    if taken is None and can_be(op) and op.operation.kind not in IN_STEPS:
        return _milled(op, facts, op.after)
    return taken


def _aside(op: Ready, facts: PlanFacts, drawn: Edge | None = None) -> Gouge | None:
    """What is gone of the part in one piece: of an edge, more than is broken without being drawn,
    or than the one that is ``drawn`` may be wider.
    """
    least = THIN_MM
    if op.operation.kind not in NO_EDGE:
        least = WIDER_MM if drawn else BROKEN_MM
    part = posed(facts.geometry.solid, op.lie.pose)
    found = shells(to_mesh(metal_taken(op) ^ part))
    thick = 2.0 * found.volume / np.maximum(found.area, 1e-9)
    wide = np.flatnonzero((found.volume > LEAST_MM3) & (thick > least))
    if not len(wide):
        return None
    # of equal ones the same, however the solid came about: the highest, then the one farthest on
    k = max(wide, key=lambda n: (round(float(found.volume[n]), 3), *_rounded(found.low[n])[::-1]))
    x, y = (float(v) for v in (found.low[k] + found.high[k])[:2] / 2.0)
    return Gouge(
        float(thick[k]), (x, y, float(found.low[k][2])), float(found.volume[wide].sum()), 1.0
    )


def _rounded(corner: Vector) -> tuple[float, ...]:
    return tuple(round(float(each), 3) for each in corner)


def _wider(op: Ready, drawn: Edge | None) -> Gouge | None:
    """Of a chamfer that is wider than the drawing's, all along it: it is too thin for a piece."""
    kind = op.operation
    if not isinstance(kind, Chamfer) or drawn is None or drawn.shape != "chamfer":
        return None
    wider = kind.size_mm - drawn.size_mm
    if wider <= WIDER_MM + 1e-6:
        return None
    x, y, z = (float(v) for v in op.lie.pose.apply(np.array(drawn.point)))
    section = (kind.size_mm**2 - drawn.size_mm**2) * tan(radians(drawn.angle_deg)) / 2.0
    deep = wider * sin(radians(drawn.angle_deg))
    return Gouge(deep, (x, y, z), section * drawn.length_mm)


def _drawn_edge(op: Ready, facts: PlanFacts) -> Edge | None:
    """The edge that the drawing breaks where this takes something, if there is one."""
    for each in facts.geometry.features:
        if isinstance(each, Edge) and each.surfaces:
            spot = op.lie.pose.apply(_amid(each, facts.geometry.mesh))
            there = block(spot - AT_EDGE_MM, spot + AT_EDGE_MM)
            if volume(metal_taken(op) ^ there) > LEAST_MM3 * AT_EDGE_MM:
                return each
    return None


def _amid(edge: Edge, mesh: Mesh) -> Vector:
    """The middle of the largest facet of its faces: on them, where a middle of all is not."""
    corners = mesh.vertices[mesh.triangles[np.isin(mesh.faces, edge.surfaces)]]
    across = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    middle: Vector = corners[np.linalg.norm(across, axis=1).argmax()].mean(axis=0)
    return middle


# -- milled and drilled


def _milled(op: Ready, facts: PlanFacts, state: State) -> Gouge | None:
    """What a path takes of the part where it still stands: of a drill's point nothing is said."""
    lie, shape = op.lie, shape_for(op)
    if kind_of(op.operation).on_axis and op.work.point_height > 0:
        point = np.full(len(shape.lower), op.work.point_height)
        shape = Shape(shape.radius, point, shape.upper, False)
    smaller = shape.shrunk(BESIDE_MM, BELOW_MM)
    if smaller is None:
        return None
    part, stock = facts.geometry.mesh.posed(lie.pose), state.mesh()
    found = (_on_a_way(each, part, stock, shape, smaller, op) for each in ways(op))
    return max((each for each in found if each), key=lambda each: each.volume, default=None)


def _on_a_way(
    way: tuple[Pose | None, Path],
    part: Mesh,
    stock: Mesh,
    shape: Shape,
    smaller: Shape,
    op: Ready,
) -> Gouge | None:
    """The same on one piece of it, with the work as a table puts it."""
    pose, path = way
    if pose is not None:
        part, stock = part.posed(pose), stock.posed(pose)
    if float(path.bounds()[0][2]) >= float(part.bounds()[1][2]) - BELOW_MM:
        return None
    grid = grid_under(path, stock.bounds(), shape, cell_for(op.tool.diameter_mm, None))
    top = min(float(mesh.bounds()[1][2]) for mesh in (stock, part))
    come_to = near(path, shape, grid, top)
    there = common(*(columns_of(mesh, grid, come_to) for mesh in (stock, part)))
    into = into_part(path, smaller, there)
    if into is None:
        return None
    deep = _how_deep(path, shape, there, into.above)
    x, y, z = (float(v) for v in (into.at if pose is None else pose.inverse().apply(into.at)))
    return Gouge(deep, (x, y, z), into.volume)


def _how_deep(path: Path, shape: Shape, part: Columns, above: float) -> float:
    """How deep (mm) into the part: from ``above``, or from the side where a thinner tool would
    clear it.
    """
    above += BELOW_MM
    low, high = BESIDE_MM, min(shape.radius, above)

    def meets(thinner: float) -> bool:
        tool = shape.shrunk(thinner, BELOW_MM)
        return tool is not None and into_part(path, tool, part) is not None

    if meets(0.999 * high):
        return above
    for _ in range(BISECTIONS):
        middle = (low + high) / 2.0
        if meets(middle):
            low = middle
        else:
            high = middle
    return high
