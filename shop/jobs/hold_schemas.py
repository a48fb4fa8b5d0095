"""What is answered about a holding. The core answers in bytes already written."""

from __future__ import annotations

from typing import Any, Literal

from ninja import Schema

from .held_schemas import SentenceOut, ShownOut


class TouchOut(Schema):
    """A point (mm) where a body touches the part, with the normal into the part; ``presses_n`` is
    what it carries when the cut that is looked at is as large as is stood, 0 while none is.
    """

    body: str
    at: list[float]
    normal: list[float]
    friction: float
    clamps: bool
    presses_n: float


class StoodOut(Schema):
    """An operation: its worn force, how many times it is stood and is ``asked`` to be, least
    ``towards`` where with the tool ``at`` a place; ``scale`` is how many times as hard as now the
    clamps have to press at least, null where no force does; ``of`` is what gives way where that is
    not the part.
    """

    id: str
    force_n: float | None
    factor: float | None
    asked: float
    towards: str
    at: list[float]
    scale: float | None
    of: str


class RoseOut(Schema):
    """How many times a cut is stood in directions all round, the first ``along`` one, the others on
    towards ``aside``.
    """

    along: list[float]
    aside: list[float]
    factors: list[float]


class MotionOut(Schema):
    """One of the six, stopped ``by`` bodies that bear, or ``free``."""

    kind: Literal["slide", "turn"]
    axis: Literal["X", "Y", "Z"]
    free: bool
    by: list[str]


class UnderOut(Schema):
    """What the part is clamped to where that is a body of its own, and how it stands."""

    of: str
    seated: bool
    moves: SentenceOut
    left: ShownOut


class WallOut(Schema):
    """A wall or bar of the stock, thin along an axis, as an operation leaves it. Its flat goes
    ``across`` and ``up``: ``cells`` are places in it, each so large, with their thickness (mm),
    ``carried`` edges of cells (0 to 3: low and high across, low and high up) where thick material
    carries it, ``held`` cells that lie on what holds the part. ``outline`` is what it covers from
    above, ``worst`` the cell the cut bends most, null where it is not cut.
    """

    thin_along: str
    across: str
    up: str
    thick_mm: float
    far_mm: float
    ratio: float
    slender: bool
    cut: bool
    gives_um_n: float
    force_n: float | None
    bends_mm: float | None
    cell_mm: float
    cells: list[tuple[int, int, float]]
    carried: list[tuple[int, int, int]]
    held: list[tuple[int, int]]
    worst: tuple[int, int] | None
    outline: list[tuple[float, float]]
    at: list[float]


class PinOut(Schema):
    """One that keeps a part out that lies wrong (mm)."""

    at: tuple[float, float]
    diameter: float
    high: float


class WayOut(Schema):
    """A part put in otherwise than it should lie: how far (mm, X and Y) it lies from the middle of
    where it should, how much of it is cut away then, and where.
    """

    words: str
    pushed: tuple[float, float]
    spoils_mm3: float
    at: tuple[float, float, float]
    pin: PinOut | None


class WrongWayOut(Schema):
    """``ways`` go in and make a difference, ``same`` others make none, ``not_in`` how many do not
    go in, by why; ``marked`` is where the sheet says the marked corner lies, empty where it does
    not.
    """

    ways: list[WayOut]
    same: int
    not_in: dict[str, int]
    marked: str


class HangsOut(Schema):
    """One of the things it hangs on: its standard deviation as a share, where that is from, how
    much of all that is uncertain it makes, and whether it is the same for the batch.
    """

    name: str
    share: float
    source: str
    makes: float
    batch: bool


class LastsOut(Schema):
    """Of the operation that is stood least: its factor as reckoned and in the middle of what it
    hangs on, how likely a part slips in it, how likely a batch of so many runs without, and how
    many run without at 99 in 100. ``of`` is what gives way where that is not the part.
    """

    operation: str
    of: str
    factor: float
    middle: float
    slips: float
    parts: int
    runs: float
    sure_parts: int
    hangs_on: list[HangsOut]


class BeginningOut(Schema):
    """A side up first: what of the part is reached from there and how much of that the drawing asks
    for, how high of its sides can be cut and whether the next setup can grip them, which further
    sides have to come up, the first cuts with the least factor of holding, what will not work of
    them, and the edits that begin like that. ``held`` is empty where nothing of the library takes
    it; ``lines`` are the part as it lies, seen from over its left front corner (mm, ends).
    """

    up: str
    side: str
    lines: list[tuple[float, float, float, float]]
    held: str
    reached: int
    asked_for: int
    sides_mm: float
    high_mm: float
    grips: bool
    further: list[str]
    cuts: list[str]
    factor: float | None
    asked: float
    stops: list[str]
    edits: list[dict[str, Any]]


class BeginningsOut(Schema):
    """The ways to begin, the best first, of a part with so many features, so many of them asked
    for by the drawing.
    """

    features: int
    asked_for: int
    ways: list[BeginningOut]


class HoldOut(Schema):
    """``asked`` is the factor the shop asks for of the operation, ``outline`` the stock from above,
    ``clamps`` the forces (N) of what closes, ``free`` what no body that only bears stops; ``moves``
    is empty where clamps and weight find their balance, ``over`` the most that is told of a
    factor.
    """

    station: str
    asked: float
    outline: list[list[list[float]]]
    low: list[float]
    high: list[float]
    clamps: dict[str, float]
    touches: list[TouchOut]
    free: list[SentenceOut]
    seated: bool
    moves: SentenceOut
    left: ShownOut
    jams: bool
    not_pressed: list[str]
    operations: list[StoodOut]
    rose: RoseOut | None
    motions: list[MotionOut]
    under: UnderOut | None
    over: float
