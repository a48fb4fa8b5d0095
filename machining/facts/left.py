"""What still stands over the part after its last setup."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Literal

import numpy as np

from machining.geometry.frames import DIRECTIONS, Direction, Vector, axis
from machining.geometry.shells import Shells, shells
from machining.geometry.solids import Solid, bar, joined, laid_along, to_mesh
from machining.memo import Memo
from machining.plan.operation import MillThread, Tap
from machining.plan.places import OnFeatures
from machining.quantities.said import Said, Shown, fill, length
from machining.world.extent import holds
from machining.world.feature import Edge, Feature, Hole, Pocket, Slanted
from machining.world.geometry import PartGeometry
from machining.world.stock.base import SIDE_WORDS

from .context import PlanFacts, StationFacts
from .edges_left import on_edges
from .tabs import hands_on

THIN_MM = 0.06  # thinner, it is what chords of meshes are off
SMALL_MM3 = 0.05
HIDES_MM3, NEARER_MM = 1.0, 0.12  # a film worth a look, and what is taken off it each way
NEAR_MM = 0.5  # of a feature's walls
THREAD_SHARE = 0.65  # of its pitch a thread is high
SIDES: tuple[tuple[Direction, Direction], ...] = (("-x", "+x"), ("-y", "+y"), ("-z", "+z"))
Place = Literal["hole", "pocket", "edge", "side"]
Corner = Vector | tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece of stock that is not the part, in part coordinates: how much of it there is (mm³),
    how thick it is on average (mm), and where: in a feature by its id, or over a side.
    """

    volume: float
    thick: float
    low: tuple[float, float, float]
    high: tuple[float, float, float]
    place: Place
    name: str


def left_over(facts: PlanFacts, memo: Memo) -> list[Piece]:
    """The pieces after the last station on the part's way; none where nothing is planned."""
    last = last_station(facts)
    if last is None or not facts.operations():
        return []
    state, part = hands_on(last, facts.geometry).in_part(), facts.geometry
    key = ("left over", state.key, part.key)
    found = memo.get(key, lambda: _pieces(state.solid - part.solid, part))
    threads = _threads(facts)
    return [each for each in found if not _is_thread(each, threads)]


def _threads(facts: PlanFacts) -> dict[str, float]:
    """The holes that are threaded, by id, and how high the thread stands in them (mm): where it is
    drawn as wide as it is outside, that is what a tap leaves.
    """
    found = dict[str, float]()
    for op in facts.operations():
        kind, pitch = op.operation, op.kit.tool.pitch_mm if op.kit else None
        if isinstance(kind, MillThread):
            pitch = kind.pitch_mm
        if isinstance(kind, Tap | MillThread) and isinstance(kind.on, OnFeatures) and pitch:
            found.update(dict.fromkeys(kind.on.ids, THREAD_SHARE * pitch))
    return found


def _is_thread(piece: Piece, threads: dict[str, float]) -> bool:
    return piece.place == "hole" and piece.thick <= threads.get(piece.name, 0.0)


@dataclass(frozen=True, slots=True)
class Left:
    """Like pieces together: where they stand, how many, all their volume (mm³), and how thick the
    thickest is (mm); no finer than solids are, whose last digits depend on the order of cuts.
    ``pieces`` are those themselves.
    """

    where: Said
    count: int
    volume: float
    thick: float
    pieces: tuple[Piece, ...] = ()

    @property
    def middles(self) -> list[list[float]]:
        """Of each piece, in part coordinates (mm)."""
        return [
            [round((low + high) / 2.0, 3) for low, high in zip(each.low, each.high, strict=True)]
            for each in self.pieces
        ]


def together(found: list[Piece], part: PartGeometry) -> list[Left]:
    """Pieces in like holes, in one pocket and over one side each as one, the most first."""
    alike = defaultdict[str, list[Piece]](list)
    words = dict[str, Said]()
    for piece in found:
        said = _words(piece, part)
        name = fill(said.text, said.values)
        words[name] = said
        alike[name].append(piece)
    lefts = [
        Left(
            words[name],
            len(those),
            round(sum(each.volume for each in those), 3),
            round(max(each.thick for each in those), 4),
            tuple(those),
        )
        for name, those in alike.items()
    ]
    return sorted(lefts, key=lambda each: -each.volume)


def _words(piece: Piece, part: PartGeometry) -> Said:
    feature = part.feature(piece.name) if piece.place != "side" else None
    if isinstance(feature, Hole):
        return Said("in a hole of {d}", {"d": Shown(feature.diameter_mm, "size")})
    if isinstance(feature, Pocket):
        word = "window" if feature.through else "pocket" if feature.closed else "open pocket"
        return Said(f"in the {word} {{deep}} deep", {"deep": length(feature.depth_mm)})
    if isinstance(feature, Edge):
        size = {"size": length(feature.size_mm)}
        return Said(f"on edges that have a {feature.shape} of {{size}}", size)
    if isinstance(feature, Slanted):
        return Said("on a face slanted by {lean}", {"lean": Shown(feature.lean_deg, "angle")})
    return Said("on its {side}", {"side": Shown(piece.name)})


