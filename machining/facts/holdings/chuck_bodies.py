"""What of a chuck stands round the part: its jaws, the step of soft ones, the body behind them."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, hypot, pi, radians, sin

from shapely import Point, Polygon, box

from machining.geometry.regions import Region
from machining.geometry.solids import ROUND_STEPS, below, half_section, outline
from machining.memo import Memo
from machining.placing.zero import Lie
from machining.plan.holding import InChuck
from machining.quantities.errors import OutOfRange
from machining.world.workholding import Chuck

from ..context import StationFacts
from ..stand import Body
from .round_grip import is_round, meets, round_or_flats

# the chuck's body behind its jaws: only so deep is shown, and nearly as wide as they reach
BODY_MM, BODY_SHARE = 24.0, 0.96
THIN_MM = (0.03, 0.06)  # how far under a face is looked what has its diameter


def jaws_of(holding: InChuck, chuck: Chuck, lie: Lie, diameter: float) -> tuple[Body, ...]:
    """The jaws against a diameter, in the setup frame, then the steps of bored ones. Raises
    OutOfRange where it doesn't fit the chuck.
    """
    if not chuck.min_grip_mm <= diameter <= chuck.max_grip_mm:
        raise OutOfRange(
            "diameter gripped",
            round(diameter, 3),
            f"from {chuck.min_grip_mm:g} to {chuck.max_grip_mm:g}, what {chuck.name} grips",
        )
    if holding.grip_mm > chuck.jaw_length_mm:
        raise OutOfRange(
            "grip", holding.grip_mm, f"up to {chuck.jaw_length_mm:g}, the length of the jaws"
        )
    if holding.force_per_jaw_n > chuck.force_per_jaw_n:
        raise OutOfRange(
            "force of a jaw",
            holding.force_per_jaw_n,
            f"up to {chuck.force_per_jaw_n:g} N, the most of {chuck.name}",
        )
    low = float(lie.stock_low[2])
    top, bottom = low + holding.grip_mm, low + holding.grip_mm - chuck.jaw_length_mm
    angles = jaw_angles(holding, chuck)
    plain = [_prism(holding, chuck, diameter / 2.0, angle) for angle in angles]
    if not bored(holding, chuck) or low - bottom <= 0.0:
        return tuple(
            Body("jaw", str(k), region, bottom, top, moves=True)
            for k, region in enumerate(plain, 1)
        )
    jaws = [Body("jaw", str(k), each, low, top, moves=True) for k, each in enumerate(plain, 1)]
    behind = (holding.spacer_mm or 0.0) / 2.0
    steps = [_prism(holding, chuck, behind, angle, of=diameter / 2.0) for angle in angles]
    return (
        *jaws,
        *(
            Body("step", "", each, bottom, low, moves=True, of=f"jaw {k}")
            for k, each in enumerate(steps, 1)
        ),
    )


def bored(holding: InChuck, chuck: Chuck) -> bool:
    """Are its jaws soft, and bored for the part?"""
    return chuck.jaw_kind == "soft" and holding.bored_mm is not None


def _prism(
    holding: InChuck, chuck: Chuck, near: float, angle: float, of: float | None = None
) -> Polygon:
    """A jaw in plan whose face is at a radius; it ends as far out as one at another, ``of``."""
    face = of if of is not None else near
    away = chuck.jaw_height_mm if holding.grips == "outside" else -min(chuck.jaw_height_mm, face)
    half, turn = chuck.jaw_width_mm / 2.0, radians(angle)
    c, s, end = cos(turn), sin(turn), face + away
    corners = [(near, -half), (end, -half), (end, half), (near, half)]
    region = Polygon([(c * u - s * v, s * u + c * v) for u, v in corners])
    if not bored(holding, chuck):
        return region
    round_ = Point(0.0, 0.0).buffer(near, quad_segs=ROUND_STEPS // 4)
    outside = holding.grips == "outside"
    fits = region.difference(round_) if outside else region.intersection(round_)
    return fits if isinstance(fits, Polygon) and not fits.is_empty else region


def jaw_angles(holding: InChuck, chuck: Chuck) -> tuple[float, ...]:
    """Where its jaws come from (degrees), the first from X where nobody has said."""
    first = holding.jaw_angle_deg or 0.0
    return tuple(first + 360.0 * k / chuck.jaws for k in range(chuck.jaws))


@dataclass(frozen=True, slots=True)
class Gripped:
    """What the jaws close on or open into, mm: its diameter or how far it is across its flats, and
    from where to where along the spindle the stock has that.
    """

    across: float
    flat: bool
    along: tuple[float, float]


def gripped(station: StationFacts, holding: InChuck, chuck: Chuck, memo: Memo) -> Gripped:
    """What the stock has along the grip. Raises OutOfRange where the jaws don't meet it evenly."""
    low = float(station.lie.stock_low[2])
    angles = jaw_angles(holding, chuck)
    slice_key = ("gripped-round", station.arrives.key, holding.grip_mm, holding.grips, angles)

    def find() -> Gripped:
        piece, top = below(station.arrives.solid, low + holding.grip_mm), low + holding.grip_mm
        half = half_section(piece)
        if holding.grips == "inside":
            across = 2.0 * float(half.bounds[0])
            return Gripped(across, False, land(half, across / 2.0, (low, top), 1.0))
        shadow = outline(piece)
        meets(shadow, angles, f"the jaws of {chuck.name}")
        across, flat = round_or_flats(shadow, angles[0]), not is_round(shadow)
        on = (low, top) if flat else land(half, across / 2.0, (low, top), -1.0)
        return Gripped(across, flat, on)

    found: Gripped = memo.get(slice_key, find)
    return found


def land(
    half: Region, radius: float, along: tuple[float, float], inwards: float
) -> tuple[float, float]:
    """From where to where along the spindle a half section has a radius (mm), up to where it is
    wider: a chamfer, a neck and a cone are not touched. ``inwards`` is the sense from there into
    metal.
    """
    near, far = sorted((radius + inwards * THIN_MM[0], radius + inwards * THIN_MM[1]))
    there = half.intersection(box(near, along[0], far, along[1]))
    if there.is_empty:
        return along
    low, high = float(there.bounds[1]), float(there.bounds[3])
    near, far = sorted((radius - inwards * THIN_MM[0], radius - inwards * THIN_MM[1]))
    wider = half.intersection(box(near, low, far, high))
    return low, high if wider.is_empty else max(low, float(wider.bounds[1]))


def body_behind(jaws: tuple[Body, ...], lie: Lie, high: float | None = None) -> Body:
    """As wide nearly as they reach, and as ``high`` as it is, or as deep as it is shown (mm)."""
    corners = [spot for jaw in jaws for spot in jaw.region.exterior.coords]  # type: ignore[attr-defined]
    wide = BODY_SHARE * max(hypot(x, y) for x, y in corners)
    turns = [2.0 * pi * k / ROUND_STEPS for k in range(ROUND_STEPS)]
    region = Polygon([(wide * cos(turn), wide * sin(turn)) for turn in turns])
    back = min(*(jaw.bottom for jaw in jaws), float(lie.stock_low[2]))
    return Body("chuck", "", region, back - (BODY_MM if high is None else high), back)
