"""What drawings of a held part share: a view's place on the paper, its lines, its axes."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from shapely import MultiPoint

from machining.facts.context import StationFacts
from machining.facts.stand import Body
from machining.geometry import hidden_line
from machining.geometry.frames import Pose, Vector
from machining.geometry.hidden_line import Eye
from machining.geometry.mesh import Mesh
from machining.geometry.regions import Region, polygons_of
from machining.geometry.solids import from_mesh, hull, outline, posed, prism, to_mesh

from .svg import Sheet

WIDTH, HEIGHT = 600.0, 256.0
SHOWN = (
    "jaw",
    "step",
    "stop",
    "nose",
    "parallel",
    "chuck",
    "centre",
    "steady",
    "pallet",
    "dowel",
    "clamp",
    "heel",
)
JAW, STOCK, PARALLEL = "#d9dde6", "#eef1f7", "#c6ccd9"


@dataclass(frozen=True)
class Place:
    """Where a view lies on the paper: millimetres to paper."""

    x: float
    y: float
    scale: float

    def at(self, u: float, v: float) -> tuple[float, float]:
        return self.x + u * self.scale, self.y - v * self.scale


def steps_before(seen: StationFacts) -> int:
    """How many steps of loading come before those that every chuck or vise has: what is done once
    to what holds the part. The balloons of a drawing are numbered like the steps.
    """
    vise, chuck = seen.planned.in_vise, seen.planned.in_chuck
    if vise is not None:
        return int(vise.second_mm is not None)
    return int(bool(seen.stand.of("step"))) + int(chuck is not None and not seen.turns)


def title(sheet: Sheet, x: float, words: str) -> None:
    sheet.text(x, 14, words, bold=True, anchor="start", size=11)


def extent(bodies: list[tuple[str, Mesh]], eye: Eye) -> tuple[Vector, Vector]:
    flat = np.concatenate([eye.flat(mesh.vertices)[:, :2] for _, mesh in bodies])
    return flat.min(axis=0), flat.max(axis=0)


def fit(bodies: list[tuple[str, Mesh]], eye: Eye, width: float, height: float) -> float:
    low, high = extent(bodies, eye)
    return min(width / float(high[0] - low[0]), height / float(high[1] - low[1]))


def placed(
    bodies: list[tuple[str, Mesh]], eye: Eye, scale: float, middle_x: float, middle_y: float
) -> Place:
    low, high = extent(bodies, eye)
    return Place(
        middle_x - float(low[0] + high[0]) / 2 * scale,
        middle_y + float(low[1] + high[1]) / 2 * scale,
        scale,
    )


def bodies_of(seen: StationFacts, without: Body | None = None) -> list[tuple[str, Mesh]]:
    """The stock and what is drawn of what holds it."""
    every = seen.stand.upright or seen.stand.bodies
    held = [body for body in every if body.role in SHOWN and body is not without]
    return [
        ("stock", to_mesh(seen.arrives.solid)),
        *((body.role, leant_mesh(body, seen.stand.turn)) for body in held),
        *(("parallel", to_mesh(hull(each.points))) for each in (seen.stand.wedge,) if each),
    ]


def leant_mesh(body: Body, turn: Vector | None) -> Mesh:
    """A body as it stands, turned about the origin where it leans."""
    solid = prism(body.region, body.bottom, body.top)
    return to_mesh(solid if turn is None else posed(solid, Pose(turn, np.zeros(3))))


def lines(sheet: Sheet, bodies: list[tuple[str, Mesh]], eye: Eye, place: Place) -> None:
    fills = {
        "jaw": JAW,
        "step": JAW,
        "centre": JAW,
        "steady": JAW,
        "stop": JAW,
        "nose": JAW,
        "chuck": JAW,
        "bed": JAW,
        "parallel": PARALLEL,
        "pallet": PARALLEL,
        "dowel": JAW,
        "clamp": JAW,
        "heel": JAW,
        "stock": STOCK,
    }
    order = sorted(bodies, key=lambda body: float(eye.flat(body[1].vertices)[:, 2].max()))
    for kind, mesh in order:
        for piece in polygons_of(_shadow(mesh, eye, kind == "stock")):
            sheet.area(fills[kind], [[place.at(x, y) for x, y in piece.exterior.coords]])
    for (kind, _), drawn in zip(
        bodies, hidden_line.draw([mesh for _, mesh in bodies], eye), strict=True
    ):
        for a, b in drawn.seen:
            sheet.line("thick" if kind == "stock" else "line", place.at(*a), place.at(*b))


def _shadow(mesh: Mesh, eye: Eye, hollow: bool) -> Region:
    """What a body covers, seen like this: of what holds the part, which is convex, its hull."""
    flat = eye.flat(mesh.vertices)
    if not hollow:
        hull: Region = MultiPoint(flat[:, :2]).convex_hull
        return hull
    return outline(from_mesh(replace(mesh, vertices=flat)))


def axis(sheet: Sheet, x: float, y: float, dx: float, dy: float, name: str) -> None:
    sheet.line("thick", (x, y), (x + dx, y + dy))
    side = (-0.18 * dy, 0.18 * dx)
    tip = (x + 1.25 * dx, y + 1.25 * dy)
    base = (x + dx, y + dy)
    sheet.wedge(
        f"M{tip[0]:.1f} {tip[1]:.1f}L{base[0] + side[0] * 0.5:.1f}"
        f" {base[1] + side[1] * 0.5:.1f}L{base[0] - side[0] * 0.5:.1f}"
        f" {base[1] - side[1] * 0.5:.1f}Z",
        "#14192b",
    )
    sheet.text(tip[0] + 8, tip[1] + 4, name, bold=True, halo=True, size=11)
