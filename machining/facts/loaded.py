"""A load as it stands on its table, seen from above: every position with what holds it, its offset,
and how close they could stand.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from machining.geometry.regions import Region
from machining.memo import Memo
from machining.plan.at import Faces
from machining.quantities.said import Said, Shown, length
from machining.world.machine import Plate, Table

from . import around, head, index, ledger
from .beside import PART, on_table
from .context import PlanFacts, Ready, SetupFacts, StationFacts
from .offsets import Offset, offsets_of
from .pitch import Pitch, pitch
from .swing import standing, swings

Ring = list[list[float]]
FROM_ABOVE = np.array([[1.0, 0.0, 0.0], [0.0, 0.0, -1.0], [0.0, 1.0, 0.0]])  # Z comes down
UNDER = ("parallel", "angle", "plate")  # what is not seen from above
OUTLINE_MM = 0.05  # by which a drawn outline may be off
CALLED = {PART: "the part", "bed": "the vise", "tool": "the tool", "holder": "the holder"}


@dataclass(frozen=True, slots=True)
class Shape:
    """Rings of a body (mm, from the middle of the stock), the first of each region outside."""

    role: str
    name: str
    rings: list[Ring]


@dataclass(frozen=True, slots=True)
class Spot:
    """A position: where the middle of its stock stands on the table (mm, from its middle) and the
    offset its zero is kept in, with ``at`` (x, y, z) as the offset table has it; None where that is
    not known. ``out_mm`` is how far tools would have to go past the end of an axis there, ``face``
    which of a tombstone it is on, from whose middle it is measured then; 0 on a table.
    """

    x_mm: float
    y_mm: float
    code: str
    reference: str
    at: list[float] | None
    out_mm: float
    face: int = 0


@dataclass(frozen=True, slots=True)
class OffsetSeen:
    """The zero of a position (from 1) of a station (from 1), with a ``side`` of its part turned to
    the tool, empty for what is up; ``at`` is from another position of the same offset where
    ``from_first``, else as the table of offsets has it. ``index`` is where the axes stand, empty
    where none is asked to turn.
    """

    station: int
    position: int
    side: str
    code: str
    at: list[float] | None
    from_first: bool
    index: str


@dataclass(frozen=True, slots=True)
class SwingSeen:
    """What goes round about an axis, as a diameter, and how much may, 0 where nobody has said."""

    axis: str
    body: str
    across_mm: float
    most_mm: float


@dataclass(frozen=True, slots=True)
class TombstoneSeen:
    """``level_mm`` is how far the middle of its faces lies over the middle of Y's way. ``faces``
    are the turns (degrees) that bring each to the tool. ``above`` are outlines of all that turns,
    seen from above with the tool coming from below, about the axis.
    """

    name: str
    wide_mm: float
    tall_mm: float
    level_mm: float
    faces: list[float]
    above: list[Shape]


@dataclass(frozen=True, slots=True)
class Carries:
    """A tombstone that a table has."""

    key: str
    name: str
    sides: int


@dataclass(frozen=True, slots=True)
class Closest:
    """The least pitch (mm) along an axis and what asks for it."""

    mm: float
    why: Said


@dataclass(frozen=True, slots=True)
class StationSeen:
    id: str
    shapes: list[Shape]
    spots: list[Spot]
    closest_x: Closest | None
    closest_y: Closest | None


@dataclass(frozen=True, slots=True)
class Reached:
    """How far an obstacle beside the spindle comes over the table while the load is cut: ``at_mm``
    from the table's middle, on the side it stands ``towards``.
    """

    name: str
    towards: str
    at_mm: float


@dataclass(frozen=True, slots=True)
class LoadSeen:
    """``table`` is its size, ``travel`` how far the tool's middle goes from the middle of the table
    either way, mm; ``measured`` says whether anybody knows where the table is in the machine.
    ``by_tool_s`` and ``by_part_s`` are a cycle in either order; None where not all of it is known.
    ``arms`` are what the table tilts between, ``plate`` what lies on it under the load.
    """

    machine: str
    table: tuple[float, float]
    travel: tuple[float, float]
    measured: bool
    block: str
    by_tool_s: float | None
    by_part_s: float | None
    reached: list[Reached]
    stations: list[StationSeen]
    offsets: list[OffsetSeen]
    swings: list[SwingSeen]
    tombstone: TombstoneSeen | None
    carries: list[Carries]
    arms: list[Shape]
    plate: PlateSeen | None = None


@dataclass(frozen=True, slots=True)
class PlateSeen:
    """What the load stands on between it and the table, mm."""

    name: str
    x_mm: float
    y_mm: float
    thick_mm: float


def load_seen(setup: SetupFacts, facts: PlanFacts, memo: Memo) -> LoadSeen | None:
    """The load of a setup; None where its work does not stand on a table."""
    here = [each for each in setup.stations if on_table(each)]
    if not here or setup.machine is None or len(here) < len(setup.stations):
        return None
    table, travel = here[0].place, setup.machine.carriers[0].travel
    assert isinstance(table, Table)
    every = [each for each in offsets_of(facts) if each.setup is setup]
    offsets = [each for each in every if each.side is None]
    return LoadSeen(
        setup.machine.name,
        (table.x_mm, table.y_mm),
        (travel.x / 2.0, travel.y / 2.0),
        table.middle is not None,
        setup.machine.offset_block,
        _cycle(setup, "by tool", facts),
        _cycle(setup, "by part", facts),
        [*_reached(setup)],
        [_station(each, offsets, facts, memo) for each in here],
        [*_offsets(setup, every)],
        [*_swings(setup, table)],
        _tombstone(here),
        [Carries(each.key, each.name, each.sides) for each in table.tombstones],
        [Shape(e.role, e.name, _rings(e.region, np.zeros(2))) for _, e in around.arms(table)],
        _plate(here[0].plate),
    )


def _plate(on: Plate | None) -> PlateSeen | None:
    return None if on is None else PlateSeen(on.name, on.x_mm, on.y_mm, on.thick_mm)


def _offsets(setup: SetupFacts, every: list[Offset]) -> Iterator[OffsetSeen]:
    firsts = dict[tuple[str, str], Offset]()
    turns = any(each.side or any(each.angles.values()) for each in every)
    for each in every:
        first = firsts.setdefault((each.station.id, each.code), each)
        at = list(each.at) if each.at is not None else None
        if first is not each and first.at is not None and at is not None:
            at = [a - b for a, b in zip(at, first.at, strict=True)]
        yield OffsetSeen(
            setup.stations.index(each.station) + 1,
            each.position,
            index.aim_words(each.station, each.side) if each.side else "",
            each.code,
            at,
            first is not each and bool(each.code),
            index.words({k.upper(): v for k, v in each.angles.items()}) if turns else "",
        )


def _swings(setup: SetupFacts, table: Table) -> Iterator[SwingSeen]:
    for each in swings(setup, table):
        across = round(2.0 * each.radius_mm, 3)
        yield SwingSeen(each.axis.name, each.body, across, each.axis.swing_mm)


def _tombstone(here: list[StationFacts]) -> TombstoneSeen | None:
    on, table = here[0].tombstone, here[0].place
    if on is None or not isinstance(table, Table):
        return None
    return TombstoneSeen(
        on.name,
        on.wide_mm,
        on.tall_mm,
        table.face_middle(on)[1],
        [on.turned_deg(face + 1) for face in range(on.sides)],
        [*_above(here, table)],
    )


def _above(here: list[StationFacts], table: Table) -> Iterator[Shape]:
    """Bodies in X and Z; those over each other once."""
    known = set[tuple[object, ...]]()
    for body in standing(here[0].setup, table):
        for piece in body.turned(FROM_ABOVE):
            shape = Shape(body.role, body.name, _rings(piece.region, np.zeros(2)))
            key = (shape.role, str(shape.rings))
            if key not in known:
                known.add(key)
                yield shape


def _reached(setup: SetupFacts) -> Iterator[Reached]:
    ends = [
        head.ends(op, position)
        for op in setup.operations
        if isinstance(op, Ready) and op.path.legs
        for position in range(op.station.planned.positions)
    ]
    if not ends or setup.machine is None:
        return
    low, high = np.min(ends, axis=(0, 1)), np.max(ends, axis=(0, 1))
    for each in setup.machine.obstacles:
        axis, plus = "xy".index(each.towards[0]), each.towards[1] == "+"
        at = low[axis] + each.from_mm if plus else high[axis] - each.from_mm
        yield Reached(each.name, each.towards, round(float(at), 3))


def _cycle(
    setup: SetupFacts, order: Literal["by tool", "by part"], facts: PlanFacts
) -> float | None:
    if any(not isinstance(op, Ready) or "feed" not in op.figures for op in setup.operations):
        return None
    other = replace(setup, planned=setup.planned.model_copy(update={"order": order}))
    return ledger.of_setup(other, facts).ends_s


def _station(
    station: StationFacts, offsets: list[Offset], facts: PlanFacts, memo: Memo
) -> StationSeen:
    mine = [each for each in offsets if each.station is station]
    spots = [
        Spot(
            *station.planned.spots[each.position - 1],
            each.code,
            each.reference,
            list(each.at) if each.at is not None else None,
            _out(station, each.position - 1),
            _face(station, each.position - 1),
        )
        for each in mine
    ]
    closest = [_closest(pitch(station, facts, memo, axis), facts) for axis in (0, 1)]
    return StationSeen(station.id, [*_shapes(station)], spots, *closest)


def _out(station: StationFacts, position: int) -> float:
    most = 0.0
    for op in station.operations:
        if isinstance(op, Ready) and op.path.legs:
            travel = np.array([op.rig.carrier.travel.x, op.rig.carrier.travel.y]) / 2.0
            ends = head.ends(op, position)
            most = max(most, float((np.abs(ends) - travel).max()))
    return round(most, 3)


def _face(station: StationFacts, position: int) -> int:
    at = station.planned.at
    return at.face_of[position] if isinstance(at, Faces) else 0


def _shapes(station: StationFacts) -> Iterator[Shape]:
    middle = (station.lie.stock_low[:2] + station.lie.stock_high[:2]) / 2.0
    for body in station.stand.shadows:
        if body.role not in UNDER:
            yield Shape(body.role, body.name, _rings(body.region, middle))
    yield Shape(PART, PART, _rings(station.arrives.outline(), middle))


def _rings(region: Region, middle: np.ndarray) -> list[Ring]:
    found: list[Ring] = []
    for each in getattr(region, "geoms", [region]):
        for ring in (each.exterior, *each.interiors):
            corners = np.asarray(ring.simplify(OUTLINE_MM).coords)[:, :2] - middle
            found.append(corners.round(3).tolist())
    return found


def _closest(found: Pitch | None, facts: PlanFacts) -> Closest | None:
    if found is None:
        return None
    body, other = (CALLED.get(each, f"the {each}") for each in (found.body, found.other))
    if not found.operation:
        room = {"room": length(facts.library.settings.between_mm)}
        both = f"{body} beside {other}" if body != other else f"{body} beside the next one"
        return Closest(found.mm, Said(f"{both}, {{room}} between them", room))
    op = next(each for each in facts.ready() if each.id == found.operation)
    values = {"tool": Shown(f"T{op.loaded.number}"), "number": Shown(str(op.number))}
    return Closest(
        found.mm, Said(f"{other} of {{tool}} in operation {{number}} beside {body}", values)
    )