def last_station(facts: PlanFacts) -> StationFacts | None:
    """Where the part's way ends; None where nothing is planned."""
    taken = {station.planned.takes for station in facts.stations}
    ends = [station for station in facts.stations if station.id not in taken]
    return ends[-1] if ends else None


def _pieces(left: Solid, part: PartGeometry) -> list[Piece]:
    left = left - _points(part)
    edges = list(on_edges(left, part))
    pieces = [
        piece
        for feature, own in edges
        for piece in _of_shells(own, lambda *_, name=feature.id: ("edge", name))
    ]
    rest = left - joined([own for _, own in edges]) if edges else left
    place = partial(_where, part=part)
    return [
        *pieces,
        *_of_shells(rest, place),
        *(piece for each in _in_films(rest, part) for piece in _of_shells(each, place)),
    ]


def _in_films(left: Solid, part: PartGeometry) -> Iterator[Solid]:
    """What is thick of pieces that are thin on average: it hangs on a film that chords of meshes
    leave on a round beside it. Each without what lies so near to the part.
    """
    if float(left.volume()) < HIDES_MM3:
        return
    nearer = [part.solid.translate(list(NEARER_MM * axis(way))) for way in DIRECTIONS]
    yield from (_without(each, nearer) for each in left.decompose() if _is_film(each))


def _without(piece: Solid, others: Sequence[Solid]) -> Solid:
    """What of it is in none of the others. One by one, and each worked out at once: it is small,
    and all of them as one solid are not.
    """
    for each in others:
        piece -= each
        if piece.is_empty():
            break
    return piece


def _is_film(piece: Solid) -> bool:
    volume = float(piece.volume())
    return volume > HIDES_MM3 and 2.0 * volume / max(float(piece.surface_area()), 1e-9) <= THIN_MM


def _of_shells(
    left: Solid, where: Callable[[Vector, Vector, Vector], tuple[Place, str]]
) -> list[Piece]:
    found = shells(to_mesh(left))
    thick = 2.0 * found.volume / np.maximum(found.area, 1e-9)
    return [
        _piece(float(found.volume[k]), float(thick[k]), found, int(k), where)
        for k in np.flatnonzero((found.volume > SMALL_MM3) & (thick > THIN_MM))
    ]


def _points(part: PartGeometry) -> Solid:
    """Below the walls of blind holes, where the points of drills differ from what is drawn."""
    return joined(
        [each for hole in part.features if isinstance(hole, Hole) for each in _below(hole)]
    )


def _below(hole: Hole) -> Iterator[Solid]:
    if hole.through:
        return
    along, radius = "xyz".index(hole.axis[1]), hole.diameter_mm / 2.0
    signs = {each[0] for each in hole.opens if each[1] == hole.axis[1]}
    for sign, begin in (("-", -2.0 * radius), ("+", hole.length_mm)):
        if sign not in signs:
            at = np.array(hole.point) + begin * np.eye(3)[along]
            yield laid_along(bar(0.0, 0.0, radius + NEAR_MM, 0.0, 2.0 * radius), along, at)


def _piece(
    much: float,
    thick: float,
    found: Shells,
    k: int,
    where: Callable[[Vector, Vector, Vector], tuple[Place, str]],
) -> Piece:
    low, high = found.low[k], found.high[k]  # films beside it reach farther than it does
    place, name = where(found.centre[k], low, high)
    corners = [tuple(round(float(v), 3) for v in each) for each in (low, high)]
    return Piece(much, thick, corners[0], corners[1], place, name)  # type: ignore[arg-type]


def _where(middle: Vector, low: Vector, high: Vector, part: PartGeometry) -> tuple[Place, str]:
    for feature in part.features:
        if _inside(feature, middle, high - low):
            return ("hole" if isinstance(feature, Hole) else "pocket"), feature.id
    stands = sides_over(low, high, part)
    if not stands:
        return "side", "inside"
    return "side", SIDE_WORDS[stands[0]] if len(stands) == 1 else "sides"


def sides_over(low: Corner, high: Corner, part: PartGeometry) -> list[Direction]:
    """The sides of the part that a box in its coordinates stands over."""
    begin, end = part.bounds
    over = [(float(begin[k] - low[k]), SIDES[k][0]) for k in range(3)]
    over += [(float(high[k] - end[k]), SIDES[k][1]) for k in range(3)]
    return [side for by, side in over if by > THIN_MM]


def _inside(feature: Feature, middle: Vector, size: Vector) -> bool:
    """Does a piece lie in a hole or pocket?"""
    if isinstance(feature, Hole):
        across = [k for k in range(3) if k != "xyz".index(feature.axis[1])]
        widest = max((feature.diameter_mm, *(sink.diameter_mm for sink in feature.sinks)))
        if (size[across] > widest + 2.0 * NEAR_MM).any():
            return False
    return isinstance(feature, Hole | Pocket) and bool(holds(feature, middle[None], NEAR_MM)[0])
